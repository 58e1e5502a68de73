import { hexOf } from '@fresh-coat/core/bytes/text'
import { inspectDump } from '@fresh-coat/core/dump/inspect'
import * as Comlink from 'comlink'

const api = {
  /** Analyses a dump; `tell` hears the progress of the sector map in bytes. To stop, terminate the worker. */
  async analyse(
    buffer: ArrayBuffer,
    options: { family: string | null; flashBytes: number | null },
    tell: (phase: string, done: number, total: number) => void,
  ) {
    tell('hash', 0, buffer.byteLength)
    const sha256 = hexOf(new Uint8Array(await crypto.subtle.digest('SHA-256', buffer)))
    const bytes = new Uint8Array(buffer)
    const result = inspectDump(bytes, options, sha256, (done, total) => {
      tell('map', done, total)
      return false
    })
    tell('map', bytes.length, bytes.length)
    return result
  },
}
export type DumpWorker = typeof api

Comlink.expose(api)
