import { z } from 'zod'
import type { RouteCost } from '../unit/cost'
import { type RouteId, routeIds } from '../unit/way'
import { type LearningCurve, learningAhead, learningOf } from './learning'
import { compareRoutes, type RouteComparison } from './route-compare'

/** Which route pays, with what a place assumes and what its own record says (brief 04 §4). */

export const routeCriteria = ['noAccount', 'ownFirmware', 'enclosed', 'certified', 'button', 'reversible'] as const
export type RouteCriterion = (typeof routeCriteria)[number]

const money = z.number().finite().min(0).max(1e6)
export const RouteAssumption = z.object({
  unitPrice: money.nullable().default(null),
  fixedCost: money.default(0),
  minutesFirst: z.number().finite().positive().max(1e5).nullable().default(null),
  learningRate: z.number().min(0.5).max(1).default(0.8),
  minMinutes: z.number().finite().min(0).max(1e5).default(0),
  failPct: z.number().min(0).max(95).default(0),
  criteria: z.partialRecord(z.enum(routeCriteria), z.boolean()).default({}),
})
export type RouteAssumption = z.infer<typeof RouteAssumption>
export const RouteAssumptions = z.object({
  routes: z.partialRecord(z.enum(routeIds), RouteAssumption),
  must: z.array(z.enum(routeCriteria)).max(routeCriteria.length).default([]),
})
export type RouteAssumptions = z.infer<typeof RouteAssumptions>

const assume = (more: z.input<typeof RouteAssumption>): RouteAssumption => RouteAssumption.parse(more)
/** Where nobody has said anything yet: typical figures, each to be changed. Of a route that has none here, nothing is assumed. */
export const usualAssumptions: RouteAssumptions = {
  must: [],
  routes: {
    'wires-in-place': assume({
      unitPrice: 9.5,
      fixedCost: 22,
      minutesFirst: 95,
      learningRate: 0.8,
      minMinutes: 12,
      failPct: 5,
      criteria: { noAccount: true, ownFirmware: true, enclosed: true, button: true },
    }),
    'ready-flashed': assume({
      unitPrice: 19,
      minutesFirst: 15,
      learningRate: 0.95,
      failPct: 1,
      criteria: { noAccount: true, ownFirmware: true, enclosed: true, certified: true, button: true },
    }),
    built: assume({
      unitPrice: 8.2,
      fixedCost: 30,
      minutesFirst: 150,
      learningRate: 0.85,
      failPct: 8,
      criteria: { noAccount: true, ownFirmware: true, reversible: true },
    }),
    'local-control': assume({
      unitPrice: 9.5,
      minutesFirst: 40,
      learningRate: 0.85,
      criteria: { enclosed: true, certified: true, button: true, reversible: true },
    }),
    'module-replaced': assume({
      unitPrice: 12.4,
      fixedCost: 60,
      minutesFirst: 120,
      learningRate: 0.8,
      failPct: 10,
      criteria: { noAccount: true, ownFirmware: true, enclosed: true, button: true },
    }),
  },
}

/** So many proven units of a route say more than an assumption. */
export const enoughUnits = 3
/** So many tries of a route say more about how many die than an assumption. */
export const enoughTries = 10
export const comparedAt = [1, 5, 20] as const

/** Beyond that no number of tries is a plan. */
const mostLost = 0.95

export interface ComparedRoute {
  id: RouteId
  minutes: 'assumed' | 'record'
  price: 'assumed' | 'record'
  /** How many die. */
  losses: 'assumed' | 'record'
  /** How fast one learns, from units of one's own; null below five of them. */
  curve: LearningCurve | null
}

export interface SiteRoutes {
  comparison: RouteComparison
  /** Routes that are compared, with where their minutes and price come from. */
  compared: ComparedRoute[]
  /** Routes that nobody has said enough of. */
  left: RouteId[]
}

/** Null where no two routes can be compared. @param hourValue money of an hour; 0 where work is not counted in money */
export function siteRoutes(
  assumed: RouteAssumptions,
  record: Partial<Record<RouteId, RouteCost>>,
  hourValue: number,
): SiteRoutes | null {
  const compared: SiteRoutes['compared'] = []
  const left: RouteId[] = []
  const inputs = routeIds.flatMap((id) => {
    const a = assumed.routes[id] ?? RouteAssumption.parse({})
    const own = record[id]
    const seen = own !== undefined && own.units >= enoughUnits && own.minutes > 0
    const curve = own ? learningOf(own.taken) : null
    const ahead = curve && learningAhead(curve, comparedAt[comparedAt.length - 1] ?? 1)
    const tried = own !== undefined && own.units + own.died >= enoughTries
    const priced = own !== undefined && own.priced >= enoughUnits && own.paid !== null
    const unitPrice = priced ? own.paid : a.unitPrice
    const minutesFirst = ahead ? ahead.first : seen ? own.minutes : a.minutesFirst
    if (unitPrice === null || minutesFirst === null) {
      left.push(id)
      return []
    }
    compared.push({
      id,
      minutes: seen ? 'record' : 'assumed',
      price: priced ? 'record' : 'assumed',
      losses: tried ? 'record' : 'assumed',
      curve,
    })
    return [
      {
        id,
        unitPrice,
        fixedCost: a.fixedCost,
        minutesFirst,
        // A few own units are timed as they are: what was learned by then is in it. More of them say how fast one learns.
        learningRate: ahead ? ahead.rate : seen ? 1 : a.learningRate,
        minMinutes: seen ? 0 : a.minMinutes,
        failProb: tried ? Math.min(mostLost, own.died / (own.units + own.died)) : a.failPct / 100,
        criteria: a.criteria,
      },
    ]
  })
  if (inputs.length < 2) return null
  const outcome = compareRoutes({ n: [...comparedAt], hourValue, must: assumed.must, routes: inputs })
  return outcome.ok ? { comparison: outcome.value, compared, left } : null
}
