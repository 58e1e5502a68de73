import { lnGamma } from './ln-gamma'

const mostTerms = 100_000
const tiny = 1e-300

/** Regularised lower incomplete gamma P(a, x) for a > 0, x ≥ 0: series below a + 1, else continued fraction (Lentz). */
function gammaP(a: number, x: number): number {
  if (x <= 0) return 0
  const front = Math.exp(a * Math.log(x) - x - lnGamma(a))
  if (x < a + 1) {
    let [term, sum] = [1 / a, 1 / a]
    for (let n = 1; n < mostTerms && term > sum * 1e-16; n++) {
      term *= x / (a + n)
      sum += term
    }
    return front * sum
  }
  let b = x + 1 - a
  let c = 1 / tiny
  let d = 1 / b
  let h = d
  for (let i = 1; i < mostTerms; i++) {
    const an = -i * (i - a)
    b += 2
    d = 1 / (an * d + b || tiny)
    c = b + an / c || tiny
    h *= d * c
    if (Math.abs(d * c - 1) < 1e-15) break
  }
  return 1 - front * h
}

/** The value that χ² with `dof` > 0 degrees of freedom stays below with probability `p` in 0..1. Bisection to 1e-14. */
export function chiSquaredQuantile(p: number, dof: number): number {
  const a = dof / 2
  let [low, high] = [0, a + 1]
  while (gammaP(a, high) < p) high *= 2
  for (let i = 0; i < 200 && high - low > 1e-14 * high; i++) {
    const middle = (low + high) / 2
    if (gammaP(a, middle) < p) low = middle
    else high = middle
  }
  return low + high
}
