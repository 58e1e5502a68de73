import { type ChildProcess, spawn } from 'node:child_process'

/** A server of the bench's own on Lantern Yard, in a database of its own. */
export const port = 4590

export async function ownServer(): Promise<ChildProcess> {
  const server = spawn('scripts/serve.sh', {
    env: {
      ...process.env,
      PORT: String(port),
      DEMO: '1',
      FRESH_COAT_DATA: `${process.cwd()}/.data/bench`,
      FRESH_COAT_DB_PORT: '54539',
      FRESH_COAT_LOG: `${process.cwd()}/.data/bench-web.log`,
    },
    stdio: 'ignore',
  })
  for (let tries = 0; tries < 600; tries++) {
    if (server.exitCode !== null) throw new Error('The server for the bench ended before it was ready.')
    const up = await fetch(`http://127.0.0.1:${port}/api/health`).then(
      (r) => r.ok,
      () => false,
    )
    if (up) return server
    await new Promise((resolve) => setTimeout(resolve, 500))
  }
  throw new Error('The server for the bench did not come up.')
}
