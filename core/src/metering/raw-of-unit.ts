import { z } from 'zod'
import type { UnitView } from '../unit/view'
import { type LoadKind, mapRaw, type OnHand, type RawMap, type Snapshot, usualLoads, usualRatingA } from './raw-map'

/** Raw values of a unit as a person writes them down, and what is kept of the answer (brief 04 §1). */

export const loadKinds = ['none', 'charger', 'resistive', 'motor', 'other'] as const
const number = z.number().finite().nullable().default(null)

/** All raw values in one moment, in a known state, as text that was pasted or typed. */
export const RawSnapshot = z.object({
  id: z.string().max(40),
  at: z.string().max(40),
  on: z.boolean(),
  kind: z.enum(loadKinds),
  w: number,
  refV: number,
  refI: number,
  refP: number,
  raw: z.string().max(8000),
})
export type RawSnapshot = z.infer<typeof RawSnapshot>

/** What a board's firmware means by its values, with where it was found out. */
export const KeptRawMap = z.object({
  firmware: z.string().max(120),
  unit: z.number().int(),
  voltage: z.object({ key: z.string().max(60), k: z.number().int() }),
  current: z.object({ key: z.string().max(60), k: z.number().int() }),
  power: z.object({ key: z.string().max(60), k: z.number().int() }),
  others: z.record(z.string().max(60), z.object({ quantity: z.string().max(40), k: z.number().int().nullable() })),
})
export type KeptRawMap = z.infer<typeof KeptRawMap>

export interface RawRead {
  raw: Record<string, number | boolean>
  /** Lines that hold no value, as they stand. */
  unread: string[]
}

const rawValue = (text: string): number | boolean | null => {
  const word = text.trim().replace(/^"|"$/g, '').toLowerCase()
  if (word === 'true' || word === 'on') return true
  if (word === 'false' || word === 'off') return false
  return /^-?\d+$/.test(word) ? Number(word) : null
}

const isWhole = (x: unknown): x is number => Number.isInteger(x)

function fromJson(text: string): RawRead | null {
  try {
    const given: unknown = JSON.parse(text)
    if (given === null || typeof given !== 'object' || Array.isArray(given)) return null
    const read: RawRead = { raw: {}, unread: [] }
    for (const [key, value] of Object.entries(given)) {
      if (typeof value === 'boolean' || isWhole(value)) read.raw[key] = value
      else read.unread.push(`${key}: ${JSON.stringify(value)}`)
    }
    return read
  } catch {
    return null
  }
}

/** Values as they are pasted: a JSON object, or a key and its value to a line or between commas. Nothing is dropped unnamed. */
export function readRaw(text: string): RawRead {
  const json = text.trim().startsWith('{') ? fromJson(text) : null
  if (json) return json
  const read: RawRead = { raw: {}, unread: [] }
  for (const line of text.split(/[\n;,]+/)) {
    const piece = line.trim()
    if (piece === '') continue
    const [, key, rest] = /^"?([\w.-]{1,60}?)"?\s*[:=\s]\s*(.+)$/.exec(piece) ?? []
    const value = rest === undefined ? null : rawValue(rest)
    if (key === undefined || value === null) read.unread.push(piece)
    else read.raw[key] = value
  }
  return read
}

const snapshotOf = (s: RawSnapshot): Snapshot => {
  const at = Date.parse(s.at)
  return {
    id: s.id,
    at: Number.isNaN(at) ? null : at,
    on: s.on,
    load: { kind: s.kind as LoadKind, w: s.kind === 'none' ? null : s.w },
    reference: { V: s.refV, I: s.refI, P: s.refP },
    raw: readRaw(s.raw).raw,
  }
}

/** Which of the two is taken by its voltage; where that is wrong, only the value that is the frequency goes unnamed. */
const hzOf = (volts: number): number => (volts < 160 ? 60 : 50)
const shown = 6

/** Which value is what, from the snapshots so far; null with fewer than three numbers in all of them. */
export function rawMapOf(view: UnitView, loads: readonly OnHand[] = usualLoads): RawMap | null {
  const { snapshots } = view.records.meter.data
  if (snapshots.length === 0) return null
  const volts = view.records.arrive.data.mainsVolts ?? view.mainsVolts
  const rating = view.records.arrive.data.ratedAmps ?? view.board?.ratedAmps ?? usualRatingA
  return mapRaw(
    snapshots.map(snapshotOf),
    { nominalV: volts, nominalHz: hzOf(volts), ratingA: rating },
    loads.length > 0 ? loads : usualLoads,
    shown,
  )
}

/** What is worth keeping: only what is settled. */
export function keptOf(map: RawMap | null, firmware: string, unit: number): KeptRawMap | null {
  if (!map?.settled) return null
  const { voltage, current, power } = map.best
  return {
    firmware,
    unit,
    voltage,
    current,
    power,
    others: Object.fromEntries(
      Object.entries(map.others)
        .filter(([, o]) => o.quantity !== 'unknown')
        .map(([key, o]) => [key, { quantity: o.quantity, k: o.k }]),
    ),
  }
}

export type MapTest = 'fits' | 'does not fit' | 'not tested' | 're-check'

/**
 * A board's map on another of its units: one snapshot with a resistive load of known watts tells. Another firmware than the one
 * it was found with is looked at again, whatever fits.
 */
export function testOf(kept: KeptRawMap, snapshots: readonly RawSnapshot[], firmware: string): MapTest {
  const scaled = (raw: RawRead['raw'], { key, k }: { key: string; k: number }) => {
    const value = raw[key]
    return typeof value === 'number' ? value / 10 ** k : null
  }
  const resistive = snapshots.filter((s) => s.on && s.kind === 'resistive' && s.w !== null && s.w > 0)
  if (resistive.length === 0) return 'not tested'
  for (const s of resistive) {
    const { raw } = readRaw(s.raw)
    const [V, I, P] = [scaled(raw, kept.voltage), scaled(raw, kept.current), scaled(raw, kept.power)]
    if (V === null || I === null || P === null || V <= 0 || I <= 0) return 'does not fit'
    const pf = P / (V * I)
    // A heater is 1; the same values the wrong way round give a fifth of it at 230 V.
    if (Math.abs(pf - 1) > 0.1 || Math.abs(Math.log(P / (s.w as number))) > 0.3) return 'does not fit'
  }
  return kept.firmware === firmware ? 'fits' : 're-check'
}
