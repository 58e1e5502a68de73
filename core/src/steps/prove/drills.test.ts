import type { PinTemplate } from '../../pins/template'
import { type Records, unit } from '../../testing/a-unit'
import { drillFindings, drillOrder, predictDrill } from './drills'
import { drills } from './record'

const template = (button = true): PinTemplate =>
  ({
    format: 'fresh-coat/pin-template',
    version: 1,
    board: 'P1',
    family: 'LX106',
    pins: [
      { pin: 'GPIO12', fn: 'relay', ch: 1, active: 'high' },
      ...(button ? [{ pin: 'GPIO0', fn: 'button', ch: 1, active: 'low' }] : []),
    ],
  }) as PinTemplate
const channel = (more: object = {}) => ({ ch: 1, onPower: 'off' as const, pulseMs: 0, load: null, ...more })
const plug = (channels: object[], more: Records = {}, button = true) =>
  unit({ pins: { template: template(button) }, behaviour: { channels } as never, ...more })
const only = (view: ReturnType<typeof plug>, drill: (typeof drills)[number]) => {
  const channels = predictDrill(view, drill)?.channels ?? []
  expect(channels).toHaveLength(1)
  return channels[0]
}

describe('what is predicted when something goes away', () => {
  test.each<['off' | 'on' | 'last', string]>([
    ['off', 'off'],
    ['on', 'on'],
    ['last', 'as before'],
  ])('a unit set to come back %s comes back %s after a power cut', (onPower, after) =>
    expect(only(plug([channel({ onPower })]), 'mains-off')).toMatchObject({ after, local: false }),
  )
  test('at a load on the contact that is closed at rest it is the other way round', () => {
    const load = { contact: 'NC', kind: 'modem', wayOut: false, attended: false }
    expect(only(plug([channel({ onPower: 'off', load })]), 'mains-off')).toMatchObject({
      after: 'off',
      loadAfter: 'on',
      meanwhile: 'its load is on',
    })
  })
  test('without Wi-Fi, broker, hub or internet its button still works, and it stays as it is', () => {
    for (const drill of drills.filter((d) => d !== 'mains-off'))
      expect(only(plug([channel({ onPower: 'on' })]), drill)).toEqual({
        ch: 1,
        local: true,
        meanwhile: '',
        after: 'as before',
        loadAfter: null,
      })
  })
  test('one with nothing to press has no say of its own', () =>
    expect(only(plug([channel()], {}, false), 'wifi-off')?.local).toBeNull())
  test('a rule that ends it when the network is gone is told with its time, and what it is after', () => {
    const rules = [{ id: 'r', when: { net: 'down' }, do: [{ set: 'off', ch: 1 }] }]
    const view = unit({
      pins: { template: template() },
      behaviour: { channels: [channel({ onPower: 'on' })], rules } as never,
    })
    expect(only(view, 'wifi-off')).toMatchObject({ meanwhile: 'it goes off after 0 s', after: 'off' })
    expect(only(view, 'hub-off')).toMatchObject({ meanwhile: '', after: 'as before' })
  })
  test('stock firmware loses its cloud with the internet, unless that is blocked anyway', () => {
    const local = (cloudBlocked: 'yes' | 'no') =>
      plug([channel()], {
        arrive: { route: 'local-control' },
        hub: { local: { deviceId: '', keySecret: null, protocol: '', cloudBlocked, blockedOn: null } },
      })
    expect(predictDrill(local('no'), 'internet-off')?.lost).toHaveLength(1)
    expect(predictDrill(local('yes'), 'internet-off')?.lost).toEqual([])
    expect(drillOrder(local('no'))[1]).toBe('internet-off')
  })
  test('nothing is predicted of a unit whose pins nobody knows', () =>
    expect(predictDrill(unit({}, { board: null }), 'wifi-off')).toBeNull())
  test.each<[string, boolean]>([
    ['heater', true],
    ['latch-unlocks', true],
    ['motor', true],
    ['lamp', false],
  ])('%s: somebody beside it %s', (kind, guarded) => {
    const load = { contact: 'NO', kind, wayOut: false, attended: true }
    expect(predictDrill(plug([channel({ load })]), 'wifi-off')?.guarded).toBe(guarded)
  })
})

describe('what went otherwise', () => {
  const tried = (as: 'predicted' | 'otherwise', seen = '') => ({
    drill: 'wifi-off' as const,
    on: '2026-11-20',
    as,
    seen,
    seconds: null,
  })
  test('is a finding until the same drill goes as predicted', () => {
    const odd = unit({ prove: { drills: [tried('otherwise', 'it went dark')] } })
    expect(drillFindings(odd).map((f) => [f.code, f.message])).toEqual([
      ['drill-wifi-off', 'The Wi-Fi off for 10 minutes: it did otherwise than its rules say. it went dark'],
    ])
    expect(drillFindings(unit({ prove: { drills: [tried('otherwise', 'x'), tried('predicted')] } }))).toEqual([])
  })
})
