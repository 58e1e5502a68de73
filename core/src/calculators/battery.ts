import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'

/** How long a battery feeds a unit that sleeps most of the time (brief 07 §10). */
const Request = z
  .object({
    mAh: z.number().positive(),
    usable: z.number().positive().max(1).nullish(),
    sleepUA: z.number().nonnegative(),
    wakeMA: z.number().positive(),
    wakeS: z.number().positive(),
    perHour: z.number().positive(),
    selfPctMonth: z.number().nonnegative().nullish(),
  })
  .superRefine(({ wakeS, perHour }, context) => {
    if (wakeS * perHour > secondsPerHour)
      refuse(context, 'range', ['perHour'], 'It would be awake for more than an hour in each hour.')
  })

export interface BatteryLife {
  /** Mean current of the unit, in mA. */
  avgMA: number
  /** With what the battery loses by itself. */
  drainMA: number
  days: number
}

const secondsPerHour = 3600
const hoursPerMonth = 730
const usual = { usable: 0.8, selfPctMonth: 2 }

/** `battery`. Faults: `input`, `range`. */
export function batteryLife(input: unknown): Outcome<BatteryLife> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const { mAh, sleepUA, wakeMA, wakeS, perHour } = parsed.value
  const charge = mAh * (parsed.value.usable ?? usual.usable)
  const avgMA = sleepUA / 1000 + (wakeMA * wakeS * perHour) / secondsPerHour
  const drainMA = avgMA + (charge * (parsed.value.selfPctMonth ?? usual.selfPctMonth)) / 100 / hoursPerMonth
  return { ok: true, value: { avgMA, drainMA, days: charge / drainMA / 24 } }
}
