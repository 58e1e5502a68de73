import { createHash } from 'node:crypto'
import { inspectDump } from '@fresh-coat/core/dump/inspect'
import { buildChip, noise } from '@fresh-coat/core/image/build'
import { lx6Stock } from '../demo/binaries'
import { median } from './median'

/** Dump analysis against native SHA-256 of the same bytes: a ratio, so that it means the same on every machine. */
const mib = 1048576

function timed(run: () => unknown, rounds = 7): number {
  run()
  return median(
    Array.from({ length: rounds }, () => {
      const from = performance.now()
      run()
      return performance.now() - from
    }),
  )
}

const inputs: [string, Uint8Array][] = [
  ['stock chip, 4 MiB', lx6Stock(1)],
  ['noise, 16 MiB', noise(16 * mib, 3)],
  ['mostly blank, 16 MiB', buildChip(16 * mib, [[0, noise(mib, 5)]])],
]
console.log('dump analysis (hash given) against native SHA-256 of the same bytes')
for (const [name, bytes] of inputs) {
  const native = timed(() => createHash('sha256').update(bytes).digest('hex'))
  const ours = timed(() => inspectDump(bytes, {}, 'hash given'))
  const rate = bytes.length / mib / (ours / 1000)
  console.log(
    `  ${name.padEnd(22)} sha256 ${native.toFixed(1)} ms   analysis ${ours.toFixed(1)} ms   ${rate.toFixed(0)} MiB/s   ratio ${(ours / native).toFixed(2)}`,
  )
}
