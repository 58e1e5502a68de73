import { type ChildProcess, spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { dataFolder } from './data-folder'

/** Lantern Yard beside an empty bench: the same app with a made-up database of its own, started on request and ended with us. */
export interface Yard {
  state: 'none' | 'making' | 'ready' | 'failed'
  /** Where it is, once it is asked for. */
  url: string
}

/** How it is started; tests put their own in its place. */
export type Start = (port: number) => ChildProcess

const none: Yard = { state: 'none', url: '' }

/** A port nobody listens on, on this computer. */
function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer()
    probe.on('error', reject)
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address()
      probe.close(() => (address && typeof address === 'object' ? resolve(address.port) : reject(new Error('no port'))))
    })
  })
}

const script = () => join(process.cwd(), 'scripts', 'serve.sh')

const startServer: Start = (port) => {
  // A database of its own: ours is not handed on.
  const { DATABASE_URL: _, FRESH_COAT_DB_NAME: __, RESET: ___, ...env } = process.env
  const data = dataFolder()
  return spawn(script(), [], {
    env: { ...env, DEMO: '1', PORT: String(port), FRESH_COAT_LOG: join(data, 'lantern-yard.log') },
    stdio: 'ignore',
  })
}

async function answers(url: string): Promise<boolean> {
  try {
    return (await fetch(`${url}/api/health`, { signal: AbortSignal.timeout(1500) })).ok
  } catch {
    return false
  }
}

export class LanternYard {
  private child: ChildProcess | null = null
  private url = ''
  private failed = false

  constructor(private readonly start: Start = startServer) {}

  /** Starts it unless it runs already. Pressed twice it starts once. */
  async open(): Promise<Yard> {
    if (this.child) return this.look()
    if (this.start === startServer && !existsSync(script())) return { state: 'failed', url: '' }
    const port = await freePort()
    if (this.child) return this.look()
    this.failed = false
    this.url = `http://127.0.0.1:${port}`
    const child = this.start(port)
    this.child = child
    child.on('error', () => this.gone(child, true))
    child.on('exit', () => this.gone(child, true))
    process.once('exit', () => child.kill('SIGTERM'))
    return this.look()
  }

  async look(): Promise<Yard> {
    if (this.failed) return { state: 'failed', url: '' }
    if (!this.child) return none
    return { state: (await answers(this.url)) ? 'ready' : 'making', url: this.url }
  }

  close(): void {
    const { child } = this
    if (!child) return
    this.gone(child, false)
    child.kill('SIGTERM')
  }

  private gone(child: ChildProcess, failed: boolean): void {
    if (this.child !== child) return
    this.child = null
    this.failed = failed
  }
}

const held = globalThis as { freshCoatYard?: LanternYard }
/** The one of this server; a module may be loaded more than once. */
export const lanternYard = (): LanternYard => {
  held.freshCoatYard ??= new LanternYard()
  return held.freshCoatYard
}
