import { z } from 'zod'
import { type Finding, finding } from '../edge/finding'

/** An added sensor and the test that it measures what it should (brief 07 §12): warmed by hand, its value must rise. */

const reading = z.number().min(-1_000_000).max(1_000_000).nullable().default(null)
export const AddedSensor = z.object({
  /** "temperature", "light", in the person's own words. */
  what: z.string().max(60),
  pin: z.string().max(20).default(''),
  /** Its contacts in order, as read from it and not from a picture. */
  order: z.string().max(60).default(''),
  lowest: reading,
  highest: reading,
  /** Left alone, then warmed, lit or blown at by hand. */
  idle: reading,
  stirred: reading,
  /** In the closed case after half an hour, and a thermometer beside it. */
  closed: reading,
  beside: reading,
})
export type AddedSensor = z.infer<typeof AddedSensor>

const outside = (value: number, { lowest, highest }: AddedSensor) =>
  (lowest !== null && value < lowest) || (highest !== null && value > highest)

/** What its readings say; nothing where nobody has read it. */
export function sensorFindings(s: AddedSensor): Finding[] {
  const out: Finding[] = []
  const strays = [s.idle, s.stirred].filter((v): v is number => v !== null && outside(v, s))
  if (strays.length > 0)
    out.push(
      finding(
        'sensor-range',
        'error',
        `It reads ${strays[0]}, outside its range.`,
        'Its contacts may be in another order than thought, or its supply is wrong.',
        'Power off; read the order from the part itself.',
      ),
    )
  else if (s.idle !== null && s.stirred !== null) {
    if (s.stirred > s.idle)
      out.push(finding('sensor-sane', 'ok', `It rose from ${s.idle} to ${s.stirred}.`, 'By hand, as it must.', ''))
    else
      out.push(
        finding(
          'sensor-still',
          s.stirred === s.idle ? 'watch' : 'error',
          s.stirred === s.idle ? 'Its value stood still.' : `It fell from ${s.idle} to ${s.stirred}.`,
          'A value that does not rise when its sensor is warmed or lit is not that sensor’s.',
          'Warm it longer; then look at pin, order and the kind of sensor that is set.',
        ),
      )
  }
  if (s.closed !== null && s.beside !== null && s.closed - s.beside >= 1)
    out.push(
      finding(
        'sensor-own-heat',
        'watch',
        `In the closed case it reads ${Number((s.closed - s.beside).toFixed(1))} too high.`,
        'The case is warmed by its own supply.',
        'Set that off in the firmware, or lead the sensor out where the board is isolated.',
      ),
    )
  return out
}
