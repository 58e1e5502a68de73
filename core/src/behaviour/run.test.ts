import fc from 'fast-check'
import { computed } from '../testing/like'
import { type Definition, settled } from './definition'
import { type Entry, runBehaviour, runUnit } from './run'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}
const press = (input: string, from: number, to: number): Entry[] => [
  { t: from, input, level: 1 },
  { t: to, input, level: 0 },
]

describe('worked examples', () => {
  test('short and hold on one button; a bounce is neither', () =>
    expect(
      computed(
        runBehaviour({
          def: {
            channels: [{ ch: 1 }, { ch: 2 }],
            inputs: [{ id: 'wall', debounceMs: 40, holdMs: 900 }],
            rules: [
              { id: 'foot', when: { input: 'wall', event: 'short' }, do: [{ set: 'toggle', ch: 1 }] },
              { id: 'house', when: { input: 'wall', event: 'hold' }, do: [{ set: 'toggle', ch: 2 }] },
            ],
          },
          timeline: [...press('wall', 1000, 1180), ...press('wall', 3000, 4300), ...press('wall', 6000, 6020)],
          until: 10_000,
        }),
      ),
    ).toEqual({
      events: [
        { t: 1220, ch: 1, to: 'on', why: 'foot' },
        { t: 3940, ch: 2, to: 'on', why: 'house' },
      ],
      final: { 1: 'on', 2: 'on' },
      pos: {},
    }))
  test('a lamp by motion, and what is published while the network is away is lost', () =>
    expect(
      computed(
        runBehaviour({
          def: {
            channels: [{ ch: 1 }],
            inputs: [{ id: 'pir' }],
            rules: [
              {
                id: 'lamp',
                when: { input: 'pir', event: 'change' },
                do: [
                  { set: 'on', ch: 1 },
                  { timer: 'hold', ms: 45_000 },
                ],
              },
              { id: 'dark', when: { timer: 'hold' }, do: [{ set: 'off', ch: 1 }] },
              {
                id: 'tell',
                when: { input: 'pir', event: 'change' },
                do: [{ publish: 'corridor/motion', value: '$level' }],
              },
            ],
          },
          timeline: [
            ...press('pir', 1000, 4000),
            { t: 29_000, net: 0 },
            ...press('pir', 30_000, 33_000),
            { t: 60_000, net: 1 },
          ],
          until: 120_000,
        }),
      ).events,
    ).toEqual([
      { t: 1000, ch: 1, to: 'on', why: 'lamp' },
      { t: 1000, publish: 'corridor/motion', value: '1', why: 'tell' },
      { t: 4000, publish: 'corridor/motion', value: '0', why: 'tell' },
      { t: 30_000, publish: 'corridor/motion', value: '1', why: 'tell', lost: true },
      { t: 33_000, publish: 'corridor/motion', value: '0', why: 'tell', lost: true },
      { t: 78_000, ch: 1, to: 'off', why: 'dark' },
    ]))
  test('a latch with a pulse, a power cut, and what comes back', () =>
    expect(
      computed(
        runBehaviour({
          def: {
            bootMs: 350,
            channels: [
              { ch: 1, onPower: 'last' },
              { ch: 2, onPower: 'on' },
              { ch: 3, pulseMs: 800 },
            ],
            inputs: [{ id: 'key' }],
            rules: [
              {
                id: 'open',
                when: { input: 'key', event: 'short' },
                do: [
                  { set: 'on', ch: 3 },
                  { set: 'on', ch: 1 },
                ],
              },
              { id: 'tell', when: { ch: 3, becomes: 'off' }, do: [{ publish: 'cupboard/latch', value: '$ch3' }] },
            ],
          },
          timeline: [...press('key', 500, 700), { t: 5000, mains: 0 }, { t: 7000, mains: 1 }],
          until: 20_000,
        }),
      ),
    ).toEqual({
      events: [
        { t: 500, ch: 3, to: 'on', why: 'open' },
        { t: 500, ch: 1, to: 'on', why: 'open' },
        { t: 1300, ch: 3, to: 'off', why: 'pulse' },
        { t: 1300, publish: 'cupboard/latch', value: 'off', why: 'tell' },
        { t: 5000, ch: 1, to: 'off', why: 'mains-lost' },
        { t: 7350, ch: 1, to: 'on', why: 'power-on-last' },
        { t: 7350, ch: 2, to: 'on', why: 'power-on' },
      ],
      final: { 1: 'on', 2: 'on', 3: 'off' },
      pos: {},
    }))
  test('a curtain that is turned round waits until its motor stands', () =>
    expect(
      computed(
        runBehaviour({
          def: {
            channels: [{ ch: 1 }, { ch: 2 }],
            inputs: [{ id: 'up' }, { id: 'down' }],
            interlock: [{ chs: [1, 2], deadMs: 600 }],
            motors: [{ id: 'curtain', open: 1, close: 2, openMs: 21_000, closeMs: 18_500, marginMs: 400 }],
            rules: [
              { id: 'u', when: { input: 'up', event: 'short' }, do: [{ set: 'toggle', ch: 1 }] },
              { id: 'd', when: { input: 'down', event: 'short' }, do: [{ set: 'toggle', ch: 2 }] },
            ],
          },
          timeline: [...press('up', 0, 150), ...press('down', 8400, 8600)],
          until: 60_000,
        }),
      ),
    ).toEqual({
      events: [
        { t: 0, ch: 1, to: 'on', why: 'u' },
        { t: 8400, ch: 1, to: 'off', why: 'interlock' },
        { t: 8400, motor: 'curtain', pos: 40 },
        { t: 9000, ch: 2, to: 'on', why: 'd' },
        { t: 16_800, ch: 2, to: 'off', why: 'travel-end' },
        { t: 16_800, motor: 'curtain', pos: 0 },
      ],
      final: { 1: 'off', 2: 'off' },
      pos: { curtain: 0 },
    }))
})

describe('bad input', () => {
  const good = {
    def: { channels: [{ ch: 1 }], inputs: [{ id: 'a' }], rules: [] as object[] },
    timeline: [] as object[],
    until: 10,
  }
  const withRule = (rule: object) =>
    fault(runBehaviour({ ...good, def: { ...good.def, rules: [{ id: 'r', when: { boot: true }, do: [], ...rule }] } }))
  const withDef = (more: object) => fault(runBehaviour({ ...good, def: { ...good.def, ...more } }))
  test('a name that is not there, at the value', () => {
    expect(withRule({ do: [{ set: 'on', ch: 4 }] })).toBe('ref /def/rules/0/do/0/ch')
    expect(withRule({ do: [{ cancel: 't' }] })).toBe('ref /def/rules/0/do/0/cancel')
    expect(withRule({ do: [{ publish: 'x', value: '$ch7' }] })).toBe('ref /def/rules/0/do/0/value')
    expect(withRule({ when: { input: 'b', event: 'press' } })).toBe('ref /def/rules/0/when/input')
    expect(withRule({ when: { timer: 't' } })).toBe('ref /def/rules/0/when/timer')
    expect(withRule({ if: [{ net: 'up' }, { timer: 't', is: 'idle' }] })).toBe('ref /def/rules/0/if/1/timer')
    expect(withDef({ inputs: [{ id: 'a', ch: 9 }] })).toBe('ref /def/inputs/0/ch')
    expect(withDef({ inputs: [{ id: 'a', ch: 0 }] })).toBe('ok')
    expect(withDef({ interlock: [{ chs: [1, 2] }] })).toBe('ref /def/interlock/0/chs')
    expect(withDef({ motors: [{ id: 'm', open: 1, close: 3, openMs: 1, closeMs: 1 }] })).toBe('ref /def/motors/0/close')
    expect(fault(runBehaviour({ ...good, timeline: [{ t: 0, input: 'b', level: 1 }] }))).toBe('ref /timeline/0/input')
  })
  test('times', () => {
    expect(fault(runBehaviour({ ...good, timeline: [{ t: 1.5, net: 0 }] }))).toBe('time /timeline/0/t')
    expect(
      fault(
        runBehaviour({
          ...good,
          timeline: [
            { t: 5, net: 0 },
            { t: 4, net: 1 },
          ],
        }),
      ),
    ).toBe('order /timeline/1/t')
    expect(fault(runBehaviour({ ...good, until: -1 }))).toBe('time /until')
    expect(withRule({ do: [{ timer: 't', ms: 0 }] })).toBe('range /def/rules/0/do/0/ms')
  })
  test('rules that set each other off without end', () => {
    const rules = [
      { id: 'a', when: { ch: 1, becomes: 'on' }, do: [{ set: 'off', ch: 1 }] },
      { id: 'b', when: { ch: 1, becomes: 'off' }, do: [{ set: 'on', ch: 1 }] },
      { id: 'c', when: { input: 'a', event: 'press' }, do: [{ set: 'on', ch: 1 }] },
    ]
    const timeline = [{ t: 1, input: 'a', level: 1 }]
    expect(fault(runBehaviour({ ...good, def: { ...good.def, rules }, timeline }))).toMatch(/^loop/)
  })
  test('a field that is missing', () =>
    expect(fault(runBehaviour({ def: {}, timeline: [], until: 1 }))).toMatch(/^shape/))
})

const events = (def: Definition, timeline: Entry[], until = 100_000) => runUnit(settled(def), timeline, until).events
const lamp = (more: object = {}): Definition => ({
  channels: [{ ch: 1 }],
  inputs: [{ id: 'a', ...more }],
  rules: [{ id: 'r', when: { input: 'a', event: 'short' }, do: [{ set: 'toggle', ch: 1 }] }],
})

describe('inputs', () => {
  test('release: short comes with the end of the press', () =>
    expect(events(lamp({ react: 'release', debounceMs: 30 }), press('a', 100, 400)).map((e) => e.t)).toEqual([430]))
  test('a press that goes on while the mains come back is neither short nor hold', () => {
    const def = lamp({ holdMs: 900 })
    const across = [
      { t: 10, mains: 0 as const },
      { t: 20, input: 'a', level: 1 as const },
      { t: 30, mains: 1 as const },
      { t: 60, input: 'a', level: 0 as const },
    ]
    expect(events(def, across)).toEqual([])
    expect(events(def, [...across, ...press('a', 2000, 2100)]).map((e) => e.t)).toEqual([2100])
  })
  test('what the timeline has at a moment comes before what was scheduled for it', () => {
    // Let go in the very moment in which the press would have been accepted: it was none.
    expect(events(lamp({ debounceMs: 40 }), press('a', 100, 140))).toEqual([])
    expect(events(lamp({ debounceMs: 40 }), press('a', 100, 141)).map((e) => e.t)).toEqual([140])
  })
})

describe('timers and interlocks', () => {
  const timers = (policy: 'restart' | 'keep'): Definition => ({
    channels: [{ ch: 1 }],
    inputs: [{ id: 'a' }],
    rules: [
      { id: 'on', when: { input: 'a', event: 'press' }, do: [{ timer: 't', ms: 1000, policy }] },
      { id: 'off', when: { timer: 't' }, do: [{ set: 'toggle', ch: 1 }] },
    ],
  })
  test('restart begins anew, keep does not', () => {
    const twice = [...press('a', 0, 10), ...press('a', 500, 510)]
    expect(events(timers('restart'), twice).map((e) => e.t)).toEqual([1500])
    expect(events(timers('keep'), twice).map((e) => e.t)).toEqual([1000])
  })
  test('who waits for a dead time is switched off by a second press, and never comes on', () => {
    const def: Definition = {
      channels: [{ ch: 1 }, { ch: 2 }],
      inputs: [{ id: 'up' }, { id: 'down' }],
      interlock: [{ chs: [1, 2], deadMs: 500 }],
      rules: [
        { id: 'u', when: { input: 'up', event: 'press' }, do: [{ set: 'toggle', ch: 1 }] },
        { id: 'd', when: { input: 'down', event: 'press' }, do: [{ set: 'toggle', ch: 2 }] },
      ],
    }
    const line = [...press('up', 0, 10), ...press('down', 1000, 1010), ...press('down', 1200, 1210)]
    expect(events(def, line)).toEqual([
      { t: 0, ch: 1, to: 'on', why: 'u' },
      { t: 1000, ch: 1, to: 'off', why: 'interlock' },
    ])
  })
  test('two of one group are never on together, and never closer than the dead time', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            t: fc.nat(20_000),
            input: fc.constantFrom('a', 'b'),
            level: fc.constantFrom(0 as const, 1 as const),
          }),
          { maxLength: 40 },
        ),
        (raw) => {
          const def: Definition = {
            channels: [{ ch: 1 }, { ch: 2, onPower: 'last' }],
            inputs: [{ id: 'a', debounceMs: 20 }, { id: 'b' }],
            interlock: [{ chs: [1, 2], deadMs: 300 }],
            rules: [
              { id: 'x', when: { input: 'a', event: 'change' }, do: [{ set: 'toggle', ch: 1 }] },
              { id: 'y', when: { input: 'b', event: 'short' }, do: [{ set: 'on', ch: 2 }] },
              { id: 'z', when: { input: 'b', event: 'release' }, do: [{ set: 'toggle', ch: 2 }] },
            ],
          }
          const on = new Set<number>()
          const offAt = new Map<number, number>()
          for (const e of events(
            def,
            [...raw].sort((p, q) => p.t - q.t),
          )) {
            if (!('ch' in e)) continue
            if (e.to === 'off') {
              on.delete(e.ch)
              offAt.set(e.ch, e.t)
              continue
            }
            on.add(e.ch)
            expect(on.size).toBe(1)
            expect(e.t - (offAt.get(3 - e.ch) ?? -300)).toBeGreaterThanOrEqual(300)
          }
        },
      ),
    ))
})

test('what happens up to a moment is the same however far it is run', () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.record({ t: fc.nat(9000), input: fc.constant('a'), level: fc.constantFrom(0 as const, 1 as const) }),
        { maxLength: 30 },
      ),
      fc.nat(10_000),
      (raw, cut) => {
        const def = { ...lamp({ debounceMs: 35, holdMs: 700 }), channels: [{ ch: 1, pulseMs: 400 }] }
        const line = [...raw].sort((p, q) => p.t - q.t)
        const whole = events(def, line, 10_000)
        expect(events(def, line, 10_000)).toEqual(whole)
        expect(events(def, line, cut)).toEqual(whole.filter((e) => e.t <= cut))
      },
    ),
  ))
