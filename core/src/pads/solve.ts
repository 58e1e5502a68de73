import { z } from 'zod'
import { type Outcome, type Parsed, parseInput, refuse, strictCodes } from '../edge/fault'
import { entropyBits, rankBy, tenDigits } from '../edge/order'
import { type PadRole, padRoles } from '../wiring/wiring'
import table from './measures.json'
import { codedReadings, type Measure, measureOf, measures, type PadReading, PadReadings } from './readings'

export const mostPads = 12
const floorShare = 0.005
const conflictRatio = 8
const settledAt = 0.9
/** Swapping supply and ground destroys the part: both must be this sure before power is allowed. */
const sureEnough = 0.97
const nextShown = 8

const unknownRole = padRoles.indexOf('UNKNOWN')
const gnd = padRoles.indexOf('GND')
const rail = padRoles.indexOf('3V3')
const stateCount = 1 << unknownRole
const usedChance = padRoles.slice(0, unknownRole).map((role) => table.used[role as keyof typeof table.used])
/** GND and 3V3 may stand on several pads, each more at this price; every other role stands on one at the most. */
const againFactor = padRoles.map((role) => (table.again as Record<string, number>)[role] ?? 0)

export const PadsInput = z.object({
  pads: z.array(PadReadings).superRefine((pads, context) => {
    if (pads.length === 0) refuse(context, 'range', [], 'There is no pad: give at least one.')
    if (pads.length > mostPads) refuse(context, 'range', [], `${pads.length} pads: at most ${mostPads} can be solved.`)
  }),
  railKnown: z.boolean().optional(),
})

export interface Assignment {
  roles: PadRole[]
  p: number
}
export interface PadConflict {
  pad: number
  measure: Measure
  /** The reading as it was coded. */
  value: string
  role: PadRole
  /** The role that this reading speaks for. */
  better: PadRole
  ratio: number
  /** The reading of the same pad that speaks most against it; null when the rest of the row does. */
  against: Measure | null
}
export interface NextReading {
  pad: number
  measure: Measure
  bits: number
  minutes: number
  bitsPerMinute: number
  powered: boolean
}
export interface PadSolution {
  best: Assignment
  runnerUp: Assignment
  marginals: Record<PadRole, number>[]
  conflicts: PadConflict[]
  next: NextReading[]
  labelsSwapped: boolean
  safeToWire: boolean
  poweredAllowed: boolean
  verdict: 'settled' | 'measure_more'
}

/** L′(value | role) for every role, with the floor: one slip of a probe rules nothing out. */
function likelihoodRow(measure: Measure, value: string): number[] {
  const values = measureOf(measure).values
  const count = Object.keys(values).length
  return (values[value] as number[]).map((l) => (1 - floorShare) * l + floorShare / count)
}

/** Evidence of one pad per role, scaled so that the best role has 1: 120 factors would run out of range otherwise. */
function padWeights(pad: PadReading): number[] {
  const weights = padRoles.map(() => 1)
  for (const [measure, value] of codedReadings(pad)) {
    const row = likelihoodRow(measure, value)
    for (let r = 0; r < weights.length; r++) weights[r] = (weights[r] as number) * (row[r] as number)
    const top = Math.max(...weights)
    for (let r = 0; r < weights.length; r++) weights[r] = (weights[r] as number) / top
  }
  return weights
}

/** Factor for giving `role` to one more pad when the roles in `state` are used; 0 where that is not allowed. */
const takeFactor = (state: number, role: number): number =>
  role === unknownRole || (state & (1 << role)) === 0 ? 1 : (againFactor[role] as number)

/** Π over roles of a if used, 1 − a if not. */
function roleFactor(state: number): number {
  return usedChance.reduce((product, a, role) => product * (state & (1 << role) ? a : 1 - a), 1)
}

/** Weights that agree to ten digits are a tie, and a tie goes to the one found first. */
const heavier = (a: number, b: number): boolean => a > b * (1 + 1e-10)

/** The two heaviest ways to finish from every state of one layer: weight, role of this pad, and which way follows it. */
interface Layer {
  sum: Float64Array
  weight: Float64Array
  role: Int8Array
  follows: Int8Array
}

/**
 * Exact sums and the two best assignments by a dynamic programme over pads; state = set of used roles. Roles are tried
 * in table order, so that of equal assignments the one with the lower role at the first pad that differs is found first.
 * Every layer is scaled by one number, the same for sum and weights, so that their quotient stays exact.
 */
function finishings(weights: readonly number[][]): Layer[] {
  const n = weights.length
  const empty = (): Layer => ({
    sum: new Float64Array(stateCount),
    weight: new Float64Array(stateCount * 2),
    role: new Int8Array(stateCount * 2).fill(-1),
    follows: new Int8Array(stateCount * 2),
  })
  const layers = Array.from({ length: n + 1 }, empty)
  const end = layers[n] as Layer
  for (let s = 0; s < stateCount; s++) {
    end.sum[s] = roleFactor(s)
    end.weight[2 * s] = roleFactor(s)
  }
  for (let i = n - 1; i >= 0; i--) {
    const here = layers[i] as Layer
    const after = layers[i + 1] as Layer
    const row = weights[i] as number[]
    for (let s = 0; s < stateCount; s++) {
      for (let role = 0; role < padRoles.length; role++) {
        const factor = takeFactor(s, role)
        if (factor === 0) continue
        const to = role === unknownRole ? s : s | (1 << role)
        const w = (row[role] as number) * factor
        here.sum[s] = (here.sum[s] as number) + w * (after.sum[to] as number)
        for (let rank = 0; rank < 2; rank++) {
          const candidate = w * (after.weight[2 * to + rank] as number)
          if (candidate === 0) continue
          if (heavier(candidate, here.weight[2 * s] as number)) {
            here.weight[2 * s + 1] = here.weight[2 * s] as number
            here.role[2 * s + 1] = here.role[2 * s] as number
            here.follows[2 * s + 1] = here.follows[2 * s] as number
            here.weight[2 * s] = candidate
            here.role[2 * s] = role
            here.follows[2 * s] = rank
          } else if (heavier(candidate, here.weight[2 * s + 1] as number)) {
            here.weight[2 * s + 1] = candidate
            here.role[2 * s + 1] = role
            here.follows[2 * s + 1] = rank
          }
        }
      }
    }
    const scale = Math.max(...here.sum)
    for (let s = 0; s < stateCount; s++) here.sum[s] = (here.sum[s] as number) / scale
    for (let s = 0; s < 2 * stateCount; s++) here.weight[s] = (here.weight[s] as number) / scale
  }
  return layers
}

/** Role of every pad in the heaviest (0) or second heaviest (1) assignment. */
function rolesOf(layers: readonly Layer[], rank: number): number[] {
  const roles: number[] = []
  let state = 0
  let at = rank
  for (const layer of layers.slice(0, -1)) {
    const role = layer.role[2 * state + at] as number
    at = layer.follows[2 * state + at] as number
    if (role !== unknownRole) state |= 1 << role
    roles.push(role)
  }
  return roles
}

/** Probability of every role at every pad: forward sums times the sums to finish. */
function marginalsOf(weights: readonly number[][], layers: readonly Layer[]): number[][] {
  let forward = new Float64Array(stateCount)
  forward[0] = 1
  return weights.map((row, i) => {
    const next = new Float64Array(stateCount)
    const marginal = padRoles.map(() => 0)
    for (let s = 0; s < stateCount; s++) {
      const here = forward[s] as number
      if (here === 0) continue
      for (let role = 0; role < padRoles.length; role++) {
        const w = here * (row[role] as number) * takeFactor(s, role)
        const to = role === unknownRole ? s : s | (1 << role)
        next[to] = (next[to] as number) + w
        marginal[role] = (marginal[role] as number) + w * ((layers[i + 1] as Layer).sum[to] as number)
      }
    }
    const scale = Math.max(...next)
    forward = next.map((x) => x / scale)
    const sum = marginal.reduce((a, b) => a + b, 0)
    return marginal.map((x) => x / sum)
  })
}

function expectedBits(measure: Measure, marginal: readonly number[]): number {
  let after = 0
  for (const value of Object.keys(measureOf(measure).values)) {
    const joint = likelihoodRow(measure, value).map((l, r) => l * (marginal[r] as number))
    const chance = joint.reduce((a, b) => a + b, 0)
    if (chance > 0) after += chance * entropyBits(joint.map((x) => x / chance))
  }
  return entropyBits(marginal) - after
}

function conflictsOf(pads: readonly PadReading[], roles: readonly number[]): PadConflict[] {
  return pads.flatMap((pad, index) => {
    const role = roles[index] as number
    const coded = codedReadings(pad).map(([measure, value]) => ({ measure, value, row: likelihoodRow(measure, value) }))
    return coded.flatMap(({ measure, value, row }): PadConflict[] => {
      const top = row.reduce((at, x, r) => (tenDigits(x) > tenDigits(row[at] as number) ? r : at), 0)
      const ratio = (row[top] as number) / (row[role] as number)
      if (ratio < conflictRatio) return []
      // The reading of this pad that holds most against the other role, if any does.
      const against = coded
        .filter((c) => c.measure !== measure)
        .map((c) => ({ measure: c.measure, for: (c.row[role] as number) / (c.row[top] as number) }))
        .sort((a, b) => b.for - a.for)[0]
      return [
        {
          pad: index,
          measure,
          value,
          role: padRoles[role] as PadRole,
          better: padRoles[top] as PadRole,
          ratio,
          against: against && against.for > 2 ? against.measure : null,
        },
      ]
    })
  })
}

/** Is `role` proven at one of the pads that the best assignment gives it to: sure, and by a meter, not by print? */
function proven(
  role: number,
  roles: readonly number[],
  marginals: readonly number[][],
  pads: readonly PadReading[],
  by: readonly (keyof PadReading)[],
): boolean {
  return roles.some(
    (r, i) =>
      r === role &&
      (marginals[i]?.[role] ?? 0) >= sureEnough &&
      by.some((reading) => (pads[i] as PadReading)[reading] !== undefined),
  )
}

/** Reads the input without solving it: which readings are possible at all. */
export const readPads = (input: unknown): Parsed<z.output<typeof PadsInput>> =>
  parseInput(PadsInput, input, strictCodes)

/**
 * Which pad is what: the two most probable assignments of roles, every pad's probabilities, readings that disagree, and
 * which reading to take next.
 * @param input `{ pads: [{ name?, cont_gnd?, ohms_3v3?, … }], railKnown? }`; refusals `range`, `unknown-measure`, `missing`, `type`
 */
export function solvePads(input: unknown): Outcome<PadSolution> {
  const parsed = readPads(input)
  if (!parsed.ok) return parsed
  const pads = parsed.value.pads as PadReading[]
  const weights = pads.map(padWeights)
  const layers = finishings(weights)
  const marginals = marginalsOf(weights, layers)
  const start = layers[0] as Layer
  const assignment = (rank: number): Assignment => ({
    roles: rolesOf(layers, rank).map((r) => padRoles[r] as PadRole),
    p: (start.weight[rank] as number) / (start.sum[0] as number),
  })
  const best = assignment(0)
  const bestRoles = rolesOf(layers, 0)

  const safeToWire =
    proven(gnd, bestRoles, marginals, pads, ['cont_gnd', 'volts']) &&
    proven(rail, bestRoles, marginals, pads, ['ohms_3v3', 'volts'])
  const poweredAllowed = safeToWire || parsed.value.railKnown === true
  const labelled = (role: PadRole) => {
    const at = best.roles.indexOf(role)
    return at < 0 ? null : codedReadings(pads[at] as PadReading).find(([m]) => m === 'label')?.[1]
  }

  const next = rankBy(
    pads.flatMap((pad, index) => {
      const made = new Set(codedReadings(pad).map(([m]) => m))
      return measures
        .filter((m) => !made.has(m.measure) && (poweredAllowed || !m.powered))
        .map((m): NextReading => {
          const bits = expectedBits(m.measure, marginals[index] as number[])
          const { measure, minutes, powered } = m
          return { pad: index, measure, bits, minutes, bitsPerMinute: bits / minutes, powered }
        })
    }),
    (reading) => reading.bitsPerMinute,
  ).slice(0, nextShown)

  return {
    ok: true,
    value: {
      best,
      runnerUp: assignment(1),
      marginals: marginals.map((m) => Object.fromEntries(padRoles.map((role, r) => [role, m[r]])) as never),
      conflicts: conflictsOf(pads, bestRoles),
      next,
      labelsSwapped: labelled('TX') === 'R' && labelled('RX') === 'T',
      safeToWire,
      poweredAllowed,
      verdict: best.p >= settledAt ? 'settled' : 'measure_more',
    },
  }
}
