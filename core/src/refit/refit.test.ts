import fc from 'fast-check'
import {
  judgeRefit,
  type RefitCheck,
  type RefitContact,
  railRange,
  refitChecks,
  refitChecksOf,
  refitEdges,
  refitRoles,
} from './refit'

const example = {
  contacts: [
    { n: 1, role: '3V3', edge: 'left' },
    { n: 2, role: 'GND', edge: 'left' },
    { n: 3, role: 'TX', edge: 'left' },
  ],
  railOhms: [410, 395, 420, 408],
}
const checksOf = (input: unknown): RefitCheck[] => {
  const out = refitChecks(input)
  if (!out.ok) throw new Error(out.faults[0]?.message)
  return out.value.checks
}
const judged = (readings: Record<string, unknown>, given: object = example) => {
  const out = judgeRefit({ ...given, readings })
  if (!out.ok) throw new Error(out.faults[0]?.message)
  return out.value
}
const codeOf = (id: string, ohms: number | null, given: object = example) =>
  judged({ [id]: ohms }, given).results.find((r) => r.id === id)?.code ?? null

describe('the worked example', () => {
  test('its checks', () =>
    expect(checksOf(example)).toEqual([
      { id: 'rail', expected: 'range', low: 204.5, high: 818 },
      { id: '1-2', a: 1, b: 2, expected: 'open', minOhm: 50 },
      { id: '2-3', a: 2, b: 3, expected: 'open', minOhm: 1000 },
      { id: 'C-1', a: 1, expected: 'joined', maxOhm: 5 },
      { id: 'C-2', a: 2, expected: 'joined', maxOhm: 5 },
      { id: 'C-3', a: 3, expected: 'joined', maxOhm: 5 },
    ]))
  test('its judgement', () => {
    const out = judged({ rail: 350, '1-2': 350, '2-3': 12, 'C-1': 0.3, 'C-3': 0.4 })
    expect(out.results.map((r) => [r.id, r.verdict, r.code])).toEqual([
      ['rail', 'ok', null],
      ['1-2', 'ok', null],
      ['2-3', 'bad', 'bridge'],
      ['C-1', 'ok', null],
      ['C-2', 'missing', null],
      ['C-3', 'ok', null],
    ])
    expect(out.verdict).toBe('stop')
    expect(out.findings.map((f) => [f.code, f.severity, f.at])).toEqual([
      ['bridge', 'error', '2-3'],
      ['missing', 'watch', 'C-2'],
    ])
  })
})

describe('the rail', () => {
  test('below three good units nobody knows an upper bound', () => {
    expect(railRange([])).toEqual({ low: 50, high: null })
    expect(railRange([400, 410])).toEqual({ low: 50, high: null })
    expect(railRange([10, 30, 20])).toEqual({ low: 10, high: 40 })
  })
  const unknown = { contacts: example.contacts }
  test.each([
    [0, 'rail-short'],
    [9.99, 'rail-short'],
    [10, 'rail-low'],
    [204.49, 'rail-low'],
    [204.5, null],
    [818, null],
    [818.01, 'rail-high'],
    [null, 'rail-open'],
  ])('%p Ω is %p on a known board, bounds inside', (ohms, code) => expect(codeOf('rail', ohms)).toBe(code))
  test.each([
    [49, 'rail-low'],
    [50, null],
    [1e6, null],
    [null, null],
  ])('%p Ω is %p on an unknown one', (ohms, code) => expect(codeOf('rail', ohms, unknown)).toBe(code))
  test('a board whose rail is low by nature lowers what the supply’s neighbours must have', () =>
    expect(checksOf({ ...example, railOhms: [60, 62, 64] })[1]).toMatchObject({ minOhm: 31 }))
})

describe('neighbours', () => {
  test('by number on their own edge, whatever numbers are left out; equal roles and NC are not asked', () => {
    const contacts = [
      { n: 9, role: 'TX', edge: 'right' },
      { n: 4, role: 'GND', edge: 'left' },
      { n: 1, role: 'GND', edge: 'left' },
      { n: 7, role: 'EN', edge: 'left' },
      { n: 8, role: 'NC', edge: 'left' },
      { n: 12, role: 'RX', edge: 'right' },
    ]
    expect(checksOf({ contacts }).filter((c) => c.expected === 'open')).toEqual([
      { id: '9-12', a: 9, b: 12, expected: 'open', minOhm: 1000 },
      { id: '4-7', a: 4, b: 7, expected: 'open', minOhm: 1000 },
    ])
    // Contacts come as they were given; RST, 5V and what is not known are asked for no joint.
    expect(
      checksOf({ contacts })
        .filter((c) => c.expected === 'joined')
        .map((c) => c.id),
    ).toEqual(['C-9', 'C-4', 'C-1', 'C-7', 'C-12'])
  })
  test('over range between neighbours is right, to the pad it is not', () => {
    expect(codeOf('2-3', null)).toBeNull()
    expect(codeOf('2-3', 1000)).toBeNull()
    expect(codeOf('2-3', 999)).toBe('bridge')
    expect(codeOf('C-1', null)).toBe('not-joined')
    expect(codeOf('C-1', 5)).toBeNull()
    expect(codeOf('C-1', 5.01)).toBe('not-joined')
  })
})

test('go needs every check measured and right', () => {
  const all = Object.fromEntries(
    checksOf(example).map((c) => [c.id, c.expected === 'open' ? null : c.expected === 'range' ? 400 : 0.2]),
  )
  expect(judged(all).verdict).toBe('go')
  for (const id of Object.keys(all)) {
    const { [id]: _, ...rest } = all
    expect(judged(rest).verdict).toBe('wait')
  }
  expect(judged({ ...all, elsewhere: 3 }).findings).toEqual([])
})

const contact = (n: number) => ({ n, role: 'UNKNOWN', edge: 'left' })
test.each<[string, object, string, string]>([
  ['nothing to check', { contacts: [] }, 'empty', '/contacts'],
  ['no contacts', {}, 'input', '/contacts'],
  ['41 contacts', { contacts: Array.from({ length: 41 }, (_, i) => contact(i + 1)) }, 'range', '/contacts'],
  ['contact 0', { contacts: [{ ...example.contacts[0], n: 0 }] }, 'range', '/contacts/0/n'],
  ['half a contact', { contacts: [{ ...example.contacts[0], n: 1.5 }] }, 'range', '/contacts/0/n'],
  ['a number twice', { contacts: [example.contacts[0], example.contacts[0]] }, 'conflict', '/contacts/1/n'],
  ['an unknown role', { contacts: [{ n: 1, role: 'VCC', edge: 'left' }] }, 'input', '/contacts/0/role'],
  ['an unknown edge', { contacts: [{ n: 1, role: 'GND', edge: 'middle' }] }, 'input', '/contacts/0/edge'],
  ['a rail of 0 Ω on the record', { ...example, railOhms: [400, 0] }, 'range', '/railOhms/1'],
  ['a text for a number', { contacts: [{ n: '1', role: 'GND', edge: 'left' }] }, 'input', '/contacts/0/n'],
])('%s is refused', (_, input, code, path) =>
  expect(refitChecks(input)).toMatchObject({ ok: false, faults: [{ code, path }] }),
)
test.each<[string, object, string, string]>([
  ['no readings', {}, 'input', '/readings'],
  ['a negative one', { readings: { rail: -1 } }, 'range', '/readings/rail'],
  ['a text', { readings: { 'C-1': 'OL' } }, 'input', '/readings/C-1'],
])('%s is refused by judge', (_, more, code, path) =>
  expect(judgeRefit({ ...example, ...more })).toMatchObject({ ok: false, faults: [{ code, path }] }),
)

const someContacts: fc.Arbitrary<RefitContact[]> = fc.uniqueArray(
  fc.record({
    n: fc.integer({ min: 1, max: 60 }),
    role: fc.constantFrom(...refitRoles),
    edge: fc.constantFrom(...refitEdges),
  }),
  { minLength: 1, maxLength: 40, selector: (c) => c.n },
)

test('every check has one id, and a bad reading anywhere stops, whatever else was measured', () =>
  fc.assert(
    fc.property(someContacts, fc.array(fc.integer({ min: 1, max: 5000 }), { maxLength: 6 }), (contacts, railOhms) => {
      const checks = refitChecksOf(contacts, railOhms)
      expect(new Set(checks.map((c) => c.id)).size).toBe(checks.length)
      for (const check of checks) {
        const bad = check.expected === 'joined' ? 6 : 0
        expect(judged({ [check.id]: bad }, { contacts, railOhms }).verdict).toBe('stop')
      }
    }),
  ))
