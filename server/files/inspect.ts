import { existsSync } from 'node:fs'
import { join } from 'node:path'
import type { judgeSet } from '@fresh-coat/core/image/set'
import { Piscina } from 'piscina'
import inspectHere, { type FileTask, type SetTask, type Task } from '../../workers/inspect.thread'

const bundle = join(process.cwd(), '.build', 'inspect.mjs')
const idleMs = 30_000
let threads: Piscina | null = null

/** Two threads at most, made when they are needed; null where the program was not bundled (tests, scripts). */
function pool(): Piscina | null {
  if (!threads && existsSync(bundle))
    threads = new Piscina({ filename: bundle, minThreads: 0, maxThreads: 2, idleTimeout: idleMs })
  return threads
}

/** Does a task off the event loop where that can be. */
const onThread = async (task: Task): Promise<object> =>
  (process.env.NODE_ENV === 'production' && (await pool()?.run(task))) || inspectHere(task)

/** Looks into the bytes of a dump or an image. */
export const inspectBytes = (
  kind: FileTask['kind'],
  bytes: Uint8Array,
  options: FileTask['options'],
  sha256: string,
): Promise<object> => onThread({ kind, bytes, options, sha256 })

/** Judges several files as one. */
export const judgeFiles = (parts: SetTask['parts'], options: SetTask['options']) =>
  onThread({ kind: 'set', parts, options }) as Promise<ReturnType<typeof judgeSet>>
