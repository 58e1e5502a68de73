import { z } from 'zod'
import { type Outcome, parseInput, refuse, strictCodes } from '../edge/fault'
import { nth } from '../edge/nth'
import { entropyBits, rankBy, tenDigits } from '../edge/order'
import { type Family, families } from '../families/families'
import table from './likelihoods.json'

/** One wrong observation must rule nothing out: every likelihood is mixed with this much of the uniform one. */
const floorShare = 0.02
const conflictRatio = 10

export const checkRisks = ['open_off', 'closed', 'low_voltage'] as const
export type CheckRisk = (typeof checkRisks)[number]

interface CheckKind {
  kind: string
  minutes: number
  risk: CheckRisk
  values: Record<string, number[]>
}

/** The checks a person can make, in table order, with the minutes each takes and what it risks. */
export const checkKinds = table.kinds as unknown as readonly CheckKind[]
export const defaultPrior = table.prior as Record<Family, number>

const kindNamed = (kind: string) => checkKinds.find((k) => k.kind === kind)

const EvidenceItem = z
  .looseObject({
    kind: z.string(),
    value: z.string().optional(),
    counts: z.record(z.string(), z.number()).optional(),
    sure: z.number().optional(),
  })
  .superRefine((item, context) => {
    if (item.kind !== 'marking' && !kindNamed(item.kind)) {
      refuse(context, 'unknown-kind', ['kind'], `There is no check called "${item.kind}".`)
      return
    }
    if (item.kind === 'marking') {
      if (item.counts === undefined) refuse(context, 'missing', ['counts'], 'A marking needs its counts per family.')
      for (const [family, n] of Object.entries(item.counts ?? {})) {
        if (!(families as readonly string[]).includes(family))
          refuse(context, 'unknown-family', ['counts', family], `There is no family called "${family}".`)
        else if (n < 0) refuse(context, 'range', ['counts', family], 'A count must be 0 or more.')
      }
    } else if (item.value === undefined) {
      refuse(context, 'missing', ['value'], `The check ${item.kind} needs a value.`)
    } else if (!Object.hasOwn(kindNamed(item.kind)?.values ?? {}, item.value)) {
      const allowed = Object.keys(kindNamed(item.kind)?.values ?? {}).join(', ')
      refuse(context, 'unknown-value', ['value'], `"${item.value}" isn't a value of ${item.kind}: ${allowed}.`)
    }
    if (item.sure !== undefined && (item.sure < 0 || item.sure > 1))
      refuse(context, 'range', ['sure'], 'How sure an observation is must be between 0 and 1.')
  })

export const IdentifyInput = z.object({
  evidence: z.array(EvidenceItem).superRefine((items, context) => {
    const seen = new Set<string>()
    items.forEach((item, index) => {
      if (seen.has(item.kind))
        refuse(context, 'duplicate', [index, 'kind'], `There is a second ${item.kind}: keep one.`)
      seen.add(item.kind)
    })
  }),
  prior: z
    .record(z.string(), z.number())
    .superRefine((prior, context) => {
      for (const [family, p] of Object.entries(prior)) {
        if (!(families as readonly string[]).includes(family))
          refuse(context, 'unknown-family', [family], `There is no family called "${family}".`)
        else if (p < 0) refuse(context, 'range', [family], 'A prior must be 0 or more.')
      }
      const sum = Object.values(prior).reduce((a, b) => a + b, 0)
      if (Math.abs(sum - 1) > 1e-6) refuse(context, 'prior', [], `The priors must add up to 1; they add up to ${sum}.`)
    })
    .optional(),
})
export type IdentifyInput = z.infer<typeof IdentifyInput>
export type Evidence = IdentifyInput['evidence'][number]

export type FamilyVerdict = 'conflict' | 'identified' | 'arm968_unsplit' | 'likely' | 'undecided'

export interface EvidenceConflict {
  kind: string
  value: string
  /** The family that explains this observation best. */
  better: Family
  ratio: number
}

export interface NextCheck {
  kind: string
  bits: number
  minutes: number
  bitsPerMinute: number
  risk: CheckRisk
}

export interface Identification {
  posterior: Record<Family, number>
  leader: Family
  runnerUp: Family
  entropyBits: number
  verdict: FamilyVerdict
  conflicts: EvidenceConflict[]
  next: NextCheck[]
}

/** L′: the table value with the floor, so that a likelihood is never 0. */
const floored = (likelihood: number, valueCount: number) => (1 - floorShare) * likelihood + floorShare / valueCount

/** L″ of one observation for every family, in table order. */
function likelihoods(item: Evidence): number[] {
  const sure = item.sure ?? 1
  if (item.kind === 'marking') {
    const counts = families.map((family) => item.counts?.[family] ?? 0)
    const total = counts.reduce((a, b) => a + b, 0)
    return counts.map((n) => (sure * (n + 0.2)) / (total + 1.6) + (1 - sure) / families.length)
  }
  const kind = kindNamed(item.kind) as CheckKind
  const valueCount = Object.keys(kind.values).length
  const row = kind.values[item.value as string] as number[]
  return row.map((likelihood) => sure * floored(likelihood, valueCount) + (1 - sure) / valueCount)
}

function normalised(weights: readonly number[]): number[] {
  const sum = weights.reduce((a, b) => a + b, 0)
  return weights.map((w) => w / sum)
}

/** Expected information of a check not yet made: H(p) − Σ_v P(v)·H(p|v). */
function expectedBits(kind: CheckKind, p: readonly number[]): number {
  const rows = Object.values(kind.values)
  let after = 0
  for (const row of rows) {
    const joint = row.map((likelihood, i) => floored(likelihood, rows.length) * (p[i] ?? 0))
    const chance = joint.reduce((a, b) => a + b, 0)
    if (chance > 0) after += chance * entropyBits(joint.map((x) => x / chance))
  }
  return entropyBits(p) - after
}

function verdictOf(
  p: readonly number[],
  leader: number,
  conflicts: number,
  evidence: readonly Evidence[],
): FamilyVerdict {
  if (conflicts > 0) return 'conflict'
  const family = families[leader] as Family
  const a = families.indexOf('ARM968-A')
  const b = families.indexOf('ARM968-B')
  const leadsBy = p[leader] ?? 0
  const markings = evidence.find((item) => item.kind === 'marking')?.counts?.[family] ?? 0
  // The two ARM968 variants differ in nothing a person can see: only a marking this workshop met five times splits them.
  if (leadsBy >= 0.95 && ((leader !== a && leader !== b) || markings >= 5)) return 'identified'
  if ((p[a] ?? 0) + (p[b] ?? 0) >= 0.95) return 'arm968_unsplit'
  return leadsBy >= 0.7 ? 'likely' : 'undecided'
}

/** Naive Bayes over the families: posterior, what disagrees, and which check to make next per minute of work. */
export function identify(input: unknown): Outcome<Identification> {
  const parsed = parseInput(IdentifyInput, input, strictCodes)
  if (!parsed.ok) return parsed
  const { evidence } = parsed.value
  const givenPrior = parsed.value.prior
  const prior = families.map((family) => (givenPrior ? (givenPrior[family] ?? 0) : defaultPrior[family]))

  const observed = evidence.map((item) => likelihoods(item))
  const p = normalised(prior.map((x, i) => observed.reduce((product, row) => product * (row[i] ?? 0), x)))
  const order = rankBy(
    families.map((_, i) => i),
    (i) => p[i] ?? 0,
  )
  const leader = nth(order, 0)

  const conflicts = evidence.flatMap((item, index): EvidenceConflict[] => {
    const row = observed[index] as number[]
    const best = row.reduce((top, x, i) => (tenDigits(x) > tenDigits(nth(row, top)) ? i : top), 0)
    const ratio = nth(row, best) / nth(row, leader)
    if (ratio < conflictRatio) return []
    return [
      {
        kind: item.kind,
        value: item.kind === 'marking' ? 'counts' : (item.value as string),
        better: families[best] as Family,
        ratio,
      },
    ]
  })

  const made = new Set(evidence.map((item) => item.kind))
  const next = rankBy(
    checkKinds
      .filter((kind) => !made.has(kind.kind))
      .map((kind) => {
        const bits = expectedBits(kind, p)
        return { kind: kind.kind, bits, minutes: kind.minutes, bitsPerMinute: bits / kind.minutes, risk: kind.risk }
      }),
    (check) => check.bitsPerMinute,
  )

  return {
    ok: true,
    value: {
      posterior: Object.fromEntries(order.map((i) => [families[i], p[i]])) as Record<Family, number>,
      leader: families[leader] as Family,
      runnerUp: families[nth(order, 1)] as Family,
      entropyBits: entropyBits(p),
      verdict: verdictOf(p, leader, conflicts.length, evidence),
      conflicts,
      next,
    },
  }
}
