import fc from 'fast-check'
import { commandCodes, type LinkCommand } from './codes'
import { drain, type Effect, exchange, type Flow, fence, newLine, reportOf } from './flow'
import { request } from './identity'
import { slipEncode } from './slip'

/** An answer of a later ROM, framed. */
function answer(command: LinkCommand, value = 0, failed = 0): Uint8Array {
  const packet = new Uint8Array(12)
  const view = new DataView(packet.buffer)
  view.setUint8(0, 1)
  view.setUint8(1, commandCodes[command])
  view.setUint16(2, 4, true)
  view.setUint32(4, value, true)
  if (failed) packet.set([1, failed], 8)
  return slipEncode(packet)
}
const joined = (...parts: Uint8Array[]) => Uint8Array.from(parts.flatMap((p) => [...p]))
const eightSyncs = joined(...Array.from({ length: 8 }, () => answer('sync', 0x20120707)))

/**
 * Plays a flow against a line of the test's own: `heard` gives what comes back for each request that is sent, in pieces; what
 * is not there is silence, and time passes.
 */
function play<T>(
  flow: Flow<T>,
  heard: (sent: Uint8Array, count: number) => readonly Uint8Array[],
  first: Uint8Array[] = [],
) {
  const waiting = [...first]
  const effects: Effect[] = []
  let [time, sent] = [0, 0]
  let at = flow.next()
  for (let steps = 0; !at.done; steps++) {
    if (steps > 5000) throw new Error('it never ends')
    const effect = at.value
    effects.push(effect)
    if (effect.do === 'send') waiting.push(...heard(effect.bytes, ++sent))
    if (effect.do === 'read') {
      const bytes = waiting.shift()
      time += bytes ? 1 : effect.withinMs
      at = flow.next({ bytes: bytes ?? new Uint8Array(0) })
    } else at = flow.next(effect.do === 'now' ? { now: time } : { done: true })
  }
  return { value: at.value, effects, sent, time }
}
const isSync = (bytes: Uint8Array) => bytes[2] === 0x08
const readMagic = request('read-register', 0x40001000)
const synced = () => ({ ...newLine(115_200, 400), statusBytes: 4 as const })

describe('the fence', () => {
  test('takes one of eight sync answers, drops the others, and learns how long a status is', () => {
    const line = newLine(115_200, 400)
    expect(play(fence(line, 5), () => [eightSyncs]).value).toBe(true)
    expect([line.statusBytes, line.rest.length]).toEqual([4, 0])
    const old = newLine(115_200, 400)
    const short = slipEncode(Uint8Array.from([1, 8, 2, 0, 7, 7, 0x12, 0x20, 0, 0]))
    play(fence(old, 5), () => [short])
    expect(old.statusBytes).toBe(2)
  })
  test('calls as often as it is told and no more', () => {
    const { value, sent } = play(fence(newLine(115_200, 400), 7), () => [])
    expect([value, sent]).toEqual([false, 7])
  })
  test('an answer that was on its way when it began is none of what is asked behind it', () => {
    const line = synced()
    // The first request is answered only after it was given up: its value comes in front of the sync's answer.
    const { value } = play(exchange(line, readMagic, 5), (bytes, n) => {
      if (isSync(bytes)) return [joined(answer('read-register', 1), eightSyncs)]
      return n === 1 ? [] : [answer('read-register', 2)]
    })
    expect(value).toMatchObject({ kind: 'answer', answer: { value: 2 } })
    expect(line.counts.retries).toBe(1)
  })
  test('a line that never falls quiet is not waited for without end', () => {
    const noise = Array.from({ length: 4000 }, () => Uint8Array.of(0x41))
    expect(play(drain(synced()), () => [], noise).time).toBeLessThan(2100)
  })
})

describe('an exchange', () => {
  test('an answer may come in any pieces', () =>
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 13 }), { maxLength: 6 }), fc.nat(0xffffffff), (cuts, word) => {
        const whole = answer('read-register', word)
        const at = [...new Set([0, ...cuts.filter((c) => c < whole.length), whole.length])].sort((a, b) => a - b)
        const pieces = at.slice(1).map((to, i) => whole.subarray(at[i], to))
        expect(play(exchange(synced(), readMagic, 3), () => pieces).value).toMatchObject({ answer: { value: word } })
      }),
    ))
  test('an answer to something else is not taken for it', () => {
    const { value } = play(exchange(synced(), readMagic, 3), () => [
      joined(answer('flash-read', 9), answer('read-register', 5)),
    ])
    expect(value).toMatchObject({ answer: { value: 5 } })
  })
  test('is repeated four times after the first, each behind a fence, and then the chip is silent', () => {
    const line = synced()
    const { value, effects } = play(exchange(line, readMagic, 3), (bytes) => (isSync(bytes) ? [eightSyncs] : []))
    expect(value).toEqual({ kind: 'silent' })
    expect(effects.filter((e) => e.do === 'send' && !isSync(e.bytes))).toHaveLength(5)
    expect(line.counts).toMatchObject({ exchanges: 5, retries: 5, roundTrips: [] })
  })
  test('a refusal is asked twice more, since it may have been damaged on the way, and then believed', () => {
    const line = synced()
    const { value, sent } = play(exchange(line, readMagic, 3), () => [answer('read-register', 0, 6)])
    expect([value, sent]).toMatchObject([{ answer: { status: { failed: true, name: 'failed' } } }, 3])
  })
  test('its own request that comes back is counted as an echo, and is no answer', () => {
    const line = synced()
    play(exchange(line, readMagic, 1), (bytes) => [bytes])
    expect(line.counts.echoes).toBeGreaterThan(0)
  })
})

test('a line of which nothing was heard has no round trips, and says so with nothing', () =>
  expect(reportOf(newLine(115_200, 400))).toMatchObject({
    rttMs: { min: null, median: null, p95: null },
    latencyMs: null,
  }))
test('the adapter’s wait is what is left of a register read without its bytes', () => {
  const line = newLine(115_200, 400)
  line.counts.registerTrips.push(6.26, 6.26, 50)
  line.counts.roundTrips.push(6.26, 6.26, 50, 900)
  expect(reportOf(line).latencyMs).toBeCloseTo(4, 2)
})
