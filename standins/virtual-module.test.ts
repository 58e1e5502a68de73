import {
  inferenceOf,
  newSession,
  nextTrial,
  type ProbeSession,
  planOf,
  type SignId,
} from '@fresh-coat/core/pins/session'
import { makeVirtualModule, respond, scoreSearch, type VirtualModule } from './virtual-module'

const seeds = Array.from({ length: 60 }, (_, i) => i + 1)
const benchOf = (m: VirtualModule) => ({ family: m.family, power: 'rail' as const, pins: m.pins, template: null })
const begin = (m: VirtualModule): ProbeSession => ({
  ...newSession(),
  begun: true,
  unknown: [
    { sign: 'click', count: m.relays.length },
    { sign: 'led', count: 1 },
  ],
})

/** Somebody who hears and sees everything; `deaf` never hears a click. */
function search(m: VirtualModule, deaf = false): ProbeSession {
  let now = begin(m)
  let before: readonly string[] = []
  for (let i = 0; i < 150; i++) {
    const plan = planOf(now, benchOf(m))
    const next = plan && nextTrial(now, plan)
    if (!next) return now
    const is = respond(m, next.on, before)
    const saw: SignId[] = [...(is.click && !deaf ? (['click'] as const) : []), ...(is.light ? (['led'] as const) : [])]
    now = {
      ...now,
      trials: [...now.trials, { on: next.on, saw: is.restart ? [] : saw, reset: is.restart, sitting: 1 }],
    }
    before = is.restart ? [] : next.on
  }
  throw new Error('it never ends')
}
const scored = (m: VirtualModule, session: ProbeSession) => {
  const plan = planOf(session, benchOf(m))
  if (!plan) throw new Error('no plan')
  const found = inferenceOf(session, plan).signs.map((s) => ({ sign: s.id as SignId, pins: s.p >= 0.9 ? s.pins : [] }))
  return scoreSearch(m, session, found, plan.expectedTrials)
}

test('the same number gives the same module; what hangs on it lies on pins of it that may be driven', () => {
  for (const seed of seeds) {
    const m = makeVirtualModule(seed)
    expect(makeVirtualModule(seed)).toEqual(m)
    expect(m.pins).toEqual(expect.arrayContaining([...m.relays, ...(m.light ? [m.light.pin] : []), ...m.restarts]))
    expect(new Set(m.relays).size).toBe(m.relays.length)
  }
})

test('whoever hears and sees everything mishears nothing, and the score falls with what is missed', () => {
  let good = 0
  for (const seed of seeds) {
    const m = makeVirtualModule(seed)
    const result = scored(m, search(m))
    expect(result.misheard).toBe(0)
    if (result.missed.length === 0) good++
    const deaf = scored(m, search(m, true))
    expect(deaf.missed.length).toBeGreaterThan(0)
    expect(deaf.score).toBeLessThanOrEqual(result.score)
  }
  // A group that makes it restart hides what else was in it: those are the hard ones.
  expect(good).toBeGreaterThan(seeds.length / 2)
})

test('a pin that makes it restart answers with that alone', () => {
  const m = seeds.map(makeVirtualModule).find((x) => x.restarts.length > 0)
  if (!m) throw new Error('none restarts')
  expect(respond(m, [...m.restarts, ...m.relays], [])).toEqual({ click: false, light: false, restart: true })
})
