import { type ChildProcess, spawn } from 'node:child_process'

/** A server of the attack's own on Lantern Yard, on loopback, in a folder of its own: nobody's records are near it. */

export const port = 4690
export const base = `http://127.0.0.1:${port}`
export const folder = `${process.cwd()}/.data/attack`
export const databasePort = '54739'

export const environment = {
  ...process.env,
  PORT: String(port),
  DEMO: '1',
  RESET: '1',
  FRESH_COAT_DATA: folder,
  FRESH_COAT_DB_PORT: databasePort,
  FRESH_COAT_LOG: `${process.cwd()}/.data/attack-web.log`,
}

export const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))

export async function healthy(): Promise<boolean> {
  return fetch(`${base}/api/health`).then(
    (r) => r.ok,
    () => false,
  )
}

/** Waits until the server answers, or not. */
export async function untilHealthy(wanted: boolean, mostMs = 120_000): Promise<boolean> {
  for (const end = Date.now() + mostMs; Date.now() < end; await pause(200))
    if ((await healthy()) === wanted) return true
  return false
}

export async function ownServer(): Promise<{ child: ChildProcess; end: () => Promise<void> }> {
  const child = spawn('scripts/serve.sh', { env: environment, stdio: ['ignore', 'ignore', 'inherit'] })
  if (!(await untilHealthy(true, 300_000))) throw new Error('The server for the attack did not come up.')
  return {
    child,
    end: () =>
      new Promise((done) => {
        child.once('exit', () => done())
        child.kill('SIGTERM')
      }),
  }
}

export interface Answer {
  status: number
  text: string
  ms: number
}

/** One request; a time-out counts as an answer of status 0. */
export async function ask(path: string, init: RequestInit = {}, mostMs = 15_000): Promise<Answer> {
  const from = performance.now()
  try {
    const response = await fetch(`${base}${path}`, { ...init, signal: AbortSignal.timeout(mostMs), redirect: 'manual' })
    const text = await response.text()
    return { status: response.status, text, ms: performance.now() - from }
  } catch (cause) {
    return { status: 0, text: String(cause), ms: performance.now() - from }
  }
}

export async function command(name: string, input: unknown): Promise<{ ok: boolean; value: Record<string, unknown> }> {
  const { text } = await ask(`/api/commands/${name}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(input),
  })
  return JSON.parse(text)
}
