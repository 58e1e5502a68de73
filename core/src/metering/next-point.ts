import { type LoadOnHand, nextLoad } from './next-load'

/** The order of a calibration (brief 04 §2.1): spread, one kept out to verify, the first again for drift, five zeros. */

export interface TakenPoint {
  id: string
  indicated: number | null
  reference: number | null
  role: 'fit' | 'verify'
}
export type NextPoint<L> =
  | { kind: 'spread'; load: L | null }
  /** One in between, never fitted. */
  | { kind: 'verify'; load: L | null }
  /** The first load once more: has anything drifted? */
  | { kind: 'repeat'; reference: number }
  | { kind: 'zeros'; taken: number }
  | { kind: 'enough' }

const leastSpread = 3
const mostSpread = 6
export const wantedZeros = 5
/** Loads that are the same one, read twice. */
const alike = 0.02
const near = (a: number, b: number) => Math.abs(a - b) <= alike * Math.max(Math.abs(a), Math.abs(b))
/** A verify point this near to a fitted one proves little. */
const verifyNear = 0.05

/** @param quantity voltage cannot be varied at an outlet: one point, no zeros */
export function nextPoint<L extends LoadOnHand>(
  quantity: 'P' | 'I' | 'V',
  points: readonly TakenPoint[],
  zeros: number,
  loads: readonly L[],
): NextPoint<L> {
  const whole = points.flatMap((p) =>
    p.indicated === null || p.reference === null ? [] : [{ ...p, reference: p.reference }],
  )
  const fitted = whole.filter((p) => p.role === 'fit')
  const groups = fitted.filter((p, i) => !fitted.slice(0, i).some((q) => near(p.reference, q.reference)))
  if (quantity === 'V') {
    if (fitted.length === 0) return { kind: 'spread', load: null }
    return whole.some((p) => p.role === 'verify') ? { kind: 'enough' } : { kind: 'verify', load: null }
  }
  const spread =
    quantity === 'P'
      ? nextLoad(
          loads,
          whole.map((p) => p.reference),
        )
      : null
  const more = groups.length < leastSpread || (spread !== null && groups.length < mostSpread)
  // One of those on hand is kept back for verifying: the last that is left is never fitted.
  const verified = whole.some((p) => p.role === 'verify')
  const left = loads.filter((l) => !whole.some((p) => Math.abs(l.watts - p.reference) <= 0.12 * p.reference)).length
  const keepBack = !verified && quantity === 'P' && groups.length >= leastSpread && left <= 1
  if (more && !keepBack) return { kind: 'spread', load: spread }
  if (!verified) {
    const free = loads.filter((l) => fitted.every((p) => Math.abs(l.watts - p.reference) > verifyNear * p.reference))
    return {
      kind: 'verify',
      load:
        quantity === 'P'
          ? nextLoad(
              free,
              whole.map((p) => p.reference),
            )
          : null,
    }
  }
  const [first] = fitted
  const repeated = first !== undefined && fitted.slice(1).some((p) => near(p.reference, first.reference))
  if (first !== undefined && !repeated) return { kind: 'repeat', reference: first.reference }
  return zeros < wantedZeros ? { kind: 'zeros', taken: zeros } : { kind: 'enough' }
}
