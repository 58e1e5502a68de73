/** Sorting rules shared by every ranking: numbers that agree to ten digits are a tie, and a tie keeps the given order. */
export const tenDigits = (x: number): number => (Number.isFinite(x) ? Number(x.toPrecision(10)) : x)

/** Descending by `score`, ties by the order given (Array.sort is stable). */
export const rankBy = <T>(rows: readonly T[], score: (row: T) => number): T[] =>
  rows
    .map((row) => ({ row, score: tenDigits(score(row)) }))
    .sort((a, b) => b.score - a.score)
    .map(({ row }) => row)

/** Entropy of a distribution in bits. */
export function entropyBits(p: readonly number[]): number {
  let sum = 0
  for (const x of p) if (x > 0) sum -= x * Math.log2(x)
  return sum
}

/** Plain code-unit comparison, the same everywhere (no locale). */
export const byText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0)
