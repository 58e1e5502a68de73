import { sha256Hex } from '@fresh-coat/core/bytes/digests'
import { hexOf } from '@fresh-coat/core/bytes/text'
import { inspectDump } from '@fresh-coat/core/dump/inspect'
import { type Run, sectorMapper } from '@fresh-coat/core/dump/sectors'
import { largestFile } from '@fresh-coat/core/image/inspect'
import { hashedPieces } from '@fresh-coat/core/image/structure'
import * as Comlink from 'comlink'

/** How often it is told how far the work is, in bytes. */
const toldBytes = 0x40000
/** How often the growing map is drawn again, in milliseconds. */
const drawEvery = 60

const placeOf = (piece: Uint8Array) => `${piece.byteOffset} ${piece.length}`

const api = {
  /** Answers as soon as the program of the worker is there, so that the first file need not wait for it. */
  ready: () => true,
  /**
   * Analyses a dump while it is read: the map grows with the bytes that are there. To stop, terminate the worker.
   * @param tell hears the progress in bytes
   * @param mapped hears the sector map so far, the last time when it is whole
   */
  async analyse(
    file: Blob,
    options: { family: string | null; flashBytes: number | null },
    tell: (phase: string, done: number, total: number) => void,
    mapped: (runs: Run[]) => void,
  ) {
    if (file.size > largestFile) throw new RangeError(`${file.size} bytes are no flash file`)
    const bytes = new Uint8Array(file.size)
    const map = sectorMapper(bytes)
    const reader = file.stream().getReader()
    let to = 0
    let drawn = 0
    for (;;) {
      const { done, value } = await reader.read()
      if (done) break
      bytes.set(value, to)
      for (const end = to + value.length; to < end; ) {
        to = Math.min(end, to + toldBytes)
        map.advance(to)
        tell('map', to, bytes.length)
        if (to < bytes.length && performance.now() - drawn < drawEvery) continue
        mapped(map.runs)
        drawn = performance.now()
      }
    }
    // A file that shrank meanwhile must not be judged with zeros at its end.
    if (to < bytes.length) throw new RangeError('the file ended early')
    // The platform hashes on a thread of its own while keys are looked for here.
    const hash = (piece: Uint8Array<ArrayBuffer>) =>
      crypto.subtle.digest('SHA-256', piece).then((digest) => hexOf(new Uint8Array(digest)))
    tell('hash', bytes.length, bytes.length)
    const whole = hash(bytes)
    const pieces = hashedPieces(bytes) as Uint8Array<ArrayBuffer>[]
    const hashes = new Map(await Promise.all(pieces.map(async (p) => [placeOf(p), await hash(p)] as const)))
    const result = inspectDump(bytes, options, {
      sha256: '',
      runs: map.runs,
      digest: (piece) => hashes.get(placeOf(piece)) ?? sha256Hex(piece),
    })
    return { ...result, sha256: await whole }
  },
}
export type DumpWorker = typeof api

Comlink.expose(api)
