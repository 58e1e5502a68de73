import { spawnSync } from 'node:child_process'
import { createHash, webcrypto } from 'node:crypto'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { inspectDump } from '@fresh-coat/core/dump/inspect'
import { buildChip, noise } from '@fresh-coat/core/image/build'
import { lx6Stock } from '../demo/binaries'
import { median } from './median'

/**
 * Dump analysis as the worker does it (hash and sectors side by side) against native SHA-256 plus a compiled byte count
 * of the same bytes: a ratio, so that it means the same on every machine.
 */
const mib = 1048576

async function timed(run: () => unknown, rounds = 9): Promise<number> {
  await run()
  const times: number[] = []
  for (let i = 0; i < rounds; i++) {
    const from = performance.now()
    await run()
    times.push(performance.now() - from)
  }
  return median(times)
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
  const sectors = await timed(() => inspectDump(bytes, {}, { sha256: '' }))
  const whole = await timed(async () => {
    const hashed = webcrypto.subtle.digest('SHA-256', bytes)
    inspectDump(bytes, {}, { sha256: '' })
    await hashed
  })
  const rate = bytes.length / mib / (whole / 1000)
  console.log(
    `  ${name.padEnd(22)} sha256 ${sha.toFixed(1)} + count ${count.toFixed(1)} ms   sectors ${sectors.toFixed(1)}, whole ${whole.toFixed(1)} ms   ${rate.toFixed(0)} MiB/s   ratio ${(whole / (sha + count)).toFixed(2)}`,
  )
}
rmSync(folder, { recursive: true })
