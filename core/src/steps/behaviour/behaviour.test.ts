import type { PinTemplate } from '../../pins/template'
import { unit, unmet } from '../../testing/a-unit'
import { behaviourOf, openLoadFindings, rulesOf, simulated } from './facts'

const template: PinTemplate = {
  format: 'fresh-coat/pin-template',
  version: 1,
  board: 'x',
  family: 'LX106',
  pins: [
    { pin: 'GPIO12', fn: 'relay', ch: 1 },
    { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
  ],
}
const heater = { contact: 'NO' as const, kind: 'heater' as const, wayOut: false, attended: false }
const channel = { ch: 1, onPower: 'last' as const, tried: true }
const withBehaviour = (behaviour: object) => unit({ pins: { template }, behaviour })

test('nobody having said what hangs on it is nothing against it; a heater that comes back by itself stops Done', () => {
  expect(openLoadFindings(withBehaviour({ channels: [channel] }))).toEqual([])
  const view = withBehaviour({ channels: [{ ...channel, load: heater }] })
  const codes = openLoadFindings(view).flatMap((f) => (f.severity === 'error' ? [f.code] : []))
  expect(codes).toEqual(['heater-on', 'last-unsafe'])
  expect(unmet(view, 'behaviour').join(' ')).toMatch(/Channel 1: It may come on by itself/)
})

test('what somebody decided by name is open no more, and only that', () => {
  const decided = [{ code: 'heater-on', at: 'ch1', by: 'Ada', why: 'it is watched in every show' }]
  const view = withBehaviour({ channels: [{ ...channel, load: heater }], decided })
  expect(openLoadFindings(view).flatMap((f) => (f.severity === 'error' ? [f.code] : []))).toEqual(['last-unsafe'])
})

test('the usual rules hold until somebody changes them, then those do, also when there are none', () => {
  expect(rulesOf(withBehaviour({}), template).map((r) => r.id)).toEqual(['button: press'])
  expect(rulesOf(withBehaviour({ rules: [] }), template)).toEqual([])
})

test('a rule that names what is gone is left out and stops Done', () => {
  const rules = [{ id: 'old', when: { input: 'wall', event: 'short' as const }, do: [{ set: 'on' as const, ch: 1 }] }]
  const view = withBehaviour({ rules, channels: [channel] })
  expect(behaviourOf(view)).toMatchObject({ def: { rules: [] }, stranded: [{ id: 'old' }] })
  expect(unmet(view, 'behaviour').join(' ')).toMatch(/Rules name what is not in the template: old/)
})

test('rules that set each other off without end are no run; edges of inputs that are gone are passed over', () => {
  const rules = [
    { id: 'a', when: { ch: 1, becomes: 'on' as const }, do: [{ set: 'off' as const, ch: 1 }] },
    { id: 'b', when: { ch: 1, becomes: 'off' as const }, do: [{ set: 'on' as const, ch: 1 }] },
    { id: 'c', when: { input: 'button', event: 'press' as const }, do: [{ set: 'on' as const, ch: 1 }] },
  ]
  const loops = behaviourOf(withBehaviour({ rules }))
  if (!loops) throw new Error('no behaviour')
  const line = [{ t: 1000, input: 'button', level: 1 as const }]
  expect(simulated(loops.def, line, 5000)).toBeNull()
  expect(simulated(loops.def, [{ t: 1000, input: 'wall', level: 1 }], 5000)?.events).toEqual([])
})
