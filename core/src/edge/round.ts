/** To so many decimals, halves away from zero; what floating point left a hair below a half counts as one. */
export function roundTo(x: number, digits: number): number {
  const scale = 10 ** digits
  const rounded = Math.sign(x) * Math.floor(Math.abs(x) * scale + 0.5 + 1e-9)
  return rounded / scale || 0
}
