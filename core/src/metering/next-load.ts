/** A load a person has on hand. */
export interface LoadOnHand {
  id: string
  name: string
  watts: number
}

const leastWatts = 0.1
const distance = (a: number, b: number) =>
  Math.abs(Math.log(Math.max(a, leastWatts)) - Math.log(Math.max(b, leastWatts)))

/**
 * The load that spreads the points furthest: of those on hand, the one whose power lies furthest from every point taken,
 * measured in ratios. Null when every load has been used, or there is none.
 * @param taken powers of the points taken, W
 */
export function nextLoad<L extends LoadOnHand>(loads: readonly L[], taken: readonly number[]): L | null {
  const same = Math.log(1.12)
  let best: L | null = null
  let furthest = same
  for (const load of loads) {
    const near = Math.min(...taken.map((p) => distance(load.watts, p)), Number.POSITIVE_INFINITY)
    const far = near === Number.POSITIVE_INFINITY ? 1e6 - distance(load.watts, 1) : near
    if (far > furthest) {
      best = load
      furthest = far
    }
  }
  return best
}
