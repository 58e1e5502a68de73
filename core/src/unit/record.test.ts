import fc from 'fast-check'
import { z } from 'zod'
import { putTogether, readStored, recordKind, shapeOf, takeApart } from './record'
import { emptyRecord, records } from './records'
import { stepIds } from './way'

const kind = recordKind(z.object({ note: z.string().default(''), volts: z.number().nullable().default(null) }), {
  upgrades: [(old) => ({ ...old, note: old.remark ?? '' }), (old) => ({ ...old, volts: Number(old.volts) || null })],
})

describe('records of older shapes', () => {
  test('are upgraded one shape after the other', () => {
    expect(shapeOf(kind)).toBe(3)
    expect(readStored(kind, { shape: 1, data: { remark: 'bent pin', volts: '3.3' } })).toEqual({
      ok: true,
      data: { note: 'bent pin', volts: 3.3 },
    })
    expect(readStored(kind, { shape: 2, data: { note: 'a', volts: '5' } })).toEqual({
      ok: true,
      data: { note: 'a', volts: 5 },
    })
  })
  test.each([
    ['of a newer version', { shape: 4, data: {} }, '/', /shape 4/],
    ['no object', { shape: 3, data: [] }, '/', /no object/],
    ['a wrong field', { shape: 3, data: { volts: 'many' } }, '/volts', /number/],
  ])('%s: said with its place, and no empty record in its stead', (_, stored, where, what) =>
    expect(readStored(kind, stored)).toEqual({ ok: false, where, what: expect.stringMatching(what) }),
  )
})

describe('a record in the pieces it is stored in', () => {
  test.each(stepIds)('%s comes back whole', (step) => {
    const empty = emptyRecord(step) as Record<string, unknown>
    expect(putTogether(records[step], takeApart(records[step], empty))).toEqual(empty)
  })
  test('lists become rows in their order, long texts go apart, and all of it comes back', () =>
    fc.assert(
      fc.property(fc.array(fc.record({ id: fc.string(), reference: fc.integer() })), fc.string(), (points, log) => {
        const of = recordKind(z.object({}), { series: { points: (p: { id: string }) => p.id }, texts: ['log'] })
        const parts = takeApart(of, { points, log, note: 'n' })
        expect(parts.data).toEqual({ note: 'n' })
        expect(new Set(parts.rows.map((r) => r.key)).size).toBe(points.length)
        expect(putTogether(of, { ...parts, rows: [...parts.rows].reverse() })).toEqual({ points, log, note: 'n' })
      }),
    ))
  test('a list that an older version left in the document is read from there', () =>
    expect(putTogether(records.meter, { data: { points: [{ id: 'a' }] }, rows: [], texts: {} })).toEqual({
      points: [{ id: 'a' }],
    }))
})
