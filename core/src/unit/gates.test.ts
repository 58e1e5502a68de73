import { board, unit, unmet } from '../testing/a-unit'
import { actIsOver, dischargeClock, gateHolds, gateInTheWay, gatesFor, gateWasConfirmed, hazardOf } from './gates'
import { instructionsOf } from './steps'
import type { GateRecord, UnitView } from './view'
import { type GateId, gateIds, stepIds } from './way'

const today = '2026-11-24'
const at = (gate: GateId, time = `${today}T09:00:00.000Z`): GateRecord => ({
  gate,
  day: time.slice(0, 10),
  at: time,
  by: 'bench',
  measured: '',
})
const wired = { ...board, fixedWiring: true }
const low = { ...board, mains: false }

describe('gates by what is about to happen', () => {
  test.each<[string, Partial<UnitView>, Parameters<typeof unit>[0], string, GateId[]]>([
    ['opening', {}, {}, 'open', ['mains-off', 'discharged']],
    ['wiring an opened unit', {}, {}, 'wire', ['mains-off', 'discharged']],
    ['trying pins by the adapter', {}, { pins: { power: 'adapter' } }, 'pins', ['mains-off', 'discharged']],
    [
      'trying pins by a bench supply',
      {},
      { pins: { power: 'rail' } },
      'pins',
      ['mains-off', 'discharged', 'current-limit'],
    ],
    ['trying pins on the mains', {}, { pins: { power: 'mains' } }, 'pins', ['case-closed']],
    ['behaviour', {}, {}, 'behaviour', ['case-closed']],
    ['nothing that touches it', {}, {}, 'check', []],
    ['a unit that never meets the mains', { board: low }, {}, 'wire', []],
    ['its bench supply', { board: low }, { pins: { power: 'rail' } }, 'pins', ['current-limit']],
  ])('%s', (_, more, records, step, gates) => expect(gatesFor(unit(records, more), step as never)).toEqual(gates))

  test('fixed wiring asks for a licensed person where the unit hangs, and nobody knowing counts as hanging', () => {
    const first = (mounted: boolean | null, step: 'open' | 'behaviour' | 'wire' | 'prove') =>
      gatesFor(unit({ arrive: { mounted } }, { board: wired }), step)[0]
    expect([first(true, 'open'), first(null, 'open'), first(false, 'open')]).toEqual([
      'licensed',
      'licensed',
      'mains-off',
    ])
    expect([first(true, 'behaviour'), first(false, 'behaviour')]).toEqual(['licensed', 'case-closed'])
    // On the bench nobody has to say falsely that it was handed over; putting it into service is another thing.
    expect([first(false, 'wire'), first(false, 'prove')]).toEqual(['mains-off', 'licensed'])
  })
  test('what powers it while its pins are tried has to be said', () => {
    expect(gatesFor(unit(), 'pins')).toEqual([])
    expect(unmet(unit(), 'pins')[0]).toMatch(/Nobody has said what powers/)
  })
})

describe('a confirmation', () => {
  test('holds on its day, and not on the next', () => {
    expect(gateHolds(unit({}, { gates: [at('mains-off')] }), 'mains-off')).toBe(true)
    expect(gateHolds(unit({}, { gates: [at('mains-off', '2026-11-23T09:00:00.000Z')] }), 'mains-off')).toBe(false)
  })
  test('that an attempt has ended is wanted again before the next act, and not for Done', () => {
    const view = unit(
      {},
      { confirmed: [{ gate: 'mains-off', at: `${today}T09:00:00.000Z` }], gates: [at('discharged')] },
    )
    expect(gateInTheWay(view, 'backup')).toBe('mains-off')
    expect(gateWasConfirmed(view, 'backup', 'mains-off')).toBe(true)
    expect(unmet(view, 'backup').some((text) => text.startsWith('Not confirmed'))).toBe(false)
  })
  test('of long before the work counts for nothing', () => {
    const view = unit({}, { confirmed: [{ gate: 'mains-off', at: '2026-11-20T09:00:00.000Z' }] })
    expect(gateWasConfirmed(view, 'backup', 'mains-off')).toBe(false)
    const worked = {
      ...view,
      records: { ...view.records, wire: { ...view.records.wire, updatedAt: '2026-11-20T15:00:00.000Z' } },
    }
    expect(gateWasConfirmed(worked, 'wire', 'mains-off')).toBe(true)
  })
})

describe('the discharge clock', () => {
  test('runs from “unplugged”, five minutes at least', () => {
    expect(dischargeClock(unit())).toBe(null)
    expect(dischargeClock(unit({}, { gates: [at('mains-off')] }))).toEqual({
      from: `${today}T09:00:00.000Z`,
      seconds: 477,
      over: `${today}T09:07:57.000Z`,
    })
  })
  test('a known bleeder makes it the least there is', () =>
    expect(
      dischargeClock(unit({ open: { capacitorUf: 10, bleederOhms: 470_000 } }, { gates: [at('mains-off')] }))?.seconds,
    ).toBe(300))
})

describe('what the page says of a gate', () => {
  const answers = { dropper: 'yes' } as const
  test('nobody knowing is said as not knowing', () => {
    for (const gate of ['mains-off', 'case-closed'] as const)
      expect(hazardOf(unit({}, { board: { ...board, isolation: null } }), gate)).toMatch(/Nobody has judged/)
  })
  test('a judged board is called what it is', () =>
    expect(hazardOf(unit({ open: { isolation: answers } }), 'mains-off')).toMatch(/isn’t isolated/))
  test('every gate says something', () => {
    for (const gate of gateIds) expect(hazardOf(unit(), gate)).not.toBe('')
  })
})

test('while a gate is in the way, nothing else is told to busy hands', () => {
  for (const step of stepIds) {
    const view = unit({ pins: { power: 'mains' } })
    const gate = gateInTheWay(view, step)
    if (gate) expect(instructionsOf(view, step).map((i) => i.id)).toEqual([`gate-${gate}`])
    else expect(instructionsOf(view, step).some((i) => i.id.startsWith('gate-'))).toBe(false)
  }
})

test('an act is over when its gates were confirmed within a day, also where an attempt has ended them since', () => {
  const was = (at: string) =>
    actIsOver(unit({}, { confirmed: (['mains-off', 'discharged'] as const).map((gate) => ({ gate, at })) }), 'write')
  const now = Date.parse(unit().now)
  expect(was(new Date(now - 3_600_000).toISOString())).toBe(true)
  expect(was(new Date(now - 90_000_000).toISOString())).toBe(false)
  expect(actIsOver(unit(), 'write')).toBe(false)
})
