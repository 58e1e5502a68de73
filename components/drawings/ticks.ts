/** A round step near a length: 1, 2 or 5 times a power of ten. */
export function roundStep(length: number): number {
  const decade = 10 ** Math.floor(Math.log10(Math.max(length, 1e-6)))
  const m = length / decade
  return decade * (m >= 5 ? 5 : m >= 2 ? 2 : 1)
}
