import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { type Finding, finding } from '../edge/finding'
import { nth } from '../edge/nth'
import { t975 } from './student'

const amount = z.number().min(0)
const isDay = (text: string) => {
  const m = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text)
  return (
    m !== null &&
    Number(m[2]) >= 1 &&
    Number(m[2]) <= 12 &&
    Number(m[3]) >= 1 &&
    Number(m[3]) <= daysInMonth(Number(m[1]), Number(m[2]))
  )
}

function daysInMonth(year: number, month: number): number {
  if (month === 2) return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28
  return [4, 6, 9, 11].includes(month) ? 30 : 31
}

export const FitPoint = z.object({
  id: z.string(),
  indicated: amount,
  reference: amount,
  role: z.enum(['fit', 'verify']).default('fit'),
  group: z.string().nullish(),
  refs: z.object({ V: amount.nullish(), I: amount.nullish(), P: amount.nullish() }).nullish(),
  inds: z.object({ V: amount.nullish(), I: amount.nullish() }).nullish(),
})

export const FitInput = z
  .object({
    quantity: z.enum(['P', 'I', 'V']),
    reference: z.object({ gainPct: amount, digits: amount, resolution: amount }),
    indicatedResolution: amount,
    points: z.array(FitPoint).max(1000),
    rated: z.object({ P: amount.nullish(), I: amount.nullish(), V: amount.nullish() }).nullish(),
    load: z.object({ kind: z.string(), warm: z.boolean().nullish() }).nullish(),
    limits: z.object({ pct: amount.nullish(), abs: amount.nullish() }).nullish(),
    driftPct: amount.default(0.5),
    model: z.enum(['auto', 'gain', 'gainOffset']).default('auto'),
    zeroReadings: z.array(z.number()).nullish(),
    bandAt: z.array(z.number()).nullish(),
    date: z
      .string()
      .superRefine((day, context) => {
        if (!isDay(day)) refuse(context, 'input', [], 'The date must be a day as YYYY-MM-DD.')
      })
      .nullish(),
    recheckMonths: z.number().int().min(1).max(1200).default(12),
  })
  .superRefine((input, context) => {
    const fit = input.points.filter((p) => p.role === 'fit')
    const { gainPct, digits, resolution } = input.reference
    if (input.indicatedResolution === 0 && gainPct === 0 && digits * resolution === 0)
      refuse(
        context,
        'range',
        ['reference'],
        'A reference without any error and a display without steps leave nothing to weigh by.',
      )
    if (fit.length === 0) refuse(context, 'empty', ['points'], 'There is no point to fit.')
    input.points.forEach((p, i) => {
      if (p.role === 'fit' && p.reference === 0)
        refuse(context, 'range', ['points', i, 'reference'], 'The reference of a fit point must be above 0.')
    })
    if (fit.length > 0 && fit.every((p) => p.indicated === 0))
      refuse(context, 'range', ['points'], 'The unit showed 0 at every point: there is nothing to scale.')
    if (input.model === 'gainOffset' && fit.length > 0 && groupCount(fit.map((p) => p.reference)) < 2)
      refuse(context, 'range', ['model'], 'Gain and offset need points at two loads or more.')
  })
export type FitInput = z.output<typeof FitInput>
type Point = FitInput['points'][number]

export type FitModel = 'gain' | 'gainOffset'

export interface FittedPoint {
  id: string
  errBeforePct: number | null
  corrected: number
  errAfterPct: number | null
  residual: number
  /** Expanded uncertainty, k = 2, in the quantity's unit. */
  U: number
}

export interface VerifiedPoint {
  id: string
  errBeforePct: number | null
  errAfterPct: number | null
  corrected: number
  U: number
  limit: number | null
  verdict: 'pass' | 'fail' | null
  guarded: 'pass' | 'fail' | 'unclear' | null
}

export interface MeterFit {
  model: FitModel
  why: 'forced' | 'aicc-and-loocv' | 'too-few-points' | 'simpler-is-as-good'
  gain: number
  offset: number
  seGain: number
  seOffset: number | null
  chi2: number
  s2: number
  dof: number
  t975: number | null
  aicc: { gain: number | null; gainOffset: number | null }
  loocv: { gain: number | null; gainOffset: number | null }
  points: FittedPoint[]
  verify: VerifiedPoint[]
  band: { x: number; y: number; lo: number | null; hi: number | null; U: number }[]
  warnings: string[]
  minDetectable: number | null
  passed: boolean | null
  due: string | null
  findings: Finding[]
}

/** References within 2 % of their neighbour count as one load. */
function groupCount(references: readonly number[]): number {
  const sorted = [...references].sort((a, b) => a - b)
  return sorted.reduce((n, x, i) => (i === 0 || x > nth(sorted, i - 1) * 1.02 ? n + 1 : n), 0)
}

interface Solved {
  gain: number
  offset: number
  /** Inverse of the normal matrix: gain, gain-offset, offset. */
  inverse: { gg: number; go: number; oo: number }
}

/** Weighted least squares of reference on indicated; null when the points do not determine the model. */
function solve(model: FitModel, points: readonly Point[], weights: readonly number[]): Solved | null {
  let sw = 0
  let sx = 0
  let sy = 0
  let sxx = 0
  let sxy = 0
  points.forEach((p, i) => {
    const w = nth(weights, i)
    sw += w
    sx += w * p.indicated
    sy += w * p.reference
    sxx += w * p.indicated * p.indicated
    sxy += w * p.indicated * p.reference
  })
  if (model === 'gain') return sxx > 0 ? { gain: sxy / sxx, offset: 0, inverse: { gg: 1 / sxx, go: 0, oo: 0 } } : null
  // Centred, so that points near one another do not lose all their digits.
  const mx = sx / sw
  const my = sy / sw
  let cxx = 0
  let cxy = 0
  points.forEach((p, i) => {
    const w = nth(weights, i)
    cxx += w * (p.indicated - mx) ** 2
    cxy += w * (p.indicated - mx) * (p.reference - my)
  })
  if (points.length < 2 || !(cxx > 1e-12 * sxx)) return null
  const gain = cxy / cxx
  return { gain, offset: my - gain * mx, inverse: { gg: 1 / cxx, go: -mx / cxx, oo: 1 / sw + (mx * mx) / cxx } }
}

interface Candidate {
  solved: Solved
  chi2: number
  aicc: number | null
  loocv: number | null
}

function candidate(model: FitModel, points: readonly Point[], weights: readonly number[]): Candidate | null {
  const solved = solve(model, points, weights)
  if (!solved) return null
  const n = points.length
  const residual = (s: Solved, p: Point) => p.reference - (s.gain * p.indicated + s.offset)
  const chi2 = points.reduce((sum, p, i) => sum + nth(weights, i) * residual(solved, p) ** 2, 0)
  const k = (model === 'gain' ? 1 : 2) + 1
  const aicc = n <= k + 1 ? null : n * Math.log(Math.max(chi2, 1e-12) / n) + 2 * k + (2 * k * (k + 1)) / (n - k - 1)
  let left = 0
  let sum = 0
  for (let i = 0; i < n; i++) {
    const others = points.filter((_, j) => j !== i)
    const without =
      others.length > 0
        ? solve(
            model,
            others,
            weights.filter((_, j) => j !== i),
          )
        : null
    if (!without) return { solved, chi2, aicc, loocv: null }
    const w = nth(weights, i)
    left += w * residual(without, points[i] as Point) ** 2
    sum += w
  }
  return { solved, chi2, aicc, loocv: Math.sqrt(left / sum) }
}

/** `date` plus whole months, the day clipped to the month: 31 January + 1 month is 28 or 29 February. */
export function addMonths(day: string, months: number): string {
  const [y, m, d] = day.split('-').map(Number) as [number, number, number]
  const total = y * 12 + (m - 1) + months
  const year = Math.floor(total / 12)
  const month = (total % 12) + 1
  const two = (n: number) => String(n).padStart(2, '0')
  return `${String(year).padStart(4, '0')}-${two(month)}-${two(Math.min(d, daysInMonth(year, month)))}`
}

function minDetectableOf(zeros: readonly number[], resolution: number): number | null {
  if (zeros.length < 3) return null
  const mean = zeros.reduce((a, b) => a + b, 0) / zeros.length
  const sd = Math.sqrt(zeros.reduce((a, z) => a + (z - mean) ** 2, 0) / (zeros.length - 1))
  return Math.max(resolution, Math.abs(mean) + 3 * sd)
}

const percent = (value: number, reference: number): number | null =>
  reference === 0 ? null : (100 * (value - reference)) / reference

const warningWords: Record<string, [message: string, next: string]> = {
  misfit: [
    'A point lies further off than class and display steps explain.',
    'Look at that point before saving: a slip of the pen, another load, a meter that is not straight.',
  ],
  'one-point': ['All points are at one load: an offset would hide in the gain.', 'Add a load further away.'],
  'top-only': ['All points are near the top of the range.', 'Add a small load.'],
  'not-resistive': ['The load is not resistive.', 'Use a heater, kettle or incandescent lamp.'],
  cold: ['The load was not warmed up.', 'Wait 5 minutes or more; its watts drift as it warms.'],
  pf: ['Power is not volts times amps: not really resistive, or a phase error.', 'Check the load.'],
  'voltage-mismatch': [
    'Unit and reference disagree about the voltage by more than 2 %.',
    'Calibrate the voltage first.',
  ],
  'voltage-spread': [
    'The mains voltage moved by more than 2 % between the points.',
    'Take the points closer together in time.',
  ],
  'over-rating': ['A point is above the rating of the unit.', 'Never load a unit above its rating.'],
  drift: ['The first load, repeated last, reads differently.', 'Warm up longer and repeat.'],
  'ref-coarse': [
    'The reference shows too coarse a step for the smallest point.',
    'Use a larger load or a finer meter.',
  ],
  'weak-reference': [
    'The reference is not 4 times better than the limit.',
    'It shows agreement with the reference, not more.',
  ],
  'no-verify': ['No point was kept out of the fit.', 'Take one more reading in between, only to verify.'],
  'verify-near': ['A verify point lies within 5 % of a fit point.', 'Verify in between.'],
  'few-zeros': ['Fewer than three readings with the relay off.', 'Read zero five times.'],
}

function warningsOf(
  input: FitInput,
  fit: readonly Point[],
  verify: readonly Point[],
  misfit: boolean,
  classLimit: (ref: number) => number,
): string[] {
  const on = new Set<string>()
  const all = input.points
  const set = (code: string, when: boolean) => {
    if (when) on.add(code)
  }
  const { quantity, limits } = input
  const rated = input.rated?.[quantity] ?? null
  set('misfit', misfit)
  if (quantity !== 'V') {
    const groups = groupCount(fit.map((p) => p.reference))
    set('one-point', groups === 1)
    set('top-only', groups > 1 && rated !== null && Math.min(...fit.map((p) => p.reference)) >= 0.8 * rated)
    set('not-resistive', input.load?.kind !== 'resistive')
    set('cold', input.load?.warm !== true)
  }
  for (const p of all) {
    const { V, I, P } = p.refs ?? {}
    if (input.load?.kind === 'resistive' && V && I && P != null) set('pf', Math.abs(P / (V * I) - 1) > 0.03)
    if (p.inds?.V != null && V) set('voltage-mismatch', Math.abs(p.inds.V - V) / V > 0.02)
    set('over-rating', rated !== null && p.reference > rated)
    set('ref-coarse', p.reference > 0 && input.reference.resolution / p.reference > 0.01)
    if (limits)
      set(
        'weak-reference',
        Math.max(((limits.pct ?? 0) / 100) * p.reference, limits.abs ?? 0) / classLimit(p.reference) < 4,
      )
  }
  const volts = all.flatMap((p) => (p.refs?.V ? [p.refs.V] : []))
  set('voltage-spread', volts.length > 1 && Math.max(...volts) / Math.min(...volts) > 1.02)
  for (const group of new Set(fit.flatMap((p) => (p.group ? [p.group] : [])))) {
    const members = fit.filter((p) => p.group === group)
    const first = members[0] as Point
    const last = members.at(-1) as Point
    set(
      'drift',
      first !== last &&
        Math.abs(last.indicated / last.reference / (first.indicated / first.reference) - 1) * 100 > input.driftPct,
    )
  }
  set('no-verify', verify.length === 0)
  set(
    'verify-near',
    verify.some((v) => fit.some((f) => Math.abs(v.reference - f.reference) <= 0.05 * f.reference)),
  )
  set('few-zeros', input.quantity !== 'V' && (input.zeroReadings ?? []).length < 3)
  return [...on].sort()
}

/**
 * Fits reference = gain · indicated (+ offset) by weighted least squares, with u² = (a/√3)² + (step/√12)² per point and
 * a = gainPct/100·reference + digits·resolution. The class of the reference is added again in full to every result: it
 * is mostly one common error, which scatter never shows.
 */
export function fitMeter(input: unknown): Outcome<MeterFit> {
  const parsed = parseInput(FitInput, input, inputCodes)
  if (!parsed.ok) return parsed
  const given = parsed.value
  const classLimit = (reference: number) =>
    (given.reference.gainPct / 100) * reference + given.reference.digits * given.reference.resolution
  const variance = (reference: number) => classLimit(reference) ** 2 / 3 + given.indicatedResolution ** 2 / 12
  const fit = given.points.filter((p) => p.role === 'fit')
  const verify = given.points.filter((p) => p.role === 'verify')
  const weights = fit.map((p) => 1 / variance(p.reference))

  const candidates = { gain: candidate('gain', fit, weights), gainOffset: candidate('gainOffset', fit, weights) }
  const [simple, withOffset] = [candidates.gain?.aicc ?? null, candidates.gainOffset?.aicc ?? null]
  // Volts cannot be varied at an outlet, so an offset cannot be told from the gain there.
  const better =
    given.quantity !== 'V' &&
    simple !== null &&
    withOffset !== null &&
    simple - withOffset > 2 &&
    (candidates.gainOffset?.loocv ?? Number.POSITIVE_INFINITY) < (candidates.gain?.loocv ?? Number.POSITIVE_INFINITY)
  const model: FitModel = given.model === 'auto' ? (better ? 'gainOffset' : 'gain') : given.model
  const why =
    given.model !== 'auto'
      ? 'forced'
      : better
        ? 'aicc-and-loocv'
        : candidates.gainOffset?.aicc == null
          ? 'too-few-points'
          : 'simpler-is-as-good'
  const chosen = candidates[model]
  if (!chosen)
    return {
      ok: false,
      faults: [
        { code: 'range', path: '/points', message: 'These points do not determine the fit: take loads further apart.' },
      ],
    }

  const { gain, offset, inverse } = chosen.solved
  const dof = fit.length - (model === 'gain' ? 1 : 2)
  const s2 = dof > 0 ? chosen.chi2 / dof : 1
  const t = dof > 0 ? t975(dof) : null
  const corrected = (x: number) => gain * x + offset
  const fitVariance = (x: number) => s2 * (inverse.gg * x * x + 2 * inverse.go * x + inverse.oo)
  const expanded = (x: number) => 2 * Math.sqrt(fitVariance(x) + variance(corrected(x)))

  const limits = given.limits
  const verified = verify.map((p): VerifiedPoint => {
    const y = corrected(p.indicated)
    const U = expanded(p.indicated)
    const error = Math.abs(y - p.reference)
    const limit = limits ? Math.max(((limits.pct ?? 0) / 100) * p.reference, limits.abs ?? 0) : null
    return {
      id: p.id,
      errBeforePct: percent(p.indicated, p.reference),
      errAfterPct: percent(y, p.reference),
      corrected: y,
      U,
      limit,
      verdict: limit === null ? null : error <= limit ? 'pass' : 'fail',
      guarded: limit === null ? null : error + U <= limit ? 'pass' : error - U > limit ? 'fail' : 'unclear',
    }
  })
  const points = fit.map((p): FittedPoint => {
    const y = corrected(p.indicated)
    return {
      id: p.id,
      errBeforePct: percent(p.indicated, p.reference),
      corrected: y,
      errAfterPct: percent(y, p.reference),
      residual: p.reference - y,
      U: expanded(p.indicated),
    }
  })
  const misfit = fit.some(
    (p, i) => Math.abs((points[i] as FittedPoint).residual) > 3 * Math.sqrt(variance(p.reference)),
  )
  const warnings = warningsOf(given, fit, verify, misfit, classLimit)

  return {
    ok: true,
    value: {
      model,
      why,
      gain,
      offset,
      seGain: Math.sqrt(s2 * inverse.gg),
      seOffset: model === 'gain' ? null : Math.sqrt(s2 * inverse.oo),
      chi2: chosen.chi2,
      s2,
      dof,
      t975: t,
      aicc: { gain: candidates.gain?.aicc ?? null, gainOffset: candidates.gainOffset?.aicc ?? null },
      loocv: { gain: candidates.gain?.loocv ?? null, gainOffset: candidates.gainOffset?.loocv ?? null },
      points,
      verify: verified,
      band: (given.bandAt ?? []).map((x) => {
        const y = corrected(x)
        const half = t === null ? null : t * Math.sqrt(s2 * variance(y) + fitVariance(x))
        return { x, y, lo: half === null ? null : y - half, hi: half === null ? null : y + half, U: expanded(x) }
      }),
      warnings,
      minDetectable: minDetectableOf(given.zeroReadings ?? [], given.indicatedResolution),
      passed: limits && verified.length > 0 ? verified.every((v) => v.verdict === 'pass') : null,
      due: given.date ? addMonths(given.date, given.recheckMonths) : null,
      findings: warnings.map((code) =>
        finding(
          code,
          'watch',
          (warningWords[code] as [string, string])[0],
          '',
          (warningWords[code] as [string, string])[1],
        ),
      ),
    },
  }
}
