import { execFileSync, spawn } from 'node:child_process'
import { ask, command, environment, folder, pause, untilHealthy } from './server'
import { Tally } from './tally'

/** The web server killed, the database stopped, while people work: what was answered is kept, what was not is said. */

const webPid = (): number =>
  Number(
    execFileSync(
      'sh',
      ['-c', `ps -eo pid,args | grep -F "scripts/web.mjs 127.0.0.1 ${environment.PORT}" | grep -v grep | head -n 1`],
      { encoding: 'utf8' },
    )
      .trim()
      .split(/\s+/)[0],
  )
const database = (what: 'stop' | 'start'): void => {
  const { DATABASE_URL: _, ...env } = environment as Record<string, string | undefined>
  execFileSync('scripts/database.sh', what === 'start' ? ['start', 'freshcoat_demo'] : ['stop'], {
    env: env as NodeJS.ProcessEnv,
    stdio: 'ignore',
  })
}

/** Writes numbered names one after the other, and remembers which were answered. */
async function writeWhile(unitId: string, until: () => boolean): Promise<{ answered: string[]; lost: number }> {
  const answered: string[] = []
  let lost = 0
  for (let i = 0; !until(); i++) {
    const hub = `Hub ${unitId.slice(0, 4)} ${i}`
    const { status } = await ask(
      '/api/commands/add-hub',
      { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ name: hub }) },
      3000,
    )
    if (status === 200) answered.push(hub)
    else lost++
    if (status === 0) await pause(50)
  }
  return { answered, lost }
}

async function kept(names: readonly string[]): Promise<string[]> {
  const { text } = await ask('/api/units/7/hub')
  return names.filter((name) => !text.includes(name))
}

export async function outages(): Promise<Tally> {
  const tally = new Tally('kills and outages', 60_000)
  const unit = await command('create-unit', { number: 9300, name: 'Through outages' })
  const unitId = unit.value.id as string

  for (let round = 0; round < 3; round++) {
    let over = false
    const writing = writeWhile(`${unitId.slice(round)}`, () => over)
    await pause(700)
    const from = performance.now()
    process.kill(webPid(), 'SIGKILL')
    const away = await untilHealthy(false, 5000)
    const back = await untilHealthy(true, 40_000)
    await pause(500)
    over = true
    const { answered } = await writing
    const missing = await kept(answered)
    tally.note(
      `web server killed, round ${round + 1}`,
      performance.now() - from,
      !away
        ? 'it did not die'
        : !back
          ? 'it did not come back'
          : missing.length > 0
            ? `answered and lost: ${missing.join(', ')}`
            : null,
    )
  }

  for (let round = 0; round < 2; round++) {
    let over = false
    const writing = writeWhile(`d${unitId.slice(round)}`, () => over)
    await pause(500)
    const from = performance.now()
    database('stop')
    const health = await ask('/api/health')
    const said = await ask('/api/commands/add-hub', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"name":"While away"}',
    })
    const page = await ask('/units')
    database('start')
    const back = await untilHealthy(true, 30_000)
    await pause(300)
    over = true
    const { answered } = await writing
    const missing = await kept(answered)
    const wrong =
      health.status !== 503
        ? `health says ${health.status}`
        : said.status !== 503 || !said.text.includes('The database does not answer')
          ? `a command says ${said.status} ${said.text.slice(0, 100)}`
          : page.status === 200 && page.text.includes('Fresh Coat') === false
            ? 'a page says nothing'
            : !back
              ? 'it did not recover'
              : missing.length > 0
                ? `answered and lost: ${missing.join(', ')}`
                : null
    tally.note(`database stopped, round ${round + 1}`, performance.now() - from, wrong)
  }
  return tally
}

function start(env: Record<string, string>): Promise<{ code: number | null; text: string }> {
  return new Promise((done) => {
    const child = spawn('scripts/serve.sh', { env: { ...environment, RESET: '', ...env } })
    let text = ''
    const hear = (piece: Buffer) => {
      text += piece
      // It runs: that is not what was asked here.
      if (text.includes('Ctrl-C ends it')) child.kill('SIGTERM')
    }
    child.stdout.on('data', hear)
    child.stderr.on('data', hear)
    child.on('close', (code) => done({ code, text }))
  })
}

/** A start that is ended twice while it ends: nothing of it may stay. */
async function twoSignals(): Promise<{ left: string }> {
  const child = spawn('scripts/serve.sh', {
    env: { ...environment, RESET: '', PORT: '4697' },
    stdio: ['ignore', 'pipe', 'ignore'],
  })
  await new Promise<void>((done) => {
    child.stdout.on('data', (piece) => String(piece).includes('Ctrl-C ends it') && done())
    child.once('exit', () => done())
  })
  const ended = new Promise<void>((done) => child.once('exit', () => done()))
  child.kill('SIGTERM')
  await pause(60)
  child.kill('SIGTERM')
  await ended
  await pause(300)
  const left = execFileSync(
    'sh',
    ['-c', 'ps -eo pid,args | grep -F "scripts/web.mjs 127.0.0.1 4697" | grep -v grep || true'],
    { encoding: 'utf8' },
  )
  return { left: left.trim() }
}

export async function starts(): Promise<Tally> {
  const tally = new Tally('starts that cannot be', 60_000)
  for (const [what, env, words] of [
    ['a port above all', { PORT: '99999' }, /PORT=99999 is no port/],
    ['a port that is none', { PORT: 'abc' }, /PORT=abc is no port/],
    ['a folder that cannot be', { FRESH_COAT_DATA: '/proc/fresh-coat' }, /cannot be written/],
    ['the whole network', { FRESH_COAT_HOST: '0.0.0.0' }, /listens on this computer only/],
    [
      'a second start in one folder',
      { FRESH_COAT_DATA: folder },
      /also runs in this folder at http:\/\/127\.0\.0\.1:4690/,
    ],
  ] as const) {
    const from = performance.now()
    const { text } = await start(env as Record<string, string>)
    tally.note(what, performance.now() - from, words.test(text) ? null : `it says: ${text.slice(0, 200)}`)
  }
  const from = performance.now()
  const { left } = await twoSignals()
  tally.note('two signals in a row', performance.now() - from, left === '' ? null : `still there: ${left}`)
  // The second ones have ended: the first must live on.
  const alive = await untilHealthy(true, 5000)
  tally.note('the first lives on when the second ends', 0, alive ? null : 'it does not answer any more')
  return tally
}
