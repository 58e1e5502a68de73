import { knownFamilies } from '../../families/families'
import { unit } from '../../testing/a-unit'
import type { UnitView } from '../../unit/view'
import { wiringOf } from './facts'
import { nextOwnLead, ownLeads } from './own-leads'
import { regulatorFindings, regulatorOf } from './regulator'

const common = { dropoutV: 1.1, iMaxMA: 800, thetaJA: 90 }
const adapter = {
  id: 'a',
  name: 'Adapter',
  pins: ['GND', '5V', 'TX', 'RX'],
  logicV: 3.3,
  max3v3Ma: null,
  labelledFrom: 'adapter' as const,
}
const fed = (
  regulator: typeof common | null,
  more: Partial<UnitView> = {},
  family: (typeof knownFamilies)[number] = 'LX106',
) =>
  unit(
    {
      identify: { decision: { family, reason: 'read on the chip itself' } },
      pads: { pads: ['GND', '3V3', 'TX', 'RX'] },
      wire: { power: 'regulator', regulator, entry: 'button' },
    },
    { board: null, adapter, ...more },
  )

test('a common regulator carries every family; the adapter’s own 3V3 pin is not asked for', () => {
  for (const family of knownFamilies) expect(regulatorOf(fed(common, {}, family))?.verdict).toBe('ok')
  expect(wiringOf(fed(common))?.findings.map((f) => f.code)).toEqual(['mains-on'])
  expect(wiringOf(fed(common))?.connections.map((c) => c.pad)).toEqual(['GND', 'TX', 'RX'])
})

test('figures that nobody gave are no good figures', () => {
  expect(regulatorFindings(fed(null)).map((f) => [f.code, f.severity])).toEqual([['regulator-unknown', 'error']])
  expect(wiringOf(fed(null))?.allowed).toBe(false)
})

test.each([
  ['one that drops too much', { ...common, dropoutV: 1.8 }, 'stop-dropout'],
  ['one that is too small for a burst', { ...common, iMaxMA: 200 }, 'stop-peak'],
  ['one that cannot shed its heat', { ...common, thetaJA: 700 }, 'stop-heat'],
])('%s stops the wiring', (_, figures, code) => {
  expect(regulatorFindings(fed(figures)).map((f) => f.code)).toContain(code)
  expect(wiringOf(fed(figures))?.allowed).toBe(false)
})

test('an adapter without 5 V cannot feed it', () =>
  expect(
    regulatorFindings(fed(common, { adapter: { ...adapter, pins: ['GND', 'TX', 'RX', '3V3'] } })).map((f) => f.code),
  ).toEqual(['pin-missing-5V']))

test('its three leads are made ground first, input last, and are asked for only where it is the supply', () => {
  expect(ownLeads(fed(common)).map((l) => l.id)).toEqual(['reg-gnd', 'reg-out', 'reg-in'])
  expect(nextOwnLead(fed(common))?.id).toBe('reg-gnd')
  expect(ownLeads(unit({ wire: { power: 'bench' } }))).toEqual([])
})
