import { z } from 'zod'
import type { Outcome } from '../edge/fault'
import { type FrameMeter, meterPulse, type PulseMeter } from './pulse'

/** A pulse-output meter as a person writes it down: the numbers of their own part, what they read, what it should be (brief 04 §2.2). */

const number = z.number().finite().positive().nullable().default(null)
export const PulsePart = z.object({
  vref: number,
  foscHz: number,
  powerGain: number,
  powerDivisor: number,
  voltageGain: number,
  voltageDivisor: number,
  currentGain: number,
  currentDivisor: number,
  topOhm: number,
  bottomOhm: number,
  shuntOhm: number,
  /** Nothing for so long counts as 0 W, in seconds. */
  timeoutS: number,
  windowS: number,
  /** Microseconds of one period of power, and of the high half of the two others. */
  powerPeriodUs: number,
  voltageWidthUs: number,
  currentWidthUs: number,
  refP: number,
  refV: number,
  refI: number,
  /** Corrections that are set in the unit now. */
  nowP: number,
  nowV: number,
  nowI: number,
})
export type PulsePart = z.infer<typeof PulsePart>

export const emptyPart: PulsePart = PulsePart.parse({})
export const shownWatts = [1, 5, 60, 2000] as const

const part = (gain: number | null, divisor: number | null) =>
  gain === null || divisor === null ? null : { gain, divisor }
const only = (fields: Record<string, number | null>) =>
  Object.fromEntries(Object.entries(fields).filter(([, v]) => v !== null))

/** What is still wanted before a pulse is worth anything, in the order of the part's own document. */
export const wantedOf = (p: PulsePart): (keyof PulsePart)[] =>
  (['vref', 'foscHz', 'powerGain', 'powerDivisor', 'topOhm', 'bottomOhm', 'shuntOhm'] as const).filter(
    (k) => p[k] === null,
  )

/** What its pulses are worth; null while something of the part is not said. Gains and divisors are never guessed. */
export function pulseOf(p: PulsePart): Outcome<PulseMeter> | null {
  if (wantedOf(p).length > 0) return null
  const outcome = meterPulse({
    mode: 'pulse',
    constants: {
      vref: p.vref,
      foscHz: p.foscHz,
      power: part(p.powerGain, p.powerDivisor),
      voltage: part(p.voltageGain, p.voltageDivisor),
      current: part(p.currentGain, p.currentDivisor),
      dividerTopOhm: p.topOhm,
      dividerBottomOhm: p.bottomOhm,
      shuntOhm: p.shuntOhm,
    },
    corrections: only({ P: p.nowP, V: p.nowV, I: p.nowI }),
    readings: {
      ...(p.powerPeriodUs === null ? {} : { power: { periodUs: p.powerPeriodUs } }),
      ...(p.voltageWidthUs === null ? {} : { voltage: { widthUs: p.voltageWidthUs } }),
      ...(p.currentWidthUs === null ? {} : { current: { widthUs: p.currentWidthUs } }),
    },
    timeoutS: p.timeoutS,
    windowS: p.windowS,
    atW: shownWatts,
    reference: only({ P: p.refP, V: p.refV, I: p.refI }),
  })
  return outcome.ok ? { ok: true, value: outcome.value as PulseMeter } : outcome
}

export interface FramesRead {
  /** Frames whose checksum agreed, in their order; a layout without one counts all. */
  good: FrameMeter[]
  bad: number
  /** Lines that are no frame of this length or header, as they stand. */
  unread: string[]
}

/** Frames of a serial meter, one to a line, by a layout that is the person's own data. A bad one is counted, and never used. */
export function readFrames(text: string, layout: unknown): FramesRead {
  const out: FramesRead = { good: [], bad: 0, unread: [] }
  for (const line of text.split('\n').map((l) => l.trim())) {
    if (line === '') continue
    const outcome = meterPulse({ mode: 'serial', frameHex: line, layout })
    if (!outcome.ok) out.unread.push(line)
    else if ((outcome.value as FrameMeter).use) out.good.push(outcome.value as FrameMeter)
    else out.bad++
  }
  return out
}
