import fc from 'fast-check'
import { knownFamilies } from '../families/families'
import { computed } from '../testing/like'
import { diffPins, diffTemplates } from './diff'
import { inferFromTrials, inferPins, type Trial } from './infer'
import { halvingTrials, planProbe } from './probe-plan'
import { dropperMa, sparePins } from './spare'
import type { PinTemplate } from './template'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}
const template = (board: string, pins: object[], more: object = {}) =>
  ({ format: 'fresh-coat/pin-template', version: 1, board, family: 'LX106', pins, ...more }) as unknown as PinTemplate

describe('diff', () => {
  const r1 = template('harkle-r1', [
    { pin: 'GPIO12', fn: 'relay', ch: 1 },
    { pin: 'GPIO13', fn: 'led', ch: 0, active: 'low' },
    { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
  ])
  const r2 = template('harkle-r2', [
    { pin: 'GPIO14', fn: 'relay', ch: 1 },
    { pin: 'GPIO13', fn: 'led', ch: 0 },
    { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up', note: 'side' },
    { pin: 'GPIO5', fn: 'buzzer' },
  ])
  test('the worked example', () =>
    expect(computed(diffPins({ a: r1, b: r2 }))).toEqual({
      same: false,
      moved: [{ fn: 'relay', ch: 1, from: 'GPIO12', to: 'GPIO14' }],
      added: [{ pin: 'GPIO5', fn: 'buzzer', ch: null }],
      removed: [],
      changed: [{ pin: 'GPIO13', field: 'active', from: 'low', to: 'high' }],
      meta: [{ pin: 'GPIO0', field: 'note' }],
    }))
  test('with itself is the same, and turned round it is the same the other way', () => {
    expect(diffTemplates(r1, r1)).toMatchObject({ same: true, meta: [] })
    const back = diffTemplates(r2, r1)
    expect(back.removed.map((p) => p.pin)).toEqual(['GPIO5'])
    expect(back.moved).toEqual([{ fn: 'relay', ch: 1, from: 'GPIO14', to: 'GPIO12' }])
  })
  test('two leds on one channel that both moved are gone and come: which is which nobody knows', () => {
    const a = template('a', [
      { pin: 'GPIO4', fn: 'led' },
      { pin: 'GPIO5', fn: 'led' },
    ])
    const b = template('b', [
      { pin: 'GPIO12', fn: 'led' },
      { pin: 'GPIO13', fn: 'led' },
    ])
    const diff = diffTemplates(a, b)
    expect([diff.moved, diff.removed.length, diff.added.length]).toEqual([[], 2, 2])
  })
  test('another family is refused, another format too', () => {
    expect(fault(diffPins({ a: r1, b: template('b', [], { family: 'LX6' }) }))).toBe('family /b/family')
    expect(fault(diffPins({ a: r1, b: { ...r1, version: 2 } }))).toBe('version /b/version')
  })
})

describe('plan', () => {
  test('the worked example: two signs that can be told apart, by code', () =>
    expect(
      computed(
        planProbe({
          family: 'LX106',
          pins: 'GPIO0 GPIO1 GPIO2 GPIO3 GPIO4 GPIO5 GPIO12 GPIO13 GPIO14 GPIO15 GPIO16'.split(' '),
          known: [{ pin: 'GPIO0', fn: 'button' }],
          power: 'adapter',
          unknown: [
            { sign: 'led', count: 1 },
            { sign: 'click', count: 1 },
          ],
        }),
      ),
    ).toEqual({
      excluded: [
        { pin: 'GPIO0', why: 'known' },
        { pin: 'GPIO1', why: 'console' },
        { pin: 'GPIO3', why: 'console' },
      ],
      candidates: 'GPIO4 GPIO5 GPIO12 GPIO13 GPIO14 GPIO16 GPIO2 GPIO15'.split(' '),
      assign: 'GPIO4 GPIO5 GPIO12 GPIO13 GPIO14 GPIO16 GPIO2 GPIO15'.split(' ').map((pin, i) => ({ n: i + 1, pin })),
      method: 'code',
      groups: [
        ['GPIO4', 'GPIO12', 'GPIO14', 'GPIO2'],
        ['GPIO5', 'GPIO12', 'GPIO16', 'GPIO2'],
        ['GPIO13', 'GPIO14', 'GPIO16', 'GPIO2'],
        ['GPIO15'],
      ],
      expectedTrials: 4,
      visible: ['led'],
      hidden: ['click'],
      steps: ['gate-no-mains', 'watch-levels', 'press-inputs', 'enter-assignment', 'drive', 'restore'],
    }))
  const arm = { family: 'ARM968-A', pins: ['P6', 'P7', 'P8', 'P9', 'P24', 'P26'], power: 'mains' }
  test('the worked example: two look-alikes on mains with no motor, by halves', () =>
    expect(computed(planProbe({ ...arm, noMotor: true, unknown: [{ sign: 'click', count: 2 }] }))).toMatchObject({
      method: 'halving',
      groups: [['P6', 'P7', 'P8']],
      expectedTrials: 4.27,
      visible: ['click'],
      hidden: [],
      steps: [
        'gate-unplugged',
        'gate-case-closed',
        'watch-levels',
        'press-inputs',
        'enter-assignment',
        'drive',
        'restore',
        'gate-unplugged',
      ],
    }))
  test('two relays on mains may be one motor: one at a time unless somebody says that there is none, and a hazard always', () => {
    const two = { ...arm, unknown: [{ sign: 'click', count: 2 }] }
    expect(computed(planProbe(two))).toMatchObject({ method: 'single', expectedTrials: 4.67 })
    expect(computed(planProbe({ ...two, noMotor: true, hazards: ['bridge'] })).method).toBe('single')
    expect(computed(planProbe({ ...arm, unknown: [{ sign: 'click', count: 1 }] })).method).toBe('code')
  })
  test.each([
    [1, [2, 2.4, 2.67, 2.86, 3, 3.22, 3.4, 3.55, 3.67]],
    [2, [3, 3.5, 4.27, 4.71, 5.21, 5.42, 5.82, 6.09, 6.45]],
  ])('halving: the table for %i', (d, table) => {
    const mean = (n: number) => {
      const places = Array.from({ length: n }, (_, i) => i).flatMap((i) =>
        d === 1 ? [[i]] : Array.from({ length: n - i - 1 }, (_, k) => [i, i + k + 1]),
      )
      return places.reduce((sum, p) => sum + halvingTrials(n, p), 0) / places.length
    }
    expect(table.map((_, i) => Math.round(mean(i + 4) * 100) / 100)).toEqual(table)
  })
  test('what cannot be planned is refused at its place', () => {
    const good = { ...arm, unknown: [{ sign: 'click', count: 1 }] }
    expect(fault(planProbe({ ...good, pins: ['P6', 'GPIO20'] }))).toBe('pin /pins/1')
    expect(fault(planProbe({ ...good, power: 'usb' }))).toBe('power /power')
    expect(fault(planProbe({ ...good, unknown: [] }))).toBe('range /unknown')
    expect(fault(planProbe({ ...good, known: good.pins.map((pin) => ({ pin, fn: 'led' })) }))).toBe('empty /pins')
    expect(fault(planProbe({ ...good, family: 'LX9' }))).toBe('family /family')
  })
})

describe('infer', () => {
  test('the worked example: a click, a light that is lit at low, a button', () =>
    expect(
      computed(
        inferFromTrials({
          pins: ['GPIO4', 'GPIO5', 'GPIO12', 'GPIO13'],
          signs: [
            { id: 'click', kind: 'edge' },
            { id: 'led', kind: 'level' },
          ],
          trials: [
            { on: [], saw: ['led'] },
            { on: ['GPIO4'], saw: ['led'] },
            { on: [], saw: ['led'] },
            { on: ['GPIO12'], saw: ['click', 'led'] },
            { on: [], saw: ['click', 'led'] },
            { on: ['GPIO13'], saw: [] },
            { on: [], saw: ['led'] },
          ],
          presses: [{ name: 'front', idle: { GPIO5: 1, GPIO4: 0 }, held: { GPIO5: 0, GPIO4: 0 } }],
        }),
      ),
    ).toEqual({
      signs: [
        {
          id: 'click',
          pin: 'GPIO12',
          pins: ['GPIO12'],
          active: null,
          p: 0.9999,
          confidence: 'confirmed',
          disagree: [],
        },
        { id: 'led', pin: 'GPIO13', pins: ['GPIO13'], active: 'low', p: 0.97, confidence: 'seen', disagree: [] },
      ],
      inputs: [{ name: 'front', pin: 'GPIO5', active: 'low', changed: ['GPIO5'] }],
      suspects: [],
      shared: [],
      next: { sign: 'led', on: ['GPIO13'] },
    }))
  test('the worked example: a reset makes a suspect and counts as no trial', () =>
    expect(
      computed(
        inferFromTrials({
          pins: ['P6', 'P8', 'P24'],
          signs: [{ id: 'click', kind: 'edge' }],
          trials: [
            { on: ['P6'], saw: [] },
            { on: ['P8'], saw: ['click'] },
            { on: ['P24'], saw: [], reset: true },
          ],
        }),
      ),
    ).toEqual({
      signs: [{ id: 'click', pin: 'P8', pins: ['P8'], active: null, p: 0.9595, confidence: 'seen', disagree: [] }],
      inputs: [],
      suspects: ['P24'],
      shared: [],
      next: { sign: 'click', on: ['P8'] },
    }))
  const six = ['P6', 'P7', 'P8', 'P9', 'P24', 'P26']
  test('the worked example: two that sound alike', () =>
    expect(
      computed(
        inferFromTrials({
          pins: six,
          signs: [{ id: 'click', kind: 'edge', count: 2 }],
          trials: [
            { on: ['P6', 'P7', 'P8'], saw: ['click'] },
            { on: [], saw: ['click'] },
            { on: ['P6'], saw: [] },
            { on: [], saw: [] },
            { on: ['P7'], saw: ['click'] },
            { on: [], saw: ['click'] },
          ],
        }),
      ),
    ).toMatchObject({
      signs: [{ id: 'click', pin: null, pins: ['P7', 'P8'], p: 0.2499, confidence: 'assumed' }],
      next: { sign: 'click', on: ['P8'] },
    }))
  test('with a count too low two look-alikes end at a half, with what disagrees', () => {
    const trials = [
      { on: ['P6'], saw: ['click'] },
      { on: [], saw: ['click'] },
      { on: ['P7'], saw: ['click'] },
      { on: [], saw: ['click'] },
    ]
    const [click] = inferPins(
      six,
      [{ id: 'click', kind: 'edge', count: 1 }],
      trials.map((t) => ({ ...t, reset: false })),
      [],
    ).signs
    expect(click?.p).toBeCloseTo(0.5, 2)
    expect(click?.disagree).toHaveLength(2)
  })
  test('a light across a relay’s coil shares its pin', () => {
    const both = (on: string[], saw: string[]) => ({ on, saw, reset: false })
    const trials = [both([], []), both(['P7'], ['click', 'led']), both([], ['click']), both(['P8'], []), both([], [])]
    const { shared } = inferPins(
      ['P6', 'P7', 'P8'],
      [
        { id: 'click', kind: 'edge', count: 1 },
        { id: 'led', kind: 'level', count: 1 },
      ],
      trials,
      [],
    )
    expect(shared).toEqual([{ pin: 'P7', signs: ['click', 'led'] }])
  })
  test('two fingers are no input', () =>
    expect(
      inferPins(['P6', 'P7'], [], [], [{ name: 'x', idle: { P6: 1, P7: 1 }, held: { P6: 0, P7: 0 } }]).inputs,
    ).toEqual([{ name: 'x', pin: null, active: null, changed: ['P6', 'P7'] }]))
  test('nothing that was ever on or seen ends at none of these only when it should have shown', () => {
    const silent = six.flatMap((pin) => [
      { on: [pin], saw: [], reset: false },
      { on: [], saw: [], reset: false },
    ])
    const [sign] = inferPins(six, [{ id: 'click', kind: 'edge', count: 1 }], silent, []).signs
    expect([sign?.pin, sign?.pins, sign?.active]).toEqual([null, [], null])
  })
  test('bad input at its place', () => {
    const good = { pins: six, signs: [{ id: 'click', kind: 'edge' }], trials: [] as object[] }
    expect(fault(inferFromTrials({ ...good, trials: [{ on: ['P99'], saw: [] }] }))).toBe('pin /trials/0/on/0')
    expect(fault(inferFromTrials({ ...good, trials: [{ on: [], saw: ['glow'] }] }))).toBe('sign /trials/0/saw/0')
    expect(fault(inferFromTrials({ ...good, signs: [{ id: 'x', kind: 'sound' }] }))).toBe('kind /signs/0/kind')
    expect(fault(inferFromTrials({ ...good, signs: [{ id: 'x', kind: 'edge', count: 7 }] }))).toBe(
      'range /signs/0/count',
    )
    expect(fault(inferFromTrials({ ...good, signs: [{ id: 'x', kind: 'edge', count: 1.5 }] }))).toBe(
      'range /signs/0/count',
    )
    const many = Array.from({ length: 40 }, (_, i) => `P${i}`)
    expect(fault(inferFromTrials({ pins: many, signs: [{ id: 'x', kind: 'edge', count: 6 }], trials: [] }))).toBe(
      'range /signs/0/count',
    )
  })

  const someTrials = (pins: string[]) =>
    fc.array(fc.record({ on: fc.subarray(pins), saw: fc.subarray(['click', 'led']), reset: fc.boolean() }), {
      maxLength: 12,
    })
  const signs = [
    { id: 'click', kind: 'edge' as const, count: 2 },
    { id: 'led', kind: 'level' as const, count: 1 },
  ]
  test('other names for the pins give the same answer under those names', () =>
    fc.assert(
      fc.property(someTrials(six), (trials: Trial[]) => {
        const other = (p: string) => `Q${p.slice(1)}`
        const renamed = trials.map((t) => ({ ...t, on: t.on.map(other) }))
        const [a, b] = [inferPins(six, signs, trials, []), inferPins(six.map(other), signs, renamed, [])]
        expect(b.signs).toEqual(a.signs.map((s) => ({ ...s, pin: s.pin && other(s.pin), pins: s.pins.map(other) })))
        expect(b.next).toEqual(a.next && { ...a.next, on: a.next.on.map(other) })
      }),
    ))
  test('a trial that agrees with the true pin never lowers it', () =>
    fc.assert(
      fc.property(
        fc.array(fc.subarray(six), { minLength: 1, maxLength: 10 }),
        fc.constantFrom(...six),
        (ons, truth) => {
          let before: readonly string[] = []
          let last = 0
          const trials: Trial[] = []
          for (const on of ons) {
            const heard = before.includes(truth) !== on.includes(truth)
            trials.push({ on, saw: heard ? ['click'] : [], reset: false })
            before = on
            const { signs: found } = inferPins(six, [{ id: 'click', kind: 'edge', count: 1 }], trials, [])
            const p = found[0]?.pin === truth ? (found[0]?.p ?? 0) : 0
            if (found[0]?.pin === truth) expect(p).toBeGreaterThanOrEqual(last - 1e-4)
            last = found[0]?.pin === truth ? p : last
          }
        },
      ),
    ))
})

describe('spare', () => {
  const pads = [
    { pin: 'GPIO5', padMm: 1.2, railMm: 9 },
    { pin: 'GPIO3' },
    { pin: 'GPIO14', edge: false },
    { pin: 'GPIO12' },
    { pin: 'GPIO16' },
    { pin: 'ADC0' },
  ]
  const budget = { regMa: 600, peakMa: 400, partsMa: [0.1, 2.5], vin: 5, meanMa: 80, ambientC: 55, thetaCW: 110 }
  const request = { family: 'LX106', need: ['input'], used: ['GPIO12', 'GPIO0'], pads, budget }
  test('the worked example', () =>
    expect(computed(sparePins(request))).toEqual({
      ranked: [
        { pin: 'GPIO5', score: 93 },
        { pin: 'GPIO16', score: 80 },
        { pin: 'GPIO14', score: 60 },
        { pin: 'GPIO3', score: 45 },
      ],
      excluded: [
        { pin: 'ADC0', why: 'analog-only' },
        { pin: 'GPIO12', why: 'used' },
      ],
      budget: { headroomMa: 77.4, watts: 0.14, junctionC: 70.4, enough: true },
    }))
  test('what is needed decides who is out', () => {
    const why = (need: string[], pin: string, family = 'LX6') =>
      computed(sparePins({ family, need, used: [], pads: [{ pin }] })).excluded[0]?.why ?? 'ranked'
    expect(why(['output'], 'GPIO34')).toBe('input-only')
    expect(why(['input', 'pull-up'], 'GPIO34')).toBe('no-pull')
    expect(why(['pwm'], 'GPIO16', 'LX106')).toBe('no-pwm')
    expect(why(['analog'], 'GPIO16')).toBe('no-adc')
    expect(why(['analog'], 'GPIO34')).toBe('ranked')
    expect(why(['input'], 'GPIO6')).toBe('flash')
  })
  test('heat or a peak too high is not enough; no budget is none', () => {
    const enough = (more: object) => computed(sparePins({ ...request, budget: { ...budget, ...more } })).budget?.enough
    expect([enough({}), enough({ partsMa: [81] }), enough({ vin: 12 })]).toEqual([true, false, false])
    expect(computed(sparePins({ ...request, budget: undefined })).budget).toBeNull()
  })
  test('a dropper of 0.47 µF at 230 V gives 30.6 mA, half of it for a half wave', () => {
    expect(dropperMa(0.47, 230, 50, true)).toBeCloseTo(30.6, 1)
    expect(dropperMa(0.47, 230, 50, false)).toBeCloseTo(15.3, 1)
  })
  test('no pin of any family is ranked above a hundred or twice', () =>
    fc.assert(
      fc.property(fc.constantFrom(...knownFamilies), fc.nat(40), (family, n) => {
        const pin = `${family === 'CM3' ? 'PB' : family.startsWith('ARM') ? 'P' : 'GPIO'}${n}`
        const outcome = sparePins({ family, need: ['input'], used: [], pads: [{ pin }] })
        if (!outcome.ok) return expect(fault(outcome)).toBe('pin /pads/0/pin')
        const { ranked, excluded } = outcome.value
        expect(ranked.length + excluded.length).toBe(1)
        expect(ranked[0]?.score ?? 0).toBeLessThanOrEqual(100)
      }),
    ))
})
