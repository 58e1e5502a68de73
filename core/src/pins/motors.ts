import type { PinTemplate } from './template'

/** Motors of a template: two relays each, one way and the other (brief 03 §8). */
export type Motor = NonNullable<PinTemplate['motors']>[number]

/** A motor that is reversed sooner is still turning (T23). */
export const leastDeadMs = 300
const usualDeadMs = 500

/** The other way round: for outputs that are crossed. Interlock and pause stay. */
export const swapped = (motor: Motor): Motor => ({ ...motor, open: motor.close, close: motor.open })

/** The next two relay channels that work no motor yet, as one, interlocked; null where fewer than two are left. */
export function motorsWith(motors: readonly Motor[], channels: readonly number[]): Motor | null {
  const used = new Set(motors.flatMap((m) => [m.open, m.close]))
  const [open, close] = channels.filter((ch) => !used.has(ch))
  return open === undefined || close === undefined ? null : { open, close, interlock: true, deadMs: usualDeadMs }
}
