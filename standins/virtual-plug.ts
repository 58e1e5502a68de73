import type { MeterMoment, MeterSource } from '@fresh-coat/core/metering/source'
import { seededRandom } from './random'

/** A metering plug with a hidden error, on a socket whose mains wanders, with loads that warm up; and a reference meter of a class beside it. */
export interface VirtualPlug {
  seed: number
  /** What the plug shows is the truth divided by this, less an offset. */
  gain: number
  offsetW: number
  /** Of the reference, hidden within its class. */
  referenceGain: number
  /** Keys of its raw values, and by how many tens each is multiplied. */
  raw: { V: [string, number]; I: [string, number]; P: [string, number]; energy: string; still: string; switch: string }
}
export interface VirtualLoad {
  id: string
  name: string
  watts: number
  kind: 'resistive' | 'charger'
  pf: number
}

export const referenceClass = { gainPct: 0.5, digits: 2, resolution: 0.1 }
export const plugStep = 0.1
export const virtualLoads: readonly VirtualLoad[] = [
  { id: 'charger', name: 'Charger', watts: 11, kind: 'charger', pf: 0.46 },
  { id: 'lamp', name: 'Work lamp', watts: 60, kind: 'resistive', pf: 1 },
  { id: 'iron', name: 'Solder bath', watts: 240, kind: 'resistive', pf: 1 },
  { id: 'plate', name: 'Hot plate', watts: 700, kind: 'resistive', pf: 1 },
  { id: 'fan', name: 'Fan heater', watts: 1200, kind: 'resistive', pf: 1 },
  { id: 'heater', name: 'Room heater', watts: 1900, kind: 'resistive', pf: 1 },
]
const nominal = 230
/** A heater takes more while it is cold. */
const coldShare = 0.06
const warmSeconds = 60
/** Mains moves slowly: slower than a reading takes to stand still. */
const [wander, wanderSeconds] = [0.004, 600]

export function makeVirtualPlug(seed: number): VirtualPlug {
  const random = seededRandom(seed * 13 + 5)
  const between = (low: number, high: number) => low + (high - low) * random()
  const keys = ['1', '2', '3', '4', '5', '6', '7', '8']
  const take = () => keys.splice(Math.floor(random() * keys.length), 1)[0] as string
  return {
    seed,
    gain: between(0.93, 1.07),
    offsetW: random() < 0.5 ? 0 : between(-0.6, 0.6),
    referenceGain: 1 + between(-0.002, 0.002),
    raw: {
      V: [take(), random() < 0.7 ? 1 : 0],
      I: [take(), random() < 0.8 ? 3 : 2],
      P: [take(), random() < 0.7 ? 1 : 0],
      energy: take(),
      still: take(),
      switch: take(),
    },
  }
}

const rounded = (value: number, step: number) => Math.round(value / step) * step

/** What really flows, so many seconds after it was switched on; null while nothing is. */
function truth(plug: VirtualPlug, load: VirtualLoad | null, seconds: number): { V: number; I: number; P: number } {
  const noise = seededRandom(plug.seed * 7919 + Math.round(seconds * 10))
  const V = nominal * (1 + wander * Math.sin(seconds / wanderSeconds + plug.seed) + 0.0008 * (noise() - 0.5))
  if (!load) return { V, I: 0, P: 0 }
  const cold = load.kind === 'resistive' ? 1 + coldShare * Math.exp(-seconds / warmSeconds) : 1
  const byVolts = load.kind === 'resistive' ? (V / nominal) ** 2 : 1
  const P = load.watts * cold * byVolts
  return { V, I: P / (V * load.pf), P }
}

export interface VirtualSocket {
  plug: MeterSource
  reference: MeterSource
  /** Raw values of the plug, as a stock firmware exposes them. */
  raw: () => Record<string, number | boolean>
}

/** Plug and reference on one socket, read in one moment. @param seconds since the load was switched on */
export function socketOf(plug: VirtualPlug, load: VirtualLoad | null, seconds: number): VirtualSocket {
  const is = truth(plug, load, seconds)
  const jitter = seededRandom(plug.seed * 31 + Math.round(seconds * 10) + 1)
  const shownP = load ? Math.max(0, (is.P - plug.offsetW) / plug.gain) : rounded(Math.max(0, 0.15 * jitter()), plugStep)
  const shown = { V: is.V / 1.004, I: load ? is.I / plug.gain : 0, P: shownP }
  const at = (values: { V: number; I: number; P: number }, step: number): MeterMoment => ({
    t: seconds,
    V: rounded(values.V, 0.1),
    I: rounded(values.I, 0.001),
    P: rounded(values.P, step),
  })
  return {
    plug: { name: 'the plug', now: () => at(shown, plugStep) },
    reference: {
      name: 'the reference',
      now: () => at({ V: is.V, I: is.I * plug.referenceGain, P: is.P * plug.referenceGain }, referenceClass.resolution),
    },
    raw: () => {
      const { V, I, P, energy, still, switch: relay } = plug.raw
      const scaled = (value: number, tens: number) => Math.floor(value * 10 ** tens + 0.5)
      return {
        [relay]: load !== null,
        [V[0]]: scaled(shown.V, V[1]),
        [I[0]]: scaled(shown.I, I[1]),
        [P[0]]: scaled(shown.P, P[1]),
        [energy]: 100 + Math.floor((shown.P * seconds) / 36_000),
        [still]: 4711,
      }
    },
  }
}

export interface PlugScore {
  score: number
  /** How far the found factor is off the hidden one, in per cent. */
  offPct: number
  /** Points that were taken before the load stood still. */
  cold: number
  zeros: number
  verified: boolean
}
const cost = { perPct: 40, cold: 8, fewZeros: 10, notVerified: 15 }

/** How well a plug was calibrated: its factor against the hidden one, as far as the class of the reference can tell. */
export function scorePlug(
  plug: VirtualPlug,
  found: { gain: number; cold: number; zeros: number; verified: boolean },
): PlugScore {
  const offPct = Math.abs(found.gain / plug.gain - 1) * 100
  // Within the class of the reference nobody can do better.
  const beyond = Math.max(0, offPct - referenceClass.gainPct)
  const lost =
    cost.perPct * beyond +
    cost.cold * found.cold +
    (found.zeros < 5 ? cost.fewZeros : 0) +
    (found.verified ? 0 : cost.notVerified)
  return {
    score: Math.max(0, Math.round(100 - lost)),
    offPct,
    cold: found.cold,
    zeros: found.zeros,
    verified: found.verified,
  }
}
