import { energyRun, runLoads } from './energy-run'

test('a lamp or a heater of known watts may run, and what it will have counted is said', () => {
  expect(energyRun('lamp', 60)).toMatchObject({ refused: null, kWh: 0.03 })
  expect(energyRun('heater', 1000).kWh).toBe(0.5)
  expect(energyRun('heater', 1000).care).toMatch(/stays beside it/)
  expect(energyRun('lamp', null)).toMatchObject({ refused: null, kWh: null })
})
test('a kettle left on is refused, and why; so is what nobody knows the energy of', () => {
  expect(energyRun('kettle', 2000)).toMatchObject({ refused: expect.stringMatching(/boils dry/), kWh: null })
  for (const load of runLoads.filter((l) => l !== 'lamp' && l !== 'heater'))
    expect(energyRun(load, 100).refused).not.toBeNull()
  expect(energyRun('lamp', 0).refused).toMatch(/without a load/)
  expect(energyRun('lamp', -5).kWh).toBeNull()
})
