import { fitMeter } from './fit'
import { newFactor, plainGain } from './told'

/** The worked example of the brief: its data decide for gain and offset. */
const pairs = [
  [58.1, 60.2],
  [115.9, 120.4],
  [481, 500.9],
  [961.8, 1001.2],
  [1844.6, 1921],
  [58, 60.1],
] as const
const input = {
  quantity: 'P',
  reference: { gainPct: 0.5, digits: 2, resolution: 0.1 },
  indicatedResolution: 0.1,
  points: pairs.map(([indicated, reference], i) => ({ id: `p${i}`, indicated, reference })),
}

test('a unit that keeps no offset is told the gain without one: 1.04, not 1.04161', () => {
  const fit = fitMeter(input)
  if (!fit.ok) throw new Error('no fit')
  expect([fit.value.model, Number(fit.value.gain.toFixed(5))]).toEqual(['gainOffset', 1.04161])
  expect(plainGain(input, fit.value)).toBeCloseTo(1.04, 5)
})
test('a gain alone is what it is, and a stored input that cannot be fitted again changes nothing', () => {
  expect(plainGain(input, { model: 'gain', gain: 1.02 })).toBe(1.02)
  for (const bad of [null, 'x', {}, { points: 'none' }])
    expect(plainGain(bad, { model: 'gainOffset', gain: 1.02 })).toBe(1.02)
})
test('both ways of using a factor undo each other', () => {
  expect(newFactor(1.04, 1)).toEqual({ multiplies: 1.04, divides: 1 / 1.04 })
  const { multiplies, divides } = newFactor(1.037, 250)
  expect(multiplies * divides).toBeCloseTo(250 * 250, 6)
})
