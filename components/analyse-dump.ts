import type { DumpInspection } from '@fresh-coat/core/dump/inspect'
import type { Run } from '@fresh-coat/core/dump/sectors'
import * as Comlink from 'comlink'
import type { DumpWorker } from '@/workers/dump.worker'

export interface Analysis {
  done: Promise<DumpInspection | null>
  /** Stops at once: the worker is ended. */
  cancel: () => void
}

/** Analyses a file in a worker of its own, so that the page stays quick; the bytes are moved, not copied. */
export function analyseDump(
  buffer: ArrayBuffer,
  options: { family: string | null; flashBytes: number | null },
  tell: (phase: string, done: number, total: number) => void,
  mapped: (runs: Run[]) => void,
): Analysis {
  const worker = new Worker(new URL('../workers/dump.worker.ts', import.meta.url), { type: 'module' })
  const remote = Comlink.wrap<DumpWorker>(worker)
  let stop: (value: null) => void = () => {}
  const stopped = new Promise<null>((resolve) => {
    stop = resolve
  })
  const done = Promise.race([
    remote.analyse(Comlink.transfer(buffer, [buffer]), options, Comlink.proxy(tell), Comlink.proxy(mapped)),
    stopped,
  ]).finally(() => worker.terminate())
  return { done, cancel: () => stop(null) }
}
