import fc from 'fast-check'
import { computed } from '../testing/like'
import { filterOf, matchPattern, type Pattern, parseTopics, readPattern, renderPattern } from './pattern'

const ours = '{base}/{site}/{unit}/ch{n:int}/{leaf:state|set|event}'
const pattern = (text: string): Pattern => {
  const read = readPattern(text)
  if (typeof read === 'string') throw new Error(read)
  return read
}
const parse = (text: string, topic: string) => matchPattern(pattern(text), topic)
const codeOf = (input: unknown) => {
  const outcome = parseTopics(input)
  return outcome.ok ? 'ok' : `${outcome.faults[0]?.code} ${outcome.faults[0]?.path}`
}

describe('worked examples', () => {
  test('parse: each placeholder gets its level, a number is a number', () =>
    expect(
      computed(parseTopics({ op: 'parse', pattern: ours, topic: 'yard/lantern/glue-pot-7/ch2/state' })),
    ).toMatchObject({
      match: true,
      vars: { base: 'yard', site: 'lantern', unit: 'glue-pot-7', n: 2, leaf: 'state' },
    }))
  test('render: what would be parsed otherwise is no round trip', () =>
    expect(computed(parseTopics({ op: 'render', pattern: '{a}-{b}/x', vars: { a: 'p-q', b: 'r' } }))).toMatchObject({
      topic: 'p-q-r/x',
      roundTrip: false,
    }))
  test('filter: unknown levels are +', () =>
    expect(
      computed(parseTopics({ op: 'filter', pattern: ours, vars: { base: 'yard', site: 'lantern', leaf: 'state' } })),
    ).toMatchObject({ filter: 'yard/lantern/+/+/state' }))
})

describe('parsing', () => {
  test.each<[string, string, object | null]>([
    ['{a}/{b...}', 'x/y/z', { a: 'x', b: 'y/z' }],
    ['{a}/{b...}', 'x', null],
    ['{a}/{a}', 'x/x', { a: 'x' }],
    ['{a}/{a}', 'x/y', null],
    ['{{{a}}}', '{x}', { a: 'x' }],
    ['{n:int}', '12a', null],
    ['{a:on|off}', 'offer', null],
    ['{a:on|only}', 'only', { a: 'only' }],
    ['a.c', 'abc', null],
    ['{a}', 'x/y', null],
    ['{a}1{a}', 'x1x', { a: 'x' }],
    ['{a}{{1', 'x{1', { a: 'x' }],
    ['state of {n:int} is {s:on|off}', 'state of 3 is off', { n: 3, s: 'off' }],
  ])('%s of %s', (text, topic, vars) => expect(parse(text, topic)).toEqual(vars))
  test('a value with a sign of its own for names stays data', () =>
    expect(parse('{constructor}', 'x')).toEqual({ constructor: 'x' }))
})

test('the rest is # where it is not known, and itself where it is', () => {
  expect(filterOf(pattern('a/{b...}'), {})).toEqual({ filter: 'a/#' })
  expect(filterOf(pattern('a/{b...}'), { b: 'c/d' })).toEqual({ filter: 'a/c/d' })
  expect(filterOf(pattern('a{b}c/{d}'), { d: 'x' })).toEqual({ filter: '+/x' })
})

test('patterns that say nothing are refused at the pattern', () => {
  for (const text of [
    '',
    'a//b',
    '/a',
    'a/',
    'a/#',
    '+',
    '{a',
    'a}',
    '{a}{b}',
    '{A}',
    '{a:}',
    '{a:x|}',
    '{b...}/c',
    'x{b...}',
    '{}',
  ])
    expect([text, codeOf({ op: 'parse', pattern: text, topic: 'x' })]).toEqual([text, 'input /pattern'])
})

test('values that no topic holds are refused at the value', () => {
  const render = (vars: object, text = '{a}') => codeOf({ op: 'render', pattern: text, vars })
  expect(render({ a: '' })).toBe('input /vars/a')
  expect(render({ a: 'x/y' })).toBe('input /vars/a')
  expect(render({ a: 'x\u0007' })).toBe('input /vars/a')
  expect(render({ a: '#' })).toBe('input /vars/a')
  expect(render({})).toBe('input /vars/a')
  expect(render({ a: 'x' }, '{a:int}')).toBe('input /vars/a')
  expect(render({ a: 'z' }, '{a:x|y}')).toBe('input /vars/a')
  expect(render({ a: 'ä'.repeat(101) })).toBe('range /vars')
  expect(codeOf({ op: 'filter', pattern: '{a}/{b}', vars: { a: '+' } })).toBe('input /vars/a')
  expect(codeOf({ op: 'parse', pattern: '{a}', topic: 'a/#' })).toBe('input /topic')
  expect(codeOf({ op: 'sing', pattern: '{a}' })).toBe('input /op')
  expect(codeOf({ op: 'render', pattern: '{a}' })).toBe('input /vars')
})

test('parse(render(v)) = v whenever roundTrip is true', () => {
  const value = fc.string({ minLength: 1, maxLength: 12 })
  const texts = ['{a}-{b}/x', ours, '{a}/{b...}', 'p{a}q{b}', '{a}/{b:x|y}/{n:int}', '{a}.{a}']
  fc.assert(
    fc.property(
      fc.constantFrom(...texts),
      fc.record({
        a: value,
        b: value,
        base: value,
        site: value,
        unit: value,
        n: fc.nat(),
        leaf: fc.constantFrom('state', 'set'),
      }),
      (text, vars) => {
        const done = renderPattern(pattern(text), vars)
        if ('code' in done) return
        const back = matchPattern(pattern(text), done.topic)
        const same = back !== null && Object.entries(back).every(([k, v]) => vars[k as 'a'] === v)
        expect(done.roundTrip).toBe(same)
      },
    ),
  )
})
