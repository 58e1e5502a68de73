import type { DumpInspection } from '@fresh-coat/core/dump/inspect'
import type { Run } from '@fresh-coat/core/dump/sectors'
import * as Comlink from 'comlink'
import type { DumpWorker } from '@/workers/dump.worker'

export interface Analysis {
  done: Promise<DumpInspection | null>
  /** Stops at once: the worker is ended. */
  cancel: () => void
}

function start() {
  const worker = new Worker(new URL('../../workers/dump.worker.ts', import.meta.url), { type: 'module' })
  // One handle as long as the worker lives: when a handle is collected, Comlink lets go of the worker behind it.
  return { worker, remote: Comlink.wrap<DumpWorker>(worker) }
}
/** A worker that has loaded its program and waits for a file. */
let waiting: ReturnType<typeof start> | null = null

/** Starts a worker ahead of the first file; a page that takes dumps calls it when it is shown. */
export function prepareAnalysis(): void {
  if (waiting) return
  waiting = start()
  // A worker starts to load only when it is spoken to in some engines.
  void waiting.remote.ready()
}

/**
 * Analyses a file in a worker of its own, so that the page stays quick. The worker gets the file, not its bytes: it reads
 * them itself, nothing is copied through the page, and the map grows while they come.
 */
export function analyseDump(
  file: File,
  options: { family: string | null; flashBytes: number | null },
  tell: (phase: string, done: number, total: number) => void,
  mapped: (runs: Run[]) => void,
): Analysis {
  const { worker, remote } = waiting ?? start()
  waiting = null
  let stop: (value: null) => void = () => {}
  // What a worker tells comes another way than its answer, and may come after it.
  let over = false
  const still =
    <Told extends unknown[]>(hear: (...told: Told) => void) =>
    (...told: Told) => {
      if (!over) hear(...told)
    }
  const stopped = new Promise<null>((resolve) => {
    stop = resolve
  })
  const done = Promise.race([
    remote.analyse(file, options, Comlink.proxy(still(tell)), Comlink.proxy(still(mapped))),
    stopped,
  ]).finally(() => {
    over = true
    worker.terminate()
    prepareAnalysis()
  })
  return { done, cancel: () => stop(null) }
}
