import { hexOf } from '@fresh-coat/core/bytes/text'
import { inspectDump } from '@fresh-coat/core/dump/inspect'
import type { Run } from '@fresh-coat/core/dump/sectors'
import * as Comlink from 'comlink'

const api = {
  /** Analyses a dump; `tell` hears the progress of the sector map in bytes. To stop, terminate the worker. */
  async analyse(
    buffer: ArrayBuffer,
    options: { family: string | null; flashBytes: number | null },
    tell: (phase: string, done: number, total: number) => void,
    mapped: (runs: Run[]) => void,
  ) {
    // The platform hashes on a thread of its own while the sectors are counted here.
    const hashed = crypto.subtle.digest('SHA-256', buffer)
    const bytes = new Uint8Array(buffer)
    const result = inspectDump(
      bytes,
      options,
      '',
      (done, total) => {
        tell('map', done, total)
        return false
      },
      mapped,
    )
    tell('hash', bytes.length, bytes.length)
    const sha256 = hexOf(new Uint8Array(await hashed))
    tell('map', bytes.length, bytes.length)
    return result && { ...result, sha256: result.sha256 === null ? null : sha256 }
  },
}
export type DumpWorker = typeof api

Comlink.expose(api)
