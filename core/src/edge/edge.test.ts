import { z } from 'zod'
import { inputCodes, parseInput, pointer, refuse, shapeCodes, strictCodes } from './fault'
import { finding, hasError, worstOf } from './finding'
import { byText, entropyBits, rankBy, tenDigits } from './order'

const Input = z.object({
  volts: z.number().min(0).max(24),
  pads: z.array(z.object({ name: z.string().min(1) })).min(1),
  kind: z.string().superRefine((kind, context) => {
    if (kind === 'odd') refuse(context, 'odd-kind', [], 'This kind is odd.')
  }),
})
const fault = (input: unknown, codes = strictCodes) => {
  const parsed = parseInput(Input, input, codes)
  return parsed.ok ? null : parsed.faults[0]
}

describe('input that does not fit is refused with its place', () => {
  test.each<[string, unknown, string, string]>([
    ['a missing field', { pads: [{ name: 'a' }], kind: 'x' }, 'missing', '/volts'],
    ['a wrong type', { volts: '5', pads: [{ name: 'a' }], kind: 'x' }, 'type', '/volts'],
    ['out of range', { volts: 240, pads: [{ name: 'a' }], kind: 'x' }, 'range', '/volts'],
    ['an empty list', { volts: 5, pads: [], kind: 'x' }, 'empty', '/pads'],
    ['deep inside', { volts: 5, pads: [{ name: 'a' }, { name: 7 }], kind: 'x' }, 'type', '/pads/1/name'],
    ['a rule of our own', { volts: 5, pads: [{ name: 'a' }], kind: 'odd' }, 'odd-kind', '/kind'],
    ['no object at all', null, 'type', ''],
  ])('%s', (_, input, code, path) =>
    expect(fault(input)).toMatchObject({ code, path, message: expect.stringMatching(/\S/) }),
  )
  test('the codes are those of the brief that asks', () => {
    expect(fault({ pads: [{ name: 'a' }], kind: 'x' }, shapeCodes)?.code).toBe('shape')
    expect(fault({ pads: [{ name: 'a' }], kind: 'x' }, inputCodes)?.code).toBe('input')
  })
  test('the first fault is the first one read, whatever order the schema has', () =>
    expect(fault({ kind: 7, volts: 'x', pads: [{ name: 'a' }] })?.path).toBe('/kind'))
  test('whole input comes back as it is', () =>
    expect(parseInput(Input, { volts: 5, pads: [{ name: 'a' }], kind: 'x' }, strictCodes)).toEqual({
      ok: true,
      value: { volts: 5, pads: [{ name: 'a' }], kind: 'x' },
    }))
  test('pointers escape what means something in them', () => expect(pointer(['a/b', 'c~d', 0])).toBe('/a~1b/c~0d/0'))
})

describe('findings', () => {
  const [error, watch, ok] = (['error', 'watch', 'ok'] as const).map((s) => finding('c', s, 'm'))
  test('the worst one counts; without any all is well', () => {
    expect([worstOf([]), worstOf([ok, watch] as never), worstOf([ok, error, watch] as never)]).toEqual([
      'ok',
      'watch',
      'error',
    ])
    expect([hasError([watch] as never), hasError([watch, error] as never)]).toEqual([false, true])
  })
})

describe('order', () => {
  test('numbers that agree to ten digits are a tie, and a tie keeps the order given', () => {
    const rows = [
      { n: 'a', s: 0.1 + 0.2 },
      { n: 'b', s: 0.3 },
      { n: 'c', s: 0.5 },
    ]
    expect(rankBy(rows, (r) => r.s).map((r) => r.n)).toEqual(['c', 'a', 'b'])
  })
  test('ten digits', () =>
    expect([tenDigits(0.1 + 0.2), tenDigits(Number.POSITIVE_INFINITY)]).toEqual([0.3, Number.POSITIVE_INFINITY]))
  test('entropy in bits', () => {
    expect(entropyBits([0.25, 0.25, 0.25, 0.25])).toBe(2)
    expect(entropyBits([1, 0])).toBe(0)
  })
  test('text by its code units, the same everywhere', () =>
    expect(['b', 'Z', 'a', 'é'].sort(byText)).toEqual(['Z', 'a', 'b', 'é']))
})
