import { existsSync } from 'node:fs'
import { join } from 'node:path'
import type { inspectDump } from '@fresh-coat/core/dump/inspect'
import { Piscina } from 'piscina'
import inspectHere, { type Task } from '../../workers/inspect.thread'

const bundle = join(process.cwd(), '.build', 'inspect.mjs')
const idleMs = 30_000
let threads: Piscina | null = null

/** Two threads at most, made when they are needed; null where the program was not bundled (tests, scripts). */
function pool(): Piscina | null {
  if (!threads && existsSync(bundle))
    threads = new Piscina({ filename: bundle, minThreads: 0, maxThreads: 2, idleTimeout: idleMs })
  return threads
}

/** Looks into the bytes of a dump or an image, off the event loop where that can be. */
export async function inspectBytes(
  kind: Task['kind'],
  bytes: Uint8Array,
  options: Parameters<typeof inspectDump>[1],
  sha256: string,
): Promise<object> {
  const task: Task = { kind, bytes, options, sha256 }
  return (process.env.NODE_ENV === 'production' && (await pool()?.run(task))) || inspectHere(task)
}
