import fc from 'fast-check'
import { utf8 } from '../bytes/text'
import { Listener, type LiveUnit } from './listener'
import { fill, filtersOf, Mapping, ownMapping, readMapping } from './mapping'
import { escaped, jsonOf, pointed, textOf } from './payload'
import { hear, silentState, standingAt, usualGap } from './standing'

const decode = (bytes: Uint8Array): string | null => {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return null
  }
}
declare const TextDecoder: new (label: string, options: { fatal: boolean }) => { decode: (b: Uint8Array) => string }

describe('payloads of strangers', () => {
  test.each<[string, string, Uint8Array, string]>([
    ['64 KiB and one byte', 'a/b', new Uint8Array(65_537), 'too-large'],
    ['a topic of 201 bytes', 'é'.repeat(101), utf8('1'), 'topic'],
    ['half a character', 'a/b', Uint8Array.of(0xc3), 'utf8'],
  ])('%s are not read', (_, topic, bytes, because) =>
    expect(textOf(topic, bytes, decode)).toEqual({ ok: false, because }),
  )
  test.each<[string, string, string]>([
    ['33 levels', `${'['.repeat(33)}${']'.repeat(33)}`, 'nesting'],
    ['2001 keys', `{${Array.from({ length: 2001 }, (_, i) => `"k${i}":1`).join(',')}}`, 'keys'],
    ['a number that is none', 'NaN', 'json'],
    ['half an object', '{"a":', 'json'],
  ])('JSON with %s is refused', (_, text, because) => expect(jsonOf(text)).toEqual({ ok: false, because }))
  test('signs inside texts count for nothing', () => {
    expect(jsonOf(JSON.stringify({ a: `${'[:'.repeat(3000)}"\\` })).ok).toBe(true)
    expect(jsonOf(`${'['.repeat(32)}${']'.repeat(32)}`).ok).toBe(true)
  })
  test('whatever comes, reading it never throws, and what is kept of it holds nothing that acts', () =>
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
        const text = textOf('a', bytes, decode)
        if (text.ok) jsonOf(text.text)
        expect(escaped(bytes)).toMatch(/^([ -[\]-~]|\\x[0-9a-f]{2})*$/)
      }),
    ))
  test('a pointer finds what it names, escapes and places of lists too; names of prototypes are data', () => {
    const value = JSON.parse('{"a/b":{"~":[10,{"x":1}]},"__proto__":{"y":2}}')
    expect(pointed(value, '/a~1b/~0/1/x')).toBe(1)
    expect(pointed(value, '/a~1b/~0/01')).toBeUndefined()
    expect(pointed(value, '/__proto__/y')).toBe(2)
    expect(pointed({}, '/constructor')).toBeUndefined()
    expect(pointed(7, '')).toBe(7)
  })
})

describe('a mapping', () => {
  const other = Mapping.parse({
    will: false,
    usualS: 30,
    rules: [
      {
        pattern: 'shed/{unit}/{n:int}',
        periodic: true,
        fields: [
          { to: 'fw', ptr: '/sys/ver' },
          { to: 'channel/{n}/on', ptr: '/out', true: ['ON', 1, true], false: ['OFF', 0, false] },
          { to: 'rssi', ptr: '/net/dbm', min: -120, max: 0, scale: 1 },
        ],
      },
    ],
  })
  test('fills fields by their pointers; a value that fits no rule is counted and guessed by nobody', () => {
    const [rule] = readMapping(other).rules
    const of = (payload: unknown) => fill(rule?.fields ?? [], { n: 2 }, payload)
    expect(of({ sys: { ver: '2.3' }, out: 'ON', net: { dbm: -61 } })).toEqual({
      filled: [
        { field: 'fw', value: '2.3', event: false },
        { field: 'channel/2/on', value: true, event: false },
        { field: 'rssi', value: -61, event: false },
      ],
      unmapped: 0,
    })
    expect(of({ out: 'Open', net: { dbm: 12 } })).toEqual({ filled: [], unmapped: 2 })
    expect(of({ other: 1 })).toEqual({ filled: [], unmapped: 0 })
    expect(of('text')).toEqual({ filled: [], unmapped: 0 })
  })
  test('asks for no more than its patterns name, and never for everything', () => {
    const filters = filtersOf([ownMapping, other], { base: 'yard', site: 'lantern' })
    expect(filters).toEqual([
      'shed/+/+',
      'yard/lantern/+/+/event',
      'yard/lantern/+/+/set',
      'yard/lantern/+/+/state',
      'yard/lantern/+/health',
      'yard/lantern/+/meter',
      'yard/lantern/+/online',
      'yard/lantern/+/power',
    ])
    const bare = Mapping.parse({ rules: [{ pattern: '{a}/{unit}', fields: [{ to: 'x', ptr: '' }] }] })
    expect(filtersOf([bare], {})).toEqual([])
  })
  test('without a unit in its pattern, or with a pattern that is none, is refused', () => {
    const of = (pattern: string) => Mapping.safeParse({ rules: [{ pattern, fields: [{ to: 'x', ptr: '' }] }] }).success
    expect([of('a/{b}'), of('a/{unit'), of('a/#/{unit}'), of('a/{unit}')]).toEqual([false, false, false, true])
  })
})

const minute = 60_000
describe('a unit over time', () => {
  const own = { will: true, usualS: 60 }
  const said = (at: number, fields: Record<string, string | number | boolean>, more = {}) => ({
    at,
    retained: false,
    periodic: true,
    filled: Object.entries(fields).map(([field, value]) => ({ field, value, event: false })),
    ...more,
  })
  test('what was retained is a state and nothing more: nobody was heard, nothing happened', () => {
    const state = silentState()
    expect(hear(state, said(0, { online: true, 'channel/1/on': true, upS: 5 }, { retained: true }))).toEqual([])
    expect([state.online, state.heardAt, state.fields['channel/1/on']?.value]).toEqual([true, null, true])
    expect(standingAt(state, own, 9 * minute).presence).toBe('online')
  })
  test('its usual gap is the median of what was heard, the profile’s until there are five', () => {
    const state = silentState()
    for (const at of [0, 10, 20, 30, 40]) hear(state, said(at * 1000, { P: 1 }))
    expect(usualGap(state, own)).toBe(60)
    hear(state, said(140_000, { P: 1 }))
    expect(usualGap(state, own)).toBe(10)
  })
  test('silence is judged by its own rhythm, by ninety seconds at least, and is over when it speaks', () => {
    const state = silentState()
    hear(state, said(0, { online: true }, { periodic: false }))
    for (let i = 0; i <= 10; i++) hear(state, said(i * 40_000, { P: 1 }))
    const last = 400_000
    expect(standingAt(state, own, last)).toMatchObject({ usualS: 40, staleAt: last + 120_000 })
    expect(standingAt(state, own, last + 119_999).presence).toBe('online')
    expect(standingAt(state, own, last + 120_000).presence).toBe('stale')
    hear(state, said(last + 130_000, { P: 1 }))
    expect(standingAt(state, own, last + 130_000).presence).toBe('online')
  })
  test('a switch with a will may be silent for a week; one without a will may not', () => {
    const state = silentState()
    hear(state, said(0, { online: true }, { periodic: false }))
    expect(standingAt(state, own, 7 * 24 * 60 * minute).presence).toBe('online')
    expect(standingAt(state, { will: false, usualS: 60 }, 3 * minute).presence).toBe('stale')
    expect(standingAt(state, { will: false, usualS: 60 }, 2 * minute).presence).toBe('online')
  })
  test('four times in ten minutes is a flutter, which ends after half an hour of calm', () => {
    const state = silentState()
    const kinds = [0, 1, 2, 3, 4].flatMap((i) =>
      hear(state, said(i * minute, { online: i % 2 === 0 })).map((h) => h.kind),
    )
    expect(kinds).toEqual(['online', 'offline', 'online', 'offline', 'online', 'flapping'])
    expect(standingAt(state, own, 33 * minute).flapping).toBe(true)
    expect(standingAt(state, own, 34 * minute).flapping).toBe(false)
  })
  test('an uptime that falls is a restart, with another firmware an update', () => {
    const state = silentState()
    hear(state, said(0, { upS: 500, fw: '1.4.0' }))
    expect(hear(state, said(1000, { upS: 501, fw: '1.4.0' }))).toEqual([])
    expect(hear(state, said(2000, { upS: 3, fw: '1.4.0' }))).toEqual([{ at: 2000, kind: 'restart' }])
    expect(hear(state, said(3000, { upS: 1, fw: '1.5.1' }))).toEqual([
      { at: 3000, kind: 'update', field: 'fw', value: '1.5.1', was: '1.4.0' },
    ])
    expect(state.restarts).toBe(2)
  })
  test('its own clock is kept beside and orders nothing', () => {
    const state = silentState()
    hear(state, said(Date.parse('2026-05-12T10:00:00Z'), { at: '2026-05-12T10:05:00Z' }))
    expect(state.skewS).toBe(300)
    expect(state.heardAt).toBe(Date.parse('2026-05-12T10:00:00Z'))
  })
  test('a press is told each time, a state only when it changes', () => {
    const state = silentState()
    const press = {
      at: 1,
      retained: false,
      periodic: false,
      filled: [{ field: 'channel/1/event', value: 'press', event: true }],
    }
    expect([...hear(state, press), ...hear(state, { ...press, at: 2 })].map((h) => h.at)).toEqual([1, 2])
    expect(hear(state, said(3, { 'channel/1/on': true }))).toHaveLength(1)
    expect(hear(state, said(4, { 'channel/1/on': true }))).toHaveLength(0)
  })
})

describe('the listener', () => {
  const plug: LiveUnit = { id: 'u7', slug: 'glue-pot-7', mapping: 0 }
  const make = () => {
    const l = new Listener(decode)
    l.plan([readMapping(ownMapping)], [plug])
    return l
  }
  const message = (topic: string, text: string, at: number, more = {}) => ({
    topic,
    bytes: utf8(text),
    retained: false,
    dup: false,
    at,
    ...more,
  })
  const at = 'yard/lantern/glue-pot-7'
  test('knows a unit by its topic, sums its hour, and tells what changed once', () => {
    const l = make()
    l.take(message(`${at}/online`, '1', 1000))
    l.take(message(`${at}/meter`, '{"V":230,"I":1,"P":200,"E":3.5}', 2000))
    l.take(message(`${at}/power`, '100', 3000))
    l.take(message(`${at}/1/state`, 'true', 4000))
    const d = l.drain(4000)
    expect(d.units.map((u) => [u.id, u.standing.presence, u.state.fields.P?.value])).toEqual([['u7', 'online', 100]])
    expect(d.happenings.map((h) => h.kind)).toEqual(['online', 'state'])
    expect(d.hours).toEqual([
      { unit: 'u7', hour: 0, messages: 4, readings: 2, sumW: 300, mostW: 200, firstKWh: 3.5, lastKWh: 3.5 },
    ])
    expect(l.drain(4000)).toEqual({ units: [], happenings: [], hours: [], senders: [], dropped: {} })
  })
  test('collects senders that nobody planned, by their topic', () => {
    const l = make()
    l.take(message('yard/lantern/who-is-it/online', '1', 1))
    l.take(message('yard/lantern/who-is-it/2/state', 'true', 2))
    l.take(message('elsewhere/x', '1', 3))
    expect(l.drain(3).senders).toEqual([{ prefix: 'yard/lantern/who-is-it', at: 2, messages: 2, sample: 'true' }])
  })
  test('a flood of one unit loses readings and no state; the rest is counted', () => {
    const l = make()
    for (let i = 0; i < 200; i++) l.take(message(`${at}/power`, String(i), 5000 + i))
    l.take(message(`${at}/1/state`, 'true', 5300))
    expect(l.counts.rate).toBe(150)
    expect(l.drain(5300).units[0]?.state.fields['channel/1/on']?.value).toBe(true)
  })
  test('a message delivered twice is one press', () => {
    const l = make()
    l.take(message(`${at}/1/event`, '"press"', 0))
    l.take(message(`${at}/1/event`, '"press"', 500, { dup: true }))
    l.take(message(`${at}/1/event`, '"press"', 900))
    expect(l.drain(900).happenings).toHaveLength(2)
    expect(l.counts.repeat).toBe(1)
  })
  test('falling silent is told by the clock alone', () => {
    const l = make()
    l.take(message(`${at}/health`, '{"upS":4}', 0))
    l.drain(0)
    l.look(100_000)
    expect(l.drain(100_000).units).toHaveLength(0)
    l.look(180_000)
    expect(l.drain(180_000).units[0]?.standing.presence).toBe('stale')
  })
  test('whenever it is emptied, nothing is lost and nothing counted twice: sums add up, happenings stay in order', () =>
    fc.assert(
      fc.property(
        fc.array(fc.record({ w: fc.integer({ min: 0, max: 3000 }), on: fc.boolean(), emptied: fc.boolean() }), {
          maxLength: 40,
        }),
        (acts) => {
          const l = make()
          const written = { messages: 0, sumW: 0, order: [] as number[] }
          const keep = (d: ReturnType<Listener['drain']>) => {
            for (const h of d.hours) {
              written.messages += h.messages
              written.sumW += h.sumW
            }
            written.order.push(...d.happenings.map((h) => h.at))
          }
          acts.forEach(({ w, on, emptied }, i) => {
            l.take(message(`${at}/power`, String(w), i * 2000))
            l.take(message(`${at}/1/state`, String(on), i * 2000 + 1))
            if (emptied) keep(l.drain(i * 2000 + 2))
          })
          keep(l.drain(1e6))
          expect(written.messages).toBe(2 * acts.length)
          expect(written.sumW).toBe(acts.reduce((n, a) => n + a.w, 0))
          expect(written.order).toEqual([...written.order].sort((a, b) => a - b))
          expect(written.order).toHaveLength(acts.filter((a, i) => a.on !== acts[i - 1]?.on).length)
        },
      ),
    ))
  test('what was taken out stays as it was, whatever is heard while it is written', () => {
    const l = make()
    l.take(message(`${at}/health`, '{"upS":9000,"rssi":-60}', 0))
    for (let i = 0; i < 6; i++) l.take(message(`${at}/online`, String(i % 2), 100 + i))
    const d = l.drain(200)
    const before = JSON.stringify(d)
    expect(d.units[0]?.state).toMatchObject({ restarts: 0, fields: { upS: { value: 9000, at: 0 } } })
    // All that a state holds changes: fields that were there, a new one, a restart, its coming and going, beats and gaps.
    l.take(message(`${at}/health`, '{"upS":4,"rssi":-70}', 60_000))
    l.take(message(`${at}/1/state`, 'true', 61_000))
    for (let i = 0; i < 6; i++) l.take(message(`${at}/online`, String(i % 2), 62_000 + i))
    l.look(3_000_000)
    expect(JSON.stringify(d)).toBe(before)
    const later = l.drain(3_000_000)
    expect(later.units[0]?.state).toMatchObject({ restarts: 1, fields: { 'channel/1/on': { value: true } } })
    expect(later.happenings.map((h) => h.kind)).toEqual(expect.arrayContaining(['restart', 'state']))
  })
  test('happenings beyond ten thousand push the oldest out, and that is said', () => {
    const l = make()
    for (let i = 0; i < 10_050; i++) l.take(message(`${at}/1/state`, String(i % 2 === 0), i * 1000))
    const d = l.drain(2e7)
    expect([d.happenings.length, d.dropped.happenings, d.happenings[0]?.at]).toEqual([10_000, 50, 50_000])
  })
  test('another plan keeps what was heard of units that stay, and forgets those that went', () => {
    const l = make()
    l.take(message(`${at}/1/state`, 'true', 1))
    l.plan([readMapping(ownMapping)], [{ ...plug, slug: 'glue-pot' }])
    l.take(message(`${at}/1/state`, 'false', 2))
    l.take(message('yard/lantern/glue-pot/power', '5', 3))
    const d = l.drain(3)
    expect(d.units[0]?.state.fields['channel/1/on']?.value).toBe(true)
    expect(d.units[0]?.state.fields.P?.value).toBe(5)
    expect(d.senders.map((s) => s.prefix)).toEqual([at])
    l.plan([readMapping(ownMapping)], [])
    expect(l.drain(4).units).toEqual([])
  })
  test('refused payloads are counted by reason, and the last is kept to look at', () => {
    const l = make()
    l.take(message(`${at}/health`, '{"fw":"<b>', 1))
    l.take({ ...message(`${at}/health`, '', 2), bytes: Uint8Array.of(0xff, 0x00) })
    expect(l.counts).toEqual({ json: 1, utf8: 1 })
    expect(l.lastRefused).toMatchObject({ because: 'utf8', sample: '\\xff\\x00' })
  })
})

describe('what somebody asks of a unit', () => {
  const asking = (listener: Listener, retained = false, at = 1000) =>
    listener.take({
      topic: 'yard/lantern/glue-pot/1/set',
      bytes: Uint8Array.from([0x74, 0x72, 0x75, 0x65]),
      retained,
      dup: false,
      at,
    })
  const planned = () => {
    const listener = new Listener(decode)
    listener.plan([readMapping(ownMapping)], [{ id: 'u7', slug: 'glue-pot', mapping: 0 }])
    return listener
  }
  test('is told, and says nothing of its being there', () => {
    const listener = planned()
    expect(asking(listener)).toBeNull()
    const { happenings, units } = listener.drain(1000)
    expect(happenings).toEqual([{ unit: 'u7', at: 1000, kind: 'asked', field: 'channel/1/on', value: true }])
    expect(units).toEqual([])
  })
  test('kept by the broker it was asked some other time: nothing happened', () => {
    const listener = planned()
    asking(listener, true)
    expect(listener.drain(1000).happenings).toEqual([])
  })
  test('of a unit that nobody planned makes no sender of whoever asks', () => {
    const listener = new Listener(decode)
    listener.plan([readMapping(ownMapping)], [])
    asking(listener)
    expect(listener.drain(1000).senders).toEqual([])
  })
})
