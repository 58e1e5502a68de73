import fc from 'fast-check'
import { anyRecord } from '../testing/any-record'
import { changeClauses, clausesInWords } from './change-words'
import { emptyRecord } from './records'
import { stepIds } from './way'

const words = (step: Parameters<typeof changeClauses>[0], before: object, after: object) =>
  clausesInWords(changeClauses(step, before, after))

describe('what a save changed, in words', () => {
  test('a reading is said by its pad', () => {
    const before = { readings: [{}, {}, { volts: 3.1 }] }
    const after = { readings: [{}, {}, { volts: 3.3, cont_gnd: false }] }
    expect(words('pads', before, after)).toBe('pad 3: silent to ground, 3.3 V')
    expect(words('pads', after, { readings: [{}, {}, { volts: 3.3 }] })).toBe('pad 3: a reading taken off')
  })
  test('a field by its name and what it is now; a list by how much is in it', () => {
    expect(words('arrive', { loadWatts: null }, { loadWatts: 1200 })).toBe('what it will carry: 1200')
    expect(words('open', { fasteners: [] }, { fasteners: [{ id: 'f1' }, { id: 'f2' }] })).toBe('fasteners: 2 entries')
  })
  test('many at once are counted, long ones are cut', () => {
    expect(words('join', {}, { a: 1, b: 2, c: 3, d: 4, e: 5 })).toMatch(/; 2 more$/)
    expect(words('join', { note: '' }, { note: 'x'.repeat(500) }).length).toBeLessThan(80)
  })
  test.each(stepIds)('%s: any record is its own equal, and any change of it has words', (step) => {
    fc.assert(
      fc.property(anyRecord(step), (record) => {
        expect(changeClauses(step, record as object, record as object)).toEqual([])
        expect(words(step, emptyRecord(step) as object, record as object).length).toBeGreaterThan(0)
      }),
      { numRuns: 20 },
    )
  })
})
