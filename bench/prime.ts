import { identify } from '@fresh-coat/core/identify/identify'
import { solvePads } from '@fresh-coat/core/pads/solve'
import { planJig } from '@fresh-coat/core/wiring/jig'
import { median } from './median'

/** What must answer within one frame of the page: 16 ms. */
const frameMs = 16

function once(run: () => unknown): number {
  run()
  return median(
    Array.from({ length: 31 }, () => {
      const from = performance.now()
      run()
      return performance.now() - from
    }),
  )
}

const reading = { cont_gnd: false, ohms_3v3: 'open', square: false, label: '' }
const twelve = {
  pads: Array.from({ length: 12 }, (_, i) =>
    i === 0
      ? { cont_gnd: true, volts: 0, square: true, label: 'GND' }
      : i === 1
        ? { ohms_3v3: 0.4, volts: 3.3, cont_gnd: false, square: false }
        : i < 10
          ? reading
          : {},
  ),
}
const ten = {
  adapter: ['GND', '5V', '3V3', 'TX', 'RX', 'CTS', 'DTR', 'RTS', 'GND', 'GND'],
  pads: ['RX', 'UNKNOWN', 'GND', 'BOOT', 'TX', 'RST', 'GND', 'UNKNOWN', '3V3', 'UNKNOWN'],
}
const evidence = {
  evidence: [
    { kind: 'crystal', value: '26' },
    { kind: 'flash_chip', value: 'none' },
    { kind: 'edge_contacts', value: '9_14' },
  ],
}
const readings = twelve.pads.reduce((n, p) => n + Object.keys(p).length, 0)
console.log(`\nsolvers, against one frame of ${frameMs} ms`)
for (const [name, run] of [
  ['identify, 3 observations', () => identify(evidence)],
  [`pads, 12 with ${readings} readings`, () => solvePads(twelve)],
  ['jig, 10 pins to 10 pads', () => planJig(ten)],
] as const) {
  const ms = once(run)
  console.log(`  ${name.padEnd(28)} ${ms.toFixed(2)} ms   ${(ms / frameMs).toFixed(3)} of a frame`)
}
