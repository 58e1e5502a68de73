import { z } from 'zod'
import { grouped } from '../bytes/text'
import { type Finding, finding } from '../edge/finding'
import type { UnitView } from '../unit/view'
import { ampsOf, checkLoad, type LoadCheck, leadAmps } from './check'

/** The load check of a unit: what is written on it and its board, against what it will carry (brief 04 §3.1). */

export const ratingSources = ['package', 'relay', 'terminals', 'board', 'fuse', 'plug'] as const
export type RatingSource = (typeof ratingSources)[number]
/** As people call them. */
export const sourceNames: Record<RatingSource, string> = {
  package: 'case',
  relay: 'relay',
  terminals: 'terminals',
  board: 'board',
  fuse: 'fuse',
  plug: 'plug',
}
const leadName = 'lead'
/** The part that decides, as people call it. */
export const decidingPart = ({ limit }: LoadCheck): string => sourceNames[limit.source as RatingSource] ?? leadName
const above0 = z.number().positive().max(100_000).nullable().default(null)

/** One marking as it is printed: amperes or watts, up to which voltage, for which current. */
export const PrintedRating = z.object({
  source: z.enum(ratingSources),
  A: above0,
  W: above0,
  Vmax: above0,
  current: z.enum(['ac', 'dc', 'both']).nullable().default(null),
  /** What the contact may make, where it is marked. */
  makeA: above0,
})
export type PrintedRating = z.infer<typeof PrintedRating>

export const electricKinds = [
  'resistive',
  'incandescent',
  'led',
  'motor',
  'compressor',
  'transformer',
  'charger',
  'discharge',
] as const
export type ElectricKind = (typeof electricKinds)[number]

type Arrived = UnitView['records']['arrive']['data']

/** What kind of load it is to a contact, as far as its use tells; null where only somebody who looks can say. */
export const kindOfUse = (load: Arrived['load']): ElectricKind | null =>
  load === 'heater'
    ? 'resistive'
    : load === 'motor' || load === 'pump' || load === 'fan'
      ? 'motor'
      : load === 'modem'
        ? 'charger'
        : null

export const electricOf = ({ electric, load }: Arrived): ElectricKind | null => electric ?? kindOfUse(load)

/** Every marking that counts: the unit's own, else its board's, and the one current that the case is said to bear. */
export function ratingsOf(view: UnitView): PrintedRating[] {
  const own = view.records.arrive.data
  const list = own.ratings.length > 0 ? own.ratings : (view.board?.ratings ?? [])
  const amps = own.ratedAmps ?? view.board?.ratedAmps ?? null
  // A unit that never meets the mains is marked for what it is fed with.
  const current = view.board?.mains === false ? 'dc' : null
  if (amps === null || amps <= 0 || list.some((r) => r.source === 'package')) return [...list]
  return [{ source: 'package', A: amps, W: null, Vmax: null, current, makeA: null }, ...list]
}

const given = <T extends object>(fields: T): Partial<{ [K in keyof T]: NonNullable<T[K]> }> =>
  Object.fromEntries(Object.entries(fields).filter(([, v]) => v !== null && v !== undefined)) as Partial<{
    [K in keyof T]: NonNullable<T[K]>
  }>

export interface UnitLoad {
  check: LoadCheck
  /** Every part that carries it, by what it bears at this supply, in A. */
  parts: { name: string; amps: number }[]
  /** Nobody has said what kind of load it is: its inrush is not known, and counts as none. */
  kindUnknown: boolean
}

/** Null where nobody has said how much it carries, or no marking is known: none is ever guessed. */
export function loadOf(view: UnitView): UnitLoad | null {
  const own = view.records.arrive.data
  const ratings = ratingsOf(view).filter((r) => r.A !== null || r.W !== null)
  if (own.loadWatts === null || own.loadWatts <= 0 || ratings.length === 0) return null
  const kind = electricOf(own)
  const { latch, lead, coils } = own
  const volts = own.mainsVolts ?? view.mainsVolts
  const outcome = checkLoad({
    supply: { kind: view.board?.mains === false ? 'dc' : 'ac', V: volts },
    ratings: ratings.map(given),
    load: { kind: kind ?? 'resistive', W: own.loadWatts, ...given({ hours: own.loadHours }) },
    ...(lead ? { lead } : {}),
    ...(coils?.count && coils.mA && coils.supplyMA
      ? { coils: { count: coils.count, mA: coils.mA, supplyMA: coils.supplyMA, ...given({ boardMA: coils.boardMA }) } }
      : {}),
    ...(latch && latch.A !== null && latch.V !== null && latch.supplyA !== null
      ? {
          latch: {
            A: latch.A,
            V: latch.V,
            supplyA: latch.supplyA,
            flyback: latch.flyback,
            ...(own.load === 'latch-unlocks'
              ? { onPowerLoss: 'unlocks' }
              : own.load === 'latch-locks'
                ? { onPowerLoss: 'locks' }
                : {}),
            escapeRoute: own.wayOut === true,
          },
        }
      : {}),
  })
  if (!outcome.ok) return null
  return {
    check: outcome.value,
    parts: [
      ...ratings.map((r) => ({ name: sourceNames[r.source], amps: ampsOf(r, volts) })),
      ...(lead ? [{ name: leadName, amps: leadAmps(lead) }] : []),
    ],
    kindUnknown: kind === null,
  }
}

const amps = (n: number): string => `${Number(n.toPrecision(3))} A`

/** What the check says, worst first; one sentence where nothing speaks against it. */
export function unitLoadFindings(view: UnitView): Finding[] {
  const load = loadOf(view)
  if (!load) return []
  const { check, kindUnknown } = load
  const own = view.records.arrive.data
  const facts = `${grouped(own.loadWatts ?? 0)} W at ${own.mainsVolts ?? view.mainsVolts} V is ${amps(check.totalA)} of ${amps(check.limit.A)}, its ${decidingPart(check)}: ${Math.round(check.usePct)} %.`
  const unknown = kindUnknown
    ? [
        finding(
          'load-kind-unknown',
          'watch',
          'Nobody has said what kind of load it is.',
          'A lamp with a driver draws many times its current for a moment, and welds contacts.',
          'Say it under Load check.',
        ),
      ]
    : []
  // A fact about markings is no reason to stop and look, unless it stands alone.
  const [first, ...rest] = [...check.findings.filter((f) => f.severity !== 'ok'), ...unknown]
  if (!first) return [finding('load-fits', 'ok', facts, '', '')]
  return [{ ...first, because: [first.because, facts].filter(Boolean).join(' ') }, ...rest]
}
