import { spawnSync } from 'node:child_process'
import { createHash, webcrypto } from 'node:crypto'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { hexOf } from '@fresh-coat/core/bytes/text'
import { inspectDump } from '@fresh-coat/core/dump/inspect'
import { sectorRuns } from '@fresh-coat/core/dump/sectors'
import { printableStrings } from '@fresh-coat/core/dump/strings'
import { buildChip, noise } from '@fresh-coat/core/image/build'
import { hashedPieces } from '@fresh-coat/core/image/structure'
import { lx6Stock } from '../demo/binaries'

/**
 * Dump analysis as the worker does it (hash and sectors side by side) against native SHA-256 plus a compiled byte count
 * of the same bytes: a ratio, so that it means the same on every machine.
 */
const mib = 1048576

/**
 * Milliseconds of each, the least of some rounds: what else the machine does only ever makes it longer. They take turns, so that a time in
 * which the machine is slow is one for all of them.
 */
async function timed(runs: readonly (() => unknown)[], rounds = 25): Promise<number[]> {
  for (let i = 0; i < 3; i++) for (const run of runs) await run()
  const least = runs.map(() => Number.POSITIVE_INFINITY)
  for (let i = 0; i < rounds; i++)
    for (const [at, run] of runs.entries()) {
      const from = performance.now()
      const own = await run()
      // What measures itself gives its time.
      const took = typeof own === 'number' ? own : performance.now() - from
      least[at] = Math.min(least[at] as number, took)
    }
  return least
}

const folder = mkdtempSync(join(tmpdir(), 'fresh-coat-bench-'))
const counter = join(folder, 'count')
const compiled = spawnSync('cc', ['-O2', 'bench/count.c', '-o', counter]).status === 0
/** Of the compiled count, which measures itself: milliseconds; NaN where there is no C compiler. */
function compiledCount(bytes: Uint8Array): () => number {
  const file = join(folder, 'bytes')
  writeFileSync(file, bytes)
  return () => (compiled ? Number(spawnSync(counter, [file], { encoding: 'utf8' }).stdout) : Number.NaN)
}

const placeOf = (piece: Uint8Array) => `${piece.byteOffset} ${piece.length}`
const inputs: [string, Uint8Array][] = [
  ['stock chip, 4 MiB', lx6Stock(1)],
  ['noise, 16 MiB', noise(16 * mib, 3)],
  ['mostly blank, 16 MiB', buildChip(16 * mib, [[0, noise(mib, 5)]])],
]
console.log('dump analysis with its hash, against native SHA-256 + a compiled byte count of the same bytes')
for (const [name, given] of inputs) {
  const bytes = new Uint8Array(given)
  const hash = async (piece: Uint8Array<ArrayBuffer>) =>
    hexOf(new Uint8Array(await webcrypto.subtle.digest('SHA-256', piece)))
  const whole = async () => {
    const hashed = hash(bytes)
    const pieces = hashedPieces(bytes) as Uint8Array<ArrayBuffer>[]
    const ofPieces = Promise.all(pieces.map(async (piece) => [placeOf(piece), await hash(piece)] as const))
    // The worker makes the map while the file comes.
    const runs = sectorRuns(bytes)
    const hashes = new Map(await ofPieces)
    inspectDump(bytes, {}, { sha256: '', runs, digest: (piece) => hashes.get(placeOf(piece)) as string })
    await hashed
  }
  const sha = () => createHash('sha256').update(bytes).digest('hex')
  const count = compiledCount(bytes)
  const [ofSha = 0, ofCount = 0, ofMap = 0, ofAll = 0] = await timed([sha, count, () => sectorRuns(bytes), whole])
  const rate = bytes.length / mib / (ofAll / 1000)
  console.log(
    `  ${name.padEnd(22)} sha256 ${ofSha.toFixed(1)} + count ${ofCount.toFixed(1)} ms   map ${ofMap.toFixed(1)}, whole ${ofAll.toFixed(1)} ms   ${rate.toFixed(0)} MiB/s   ratio ${(ofAll / (ofSha + ofCount)).toFixed(2)}`,
  )
}

// The text in a file, a page of it as the inspector asks for it, against the same bytes gone through once in C.
console.log('\ntext in a dump, 200 strings of at least 6 characters, against the compiled count')
for (const [name, given] of [
  ['stock chip, 4 MiB', lx6Stock(1)],
  ['text all through, 16 MiB', new Uint8Array(16 * mib).map((_, i) => (i % 40 === 0 ? 0 : 0x61 + (i % 26)))],
] as const) {
  const bytes = new Uint8Array(given)
  const strings = (query?: string) => () => void printableStrings(bytes, 0, 6, 200, query)
  const [count = 0, first = 0, rare = 0] = await timed(
    [compiledCount(bytes), strings(), strings('not there at all')],
    15,
  )
  console.log(
    `  ${name.padEnd(26)} count ${count.toFixed(1)} ms   first page ${first.toFixed(1)} ms, ratio ${(first / count).toFixed(1)}   searched to the end ${rare.toFixed(1)} ms, ratio ${(rare / count).toFixed(1)}`,
  )
}
rmSync(folder, { recursive: true })
