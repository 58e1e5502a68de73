import { grouped } from '../bytes/text'
import { type Finding, finding } from '../edge/finding'

/** Above this share of its rating a unit runs warm all the time. */
const warmShare = 0.8

/**
 * May this unit carry this load? I = P/V against its rating (resistive: motors and chargers draw more).
 * @param watts ≥ 0, of the load  @param volts > 0, of the supply  @param ratedAmps > 0, the lower of case and relay
 */
export function checkRating(watts: number, volts: number, ratedAmps: number): Finding & { amps: number } {
  const amps = watts / volts
  const facts = `${grouped(watts)} W at ${grouped(volts)} V is ${amps.toFixed(1)} A of ${ratedAmps} A`
  if (amps > ratedAmps)
    return {
      ...finding(
        'load-over-rating',
        'error',
        `${facts}: it may not carry this.`,
        '',
        'Choose a smaller load, or another unit.',
      ),
      amps,
    }
  if (amps > warmShare * ratedAmps)
    return {
      ...finding(
        'load-near-rating',
        'watch',
        `${facts}: over 80 %, it will run warm.`,
        '',
        'Leave it room, and feel it after an hour.',
      ),
      amps,
    }
  return { ...finding('load-fits', 'ok', `${facts}.`), amps }
}
