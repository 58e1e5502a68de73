import fc from 'fast-check'
import {
  type Bench,
  foundPins,
  inferenceOf,
  inputsOf,
  needsRestoring,
  newSession,
  nextTrial,
  type ProbeSession,
  planOf,
  restOf,
  type SignId,
  stageOf,
  strayPins,
  withLevels,
} from './session'
import type { PinTemplate } from './template'

const bench: Bench = {
  family: 'LX106',
  power: 'rail',
  pins: ['GPIO0', 'GPIO1', 'GPIO2', 'GPIO4', 'GPIO5', 'GPIO12', 'GPIO13', 'GPIO14', 'GPIO15', 'GPIO16'],
  template: null,
}
const looking = (unknown: ProbeSession['unknown'], more: Partial<ProbeSession> = {}): ProbeSession => ({
  ...newSession(),
  unknown,
  begun: true,
  ...more,
})
type Module = Partial<Record<SignId, { pins: string[]; low?: boolean }>>

/** Somebody who looks and listens at a module, and drives what is asked for until nothing is. */
function search(session: ProbeSession, at: Bench, module: Module, resets: readonly string[] = []): ProbeSession {
  let now = session
  let before: string[] = []
  for (let i = 0; i < 120; i++) {
    const plan = planOf(now, at)
    const next = plan && nextTrial(now, plan)
    if (!next) return now
    const reset = next.on.some((p) => resets.includes(p))
    const saw = (Object.entries(module) as [SignId, { pins: string[]; low?: boolean }][]).flatMap(
      ([id, { pins, low }]) => {
        const is = (on: string[]) => pins.filter((p) => on.includes(p))
        if (id === 'click') return pins.some((p) => next.on.includes(p) !== before.includes(p)) ? [id] : []
        return (low ? is(next.on).length < pins.length : is(next.on).length > 0) ? [id] : []
      },
    )
    now = { ...now, trials: [...now.trials, { on: next.on, saw: reset ? [] : saw, reset, sitting: 1 }] }
    before = reset ? [] : next.on
  }
  throw new Error('it never ends')
}

test('everything goes off first, and after every trial', () => {
  const done = search(looking([{ sign: 'click', count: 1 }]), bench, { click: { pins: ['GPIO12'] } })
  expect(done.trials[0]?.on).toEqual([])
  for (const [i, t] of done.trials.entries()) if (i > 0) expect(t.on.length === 0).toBe(i % 2 === 0)
})

test('a relay and a light that is lit at low are found, with their evidence; the click tells no level', () => {
  const session = looking([
    { sign: 'click', count: 1 },
    { sign: 'led', count: 1 },
  ])
  const done = search(session, bench, { click: { pins: ['GPIO12'] }, led: { pins: ['GPIO13'], low: true } })
  const plan = planOf(done, bench)
  if (!plan) throw new Error('no plan')
  expect(foundPins(done, plan, '7', null)).toMatchObject([
    {
      pin: { pin: 'GPIO12', fn: 'relay', ch: 1, evidence: [{ unit: '7', sitting: 's1', agrees: true }] },
      levelUnknown: true,
    },
    { pin: { pin: 'GPIO13', fn: 'led', active: 'low' }, levelUnknown: false },
  ])
})

test('a lamp on mains that goes with the click tells the level of its relay', () => {
  const session = looking([
    { sign: 'click', count: 1 },
    { sign: 'load', count: 1 },
  ])
  const on = { ...bench, power: 'mains' as const }
  const done = search(session, on, { click: { pins: ['GPIO14'] }, load: { pins: ['GPIO14'], low: true } })
  const plan = planOf(done, on)
  const found = plan ? foundPins(done, plan, '7', null) : []
  expect(found).toMatchObject([{ pin: { pin: 'GPIO14', fn: 'relay', active: 'low' }, levelUnknown: false }])
})

test('what was on when the unit restarted is never driven again', () => {
  const done = search(looking([{ sign: 'click', count: 1 }]), bench, { click: { pins: ['GPIO5'] } }, ['GPIO14'])
  const at = done.trials.findIndex((t) => t.reset)
  const suspects = done.trials[at]?.on ?? []
  expect(suspects).toContain('GPIO14')
  expect(
    done.trials
      .slice(at + 1)
      .flatMap((t) => t.on)
      .filter((p) => suspects.includes(p)),
  ).toEqual([])
  const plan = planOf(done, bench)
  if (plan) expect(inferenceOf(done, plan).suspects).toEqual(expect.arrayContaining(suspects))
})

test('with a hazard nothing is ever driven together', () => {
  const hazardous = looking([{ sign: 'click', count: 2 }], { hazards: ['motor'] })
  const done = search(hazardous, bench, { click: { pins: ['GPIO12', 'GPIO5'] } })
  expect(done.trials.every((t) => t.on.length <= 1)).toBe(true)
})

test('a family that was corrected half-way loses nothing, and says which pins no longer fit', () => {
  const done = search(looking([{ sign: 'click', count: 1 }]), bench, { click: { pins: ['GPIO12'] } })
  const other = planOf(done, { ...bench, family: 'RV32', pins: ['GPIO0', 'GPIO4', 'GPIO5', 'GPIO10'] })
  if (!other) throw new Error('no plan')
  expect(strayPins(done, other)).toEqual(expect.arrayContaining(['GPIO12', 'GPIO13', 'GPIO14']))
  expect(() => inferenceOf(done, other)).not.toThrow()
})

test('what is known is not looked for again, and nothing unknown is no plan', () => {
  const template = { pins: [{ pin: 'GPIO12', fn: 'relay', ch: 2 }] } as unknown as PinTemplate
  const session = looking([{ sign: 'click', count: 1 }])
  expect(planOf(session, { ...bench, template })?.excluded).toContainEqual({ pin: 'GPIO12', why: 'known' })
  expect(planOf(newSession(), bench)).toBeNull()
  const done = search(session, { ...bench, template }, { click: { pins: ['GPIO5'] } })
  const plan = planOf(done, { ...bench, template })
  expect(plan && foundPins(done, plan, '7', template)[0]?.pin.ch).toBe(3)
})

test('what was set for a trial has to be set back', () => {
  expect(needsRestoring(null)).toBe(false)
  expect(needsRestoring(newSession())).toBe(false)
  const done = search(looking([{ sign: 'click', count: 1 }]), bench, { click: { pins: ['GPIO4'] } })
  expect([needsRestoring(done), needsRestoring({ ...done, restored: true })]).toEqual([true, false])
})

test('whatever module it is, the search ends, and what it calls sure is so', () => {
  const pins = ['GPIO4', 'GPIO5', 'GPIO12', 'GPIO13', 'GPIO14', 'GPIO16', 'GPIO2', 'GPIO15']
  fc.assert(
    fc.property(
      fc.shuffledSubarray(pins, { minLength: 3, maxLength: 3 }),
      fc.boolean(),
      fc.boolean(),
      ([a, b, led], low, twins) => {
        const clicks = (twins ? [a, b] : [a]) as string[]
        const session = looking([
          { sign: 'click', count: clicks.length },
          { sign: 'led', count: 1 },
        ])
        const done = search(session, bench, { click: { pins: clicks }, led: { pins: [led as string], low } })
        const plan = planOf(done, bench)
        if (!plan) throw new Error('no plan')
        const found = inferenceOf(done, plan)
        for (const s of found.signs) {
          if (s.p < 0.99) continue
          expect([...s.pins].sort()).toEqual((s.id === 'click' ? [...clicks] : [led as string]).sort())
          if (s.id === 'led') expect(s.active).toBe(low ? 'low' : 'high')
        }
        expect(found.signs.every((s) => s.p >= 0.9)).toBe(true)
      },
    ),
    { numRuns: 60 },
  )
})

describe('before anything is driven', () => {
  const session = looking([{ sign: 'click', count: 1 }])
  test('levels are looked at with each pull, then buttons are held; a search that went on without is not asked again', () => {
    const stages = [
      session,
      { ...session, lowPulledUp: [] },
      { ...session, lowPulledUp: [], highPulledDown: [] },
      { ...session, lowPulledUp: [], highPulledDown: [], pressed: true },
      { ...session, unread: true },
      { ...session, trials: [{ on: [], saw: [], reset: false, sitting: 1 }] },
    ].map(stageOf)
    expect(stages).toEqual(['pulled-up', 'pulled-down', 'press', 'drive', 'drive', 'drive'])
  })
  test('what follows the pull is free, what does not is held, what does the opposite is never driven', () => {
    const low = { ...session, lowPulledUp: ['GPIO15', 'GPIO5'] }
    expect(restOf(low, 'GPIO15')).toBeNull()
    const both = { ...low, ...withLevels(low, { highPulledDown: ['GPIO2', 'GPIO5'] }) }
    expect(['GPIO15', 'GPIO2', 'GPIO5', 'GPIO4'].map((p) => restOf(both, p))).toEqual([
      'held-low',
      'held-high',
      'changes',
      'free',
    ])
    expect(both.moving).toEqual(['GPIO5'])
    expect(planOf(both, bench)?.excluded).toContainEqual({ pin: 'GPIO5', why: 'moves-by-itself' })
  })
  test('a button is on the one pin that changed, at the level it was held at, and is not driven; two at once prove none', () => {
    const pressed: ProbeSession = {
      ...session,
      lowPulledUp: ['GPIO15'],
      highPulledDown: [],
      presses: [
        { changed: ['GPIO4'], sitting: 1 },
        { changed: ['GPIO15'], sitting: 1 },
        { changed: ['GPIO12', 'GPIO13'], sitting: 1 },
        { changed: ['GPIO4'], sitting: 2 },
      ],
      pressed: true,
    }
    expect(inputsOf(pressed).map((i) => [i.pin, i.active])).toEqual([
      ['GPIO4', 'low'],
      ['GPIO15', 'high'],
      [null, null],
      ['GPIO4', 'low'],
    ])
    const plan = planOf(pressed, bench)
    if (!plan) throw new Error('no plan')
    for (const pin of ['GPIO4', 'GPIO15', 'GPIO12', 'GPIO13']) expect(plan.candidates).not.toContain(pin)
    const found = foundPins(pressed, plan, '7', null)
    expect(found.map((f) => [f.pin.pin, f.pin.fn, f.p])).toEqual([
      ['GPIO4', 'button', null],
      ['GPIO15', 'button', null],
    ])
    // Two sittings are two proofs, as for anything that was driven.
    expect(found[0]?.pin.evidence?.map((e) => e.sitting)).toEqual(['s1', 's2'])
  })
})
