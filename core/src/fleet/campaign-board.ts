import { type SomeUnits, someOf } from '../edge/some'
import {
  type Campaign,
  type CampaignNow,
  type CampaignUnit,
  type CampaignUnits,
  type HowItWent,
  mayBeginRing,
} from './campaign'
import type { Survival } from './survival'
import type { RingTimes } from './waves'

/**
 * An update as a page shows it: rings in time with some of their units, whoever is left out by why, and one unit that somebody looks
 * at. Of thousands it brings what is drawn.
 */

export interface BoardUnit {
  id: string
  number: number
  /** What it runs; empty: nobody knows. */
  installed: string
  /** When it is its turn, ms; null: it is in no ring. */
  start: number | null
  how: HowItWent
}
export interface BoardRing extends RingTimes {
  /** One of it was begun: it stays where it is. */
  fixed: boolean
  /** Empty: its units may be begun now; else why not. */
  why: string
  /** The first of them, in their order. */
  units: BoardUnit[]
}
export interface CampaignBoard {
  /** Why it cannot be planned; empty: it is. */
  fault: string
  rings: BoardRing[]
  /** Units to choose from: all of a few, else those whose turn is not over first. */
  list: BoardUnit[]
  /** In all rings together. */
  all: number
  begun: number
  skipped: (SomeUnits & { why: string })[]
  /** Nobody knows what these run: they are in no ring. */
  unknown: SomeUnits
  /** The one that is looked at, and why it cannot be begun now. */
  chosen: (BoardUnit & { why: string }) | null
  /** When the clock alone makes something else of it, ms; null: nothing does. */
  until: number | null
}

/** How much a page shows of each. */
export interface BoardShown {
  inRing: number
  inList: number
  inWords: number
}

/** Reasons that name another unit are one reason. */
const kindOf = (reason: string): string => reason.replace(/:.*/, '')

function leftOut(
  skipped: readonly { id: string; reason: string }[],
  of: CampaignUnits,
  most: number,
): CampaignBoard['skipped'] {
  const byWhy = new Map<string, CampaignUnit[]>()
  for (const { id, reason } of skipped) {
    const unit = of.get(id)
    if (!unit) continue
    const why = kindOf(reason)
    const units = byWhy.get(why)
    if (units) units.push(unit)
    else byWhy.set(why, [unit])
  }
  return [...byWhy].map(([why, units]) => ({ why, ...someOf(units, most) }))
}

/** Those first whose turn is not over; a few are shown as they come. */
function listed<T>(units: readonly T[], isOver: (unit: T) => boolean, most: number): T[] {
  if (units.length <= most) return [...units]
  const open = units.filter((u) => !isOver(u))
  return [...open, ...units.filter(isOver)].slice(0, most)
}

/**
 * @param now ms  @param release how the version fares, null where nobody can say
 * @param chosen number of the unit that is looked at, null: none
 */
export function boardOf(
  { begun: everBegun }: Pick<Campaign, 'begun'>,
  { units: of, plan, went, unknown }: CampaignNow,
  now: number,
  release: Pick<Survival, 'verdict' | 'of'> | null,
  chosen: number | null,
  { inRing, inList, inWords }: BoardShown,
): CampaignBoard {
  const rings = plan.ok ? plan.value.rings : []
  const begun = new Set(Object.keys(everBegun))
  const howOf = (id: string): HowItWent => went.get(id) ?? { state: 'waiting' }
  const shown = ({ id, start }: { id: string; start: number | null }): BoardUnit => {
    const unit = of.get(id) as CampaignUnit
    return { id, number: unit.number, installed: unit.installed, start, how: howOf(id) }
  }
  const looked = chosen === null ? undefined : [...of.values()].find((u) => u.number === chosen)
  const ringOf = looked ? rings.findIndex((r) => r.units.some((u) => u.id === looked.id)) : -1
  const why = rings.map((_, at) => mayBeginRing(rings, at, now, release))
  const ends = [...went.values()].flatMap((how) => (how.state === 'begun' ? [how.until] : []))
  const begins = rings.map((r) => r.notBefore).filter((ms) => ms > now)
  return {
    fault: plan.ok ? '' : (plan.faults[0]?.message ?? 'It cannot be planned.'),
    rings: rings.map(({ units: own, failures: _, ...ring }, at) => ({
      ...ring,
      fixed: ring.status !== 'pending' || (begun.size > 0 && own.some((u) => begun.has(u.id))),
      why: why[at] as string,
      units: own.slice(0, inRing).map(shown),
    })),
    list: listed(
      rings.flatMap((r) => r.units),
      (u) => howOf(u.id).state === 'ok',
      inList,
    ).map(shown),
    all: rings.reduce((n, r) => n + r.all, 0),
    begun: begun.size,
    skipped: leftOut(plan.ok ? plan.value.skipped : [], of, inWords),
    unknown: someOf(unknown, inWords),
    chosen: looked
      ? {
          ...shown({ id: looked.id, start: rings[ringOf]?.units.find((u) => u.id === looked.id)?.start ?? null }),
          why: mayBeginRing(rings, ringOf, now, release),
        }
      : null,
    until: [...ends, ...begins].reduce<number | null>((a, ms) => (a === null || ms < a ? ms : a), null),
  }
}
