import { settled } from '@fresh-coat/core/behaviour/definition'
import { type Entry, runUnit } from '@fresh-coat/core/behaviour/run'
import { identify } from '@fresh-coat/core/identify/identify'
import { inferWhite } from '@fresh-coat/core/lights/infer'
import { mapRaw, type Snapshot, usualLoads } from '@fresh-coat/core/metering/raw-map'
import { matchNetwork } from '@fresh-coat/core/network/match'
import { solvePads } from '@fresh-coat/core/pads/solve'
import { inferPins } from '@fresh-coat/core/pins/infer'
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
const pins = Array.from({ length: 12 }, (_, i) => `P${i}`)
const signs = [
  { id: 'click', kind: 'edge' as const, count: 2 },
  { id: 'led', kind: 'level' as const, count: 1 },
  { id: 'bright', kind: 'level' as const, count: 1 },
  { id: 'load', kind: 'level' as const, count: 2 },
]
const trials = Array.from({ length: 24 }, (_, i) => ({
  on: i % 2 === 0 ? [] : pins.filter((_, k) => ((k + 1) >> (i % 4)) & 1),
  saw: i % 3 === 0 ? ['click', 'led'] : ['load'],
  reset: false,
}))
/** A day of a switch that is pressed every five minutes, on a unit with a timer and a hub that goes away now and then. */
const day: Entry[] = Array.from({ length: 288 }, (_, i): Entry[] => [
  { t: i * 300_000 + 1000, input: 'wall', level: 1 },
  { t: i * 300_000 + 1200, input: 'wall', level: 0 },
  ...(i % 12 === 0 ? [{ t: i * 300_000 + 5000, net: (i / 12) % 2 === 0 ? (0 as const) : (1 as const) }] : []),
]).flat()
const unit = settled({
  channels: [{ ch: 1 }, { ch: 2, pulseMs: 800 }],
  inputs: [{ id: 'wall', debounceMs: 30, holdMs: 900 }],
  interlock: [{ chs: [1, 2], deadMs: 300 }],
  rules: [
    {
      id: 'a',
      when: { input: 'wall', event: 'short' },
      do: [
        { set: 'toggle', ch: 1 },
        { timer: 't', ms: 60_000 },
      ],
    },
    { id: 'b', when: { timer: 't' }, do: [{ set: 'on', ch: 2 }] },
    { id: 'c', when: { ch: 2, becomes: 'off' }, do: [{ publish: 'x', value: '$ch2' }] },
  ],
})
/** Forty raw values in six states, of which three are the mains: a stock unit that reports more than anybody asked for. */
const raws: Snapshot[] = [0, 0, 12, 60, 500, 1900].map((watts, i) => ({
  id: `s${i}`,
  at: i * 60_000,
  on: i > 0,
  load: { kind: i < 2 ? 'none' : 'resistive', w: i < 2 ? null : watts },
  reference: { V: null, I: null, P: null },
  raw: {
    1: i > 0,
    ...Object.fromEntries(Array.from({ length: 37 }, (_, k) => [`${k + 10}`, (k * 977 + i * (k % 7) * 31) % 4096])),
    18: Math.round((watts / 231) * 1000),
    19: watts * 10,
    20: 2310 + i,
  },
}))
const lamp = [0, 1].flatMap((a) => [0, 1].map((b) => ({ a, b, lux: 400 * b + 5 * a, tone: a })))
const readings = twelve.pads.reduce((n, p) => n + Object.keys(p).length, 0)
/** Ten thousand lines of a network, a hundred units of one batch. */
const mac = (n: number) => `b8:3c:d0:${[16, 8, 0].map((s) => ((n >> s) & 255).toString(16).padStart(2, '0')).join(':')}`
const lines = Array.from(
  { length: 10_000 },
  (_, i) => `192.168.${i >> 8}.${i & 255} dev br0 lladdr ${mac(i * 3)} REACHABLE`,
).join('\n')
const hundred = Array.from({ length: 100 }, (_, i) => ({ id: `u${i}`, apMac: mac(i * 300 + 1), family: 'LX6' }))
const network = { tables: [{ text: lines }], units: hundred }
console.log(`\nsolvers, against one frame of ${frameMs} ms`)
for (const [name, run] of [
  ['identify, 3 observations', () => identify(evidence)],
  [`pads, 12 with ${readings} readings`, () => solvePads(twelve)],
  ['jig, 10 pins to 10 pads', () => planJig(ten)],
  ['pins, 12 with 4 signs', () => inferPins(pins, signs, trials, [])],
  ['behaviour, a day of events', () => runUnit(unit, day, 86_400_000)],
  ['lights, four set points', () => inferWhite(lamp)],
  ['raw values, 40 in 6 states', () => mapRaw(raws, { nominalV: 230, nominalHz: 50, ratingA: 16 }, usualLoads, 4)],
] as const) {
  const ms = once(run)
  console.log(`  ${name.padEnd(28)} ${ms.toFixed(2)} ms   ${(ms / frameMs).toFixed(3)} of a frame`)
}
const matched = median(
  Array.from({ length: 5 }, () => {
    const from = performance.now()
    matchNetwork(network)
    return performance.now() - from
  }),
)
console.log(`  network, 10 000 lines by 100 units: ${matched.toFixed(0)} ms (aim: under 1000)`)
