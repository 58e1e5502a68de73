import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refusal, refuse } from '../edge/fault'
import {
  days,
  type FleetWaves,
  minuteMs,
  type PlacedRings,
  type Policy,
  placeRings,
  ringsCalendar,
  versionForm,
  type WaveUnit,
  writtenRings,
} from './waves'

/** What somebody asks of the rings, read with suspicion: of `fleet waves` all of it, of the app's own units only the policy. */

const usualMinutes = 10

const moment = z.string().superRefine((text, context) => {
  if (Number.isNaN(Date.parse(text)) || !/(Z|[+-]\d{2}:?\d{2})$/.test(text))
    refuse(context, 'input', [], 'A time is ISO 8601 with its offset.')
})
const clock = z.string().regex(/^([01][0-9]|2[0-3]):[0-5][0-9]$/)
const minutesOfClock = (text: string): number => Number(text.slice(0, 2)) * 60 + Number(text.slice(3))
const ranged = (holds: (n: number) => boolean, message: string) =>
  z.number().superRefine((n, context) => {
    if (!holds(n)) refuse(context, 'range', [], message)
  })
const version = z.string().superRefine((text, context) => {
  if (!versionForm.test(text.trim())) refuse(context, 'input', [], `${text} is no version.`)
})
const above0 = ranged((n) => n > 0, 'It must be above 0.')
const share = ranged((n) => n >= 0 && n <= 1, 'A share is from 0 to 1.')
const policyShape = z.object({
  start: moment,
  utcOffset: z
    .string()
    .regex(/^(Z|[+-]\d{2}:\d{2})$/)
    .nullish(),
  rings: z
    .array(
      z.object({
        name: z.string().min(1),
        count: ranged((n) => Number.isInteger(n) && n >= 0, 'A count is whole, from 0.').nullish(),
        share: share.nullish(),
      }),
    )
    .min(1)
    .max(50),
  soakHours: z.array(ranged((n) => n >= 0, 'It cannot be below 0.')).nullish(),
  window: z.object({ days: z.array(z.enum(days)).min(1), from: clock, to: clock }).nullish(),
  minutesPerUnit: above0.nullish(),
  maxPerWindow: ranged((n) => Number.isInteger(n) && n >= 1, 'A count is whole, from 1.').nullish(),
  stopRule: z
    .object({
      maxFailures: ranged((n) => n >= 0, 'It cannot be below 0.').nullish(),
      maxFailShare: share.nullish(),
    })
    .nullish(),
  blackouts: z
    .array(z.object({ from: moment, to: moment }))
    .max(2000)
    .nullish(),
  allowDowngrade: z.boolean().nullish(),
})
type PolicyGiven = z.infer<typeof policyShape>

function refusePolicy({ rings, blackouts }: PolicyGiven, context: z.RefinementCtx): void {
  for (const [i, { name }] of rings.entries())
    if (rings.findIndex((r) => r.name === name) < i)
      refuse(context, 'conflict', ['policy', 'rings', i, 'name'], `The ring ${name} is there twice.`)
  for (const [i, b] of (blackouts ?? []).entries())
    if (Date.parse(b.to) <= Date.parse(b.from))
      refuse(context, 'range', ['policy', 'blackouts', i, 'to'], 'It ends before it begins.')
}

const PolicyAlone = z
  .object({ policy: policyShape })
  .superRefine(({ policy }, context) => refusePolicy(policy, context))
const Request = z
  .object({
    units: z
      .array(
        z.object({
          id: z.string().min(1),
          number: z.number().int().min(0),
          installed: version,
          target: version,
          role: z.enum(['normal', 'bridge', 'powers-network', 'powers-hub']).nullish(),
          canary: z.boolean().nullish(),
          held: z.union([z.boolean(), z.string()]).nullish(),
          dependsOn: z.array(z.string()).max(200).nullish(),
          minutes: above0.nullish(),
        }),
      )
      .max(5000),
    policy: policyShape,
    results: z
      .array(z.object({ unit: z.string(), ok: z.boolean() }))
      .max(5000)
      .nullish(),
    ics: z.boolean().nullish(),
  })
  .superRefine(({ units, policy, results }, context) => {
    const ids = new Set<string>()
    for (const [i, { id }] of units.entries()) {
      if (ids.has(id)) refuse(context, 'conflict', ['units', i, 'id'], `The id ${id} is used twice.`)
      ids.add(id)
    }
    for (const [i, u] of units.entries())
      for (const [j, id] of (u.dependsOn ?? []).entries())
        if (!ids.has(id)) refuse(context, 'input', ['units', i, 'dependsOn', j], `There is no unit ${id}.`)
    for (const [i, r] of (results ?? []).entries())
      if (!ids.has(r.unit)) refuse(context, 'input', ['results', i, 'unit'], `There is no unit ${r.unit}.`)
    refusePolicy(policy, context)
  })

const offsetOf = (text: string | null | undefined): number => {
  if (!text || text === 'Z') return 0
  const minutes = Number(text.slice(1, 3)) * 60 + Number(text.slice(4, 6))
  return (text.startsWith('-') ? -minutes : minutes) * minuteMs
}

function policyOf(p: PolicyGiven): Policy {
  const onlyShare = p.stopRule?.maxFailures == null && p.stopRule?.maxFailShare != null
  return {
    startMs: Date.parse(p.start),
    offsetMs: offsetOf(p.utcOffset),
    rings: p.rings.map((r) => ({ name: r.name, count: r.count ?? null, share: r.share ?? null })),
    soakHours: p.soakHours ?? [],
    window: p.window
      ? { days: p.window.days, fromMin: minutesOfClock(p.window.from), toMin: minutesOfClock(p.window.to) }
      : null,
    minutesPerUnit: p.minutesPerUnit ?? usualMinutes,
    maxPerWindow: p.maxPerWindow ?? null,
    maxFailures: p.stopRule?.maxFailures ?? (onlyShare ? Number.POSITIVE_INFINITY : 0),
    maxFailShare: p.stopRule?.maxFailShare ?? 1,
    blackouts: (p.blackouts ?? []).map((b) => ({ from: Date.parse(b.from), to: Date.parse(b.to) })),
    allowDowngrade: p.allowDowngrade === true,
  }
}

function planned(
  units: readonly WaveUnit[],
  policy: Policy,
  results: ReadonlyMap<string, boolean>,
): Outcome<PlacedRings> {
  const plan = placeRings(units, policy, results)
  return plan
    ? { ok: true, value: plan }
    : refusal('range', '/policy/window', 'There is no slot for everybody within a year.')
}

/** `fleet waves`: who is updated when, and who is not. */
export function fleetWaves(input: unknown): Outcome<FleetWaves> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const { units, results, ics } = parsed.value
  const policy = policyOf(parsed.value.policy)
  const plan = planned(
    units.map((u) => ({
      ...u,
      role: u.role ?? 'normal',
      canary: u.canary === true,
      held: Boolean(u.held),
      dependsOn: u.dependsOn ?? [],
      minutes: u.minutes ?? null,
    })),
    policy,
    new Map((results ?? []).map((r) => [r.unit, r.ok])),
  )
  if (!plan.ok) return plan
  const written = writtenRings(plan.value)
  return {
    ok: true,
    value: ics ? { ...written, ics: ringsCalendar(plan.value.rings, policy.startMs) } : written,
  }
}

/**
 * The same for units that the app knows itself, of which there may be thousands: only the policy is read with suspicion. Ids are
 * unique, what `dependsOn` names is among them, and versions are some.
 */
export function ringsOfKnown(
  units: readonly WaveUnit[],
  given: unknown,
  results: ReadonlyMap<string, boolean>,
): Outcome<PlacedRings> {
  const parsed = parseInput(PolicyAlone, { policy: given }, inputCodes)
  return parsed.ok ? planned(units, policyOf(parsed.value.policy), results) : parsed
}
