import fc from 'fast-check'
import { computed } from '../testing/like'
import { type LoadChannel, loadStates, phases, statesOf } from './states'

const modem: LoadChannel = {
  ch: 1,
  contact: 'NC',
  active: 'high',
  bootLevel: 'ru',
  start: 'off',
  localInput: true,
  load: { kind: 'modem' },
}
/** Nothing speaks against it. */
const plain: LoadChannel = {
  ch: 1,
  contact: 'NO',
  active: 'high',
  bootLevel: 'r0',
  start: 'off',
  localInput: true,
  load: { kind: 'other' },
}
const run = (...channels: object[]) => computed(loadStates({ channels }))
const of = (state: Record<string, string>) => phases.map((p) => state[p])
const told = (more: object, load: object) =>
  run({ ...plain, ...more, load }).findings.map((f) => `${f.severity} ${f.code}`)

test('the worked example', () => {
  const { channels, findings } = run(modem)
  expect(of(channels[0]?.coil ?? {})).toEqual(['off', 'maybe', 'off', 'held', 'held'])
  expect(of(channels[0]?.load ?? {})).toEqual(['on', 'maybe', 'on', 'held', 'held'])
  expect(findings.map((f) => [f.code, f.severity, f.at])).toEqual([['modem-blink', 'watch', 'ch1']])
})

describe('the coil', () => {
  test.each<[LoadChannel['active'], LoadChannel['bootLevel'], string, string]>([
    ['high', 'r1', 'on', 'maybe'],
    ['high', 'ru', 'maybe', 'maybe'],
    ['high', 'r0', 'off', 'held'],
    ['high', 'rz', 'maybe', 'maybe'],
    ['low', 'r1', 'off', 'held'],
    ['low', 'ru', 'off', 'held'],
    ['low', 'r0', 'on', 'maybe'],
    ['low', 'rz', 'maybe', 'maybe'],
  ])('active %s, %s at power-up: %s, and %s where it latches', (active, bootLevel, boot, latched) => {
    expect(statesOf({ ...plain, active, bootLevel }).coil.booting).toBe(boot)
    expect(statesOf({ ...plain, active, bootLevel, latching: true }).coil.booting).toBe(latched)
  })
  test('without supply it lets go, unless it latches', () => {
    expect(statesOf(plain).coil.unpowered).toBe('off')
    expect(statesOf({ ...plain, latching: true }).coil.unpowered).toBe('held')
  })
})

describe('what speaks against it', () => {
  test('nothing against a lamp that stays off and has a button', () => expect(told({}, { kind: 'lamp' })).toEqual([]))
  test.each<[string, object, object, string[]]>([
    ['a heater whose pin floats', { bootLevel: 'rz' }, { kind: 'heater' }, ['watch heater-hung', 'error heater-on']],
    [
      'with somebody beside it',
      { bootLevel: 'rz' },
      { kind: 'heater', attended: true },
      ['watch heater-hung', 'watch heater-on'],
    ],
    ['a motor that starts on', { start: 'on' }, { kind: 'motor' }, ['error heater-on']],
    [
      'a pump at a closed contact',
      { contact: 'NC', bootLevel: 'r1', start: 'on' },
      { kind: 'pump' },
      ['error dead-on', 'watch heater-hung'],
    ],
    ['a motor that comes back as it was', { start: 'last' }, { kind: 'motor' }, ['error last-unsafe']],
    ['attended', { start: 'last' }, { kind: 'motor', attended: true }, []],
    ['a motor on a latching relay', { latching: true }, { kind: 'motor' }, ['error last-unsafe']],
    ['a fan is not hot', { bootLevel: 'rz' }, { kind: 'fan' }, []],
    ['a modem at an open contact', { bootLevel: 'r1', start: 'on' }, { kind: 'modem' }, ['watch modem-dark']],
    ['a modem that comes back as it was', { contact: 'CO-NC', start: 'last' }, { kind: 'modem' }, ['watch modem-dark']],
    ['a modem off at power-up', { contact: 'NC', bootLevel: 'r1' }, { kind: 'modem' }, ['watch modem-blink']],
    ['a modem needs no button', { contact: 'NC', localInput: false }, { kind: 'modem' }, []],
    [
      'a latch that locks, on a way out',
      {},
      { kind: 'latch-locks', wayOut: true },
      ['error latch-hung', 'error latch-shut'],
    ],
    [
      'one that unlocks, fed without supply',
      { contact: 'NC' },
      { kind: 'latch-unlocks', wayOut: true },
      ['error latch-hung', 'error latch-shut'],
    ],
    [
      'one that unlocks, held',
      { latching: true },
      { kind: 'latch-unlocks', wayOut: true },
      ['error latch-hung', 'error latch-shut'],
    ],
    ['one that unlocks and lets go', {}, { kind: 'latch-unlocks', wayOut: true }, ['error latch-hung']],
    ['on no way out', {}, { kind: 'latch-locks' }, ['watch latch-hung']],
    ['a lamp that flashes', { bootLevel: 'r1' }, { kind: 'lamp' }, ['ok lamp-flash']],
    ['no button', { localInput: false }, { kind: 'other' }, ['watch no-local']],
  ])('%s', (_, more, load, codes) => expect(told(more, load)).toEqual(codes))
})

test.each<[string, object, string, string]>([
  ['no channel', { channels: [] }, 'empty', '/channels'],
  ['nothing', {}, 'input', '/channels'],
  ['a channel twice', { channels: [plain, plain] }, 'conflict', '/channels/1/ch'],
  ['channel 0', { channels: [{ ...plain, ch: 0 }] }, 'range', '/channels/0/ch'],
  ['an unknown load', { channels: [{ ...plain, load: { kind: 'kettle' } }] }, 'input', '/channels/0/load/kind'],
  [
    'nobody saying whether there is a button',
    { channels: [{ ...plain, localInput: undefined }] },
    'input',
    '/channels/0/localInput',
  ],
])('%s is refused', (_, input, code, path) =>
  expect(loadStates(input)).toMatchObject({ ok: false, faults: [{ code, path }] }),
)

const anyChannel: fc.Arbitrary<LoadChannel> = fc.record({
  ch: fc.integer({ min: 1, max: 12 }),
  contact: fc.constantFrom('NO', 'NC', 'CO-NO', 'CO-NC'),
  active: fc.constantFrom('high', 'low'),
  bootLevel: fc.constantFrom('r1', 'ru', 'r0', 'rz'),
  start: fc.constantFrom('on', 'off', 'last'),
  latching: fc.boolean(),
  localInput: fc.boolean(),
  load: fc.record({
    kind: fc.constantFrom('lamp', 'heater', 'motor', 'latch-unlocks', 'latch-locks', 'modem', 'pump', 'fan', 'other'),
    wayOut: fc.boolean(),
    attended: fc.boolean(),
  }),
})
test('channels come by number, findings by channel and code; somebody beside a load never makes it worse', () =>
  fc.assert(
    fc.property(fc.uniqueArray(anyChannel, { minLength: 1, maxLength: 6, selector: (c) => c.ch }), (channels) => {
      const { channels: out, findings } = run(...channels)
      expect(out.map((c) => c.ch)).toEqual(channels.map((c) => c.ch).sort((a, b) => a - b))
      const keys = findings.map((f) => [Number(f.at.slice(2)), f.code] as const)
      expect(keys).toEqual([...keys].sort((a, b) => a[0] - b[0] || (a[1] < b[1] ? -1 : 1)))
      const errors = (attended: boolean) =>
        run(...channels.map((c) => ({ ...c, load: { ...c.load, attended } }))).findings.filter(
          (f) => f.severity === 'error',
        ).length
      expect(errors(true)).toBeLessThanOrEqual(errors(false))
    }),
  ))
