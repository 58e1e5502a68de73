import type { Outcome } from '../edge/fault'
import type { Finding } from '../edge/finding'
import { checkLoad, steadyShare } from '../load/check'
import { checkRegulator } from '../load/regulator'
import { type Discharge, dischargeOf } from '../open/isolation'
import { designDivider } from '../wiring/divider'
import { batteryLife } from './battery'
import { dcDrop } from './dc-drop'
import { ledResistor } from './led-resistor'
import { reportLoad } from './report-load'

/** Small sums of the bench as data: what each takes, and what it says. A line of text is read into one of them, so that it can be typed where one finds things. */

export type Unit =
  | 'V'
  | 'A'
  | 'mA'
  | 'µA'
  | 'Ω'
  | 'µF'
  | 'W'
  | 'm'
  | 'mm²'
  | '°C'
  | '°C/W'
  | 's'
  | 'h'
  | 'mAh'
  | '%'
  | ''
export interface SumField {
  id: string
  label: string
  unit: Unit
  /** Taken where nobody says it; without one the sum waits for it. */
  usual?: number
}
export interface SumResult {
  /** The answer in a few words. */
  answer: string
  rows: [name: string, value: string][]
  findings: Finding[]
}
type Values = Readonly<Record<string, number>>
export interface SumKind {
  id: string
  name: string
  /** Words that name it in a line of text. */
  words: readonly string[]
  /** A line of text that works it out. */
  example: string
  fields: readonly SumField[]
  work: (v: Values) => SumResult | string
}

const short = (n: number, digits = 3): string => String(Number(n.toPrecision(digits)))
const ohms = (n: number): string =>
  n >= 1e6 ? `${short(n / 1e6)} MΩ` : n >= 1000 ? `${short(n / 1000)} kΩ` : `${short(n)} Ω`
const spanWords = (seconds: number): string =>
  seconds < 120 ? `${short(seconds)} s` : seconds < 7200 ? `${short(seconds / 60)} min` : `${short(seconds / 3600)} h`

/** The result of a command, or its first fault in words. */
const worked = <T>(outcome: Outcome<T>, say: (value: T) => SumResult): SumResult | string =>
  outcome.ok ? say(outcome.value) : (outcome.faults[0]?.message ?? 'It cannot be worked out.')

export const sumKinds: readonly SumKind[] = [
  {
    id: 'led',
    name: 'Resistor of an LED',
    words: ['led', 'resistor'],
    example: '3.3 led 2.0 4 ma',
    fields: [
      { id: 'supplyV', label: 'Supply', unit: 'V' },
      { id: 'vf', label: 'The LED drops', unit: 'V' },
      { id: 'mA', label: 'Current', unit: 'mA' },
    ],
    work: (v) =>
      worked(ledResistor({ ...v, eSeries: 'E12' }), (r) => ({
        answer: `${ohms(r.ohm)}, ${short(r.mA)} mA`,
        rows: [
          ['Exact', ohms(r.exactOhm)],
          ['Current, with 5 % either way', `${short(r.mAmin)} to ${short(r.mAmax)} mA`],
          ['Heat', `${short(r.W * 1000)} mW${r.ratingW === null ? '' : `: a ${r.ratingW} W one does`}`],
        ],
        findings: r.findings,
      })),
  },
  {
    id: 'divider',
    name: 'Divider for a signal',
    words: ['divider', 'divide'],
    example: 'divider 5 3.3',
    fields: [
      { id: 'vin', label: 'High is', unit: 'V' },
      { id: 'vout', label: 'The pin may have', unit: 'V' },
    ],
    work: ({ vin = 0, vout = 0 }) => {
      if (!(vin > 0 && vout > 0)) return 'Both voltages must be above 0.'
      if (vout >= vin) return 'It must be lower than what comes in: otherwise nothing is to be divided.'
      const [best, ...others] = designDivider(vin, vout, 'E12')
      if (!best) return 'No pair of that series comes near.'
      return {
        answer: `${ohms(best.rTop)} over ${ohms(best.rBottom)}: ${short(best.vout)} V`,
        rows: others.map((p) => [`or ${ohms(p.rTop)} over ${ohms(p.rBottom)}`, `${short(p.vout)} V`]),
        findings: [],
      }
    },
  },
  {
    id: 'regulator',
    name: 'Linear regulator',
    words: ['regulator', 'ldo'],
    example: 'regulator 5 3.3 96 ma',
    fields: [
      { id: 'vin', label: 'In', unit: 'V' },
      { id: 'vout', label: 'Out', unit: 'V' },
      { id: 'avgMA', label: 'It feeds on average', unit: 'mA' },
      { id: 'peakMA', label: 'and in bursts', unit: 'mA', usual: 350 },
      { id: 'iMaxMA', label: 'It is made for', unit: 'mA', usual: 800 },
      { id: 'dropoutV', label: 'It needs between in and out', unit: 'V', usual: 1.1 },
      { id: 'thetaJA', label: 'It warms by', unit: '°C/W', usual: 90 },
      { id: 'ambientC', label: 'Around it', unit: '°C', usual: 40 },
    ],
    work: ({ avgMA = 0, peakMA = 0, ...v }) =>
      worked(checkRegulator({ ...v, loads: [{ id: 'all of it', avgMA, peakMA: Math.max(peakMA, avgMA) }] }), (r) => ({
        answer: `${short(r.tjC)} °C, ${short(r.spareMA)} mA to spare`,
        rows: [
          ['Heat', `${short(r.W)} W`],
          ['Warm enough at', r.heatLimitMA === null ? 'no current' : `${short(r.heatLimitMA)} mA`],
        ],
        findings: r.findings,
      })),
  },
  {
    id: 'cable',
    name: 'Cable and fuse, direct current',
    words: ['cable', 'drop', 'wire', 'fuse'],
    example: 'cable 12 v 2 a 5 m 0.75 mm2',
    fields: [
      { id: 'V', label: 'Supply', unit: 'V' },
      { id: 'A', label: 'Current', unit: 'A' },
      { id: 'lengthM', label: 'Length, one way', unit: 'm' },
      { id: 'areaMm2', label: 'Copper', unit: 'mm²' },
      { id: 'tempC', label: 'It is warm', unit: '°C', usual: 40 },
      { id: 'maxPct', label: 'It may lose', unit: '%', usual: 3 },
    ],
    work: (v) =>
      worked(dcDrop(v), (r) => ({
        answer: `${short(r.dropV)} V lost, ${short(r.dropPct)} %; fuse from ${short(r.fuse.min)} A`,
        rows: [
          ['Heat in the cable', `${short(r.lossW)} W`],
          ['Thick enough', `${short(r.minAreaMm2)} mm²`],
          ['Fuse at the source', `${short(r.fuse.min)} A to what the cable carries`],
        ],
        findings: r.findings,
      })),
  },
  {
    id: 'battery',
    name: 'How long a battery lasts',
    words: ['battery', 'cell'],
    example: 'battery 2500 mah 20 ua 80 ma 4 s',
    fields: [
      { id: 'mAh', label: 'It holds', unit: 'mAh' },
      { id: 'sleepUA', label: 'Asleep it takes', unit: 'µA' },
      { id: 'wakeMA', label: 'Awake', unit: 'mA' },
      { id: 'wakeS', label: 'for', unit: 's' },
      { id: 'perHour', label: 'so often an hour', unit: '', usual: 6 },
    ],
    work: (v) =>
      worked(batteryLife(v), (r) => ({
        answer: `${Math.floor(r.days)} days`,
        rows: [
          ['It takes on average', `${short(r.avgMA)} mA`],
          ['With what it loses by itself', `${short(r.drainMA)} mA`],
        ],
        findings: [],
      })),
  },
  {
    id: 'reports',
    name: 'Messages of reporting units',
    words: ['reports', 'report', 'messages'],
    example: 'reports 30 units 10 s',
    fields: [
      { id: 'n', label: 'Units', unit: '' },
      { id: 'periodS', label: 'Each reports every', unit: 's' },
      { id: 'perMessageBytes', label: 'Bytes in a message', unit: '', usual: 200 },
    ],
    work: ({ n, periodS, perMessageBytes }) =>
      worked(reportLoad({ units: [{ n, periodS, perMessageBytes }] }), (r) => ({
        answer: `${short(r.perMinute)} messages a minute`,
        rows: [['That is', `${short(r.bytesPerSecond)} bytes a second`]],
        findings: [],
      })),
  },
  {
    id: 'discharge',
    name: 'Until a capacitor is empty',
    words: ['discharge', 'capacitor'],
    example: 'discharge 10 uf 470k 230 v',
    fields: [
      { id: 'uF', label: 'Capacitor', unit: 'µF' },
      { id: 'ohm', label: 'Bleeder', unit: 'Ω' },
      { id: 'V', label: 'Mains', unit: 'V', usual: 230 },
    ],
    work: ({ uF = 0, ohm = 0, V = 0 }) => {
      if (!(uF > 0 && ohm > 0 && V > 0)) return 'All of them must be above 0.'
      const d = dischargeOf(uF, ohm, V) as Discharge | Finding
      if (!('seconds' in d)) return d.message
      return {
        answer: `wait ${spanWords(d.seconds)}, then measure`,
        rows: [['Until below 30 V', `${short(d.seconds)} s`]],
        findings: [],
      }
    },
  },
  {
    id: 'load',
    name: 'What a contact carries',
    words: ['load', 'contact'],
    example: 'load 10 a 1500 w 230 v',
    fields: [
      { id: 'ratedA', label: 'The least rating', unit: 'A' },
      { id: 'W', label: 'The load', unit: 'W' },
      { id: 'V', label: 'Mains', unit: 'V', usual: 230 },
      { id: 'hours', label: 'On for', unit: 'h', usual: 1 },
    ],
    work: ({ ratedA, W, V, hours }) =>
      worked(
        checkLoad({
          supply: { kind: 'ac', V },
          ratings: [{ source: 'relay', A: ratedA }],
          load: { kind: 'resistive', W, hours },
        }),
        (r) => ({
          answer: `${short(r.I)} A, ${short(r.usePct)} % of it`,
          rows: [
            ['For three hours or more it counts', `${short(r.limit.A * steadyShare)} A`],
            ['As a heater; motors, lamps and supplies', 'are worked out at Arrive'],
          ],
          findings: r.findings,
        }),
      ),
  },
]

export interface ReadSum {
  kind: SumKind
  values: Record<string, number>
  /** Fields that nobody said and that have no usual value. */
  missing: SumField[]
  /** What stands behind a number and is no unit that is known here: a number is never taken for what it may not be. */
  strange: string[]
}

/** Units as they are typed, and what a number with one counts in the unit of its field. */
const typedUnits: Readonly<Record<string, { unit: Unit; times: number }>> = {
  v: { unit: 'V', times: 1 },
  mv: { unit: 'V', times: 1e-3 },
  a: { unit: 'A', times: 1 },
  ma: { unit: 'mA', times: 1 },
  ua: { unit: 'µA', times: 1 },
  ohm: { unit: 'Ω', times: 1 },
  ohms: { unit: 'Ω', times: 1 },
  k: { unit: 'Ω', times: 1e3 },
  kohm: { unit: 'Ω', times: 1e3 },
  kohms: { unit: 'Ω', times: 1e3 },
  meg: { unit: 'Ω', times: 1e6 },
  uf: { unit: 'µF', times: 1 },
  nf: { unit: 'µF', times: 1e-3 },
  w: { unit: 'W', times: 1 },
  kw: { unit: 'W', times: 1e3 },
  m: { unit: 'm', times: 1 },
  cm: { unit: 'm', times: 0.01 },
  mm2: { unit: 'mm²', times: 1 },
  c: { unit: '°C', times: 1 },
  s: { unit: 's', times: 1 },
  min: { unit: 's', times: 60 },
  h: { unit: 'h', times: 1 },
  mah: { unit: 'mAh', times: 1 },
  ah: { unit: 'mAh', times: 1e3 },
  '%': { unit: '%', times: 1 },
}
/** The same current in the unit of another field. */
const currents: Partial<Record<Unit, number>> = { A: 1, mA: 1e-3, µA: 1e-6 }
/** How often a unit that was typed goes into that of a field; null where it is of something else. */
function goesInto(from: Unit, to: Unit): number | null {
  if (from === to) return 1
  const [a, b] = [currents[from], currents[to]]
  return a !== undefined && b !== undefined ? a / b : null
}

interface Given {
  /** Null where the place is left open. */
  value: number | null
  unit: Unit | null
}
const tidy = (text: string): string =>
  text
    .toLowerCase()
    .replaceAll('²', '2')
    .replace(/[µμ]/g, 'u')
    .replaceAll('ω', 'ohm')
    .replaceAll('°', '')
    .replace(/(\d),(\d)/g, '$1.$2')
const piece = /(\d+(?:\.\d+)?)\s*([a-z%]+[0-9]?)?|([a-z]+)|\?/g

/** Words that may stand behind a number and are no unit. */
const between = new Set(['to', 'from', 'at', 'and', 'on', 'with', 'over', 'for', 'of', 'units', 'an', 'a', 'every'])

/** A word is a unit where it is written on a number, or follows it. */
function piecesOf(text: string): { given: Given[]; words: string[]; strange: string[] } {
  const given: Given[] = []
  const words: string[] = []
  const strange: string[] = []
  for (const [, number, unit, word] of tidy(text).matchAll(piece)) {
    if (number === undefined) {
      if (word) words.push(word)
      else given.push({ value: null, unit: null })
      continue
    }
    const known = unit === undefined ? null : typedUnits[unit]
    if (unit !== undefined && !known) {
      const word = unit.replace(/\d$/, '')
      words.push(word)
      if (!between.has(word) && !sumKinds.some((k) => k.words.includes(word))) strange.push(unit)
    }
    given.push(
      known ? { value: Number(number) * known.times, unit: known.unit } : { value: Number(number), unit: null },
    )
  }
  return { given, words, strange }
}

/**
 * A line of text as a sum: a word names it, numbers with a unit go where that unit is wanted, the others into what is left, in order;
 * a question mark leaves a place open.
 * Null where no word names one, or there is no number at all.
 */
export function readSum(text: string): ReadSum | null {
  const { given, words, strange } = piecesOf(text.slice(0, 200))
  const kind = sumKinds.find((k) => k.words.some((w) => words.includes(w)))
  if (!kind || given.length === 0) return null
  const values: Record<string, number> = {}
  const open = new Set<string>()
  const free = (f: SumField) => values[f.id] === undefined && !open.has(f.id)
  const loose: (number | null)[] = []
  for (const { value, unit } of given) {
    const into = unit && kind.fields.filter(free).find((f) => goesInto(unit, f.unit) === 1)
    const turned = unit && !into ? kind.fields.filter(free).find((f) => goesInto(unit, f.unit) !== null) : undefined
    if (into && value !== null) values[into.id] = value
    else if (unit && turned && value !== null) values[turned.id] = value * (goesInto(unit, turned.unit) ?? Number.NaN)
    else loose.push(value)
  }
  for (const value of loose) {
    const next = kind.fields.find(free)
    if (next && value === null) open.add(next.id)
    else if (next && value !== null) values[next.id] = value
  }
  const missing: SumField[] = []
  for (const f of kind.fields)
    if (values[f.id] === undefined) {
      if (f.usual === undefined) missing.push(f)
      else values[f.id] = f.usual
    }
  return { kind, values, missing, strange }
}

/** Its result; in words what is wrong, or what is still wanted. */
export function workSum({ kind, values, missing, strange }: ReadSum): SumResult | string {
  if (strange.length > 0) return `No unit that is known here: ${strange.join(', ')}.`
  if (missing.length > 0) return `Still to say: ${missing.map((f) => f.label.toLowerCase()).join(', ')}.`
  return kind.work(values)
}

/** A line of text that reads back as the same sum; what nobody has said yet is a question mark in its place. */
export const writeSum = ({
  kind,
  values,
}: {
  kind: SumKind
  values: Readonly<Record<string, number | null>>
}): string => [kind.words[0], ...kind.fields.map((f) => values[f.id] ?? '?')].join(' ')

/** It is worked out: nothing is wanted any more, and nothing is strange in it. */
export const isWhole = ({ missing, strange }: ReadSum): boolean => missing.length === 0 && strange.length === 0
