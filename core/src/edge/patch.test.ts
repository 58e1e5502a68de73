import fc from 'fast-check'
import {
  applied,
  changedFields,
  composed,
  type Delta,
  deltaOf,
  type Json,
  mergeFields,
  reverted,
  sameJson,
} from './patch'

const json = fc.jsonValue({ maxDepth: 3 }) as fc.Arbitrary<Json>
/** A delta as it comes back from the database. */
const kept = (delta: Delta | null) => JSON.parse(JSON.stringify(delta)) as Delta | null
const plain = (x: Json) => JSON.parse(JSON.stringify(x)) as Json

describe('a change kept as a patch', () => {
  test('reads forwards and backwards, also out of storage', () =>
    fc.assert(
      fc.property(json, json, (a, b) => {
        const [before, after] = [plain(a), plain(b)]
        const delta = kept(deltaOf(before, after))
        expect(applied(before, delta)).toEqual(after)
        expect(reverted(after, delta)).toEqual(before)
      }),
    ))
  test('is nothing exactly when nothing changed', () =>
    fc.assert(fc.property(json, json, (a, b) => expect(deltaOf(a, b) === null).toBe(sameJson(a, b)))))
  test('many small ones joined are the one large one', () =>
    fc.assert(
      fc.property(fc.array(json, { minLength: 2, maxLength: 6 }), (values) => {
        const steps = values.map(plain)
        let joined: Delta | null = null
        for (let i = 1; i < steps.length; i++) joined = composed(joined, deltaOf(steps[i - 1], steps[i]))
        const [first, last] = [steps[0], steps.at(-1)]
        expect(applied(first, kept(joined))).toEqual(last)
        expect(reverted(last, kept(joined))).toEqual(first)
      }),
    ))
  test('holds what changed and nothing of the rest', () => {
    const log = 'x'.repeat(900_000)
    const delta = deltaOf({ log, note: 'a', cells: [1, 2] }, { log, note: 'b', cells: [1, 2] })
    expect(delta).toEqual({ in: { note: { was: 'a', is: 'b' } } })
  })
  test('typed and taken back is nothing', () =>
    expect(composed(deltaOf({ a: 1 }, { a: 2 }), deltaOf({ a: 2 }, { a: 1 }))).toBe(null))
  test('a member that comes or goes is told apart from one that is null', () => {
    expect(reverted({ a: null }, deltaOf({}, { a: null }))).toEqual({})
    expect(reverted({}, deltaOf({ a: null }, {}))).toEqual({ a: null })
  })
  test('a key named __proto__ is data like any other', () => {
    const odd = JSON.parse('{"__proto__": {"x": 1}}') as Json
    const delta = kept(deltaOf({}, odd))
    expect(Object.keys(applied({}, delta) as object)).toEqual(['__proto__'])
    expect(reverted(odd, delta)).toEqual({})
  })
})

describe('two people in one record', () => {
  const base = { note: '', ohms: 4, parts: ['cap'] }
  test('different fields: both are kept, nobody is asked', () =>
    expect(mergeFields(base, { ...base, note: 'mine' }, { ...base, ohms: 5 })).toEqual({
      data: { note: 'mine', ohms: 5, parts: ['cap'] },
      conflicts: [],
    }))
  test('the same field to the same value is no conflict', () =>
    expect(mergeFields(base, { ...base, ohms: 5 }, { ...base, ohms: 5 }).conflicts).toEqual([]))
  test('the same field to two values is named, and what is here stands until somebody chooses', () =>
    expect(mergeFields(base, { ...base, note: 'mine' }, { ...base, note: 'theirs' })).toEqual({
      data: { ...base, note: 'mine' },
      conflicts: ['note'],
    }))
  test('nothing changed here: what was saved counts whole', () =>
    fc.assert(
      fc.property(fc.dictionary(fc.constantFrom('a', 'b', 'c'), json), (theirs) => {
        const common = { a: 1 as Json, b: 'x' as Json, c: null as Json }
        expect(mergeFields(common, common, { ...common, ...theirs }).data).toEqual({ ...common, ...theirs })
      }),
    ))
  test('a save sends the fields that changed', () => {
    expect(changedFields(base, { ...base, parts: ['cap', 'lens'] })).toEqual({ parts: ['cap', 'lens'] })
    expect(changedFields(base, { ...base })).toEqual({})
  })
})
