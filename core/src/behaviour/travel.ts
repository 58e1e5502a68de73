import { z } from 'zod'
import { type Outcome, parseInput, refuse, shapeCodes } from '../edge/fault'
import { roundTo } from '../edge/round'

/** How long a motor takes each way, how far that scatters, and how often it should be run to an end (brief 03 §8). */

export interface Direction {
  /** Runs that were given. */
  n: number
  dropped: number[]
  meanMs: number
  /** Sample deviation; null for one run. */
  sdMs: number | null
  spreadMs: number
  marginMs: number
}
export interface TravelFit {
  open: Direction
  close: Direction
  ratio: number
  cvPct: number | null
  /** Moves after which it should be run to an end; null where nothing scatters. */
  rehomeMoves: number | null
  warnings: ('few-open' | 'spread-open' | 'few-close' | 'spread-close' | 'ratio')[]
}

const madToSd = 1.4826
const outlierSds = 3
const outliersFrom = 4
const marginShare = 0.02
const marginStepMs = 50
const fewBelow = 3
const wideAbove = 0.03
const ratios = { least: 0.8, most: 1.25 }
const hair = 1e-9

export function medianOf(xs: readonly number[]): number {
  const sorted = [...xs].sort((a, b) => a - b)
  const half = Math.floor(sorted.length / 2)
  const upper = sorted[half] ?? 0
  return sorted.length % 2 === 1 ? upper : ((sorted[half - 1] ?? 0) + upper) / 2
}

/** Runs far off the others: by the median of the distances from the median, once. */
function outliersOf(runs: readonly number[]): number[] {
  if (runs.length < outliersFrom) return []
  const median = medianOf(runs)
  const mad = medianOf(runs.map((x) => Math.abs(x - median)))
  return mad > 0 ? runs.filter((x) => Math.abs(x - median) > outlierSds * madToSd * mad) : []
}

interface Fitted {
  kept: number
  mean: number
  sd: number | null
  told: Direction
}

function fitDirection(runs: readonly number[]): Fitted {
  const dropped = outliersOf(runs)
  const kept = runs.filter((x) => !dropped.includes(x))
  const mean = kept.reduce((a, b) => a + b, 0) / kept.length
  const squares = kept.reduce((sum, x) => sum + (x - mean) ** 2, 0)
  const sd = kept.length < 2 ? null : Math.sqrt(squares / (kept.length - 1))
  const margin = Math.max(2 * (sd ?? 0), marginShare * mean)
  return {
    kept: kept.length,
    mean,
    sd,
    told: {
      n: runs.length,
      dropped,
      meanMs: roundTo(mean, 1),
      sdMs: sd === null ? null : roundTo(sd, 1),
      spreadMs: Math.max(...kept) - Math.min(...kept),
      marginMs: Math.ceil(margin / marginStepMs - hair) * marginStepMs,
    },
  }
}

const warningsOf = (way: 'open' | 'close', { kept, mean, sd }: Fitted): TravelFit['warnings'] => [
  ...(kept < fewBelow ? ([`few-${way}`] as const) : []),
  ...(sd !== null && sd / mean > wideAbove ? ([`spread-${way}`] as const) : []),
]

/** At least one run each way. */
export function fitTravel(
  runs: readonly { dir: 'open' | 'close'; ms: number }[],
  { tolPct, meanMove }: { tolPct: number; meanMove: number },
): TravelFit {
  const of = (dir: 'open' | 'close') => fitDirection(runs.filter((r) => r.dir === dir).map((r) => r.ms))
  const [open, close] = [of('open'), of('close')]
  const shares = [open, close].flatMap(({ sd, mean }) => (sd === null ? [] : [sd / mean]))
  const cv = shares.length > 0 ? Math.max(...shares) : null
  const ratio = open.mean / close.mean
  return {
    open: open.told,
    close: close.told,
    ratio: roundTo(ratio, 4),
    cvPct: cv === null ? null : roundTo(cv * 100, 2),
    rehomeMoves: cv ? Math.floor((tolPct / (2 * cv * 100 * meanMove)) ** 2 + hair) : null,
    warnings: [
      ...warningsOf('open', open),
      ...warningsOf('close', close),
      ...(ratio > ratios.most || ratio < ratios.least ? (['ratio'] as const) : []),
    ],
  }
}

const positive = (what: string) =>
  z.number().superRefine((n, context) => {
    if (n <= 0) refuse(context, 'range', [], `${what} must be above 0`)
  })
const Request = z.object({
  runs: z
    .array(z.object({ dir: z.enum(['open', 'close']), ms: positive('A run') }))
    .max(10_000)
    .superRefine((runs, context) => {
      if (!(['open', 'close'] as const).every((dir) => runs.some((r) => r?.dir === dir)))
        refuse(context, 'few', [], 'At least one run per direction is needed')
    }),
  tolPct: positive('The tolerance').nullish(),
  meanMove: positive('The usual move').nullish(),
})
const usual = { tolPct: 5, meanMove: 0.5 }

/** `travel fit`: travel times, scatter, margins. */
export function travelFit(input: unknown): Outcome<TravelFit> {
  const parsed = parseInput(Request, input, shapeCodes)
  if (!parsed.ok) return parsed
  const { runs, tolPct, meanMove } = parsed.value
  return {
    ok: true,
    value: fitTravel(runs, { tolPct: tolPct ?? usual.tolPct, meanMove: meanMove ?? usual.meanMove }),
  }
}

/** Which pair of wires is crossed, by what moves when; null where one of the two is not known. */
export function crossedBy(
  hubOpens: 'open' | 'close' | null,
  wallOpens: 'open' | 'close' | null,
): 'nothing' | 'outputs' | 'inputs' | 'both' | null {
  if (hubOpens === null || wallOpens === null) return null
  if (hubOpens === 'open') return wallOpens === 'open' ? 'nothing' : 'inputs'
  return wallOpens === 'close' ? 'outputs' : 'both'
}
