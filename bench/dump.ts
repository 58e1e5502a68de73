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

/** Least of some rounds: what else the machine does only ever makes it longer. */
async function timed(run: () => unknown, rounds = 15): Promise<number> {
  for (let i = 0; i < 3; i++) await run()
  const times: number[] = []
  for (let i = 0; i < rounds; i++) {
    const from = performance.now()
    await run()
    times.push(performance.now() - from)
  }
  return Math.min(...times)
}

const folder = mkdtempSync(join(tmpdir(), 'fresh-coat-bench-'))
const counter = join(folder, 'count')
const compiled = spawnSync('cc', ['-O2', 'bench/count.c', '-o', counter]).status === 0
/** Milliseconds of the compiled count; NaN where there is no C compiler. */
function compiledCount(bytes: Uint8Array): number {
  if (!compiled) return Number.NaN
  const file = join(folder, 'bytes')
  writeFileSync(file, bytes)
  return Number(spawnSync(counter, [file], { encoding: 'utf8' }).stdout)
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
  const sha = await timed(() => createHash('sha256').update(bytes).digest('hex'))
  const count = compiledCount(bytes)
  const sectors = await timed(() => sectorRuns(bytes))
  const whole = await timed(async () => {
    const hashed = webcrypto.subtle.digest('SHA-256', bytes)
    const pieces = hashedPieces(bytes) as Uint8Array<ArrayBuffer>[]
    const hashes = new Map<string, string>()
    for (const piece of pieces)
      hashes.set(placeOf(piece), hexOf(new Uint8Array(await webcrypto.subtle.digest('SHA-256', piece))))
    inspectDump(bytes, {}, { sha256: '', digest: (piece) => hashes.get(placeOf(piece)) as string })
    await hashed
  })
  const rate = bytes.length / mib / (whole / 1000)
  console.log(
    `  ${name.padEnd(22)} sha256 ${sha.toFixed(1)} + count ${count.toFixed(1)} ms   map ${sectors.toFixed(1)}, whole ${whole.toFixed(1)} ms   ${rate.toFixed(0)} MiB/s   ratio ${(whole / (sha + count)).toFixed(2)}`,
  )
}

// The text in a file, a page of it as the inspector asks for it, against the same bytes gone through once in C.
console.log('\ntext in a dump, 200 strings of at least 6 characters, against the compiled count')
for (const [name, given] of [
  ['stock chip, 4 MiB', lx6Stock(1)],
  ['text all through, 16 MiB', new Uint8Array(16 * mib).map((_, i) => (i % 40 === 0 ? 0 : 0x61 + (i % 26)))],
] as const) {
  const bytes = new Uint8Array(given)
  const count = compiledCount(bytes)
  const first = await timed(() => printableStrings(bytes, 0, 6, 200))
  const rare = await timed(() => printableStrings(bytes, 0, 6, 200, 'not there at all'))
  console.log(
    `  ${name.padEnd(26)} count ${count.toFixed(1)} ms   first page ${first.toFixed(1)} ms, ratio ${(first / count).toFixed(1)}   searched to the end ${rare.toFixed(1)} ms, ratio ${(rare / count).toFixed(1)}`,
  )
}
rmSync(folder, { recursive: true })
