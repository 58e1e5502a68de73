import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { type Finding, finding } from '../edge/finding'
import { byText } from '../edge/order'
import { roundTo } from '../edge/round'

/** Which way to a number of good units costs least, from when on, and what would change that (brief 04 §4). */

export interface RouteInput {
  id: string
  unitPrice: number
  fixedCost: number
  minutesFirst: number
  learningRate: number
  minMinutes: number
  failProb: number
  failCost: number
  criteria: Readonly<Record<string, boolean>>
}
export interface RouteTotal {
  id: string
  eligible: boolean
  material: number
  minutes: number
  labour: number
  total: number
  perUnit: number
}
export interface RouteComparison {
  results: { n: number; routes: RouteTotal[]; best: string | null }[]
  breakEven: { a: string; b: string; cheaperAtOne: string | null; breakEvenN: number | null }[]
  tornado: { input: string; low: number; high: number; swing: number; changesBest: boolean }[]
  findings: Finding[]
}

const alike = 1e-9
const mostFail = 0.95
const learning = { least: 0.5, most: 1, step: 0.05 }

/** Minutes of the nth unit: every doubling takes the learning rate of the time before. */
const minutesOf = (r: RouteInput, n: number): number =>
  Math.max(r.minMinutes, r.minutesFirst * n ** Math.log2(r.learningRate))

export function totalOf(r: RouteInput, n: number, hourValue: number, eligible = true): RouteTotal {
  const extra = (n * r.failProb) / (1 - r.failProb)
  let minutes = extra * minutesOf(r, n)
  for (let i = 1; i <= n; i++) minutes += minutesOf(r, i)
  const material = r.fixedCost + (n + extra) * r.unitPrice + extra * r.failCost
  const labour = (minutes / 60) * hourValue
  const total = material + labour
  return { id: r.id, eligible, material, minutes, labour, total, perUnit: total / n }
}

const meets = (r: RouteInput, must: readonly string[]) =>
  must.every((c) => Object.hasOwn(r.criteria, c) && r.criteria[c])

/** Totals of 1 to `most` units, each made from the one before. */
function totalsUpTo(r: RouteInput, most: number, hourValue: number): number[] {
  const out: number[] = []
  let minutes = 0
  for (let n = 1; n <= most; n++) {
    const nth = minutesOf(r, n)
    minutes += nth
    const extra = (n * r.failProb) / (1 - r.failProb)
    const material = r.fixedCost + (n + extra) * r.unitPrice + extra * r.failCost
    out.push(material + ((minutes + extra * nth) / 60) * hourValue)
  }
  return out
}

function breakEvens(routes: readonly RouteInput[], maxN: number, hourValue: number): RouteComparison['breakEven'] {
  const totals = routes.map((r) => totalsUpTo(r, maxN, hourValue))
  const out: RouteComparison['breakEven'] = []
  for (const [i, a] of routes.entries())
    for (let j = i + 1; j < routes.length; j++) {
      const b = routes[j] as RouteInput
      const cheaper = (n: number): string | null => {
        const apart = (totals[i]?.[n - 1] ?? 0) - (totals[j]?.[n - 1] ?? 0)
        return apart < -alike ? a.id : apart > alike ? b.id : null
      }
      const cheaperAtOne = cheaper(1)
      let breakEvenN: number | null = null
      for (let n = 2; n <= maxN && breakEvenN === null; n++) {
        const now = cheaper(n)
        if (now !== null && now !== cheaperAtOne) breakEvenN = n
      }
      out.push({ a: a.id, b: b.id, cheaperAtOne, breakEvenN })
    }
  return out
}

const scaled = ['unitPrice', 'fixedCost', 'minutesFirst', 'minMinutes', 'failProb', 'failCost'] as const
const ends = { low: 0.75, high: 1.25 }

interface Turn {
  input: string
  /** Null for what all routes share. */
  route: string | null
  at: (end: 'low' | 'high') => { routes: RouteInput[]; hourValue: number }
}

function turnsOf(routes: readonly RouteInput[], hourValue: number, given: ReadonlySet<string>): Turn[] {
  const turns: Turn[] = []
  if (hourValue !== 0)
    turns.push({
      input: 'hourValue',
      route: null,
      at: (e) => ({ routes: [...routes], hourValue: hourValue * ends[e] }),
    })
  const put = (r: RouteInput, change: Partial<RouteInput>) =>
    routes.map((o) => (o.id === r.id ? { ...o, ...change } : o))
  for (const r of routes) {
    for (const key of scaled) {
      if (r[key] === 0) continue
      turns.push({
        input: `${r.id}.${key}`,
        route: r.id,
        at: (e) => {
          const value = r[key] * ends[e]
          return { routes: put(r, { [key]: key === 'failProb' ? Math.min(mostFail, value) : value }), hourValue }
        },
      })
    }
    if (given.has(r.id))
      turns.push({
        input: `${r.id}.learningRate`,
        route: r.id,
        at: (e) => {
          const moved = r.learningRate + (e === 'low' ? -learning.step : learning.step)
          const learningRate = Math.min(learning.most, Math.max(learning.least, moved))
          return { routes: put(r, { learningRate }), hourValue }
        },
      })
  }
  return turns
}

function tornadoOf(
  routes: readonly RouteInput[],
  n: number,
  hourValue: number,
  withRate: ReadonlySet<string>,
): RouteComparison['tornado'] {
  if (routes.length === 0) return []
  const cheapest = (list: readonly RouteInput[], value: number): RouteTotal =>
    list.map((r) => totalOf(r, n, value)).reduce((best, t) => (t.total < best.total - alike ? t : best))
  const best = cheapest(routes, hourValue).id
  const rows = turnsOf(routes, hourValue, withRate).flatMap((turn) => {
    const of = (end: 'low' | 'high') => {
      const { routes: list, hourValue: value } = turn.at(end)
      const mine = list.find((r) => r.id === best) as RouteInput
      return { total: totalOf(mine, n, value).total, changed: cheapest(list, value).id !== best }
    }
    const [low, high] = [of('low'), of('high')]
    const changesBest = low.changed || high.changed
    if (turn.route !== null && turn.route !== best && !changesBest) return []
    return [
      { input: turn.input, low: low.total, high: high.total, swing: Math.abs(high.total - low.total), changesBest },
    ]
  })
  return rows.sort((x, y) => roundTo(y.swing, 6) - roundTo(x.swing, 6) || byText(x.input, y.input))
}

const ranged = (holds: (n: number) => boolean, message: string) =>
  z.number().superRefine((n, context) => {
    if (!holds(n)) refuse(context, 'range', [], message)
  })
const notBelow0 = ranged((n) => n >= 0, 'It cannot be below 0.')
const mostN = 10_000
const count = ranged(
  (n) => Number.isInteger(n) && n >= 1 && n <= mostN,
  'A number of units is whole, from 1 to 10 000.',
)
const Route = z.object({
  id: z.string().min(1),
  unitPrice: notBelow0,
  fixedCost: notBelow0.nullish(),
  minutesFirst: notBelow0,
  learningRate: ranged((n) => n >= learning.least && n <= learning.most, 'A learning rate is from 0.5 to 1.').nullish(),
  minMinutes: notBelow0.nullish(),
  failProb: ranged((n) => n >= 0 && n <= mostFail, 'A probability to fail is from 0 to 0.95.').nullish(),
  failCost: notBelow0.nullish(),
  criteria: z.record(z.string(), z.boolean()).nullish(),
})
const Request = z.object({
  n: z.union([count, z.array(count).min(1).max(200)]),
  hourValue: notBelow0,
  maxN: count.nullish(),
  tornadoN: count.nullish(),
  must: z.array(z.string()).nullish(),
  routes: z
    .array(Route)
    .min(1)
    .max(20)
    .superRefine((routes, context) => {
      for (const [i, { id }] of routes.entries())
        if (routes.findIndex((r) => r.id === id) < i)
          refuse(context, 'conflict', [i, 'id'], `The route ${id} is there twice.`)
    }),
})

/** `route compare`: totals, break-even, and which inputs would change what is best. */
export function compareRoutes(input: unknown): Outcome<RouteComparison> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const { hourValue, maxN, tornadoN } = parsed.value
  const must = parsed.value.must ?? []
  const ns = typeof parsed.value.n === 'number' ? [parsed.value.n] : parsed.value.n
  const routes: RouteInput[] = parsed.value.routes.map((r) => ({
    id: r.id,
    unitPrice: r.unitPrice,
    fixedCost: r.fixedCost ?? 0,
    minutesFirst: r.minutesFirst,
    learningRate: r.learningRate ?? 1,
    minMinutes: r.minMinutes ?? 0,
    failProb: r.failProb ?? 0,
    failCost: r.failCost ?? 0,
    criteria: r.criteria ?? {},
  }))
  const withRate = new Set(parsed.value.routes.filter((r) => r.learningRate != null).map((r) => r.id))
  const results = ns.map((n) => {
    const all = routes.map((r) => totalOf(r, n, hourValue, meets(r, must)))
    const sorted = [...all].sort((x, y) => Number(y.eligible) - Number(x.eligible) || x.total - y.total)
    const [first] = sorted
    return { n, routes: sorted, best: first?.eligible ? first.id : null }
  })
  const eligible = routes.filter((r) => meets(r, must))
  const tornado = tornadoOf(eligible, tornadoN ?? Math.max(...ns), hourValue, withRate)
  const close = tornado.filter((t) => t.changesBest)
  return {
    ok: true,
    value: {
      results,
      breakEven: breakEvens(routes, maxN ?? 200, hourValue),
      tornado,
      findings:
        close.length === 0
          ? []
          : [
              finding(
                'too-close',
                'ok',
                'It is too close to call.',
                `A change of ${close.map((t) => t.input).join(', ')} would make another route the cheapest.`,
                '',
              ),
            ],
    },
  }
}
