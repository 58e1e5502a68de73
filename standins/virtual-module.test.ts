import {
  inferenceOf,
  newSession,
  nextTrial,
  type ProbeSession,
  planOf,
  type SignId,
  stageOf,
  withLevels,
} from '@fresh-coat/core/pins/session'
import { levelsOf, makeVirtualModule, respond, scoreSearch, type VirtualModule } from './virtual-module'

const seeds = Array.from({ length: 60 }, (_, i) => i + 1)
const benchOf = (m: VirtualModule) => ({ family: m.family, power: 'rail' as const, pins: m.pins, template: null })
const begin = (m: VirtualModule): ProbeSession => ({
  ...newSession(),
  begun: true,
  hazards: m.kind === 'relays' ? [] : [m.kind],
  unknown: [
    { sign: 'click', count: m.relays.length },
    { sign: 'led', count: 1 },
  ],
})

const where = (levels: Record<string, 0 | 1>, is: 0 | 1) => Object.keys(levels).filter((p) => levels[p] === is)

/** Levels and buttons looked at before anything is driven. */
function watched(m: VirtualModule): ProbeSession {
  let now = begin(m)
  now = { ...now, lowPulledUp: where(levelsOf(m, 'up', false), 0) }
  now = { ...now, ...withLevels(now, { highPulledDown: where(levelsOf(m, 'down', false), 1) }) }
  const idle = levelsOf(m, 'up', false)
  const held = levelsOf(m, 'up', true)
  const changed = m.pins.filter((p) => idle[p] !== held[p])
  return { ...now, presses: changed.length > 0 ? [{ changed, sitting: 1 }] : [], pressed: true }
}

/** Somebody who hears and sees everything; `deaf` never hears a click; who is hasty looks at no levels first. */
function search(m: VirtualModule, { deaf = false, hasty = false } = {}): ProbeSession {
  let now: ProbeSession = hasty ? { ...begin(m), unread: true } : watched(m)
  let before: readonly string[] = []
  let latched = false
  expect(stageOf(now)).toBe('drive')
  for (let i = 0; i < 150; i++) {
    const plan = planOf(now, benchOf(m))
    const next = plan && nextTrial(now, plan)
    if (!next) return now
    const is = respond(m, next.on, before, latched)
    latched = is.latched
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
    // What changes by itself is never driven, and coils and windings never together: the plan knows of both.
    expect(result.harmed).toBe(0)
    if (result.missed.length === 0) good++
    const deaf = scored(m, search(m, { deaf: true }))
    expect(deaf.missed.length).toBeGreaterThan(0)
    expect(deaf.score).toBeLessThanOrEqual(result.score)
  }
  // A group that makes it restart hides what else was in it: those are the hard ones.
  expect(good).toBeGreaterThan(seeds.length / 2)
})

test('a pin that makes it restart answers with that alone', () => {
  const m = seeds.map(makeVirtualModule).find((x) => x.restarts.length > 0)
  if (!m) throw new Error('none restarts')
  expect(respond(m, [...m.restarts, ...m.relays], [])).toMatchObject({ click: false, light: false, restart: true })
})

test('who looks at no levels drives a meter’s output sooner or later, and finds no button', () => {
  const metered = seeds.map(makeVirtualModule).filter((m) => m.meter !== null)
  const harmed = metered.filter((m) => scored(m, search(m, { hasty: true })).harmed > 0)
  expect(harmed.length).toBeGreaterThan(0)
  const withButton = seeds.map(makeVirtualModule).find((m) => m.button !== null)
  if (!withButton) throw new Error('none has a button')
  expect(scored(withButton, search(withButton, { hasty: true })).missed).toContain(withButton.button)
})

test('a latching relay clicks when a coil takes it over, not when the coil lets go', () => {
  const m = seeds.map(makeVirtualModule).find((x) => x.kind === 'latching')
  if (!m) throw new Error('none latches')
  const [set, reset] = m.relays as [string, string]
  const on = respond(m, [set], [], false)
  expect([on.click, on.latched]).toEqual([true, true])
  expect(respond(m, [], [set], true).click).toBe(false)
  expect(respond(m, [set], [], true).click).toBe(false)
  expect(respond(m, [reset], [], true)).toMatchObject({ click: true, latched: false })
  expect(respond(m, [set, reset], []).harm).toBe('both coils at once')
})

test('levels tell what is free, what is held and what changes by itself; a held button reads low', () => {
  for (const m of seeds.map(makeVirtualModule)) {
    const [up, down] = [levelsOf(m, 'up', false), levelsOf(m, 'down', false)]
    for (const pin of m.pins) {
      const same = up[pin] === down[pin]
      expect(same).toBe(m.restarts.includes(pin))
      expect(up[pin] === 0 && down[pin] === 1).toBe(pin === m.meter)
    }
    if (m.button) expect(levelsOf(m, 'up', true)[m.button]).toBe(0)
  }
})
