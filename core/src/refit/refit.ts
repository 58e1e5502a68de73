import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { finding, type PlacedFinding } from '../edge/finding'
import { nth } from '../edge/nth'

/**
 * What the meter must say before anything is powered: after pads were soldered, a module put back, or a case forced.
 * Unplugged and discharged, the red lead on 3V3, each value once it stands still (brief 07 §2).
 */
export const refitRoles = ['GND', '3V3', 'TX', 'RX', 'BOOT', 'RST', 'EN', '5V', 'NC', 'UNKNOWN'] as const
export type RefitRole = (typeof refitRoles)[number]
export const refitEdges = ['left', 'right', 'top', 'bottom'] as const
export type RefitEdge = (typeof refitEdges)[number]

export interface RefitContact {
  n: number
  role: RefitRole
  edge: RefitEdge
}

export type RefitCheck =
  /** 3V3 to GND, in ohms; no upper bound while fewer than three good units of this board were measured. */
  | { id: 'rail'; expected: 'range'; low: number; high: number | null }
  /** Two neighbours on an edge: nothing may join them. */
  | { id: string; a: number; b: number; expected: 'open'; minOhm: number }
  /** A contact to the pad that carries it. */
  | { id: string; a: number; expected: 'joined'; maxOhm: number }

export type RefitVerdict = 'ok' | 'bad' | 'missing'
export interface RefitResult {
  id: string
  verdict: RefitVerdict
  code: string | null
  because: string
}

export interface RefitJudgement {
  checks: RefitCheck[]
  results: RefitResult[]
  verdict: 'stop' | 'wait' | 'go'
  findings: PlacedFinding<string>[]
}

const mostContacts = 40
/** A rail below this is a short, whatever the board's record says. */
const railShortOhm = 10
/** What a rail must have at least while nobody knows better. */
const railLeastOhm = 50
const openLeastOhm = 1000
const joinedMostOhm = 5
const unitsForRange = 3
const joined: ReadonlySet<RefitRole> = new Set(['GND', '3V3', 'EN', 'TX', 'RX', 'BOOT'])

const Contact = z.object({
  n: z.number().superRefine((n, context) => {
    if (!Number.isInteger(n) || n < 1) refuse(context, 'range', [], 'A contact has a whole number from 1.')
  }),
  role: z.enum(refitRoles),
  edge: z.enum(refitEdges),
})
const Checks = z.object({
  contacts: z
    .array(Contact)
    .min(1)
    .max(mostContacts)
    .superRefine((contacts, context) => {
      for (const [i, { n }] of contacts.entries())
        if (contacts.findIndex((c) => c.n === n) < i)
          refuse(context, 'conflict', [i, 'n'], `Contact ${n} is there twice.`)
    }),
  railOhms: z.array(z.number().positive()).nullish(),
})
const Judge = Checks.extend({ readings: z.record(z.string(), z.number().nonnegative().nullable()) })

/** The mean of the middle two where their number is even. `values` holds one at least. */
function medianOf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  const half = Math.floor(sorted.length / 2)
  const upper = nth(sorted, half)
  return sorted.length % 2 ? upper : (nth(sorted, half - 1) + upper) / 2
}

/** From half to twice the middle of what good units of this board showed; 50 Ω and no upper bound below three of them. */
export function railRange(railOhms: readonly number[]): { low: number; high: number | null } {
  if (railOhms.length < unitsForRange) return { low: railLeastOhm, high: null }
  const middle = medianOf(railOhms)
  return { low: middle * 0.5, high: middle * 2 }
}

function betweenNeighbours(contacts: readonly RefitContact[], low: number): RefitCheck[] {
  const edges = [...new Set(contacts.map((c) => c.edge))]
  return edges.flatMap((edge) => {
    const row = contacts.filter((c) => c.edge === edge).sort((a, b) => a.n - b.n)
    return row.slice(1).flatMap((b, i): RefitCheck[] => {
      const a = row[i] as RefitContact
      if (a.role === b.role || a.role === 'NC' || b.role === 'NC') return []
      const supply = [a.role, b.role].includes('3V3') && [a.role, b.role].includes('GND')
      const minOhm = supply ? Math.min(railLeastOhm, low) : openLeastOhm
      return [{ id: `${a.n}-${b.n}`, a: a.n, b: b.n, expected: 'open', minOhm }]
    })
  })
}

/**
 * The checks of a row of contacts, in the order a hand takes them.
 * @param railOhms 3V3 to GND of good units of this board, in ohms
 */
export function refitChecksOf(contacts: readonly RefitContact[], railOhms: readonly number[] = []): RefitCheck[] {
  const range = railRange(railOhms)
  return [
    { id: 'rail', expected: 'range', ...range },
    ...betweenNeighbours(contacts, range.low),
    ...contacts
      .filter((c) => joined.has(c.role))
      .map((c): RefitCheck => ({ id: `C-${c.n}`, a: c.n, expected: 'joined', maxOhm: joinedMostOhm })),
  ]
}

export const ohmsWords = (value: number | null): string =>
  value === null ? 'over range' : `${Number(value.toPrecision(4))} Ω`

/** What is wrong with a reading, by its check; null where it is as it should be. `null` Ω is over range. */
function faultOf(check: RefitCheck, reading: number | null): string | null {
  if (check.expected === 'open') return reading !== null && reading < check.minOhm ? 'bridge' : null
  if (check.expected === 'joined') return reading === null || reading > check.maxOhm ? 'not-joined' : null
  if (reading === null) return check.high === null ? null : 'rail-open'
  if (reading < railShortOhm) return 'rail-short'
  if (reading < check.low) return 'rail-low'
  return check.high !== null && reading > check.high ? 'rail-high' : null
}

/** What a check wants, in words. */
export function wantedOf(check: RefitCheck): string {
  if (check.expected === 'open') return `at least ${ohmsWords(check.minOhm)}`
  if (check.expected === 'joined') return `at most ${ohmsWords(check.maxOhm)}`
  return check.high === null
    ? `at least ${ohmsWords(check.low)}`
    : `${ohmsWords(check.low)} to ${ohmsWords(check.high)}`
}

const said: Record<string, [message: string, next: string]> = {
  'rail-open': ['3V3 and GND show nothing between them', 'A joint is missing: look at the supply’s contacts.'],
  'rail-short': ['3V3 is shorted to GND', 'Look for a bridge before anything else; do not power it.'],
  'rail-low': ['3V3 to GND is lower than it should be', 'Look for a bridge, and wait until the value stands still.'],
  'rail-high': [
    '3V3 to GND is higher than on other units of this board',
    'A joint is missing, or it is another revision: look at both.',
  ],
  bridge: ['These two are joined and should not be', 'Take the solder off between them and measure again.'],
  'not-joined': ['This contact does not reach its pad', 'Flux and heat it again, then measure.'],
}

const placeOf = (check: RefitCheck): string =>
  check.id === 'rail'
    ? '3V3 to GND'
    : check.expected === 'open'
      ? `${check.a} and ${check.b}`
      : `contact ${'a' in check ? check.a : ''}`

/**
 * Readings against their checks. Any bad one stops; one that is missing waits; a stop closes the way to power.
 * @param readings ohms by the id of the check, null for over range; ids without a check are passed over
 */
export function judgeRefitOf(
  contacts: readonly RefitContact[],
  railOhms: readonly number[],
  readings: Readonly<Record<string, number | null>>,
): RefitJudgement {
  const checks = refitChecksOf(contacts, railOhms)
  const results = checks.map((check): RefitResult => {
    if (!Object.hasOwn(readings, check.id))
      return { id: check.id, verdict: 'missing', code: null, because: `Not measured yet; ${wantedOf(check)} is due.` }
    const reading = readings[check.id] ?? null
    const code = faultOf(check, reading)
    return {
      id: check.id,
      verdict: code ? 'bad' : 'ok',
      code,
      because: `${ohmsWords(reading)}; ${wantedOf(check)} is due.`,
    }
  })
  const findings = results.flatMap((result, i): PlacedFinding<string>[] => {
    const place = placeOf(checks[i] as RefitCheck)
    if (result.verdict === 'ok') return []
    if (result.code === null)
      return [
        { ...finding('missing', 'watch', `Not measured yet: ${place}.`, result.because, 'Measure it.'), at: result.id },
      ]
    const [message, next] = said[result.code] as [string, string]
    return [{ ...finding(result.code, 'error', `${message} (${place}).`, result.because, next), at: result.id }]
  })
  const some = (verdict: RefitVerdict) => results.some((r) => r.verdict === verdict)
  return { checks, results, verdict: some('bad') ? 'stop' : some('missing') ? 'wait' : 'go', findings }
}

/** `refit checks`. Faults: `input`, `range`, `empty`, `conflict` (a number twice). */
export function refitChecks(input: unknown): Outcome<{ checks: RefitCheck[] }> {
  const parsed = parseInput(Checks, input, inputCodes)
  if (!parsed.ok) return parsed
  return { ok: true, value: { checks: refitChecksOf(parsed.value.contacts, parsed.value.railOhms ?? []) } }
}

/** `refit judge`: as `refit checks`, with readings. */
export function judgeRefit(input: unknown): Outcome<Omit<RefitJudgement, 'checks'>> {
  const parsed = parseInput(Judge, input, inputCodes)
  if (!parsed.ok) return parsed
  const { contacts, railOhms, readings } = parsed.value
  const { results, verdict, findings } = judgeRefitOf(contacts, railOhms ?? [], readings)
  return { ok: true, value: { results, verdict, findings } }
}
