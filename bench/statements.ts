import { type ChildProcess, spawn } from 'node:child_process'
import { once } from 'node:events'
import pg from 'pg'

/** What was sent to the database: to be sent again without anything around it. */
export interface Statement {
  text: string
  values: unknown[]
  name?: string
}

const opens = /^(begin|commit|rollback|set|listen|unlisten)\b/i
const keyOf = (s: Statement): string => `${s.name ?? ''} ${s.text}`

/** A web server as bin/start runs it, on a database; `told` hears every statement it sends. */
export async function serve(
  url: string,
  port: number,
  told?: (statement: Statement) => void,
): Promise<() => Promise<void>> {
  const record = `--import=${new URL('record.mjs', import.meta.url).pathname}`
  const child: ChildProcess = spawn('scripts/web.sh', ['127.0.0.1', String(port)], {
    env: {
      ...process.env,
      DATABASE_URL: url,
      NODE_ENV: 'production',
      NEXT_TELEMETRY_DISABLED: '1',
      ...(told ? { NODE_OPTIONS: record } : {}),
    },
    stdio: told ? ['ignore', 'ignore', 'ignore', 'ipc'] : 'ignore',
    serialization: 'advanced',
  })
  if (told) child.on('message', (message) => told(message as Statement))
  const answers = () =>
    fetch(`http://127.0.0.1:${port}/api/health`).then(
      (r) => r.ok,
      () => false,
    )
  for (let i = 0; i < 150 && !(await answers()); i++) await new Promise((r) => setTimeout(r, 100))
  return async () => {
    if (child.connected) child.disconnect()
    child.kill('SIGTERM')
    await once(child, 'exit')
  }
}

/**
 * The statements behind each path: those that come with every one of three visits. What the server does of its own accord
 * meanwhile (it listens, it looks after the air) is not among them.
 * @param before comes before each visit: what the server keeps is forgotten there
 */
export async function statementsOf(
  url: string,
  port: number,
  paths: readonly string[],
  before: () => Promise<unknown>,
): Promise<Statement[][]> {
  let heard: Statement[] = []
  const stop = await serve(url, port, (s) => heard.push(s))
  const visit = async (path: string): Promise<Statement[]> => {
    await before()
    heard = []
    await (await fetch(`http://127.0.0.1:${port}${path}`)).arrayBuffer()
    await new Promise((r) => setTimeout(r, 30))
    return heard.filter((s) => !opens.test(s.text))
  }
  const all: Statement[][] = []
  try {
    for (const path of paths) {
      await visit(path)
      const [one = [], ...others] = [await visit(path), await visit(path), await visit(path)]
      all.push(one.filter((s) => others.every((other) => other.some((o) => keyOf(o) === keyOf(s)))))
    }
  } finally {
    await stop()
  }
  return all
}

/**
 * Sends them again, as of one moment, down one connection without waiting for each other's answers, as the app does.
 * @param isKept with the plans that the connection keeps, as the app has them; else as raw text, planned each time
 */
export async function replay(
  url: string,
  time: (run: () => Promise<unknown>) => Promise<number[]>,
  statements: readonly Statement[],
  isKept: boolean,
): Promise<number[]> {
  const client = new pg.Client({ connectionString: url, pipeline: true } as pg.ClientConfig)
  await client.connect()
  const asked = statements.map(({ name, ...s }) => ({ ...s, ...(isKept && name ? { name } : {}), rowMode: 'array' }))
  try {
    return await time(() =>
      Promise.all([
        client.query('begin isolation level repeatable read read only'),
        ...asked.map((s) => client.query(s as pg.QueryArrayConfig)),
        client.query('commit'),
      ]),
    )
  } finally {
    await client.end()
  }
}
