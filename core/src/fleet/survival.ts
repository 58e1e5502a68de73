import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { type Finding, finding } from '../edge/finding'
import { chiSquaredQuantile } from '../statistics/chi-squared'

/** How often units on a release start again by themselves, and whether that is enough to go on with it (brief 07 §9). */
export interface ReleaseRecord {
  version: string
  /** Unit-days on it, and restarts that were no power cut of the house. */
  units: readonly { id: string; days: number; restarts: number }[]
}

export interface ReleaseRate {
  version: string
  days: number
  restarts: number
  /** Restarts per unit-day, and its exact 95 % interval; null while there is no day. */
  rate: number | null
  lower: number | null
  upper: number | null
}

export interface Survival {
  releases: ReleaseRate[]
  of: string
  verdict: 'stop' | 'go' | 'wait'
  /** Whole unit-days without a restart that would make it go; null where it does not wait, or above 10 000. */
  moreDays: number | null
  findings: Finding[]
}

/** Restarts of a unit a day that are taken, where nobody says otherwise. */
export const usualMost = 0.05
const mostDays = 10_000
const [lowTail, highTail] = [0.025, 0.975]

const once =
  <T>(key: (row: T) => string, field: string, what: string) =>
  (rows: readonly T[], context: Parameters<typeof refuse>[0]) => {
    const seen = new Set<string>()
    for (const [i, row] of rows.entries()) {
      if (seen.has(key(row))) refuse(context, 'conflict', [i, field], `${what} ${key(row)} is there twice.`)
      seen.add(key(row))
    }
  }
const named = z.string().superRefine((text, context) => {
  if (text.trim() === '') refuse(context, 'input', [], 'The text is empty.')
})
const Unit = z.object({
  id: named,
  days: z.number().nonnegative(),
  restarts: z.number().superRefine((n, context) => {
    if (!Number.isInteger(n) || n < 0) refuse(context, 'range', [], 'Restarts are a whole number from 0.')
  }),
})
const Release = z.object({ version: named, units: z.array(Unit).superRefine(once((u) => u.id, 'id', 'Unit')) })
const Request = z.object({
  releases: z
    .array(Release)
    .min(1)
    .superRefine(once((r) => r.version, 'version', 'Release')),
  maxPerDay: z.number().positive().nullish(),
  of: z.string().nullish(),
})

/** Poisson: lower = χ²(0.025, 2k)/2T, upper = χ²(0.975, 2k + 2)/2T. */
export function rateOf({ version, units }: ReleaseRecord): ReleaseRate {
  const days = units.reduce((sum, u) => sum + u.days, 0)
  const restarts = units.reduce((sum, u) => sum + u.restarts, 0)
  if (days === 0) return { version, days, restarts, rate: null, lower: null, upper: null }
  return {
    version,
    days,
    restarts,
    rate: restarts / days,
    lower: restarts === 0 ? 0 : chiSquaredQuantile(lowTail, 2 * restarts) / (2 * days),
    upper: chiSquaredQuantile(highTail, 2 * restarts + 2) / (2 * days),
  }
}

/** Further unit-days without a restart until the upper bound is at most `maxPerDay`; null above 10 000. */
function daysToGo({ days, restarts }: ReleaseRate, maxPerDay: number): number | null {
  const half = chiSquaredQuantile(highTail, 2 * restarts + 2) / 2
  const enough = (more: number) => half / (days + more) <= maxPerDay
  let more = Math.max(0, Math.ceil(half / maxPerDay - days) - 1)
  while (more <= mostDays && !enough(more)) more++
  return more <= mostDays ? more : null
}

const perDay = (rate: number) => Number(rate.toPrecision(3))

function judge(of: ReleaseRate, before: ReleaseRate | null, maxPerDay: number): Omit<Survival, 'releases' | 'of'> {
  const { lower, upper } = of
  const tooMany = lower !== null && lower > maxPerDay
  const worse = lower !== null && before !== null && before.upper !== null && lower > before.upper
  if (tooMany || worse)
    return {
      verdict: 'stop',
      moreDays: null,
      findings: [
        finding(
          'survival-stop',
          'error',
          tooMany
            ? `Units on ${of.version} start again more often than ${maxPerDay} times a day.`
            : `Units on ${of.version} start again more often than on ${before?.version}.`,
          `${of.restarts} restarts in ${perDay(of.days)} unit-days: at least ${perDay(lower)} a day.`,
          'Stop bringing it to more units, and go back where it matters.',
        ),
      ],
    }
  if (upper !== null && upper <= maxPerDay) return { verdict: 'go', moreDays: null, findings: [] }
  const moreDays = daysToGo(of, maxPerDay)
  return {
    verdict: 'wait',
    moreDays,
    findings: [
      finding(
        'survival-wait',
        'watch',
        `${of.version} has not run long enough to tell.`,
        `${of.restarts} restarts in ${perDay(of.days)} unit-days.`,
        moreDays === null
          ? 'It will not tell within 10 000 unit-days.'
          : `${moreDays} more unit-days without a restart would be enough.`,
      ),
    ],
  }
}

/** `fleet survival`. Faults: `input` (also an `of` that is no release), `range`, `empty`, `conflict` (a version or unit twice). */
export function fleetSurvival(input: unknown): Outcome<Survival> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const { releases, maxPerDay } = parsed.value
  const rates = releases.map(rateOf)
  const at = parsed.value.of == null ? rates.length - 1 : rates.findIndex((r) => r.version === parsed.value.of)
  const of = rates[at]
  if (!of)
    return {
      ok: false,
      faults: [{ code: 'input', path: '/of', message: `There is no release ${parsed.value.of} in the list.` }],
    }
  return {
    ok: true,
    value: { releases: rates, of: of.version, ...judge(of, rates[at - 1] ?? null, maxPerDay ?? usualMost) },
  }
}
