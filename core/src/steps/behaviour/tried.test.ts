import { type Records, unit, unmet } from '../../testing/a-unit'
import { factsOfUnit } from '../../unit/facts'
import type { UnitView } from '../../unit/view'
import { isTried, pinsOfChannel } from './facts'

const template = (pins: object[]) => ({
  format: 'fresh-coat/pin-template',
  version: 1,
  board: 'P1',
  family: 'LX106',
  pins,
})
const relay = { pin: 'GPIO12', fn: 'relay', ch: 1, active: 'high' }
const button = { pin: 'GPIO0', fn: 'button', ch: 1, active: 'low' }
const on = (pins: object[], channel: object): UnitView =>
  unit({
    pins: { template: template(pins) },
    behaviour: { channels: [{ ch: 1, onPower: 'off', ...channel }] },
  } as unknown as Records)
const tried = (view: UnitView) => isTried(view, view.records.behaviour.data.channels[0] as never)

describe('an output that was tried', () => {
  const triedOn = pinsOfChannel(on([relay, button], { tried: true }), 1)
  test('is tried on the pins it hangs on now, in whatever order they stand', () => {
    expect(tried(on([button, relay], { tried: true, triedOn }))).toBe(true)
  })
  test.each([
    ['on another pin', [{ ...relay, pin: 'GPIO5' }, button]],
    ['with the other level', [{ ...relay, active: 'low' }, button]],
    ['with another button', [relay, { ...button, pin: 'GPIO2' }]],
  ])('%s it was not tried, and the step says so', (_, pins) => {
    const view = on(pins, { tried: true, triedOn })
    expect(tried(view)).toBe(false)
    expect(unmet(view, 'behaviour')).toContain('Not tried yet: channel 1.')
  })
  test('a pin of another channel changes nothing of it', () => {
    expect(tried(on([relay, button, { pin: 'GPIO4', fn: 'relay', ch: 2 }], { tried: true, triedOn }))).toBe(true)
  })
  test('an older record, which does not say, counts until the step is stale; one that was not tried does not', () => {
    expect(tried(on([{ ...relay, pin: 'GPIO5' }], { tried: true }))).toBe(true)
    const done = on([relay, button], { tried: true })
    done.records.behaviour.done = {
      at: '2026-11-20T10:00:00Z',
      by: 'bench',
      how: 'done',
      basis: { template: factsOfUnit(done).template },
    }
    expect(tried(done)).toBe(true)
    const moved = on([{ ...relay, pin: 'GPIO5' }, button], { tried: true })
    moved.records.behaviour.done = done.records.behaviour.done
    expect(tried(moved)).toBe(false)
    expect(tried(on([relay, button], { tried: false, triedOn }))).toBe(false)
  })
})
