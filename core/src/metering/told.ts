import { fitMeter } from './fit'

/** What a unit is told after a fit (brief 04 §2.1): a factor, both ways a firmware may use it. */

/**
 * The gain for a unit that keeps no offset: that of a fit without one. The gain of the two-number fit alone would be off by the
 * offset at every load.
 * @param input of the fit, as it was fitted or stored
 */
export function plainGain(input: unknown, fit: { model: string; gain: number }): number {
  if (fit.model !== 'gainOffset' || typeof input !== 'object' || input === null) return fit.gain
  const plain = fitMeter({ ...input, model: 'gain' })
  return plain.ok ? plain.value.gain : fit.gain
}

/**
 * Most firmware multiplies by its factor, some divide by it.
 * @param gain of a fit without an offset  @param factor what stands in the unit now, above 0
 */
export const newFactor = (gain: number, factor: number): { multiplies: number; divides: number } => ({
  multiplies: factor * gain,
  divides: factor / gain,
})
