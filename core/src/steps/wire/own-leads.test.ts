import { knownFamilies } from '../../families/families'
import { unit } from '../../testing/a-unit'
import { instructionsOf, tickOff } from '../../unit/steps'
import type { RouteId } from '../../unit/way'
import { tiesOf } from '../../wiring/ties'
import { nextOwnLead, ownLeadConditions, ownLeads } from './own-leads'

const lx106 = { decision: { family: 'LX106' as const, reason: 'read on the chip itself' } }
const bare = (ties: string[] = [], route: RouteId = 'module-off') =>
  unit({ identify: lx106, wire: { ties } }, { route, board: null })

test('a module on its board needs none; off it, replaced or built it does', () => {
  expect(ownLeads(bare([], 'wires-in-place'))).toEqual([])
  for (const route of ['module-off', 'module-replaced', 'built'] as const)
    expect(ownLeads(bare([], route)).map((l) => l.words)).toEqual([
      'EN to 3V3 through 10 kΩ',
      'GPIO15 to GND through 10 kΩ',
    ])
})

test('every family that is known says how its enable is held high, first of all', () => {
  for (const family of knownFamilies) expect(tiesOf(family)[0]).toMatchObject({ id: 'tie-en', to: '3V3', ohms: 10_000 })
  expect(tiesOf(null)).toEqual([])
})

test('an enable that floats keeps the wiring from being done, then the strap does, then nothing', () => {
  expect(ownLeadConditions(bare()).map((c) => [c.met, c.text])).toEqual([[false, 'EN of the bare module floats.']])
  expect(ownLeadConditions(bare(['tie-en']))[0]).toMatchObject({
    met: false,
    text: 'GPIO15 of the bare module floats.',
  })
  expect(ownLeadConditions(bare(['tie-en', 'tie-low']))[0]).toMatchObject({ met: true })
  expect(nextOwnLead(bare(['tie-en', 'tie-low']))).toBeNull()
  expect(ownLeadConditions(bare([], 'wires-in-place'))).toEqual([])
})

test('busy hands are told each tie, and ticking it off is kept', () => {
  const view = unit({ identify: lx106 }, { route: 'module-off', board: null, gates: [] })
  const told = instructionsOf({ ...view, board: { ...unit().board, mains: false } as never }, 'wire').map((i) => i.id)
  expect(told.filter((id) => id.startsWith('tie-'))).toEqual(['tie-en', 'tie-low'])
  expect(tickOff(view, 'wire', 'tie-en', true)).toEqual({ ties: ['tie-en'] })
  expect(tickOff(bare(['tie-en']), 'wire', 'tie-en', false)).toEqual({ ties: [] })
})
