import type { Outcome } from '../edge/fault'
import { pricesInOrder } from '../unit/cost'
import type { UnitView } from '../unit/view'
import { correctEnergy, type EnergyHistory } from './energy'

/** The energy that a unit counted, as a person pasted it, rescaled by its calibrations and priced (brief 04 §2.3). */

export interface EnergyReading {
  at: string
  kWh: number
}
export interface ReadingsRead {
  readings: EnergyReading[]
  /** Lines that hold no day and number, as they stand. */
  unread: string[]
}

const line =
  /^(\d{4}-\d{2}-\d{2})(?:[T ](\d{2}:\d{2}(?::\d{2})?)(Z|[+-]\d{2}:?\d{2})?)?[\s;,\t]+(\d+(?:[.,]\d+)?)\s*(?:kwh)?$/i
/** A day without a time is its noon, so that no time zone moves it to another day. */
const noon = '12:00'

/** Readings of a counter, one to a line: a day (and a time), a number. In the order of their times; what is none is named. */
export function readReadings(text: string): ReadingsRead {
  const out: ReadingsRead = { readings: [], unread: [] }
  for (const raw of text.split('\n')) {
    const piece = raw.trim()
    if (piece === '') continue
    const [, day, time = noon, zone = 'Z', number = ''] = line.exec(piece) ?? []
    const at = day ? `${day}T${time}${zone}` : ''
    const kWh = Number(number.replace(',', '.'))
    if (!day || Number.isNaN(Date.parse(at)) || !Number.isFinite(kWh)) out.unread.push(piece)
    else out.readings.push({ at, kWh })
  }
  out.readings.sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
  return out
}

/**
 * What each stretch of its history has to be multiplied by. A calibration found how far off the unit was before it, and from then
 * on the unit was told: so each one holds back to the one before it, the first to the first reading.
 * @param calibrations of power, oldest first, each with the gain that a unit without an offset was told
 */
export function factorsOf(
  calibrations: readonly { at: string; gain: number }[],
  first: string,
): { from: string; old: number; new: number }[] {
  const factors: { from: string; old: number; new: number }[] = []
  let told = 1
  let from = first
  for (const { at, gain } of calibrations) {
    if (Date.parse(at) <= Date.parse(from)) {
      told *= gain
      continue
    }
    factors.push({ from, old: told, new: told * gain })
    told *= gain
    from = at
  }
  return [...factors, { from, old: told, new: told }]
}

export interface UnitEnergy {
  unread: string[]
  history: Outcome<EnergyHistory>
}

/** What a kWh costs it: its own price for all of the time, else those of the site, each from the first moment of its day. */
const pricesOf = (view: UnitView, first: string): { from: string; perKWh: number }[] => {
  const own = view.records.meter.data.perKWh
  return own === null
    ? pricesInOrder(view.money.prices).map(({ from, perKWh }) => ({ from: `${from}T00:00:00Z`, perKWh }))
    : [{ from: first, perKWh: own }]
}

/** Null where there are no two readings. Later of two readings of one moment counts. */
export function energyOf(view: UnitView): UnitEnergy | null {
  const { counter, standbyW } = view.records.meter.data
  const { readings, unread } = readReadings(counter)
  const each = [...new Map(readings.map((r) => [Date.parse(r.at), r])).values()]
  const [first] = each
  if (!first || each.length < 2) return null
  const power = view.calibrations
    .filter((c) => c.quantity === 'P')
    .map((c) => ({ at: c.at, gain: c.plainGain }))
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
  return {
    unread,
    history: correctEnergy({
      readings: each,
      factors: factorsOf(power, first.at),
      prices: pricesOf(view, first.at),
      ...(standbyW === null ? {} : { standby: [{ id: view.name, W: standbyW }] }),
    }),
  }
}
