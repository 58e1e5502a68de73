import { fitMeter } from '@fresh-coat/core/metering/fit'
import { mapRaw, usualLoads } from '@fresh-coat/core/metering/raw-map'
import { settles } from '@fresh-coat/core/metering/source'
import {
  makeVirtualPlug,
  plugStep,
  referenceClass,
  scorePlug,
  socketOf,
  type VirtualPlug,
  virtualLoads,
} from './virtual-plug'

const seeds = Array.from({ length: 40 }, (_, i) => i + 1)
const resistive = virtualLoads.filter((l) => l.kind === 'resistive')

/** Somebody who calibrates: each load after so many seconds, plug and reference in one moment. */
function calibrated(plug: VirtualPlug, seconds: number) {
  const points = resistive.map((load, i) => {
    const socket = socketOf(plug, load, seconds + i * 7)
    return {
      id: load.id,
      indicated: socket.plug.now().P as number,
      reference: socket.reference.now().P as number,
      role: load.id === 'plate' ? ('verify' as const) : ('fit' as const),
    }
  })
  const fit = fitMeter({
    quantity: 'P',
    reference: referenceClass,
    indicatedResolution: plugStep,
    points,
    model: 'gain',
  })
  if (!fit.ok) throw new Error(JSON.stringify(fit.faults))
  return fit.value
}

test('the same number gives the same plug, and reading it twice in one moment the same values', () => {
  for (const seed of seeds) {
    const plug = makeVirtualPlug(seed)
    expect(makeVirtualPlug(seed)).toEqual(plug)
    const socket = () => socketOf(plug, resistive[0] ?? null, 90)
    expect([socket().plug.now(), socket().raw()]).toEqual([socket().plug.now(), socket().raw()])
  }
})

test('its hidden factor is found within the class of the reference, for every plug without an offset', () => {
  for (const plug of seeds.map(makeVirtualPlug).filter((p) => p.offsetW === 0)) {
    const { gain } = calibrated(plug, 400)
    const score = scorePlug(plug, { gain, cold: 0, zeros: 5, verified: true })
    expect(score.offPct).toBeLessThan(referenceClass.gainPct)
    expect(score.score).toBe(100)
  }
})

test('a heater walks down while it is cold, and stands still later', () => {
  const plug = makeVirtualPlug(3)
  const heater = virtualLoads.find((l) => l.id === 'heater') ?? null
  const read = (from: number) =>
    Array.from({ length: 6 }, (_, i) => socketOf(plug, heater, from + i * 4).plug.now().P as number)
  expect(settles(read(2), plugStep)).toBe(false)
  expect(read(2)[0] as number).toBeGreaterThan(read(300)[0] as number)
})

test('cold points, no zeros and nothing kept to verify cost; being worse than the reference costs most', () => {
  const plug = makeVirtualPlug(5)
  const best = { gain: plug.gain, cold: 0, zeros: 5, verified: true }
  const score = (more: Partial<typeof best>) => scorePlug(plug, { ...best, ...more }).score
  expect(score({})).toBe(100)
  for (const worse of [{ cold: 1 }, { zeros: 2 }, { verified: false }, { gain: plug.gain * 1.02 }])
    expect(score(worse)).toBeLessThan(100)
  expect(score({ gain: plug.gain * 1.05 })).toBe(0)
})

test('its raw values are told apart by nothing, a charger and a heater, whatever keys they stand at', () => {
  const few = seeds.slice(0, 12)
  let settled = 0
  for (const seed of few) {
    const plug = makeVirtualPlug(seed)
    const take = (id: string, load: (typeof virtualLoads)[number] | null, seconds: number) => ({
      id,
      at: seconds * 1000,
      on: load !== null,
      load: { kind: load?.kind ?? ('none' as const), w: load?.kind === 'resistive' ? load.watts : null },
      reference: { V: null, I: null, P: null },
      raw: socketOf(plug, load, seconds).raw(),
    })
    const [charger] = virtualLoads
    const heater = virtualLoads.find((l) => l.id === 'fan') ?? null
    const map = mapRaw(
      [take('a', null, 100), take('b', charger ?? null, 300), take('c', heater, 700)],
      { nominalV: 230, nominalHz: 50, ratingA: 16 },
      usualLoads,
      3,
    )
    if (!map?.settled) continue
    settled++
    expect([map.best.voltage.key, map.best.current.key, map.best.power.key]).toEqual([
      plug.raw.V[0],
      plug.raw.I[0],
      plug.raw.P[0],
    ])
  }
  expect(settled).toBeGreaterThan(few.length * 0.8)
})
