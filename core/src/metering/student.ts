import { lnGamma } from '../statistics/ln-gamma'

/** Regularised incomplete beta I_x(a, b), continued fraction (Lentz). */
function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0
  if (x >= 1) return 1
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a)
  const front = Math.exp(lnGamma(a + b) - lnGamma(a) - lnGamma(b) + a * Math.log(x) + b * Math.log(1 - x)) / a
  const tiny = 1e-300
  let c = 1
  let d = 1 / Math.max(Math.abs(1 - ((a + b) * x) / (a + 1)), tiny)
  let h = d
  for (let m = 1; m < 400; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m))
    d = 1 / (1 + even * d || tiny)
    c = 1 + even / c || tiny
    h *= d * c
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1))
    d = 1 / (1 + odd * d || tiny)
    c = 1 + odd / c || tiny
    const delta = d * c
    h *= delta
    if (Math.abs(delta - 1) < 1e-15) break
  }
  return front * h
}

/** Quantile 0.975 of Student's t with `dof` ≥ 1 degrees of freedom: half of a 95 % band. Bisection to 1e-12. */
export function t975(dof: number): number {
  const upperTail = (t: number) => 0.5 * incompleteBeta(dof / (dof + t * t), dof / 2, 0.5)
  let low = 0
  let high = 13
  for (let i = 0; i < 80; i++) {
    const middle = (low + high) / 2
    if (upperTail(middle) > 0.025) low = middle
    else high = middle
  }
  return (low + high) / 2
}
