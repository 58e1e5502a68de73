import fc from 'fast-check'
import { computed } from '../testing/like'
import { coloursOf, inferLights, inferWhite, showsAt, whiteLamps } from './infer'
import { lookOf, mixLights } from './mix'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}

describe('infer', () => {
  test('the worked example: tone and brightness, and three colours', () =>
    expect(
      computed(
        inferLights({
          white: {
            a: 'P26',
            b: 'P24',
            obs: [
              { a: 0, b: 0, lux: 2 },
              { a: 1, b: 0, lux: 3 },
              { a: 0, b: 1, lux: 410, tone: 'cool' },
              { a: 1, b: 1, lux: 402, tone: 'warm' },
            ],
          },
          colours: [
            { pin: 'P6', saw: 'red' },
            { pin: 'P7', saw: 'blue' },
            { pin: 'P8', saw: 'green' },
          ],
        }),
      ),
    ).toMatchObject({
      white: {
        scheme: 'temp-bright',
        temp: 'P26',
        bright: 'P24',
        invert: [],
        error: 0.0005,
        margin: 0.7256,
        sure: true,
        next: null,
      },
      colours: [
        { colour: 'blue', pin: 'P7' },
        { colour: 'green', pin: 'P8' },
        { colour: 'red', pin: 'P6' },
      ],
      conflicts: [],
    }))
  test('the worked example: two set points are not enough, and the corner that parts the two is named', () =>
    expect(
      computed(
        inferLights({
          white: {
            a: 'P26',
            b: 'P24',
            obs: [
              { a: 1, b: 0, lux: 300, tone: 'warm' },
              { a: 0, b: 1, lux: 320, tone: 'cool' },
            ],
          },
        }),
      ),
    ).toMatchObject({
      white: {
        scheme: 'pair',
        cool: 'P24',
        warm: 'P26',
        invert: [],
        error: 0.0039,
        margin: 0,
        sure: false,
        next: { a: 0, b: 0 },
      },
    }))
  test('one colour on two pins is a conflict, two colours of one pin are said, nothing is dropped', () =>
    expect(
      coloursOf([
        { pin: 'P8', saw: 'red' },
        { pin: 'P6', saw: 'red' },
        { pin: 'P7', saw: 'nothing' },
        { pin: 'P9', saw: 'blue' },
        { pin: 'P9', saw: 'green' },
      ]),
    ).toEqual({
      colours: [
        { colour: 'blue', pin: 'P9' },
        { colour: 'green', pin: 'P9' },
      ],
      conflicts: [{ colour: 'red', pins: ['P6', 'P8'] }],
      double: [{ pin: 'P9', colours: ['blue', 'green'] }],
    }))
  test('bad input at its place', () => {
    const white = (obs: object[]) => fault(inferLights({ white: { a: 'A', b: 'B', obs } }))
    const lit = { a: 0, b: 1, lux: 5 }
    expect(white([lit])).toBe('few /white/obs')
    expect(
      white([
        { ...lit, lux: 0 },
        { ...lit, lux: 0 },
      ]),
    ).toBe('dark /white/obs')
    expect(white([lit, { ...lit, a: 1.2 }])).toBe('range /white/obs/1/a')
    expect(white([lit, { a: 0, b: 1 }])).toMatch(/^shape/)
  })
  test('any lamp seen at its four corners, with its tones, is found or one that shows the same', () =>
    fc.assert(
      fc.property(fc.constantFrom(...whiteLamps), (lamp) => {
        const corners = [0, 1].flatMap((a) => [0, 1].map((b) => ({ a, b })))
        const seen = corners.map((c) => {
          const { light, tone } = showsAt(lamp, c)
          return { ...c, lux: 400 * light, tone }
        })
        const found = inferWhite(seen)
        expect(found.error).toBeCloseTo(0, 9)
        for (const c of corners) expect(showsAt(found.lamp, c)).toEqual(showsAt(lamp, c))
      }),
    ))
})

describe('mix', () => {
  const lamp = { coolK: 6200, warmK: 2800, scheme: 'pair', max: 1023 }
  const white = { mode: 'white', kelvin: 3600, bright: 0.7, lamp }
  test('the worked examples', () => {
    expect(computed(mixLights(white))).toEqual({
      mired: 277.78,
      warmShare: 0.5948,
      clamped: false,
      duty: { cool: 0.2837, warm: 0.4163 },
      count: { cool: 290, warm: 426 },
    })
    expect(computed(mixLights({ ...white, lamp: { ...lamp, scheme: 'temp-bright', invert: ['temp'] } }))).toMatchObject(
      {
        duty: { temp: 0.4052, bright: 0.7 },
        count: { temp: 415, bright: 716 },
      },
    )
    expect(
      computed(mixLights({ mode: 'rgb', rgb: [255, 140, 20], bright: 0.5, lamp: { max: 1023, gamma: 2.2 } })),
    ).toEqual({
      duty: { red: 0.2176, green: 0.0582, blue: 0.0008 },
      count: { red: 223, green: 60, blue: 1 },
    })
  })
  test('a tone the lamp does not have is clamped, and said to be', () => {
    expect(computed(mixLights({ ...white, kelvin: 9000 }))).toMatchObject({ clamped: true, warmShare: 0 })
    expect(computed(mixLights({ ...white, kelvin: 1000 }))).toMatchObject({ clamped: true, warmShare: 1 })
  })
  test('both strings together always give the brightness that was asked for', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1000, max: 9000 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (kelvin, bright) => {
          const { duty } = computed(mixLights({ ...white, kelvin, bright }))
          expect((duty.cool ?? 0) + (duty.warm ?? 0)).toBeCloseTo(bright, 3)
        },
      ),
    ))
  test('bad input at its place', () => {
    expect(fault(mixLights({ ...white, mode: 'hsv' }))).toBe('mode /mode')
    expect(fault(mixLights({ ...white, bright: 2 }))).toBe('range /bright')
    expect(fault(mixLights({ ...white, kelvin: 0 }))).toBe('range /kelvin')
    expect(fault(mixLights({ ...white, lamp: { ...lamp, coolK: 2000 } }))).toBe('range /lamp/coolK')
    expect(fault(mixLights({ mode: 'rgb', rgb: [0, 300, 0], bright: 1, lamp: {} }))).toBe('range /rgb/1')
    expect(fault(mixLights({ ...white, lamp: {} }))).toMatch(/^shape/)
  })
  test('a warm tone looks redder than daylight, a cool one bluer', () => {
    const [red, , blue] = lookOf(2700)
    expect(red).toBe(255)
    expect(blue).toBeLessThan(200)
    expect(lookOf(9000)[2]).toBe(255)
    expect(lookOf(6500)).toEqual([255, 255, 255])
  })
})
