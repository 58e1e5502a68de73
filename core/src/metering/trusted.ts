import { addMonths } from './fit'

/** What a workshop trusts when it calibrates: reference meters with checks of their own, loads whose watts drift too. */

export interface OwnCheck {
  on: string
  note: string
}
/** The newest first. */
export const checksInOrder = (checks: readonly OwnCheck[]): OwnCheck[] =>
  [...checks].sort((a, b) => (a.on < b.on ? 1 : a.on > b.on ? -1 : 0))

/** When a reference is to be checked again itself; null where it never was, or nobody said how often. */
export function dueOf(checks: readonly OwnCheck[], everyMonths: number | null): string | null {
  const [last] = checksInOrder(checks)
  return last && everyMonths !== null ? addMonths(last.on, everyMonths) : null
}

/** A load of known watts that is further off than this by its resistance is not known any more. */
const agrees = 0.05

/**
 * Watts of a heater by its resistance, measured cold and unplugged: P = V²/R. A filament or a motor is another thing cold than on:
 * nothing is said of it.
 * @param ohms above 0  @param volts of the mains
 */
export function wattsByOhms(
  kind: string,
  watts: number,
  ohms: number,
  volts: number,
): { watts: number; agrees: boolean } | null {
  if (kind !== 'resistive' || ohms <= 0) return null
  const by = volts ** 2 / ohms
  return { watts: by, agrees: Math.abs(by / watts - 1) <= agrees }
}
