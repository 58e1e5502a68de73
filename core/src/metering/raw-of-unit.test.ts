import fc from 'fast-check'
import { unit } from '../testing/a-unit'
import { learnedFrom } from '../unit/steps'
import { keptOf, RawSnapshot, rawMapOf, readRaw, testOf } from './raw-of-unit'

const snapshot = (more: object) => RawSnapshot.parse({ id: 'a', at: '', on: true, kind: 'none', raw: '', ...more })
/** The workshop plug of the brief, as a person would paste it. */
const off = snapshot({
  id: 'a',
  at: '2026-05-12T18:00:00Z',
  on: false,
  raw: '1: false\n2: 0\n4: 0\n5: 0\n6: 2314\n7: 118',
})
const charger = snapshot({
  id: 'b',
  at: '2026-05-12T18:05:00Z',
  kind: 'charger',
  raw: '1 = true, 2 = 0, 4 = 98, 5 = 101, 6 = 2309, 7 = 118',
})
const lamp = snapshot({
  id: 'c',
  at: '2026-05-12T18:10:00Z',
  kind: 'resistive',
  w: 120,
  raw: '{"1":true,"2":0,"4":512,"5":1179,"6":2303,"7":119}',
})
const at = (snapshots: RawSnapshot[]) => unit({ meter: { snapshots }, arrive: { ratedAmps: 10 } })

describe('raw values that are pasted', () => {
  test('in three forms are the same values, and the worked example is settled by the lamp', () => {
    expect(rawMapOf(at([off, charger]))?.settled).toBe(false)
    const map = rawMapOf(at([off, charger, lamp]))
    expect(map?.settled).toBe(true)
    expect([map?.best.voltage, map?.best.current, map?.best.power]).toEqual([
      { key: '6', k: 1 },
      { key: '4', k: 3 },
      { key: '5', k: 1 },
    ])
  })
  test('what is no value is named, not dropped', () => {
    expect(readRaw('4: 98\nname: lamp\n5: 1.5\n: 7\n6 2309')).toEqual({
      raw: { '4': 98, '6': 2309 },
      unread: ['name: lamp', '5: 1.5', ': 7'],
    })
    expect(readRaw('{"4": 98, "x": "on", "y": [1]}').unread).toEqual(['x: "on"', 'y: [1]'])
  })
  test('whatever was written as lines or as JSON reads back', () =>
    fc.assert(
      fc.property(
        fc.dictionary(fc.stringMatching(/^[a-z][a-z0-9]{0,8}$/), fc.oneof(fc.integer(), fc.boolean()), { maxKeys: 20 }),
        (raw) => {
          const lines = Object.entries(raw).map(([k, v]) => `${k}: ${v}`)
          expect(readRaw(lines.join('\n'))).toEqual({ raw, unread: [] })
          expect(readRaw(JSON.stringify(raw))).toEqual({ raw, unread: [] })
        },
      ),
    ))
})

describe('what is kept of it', () => {
  const kept = keptOf(rawMapOf(at([off, charger, lamp])), 'Stock 2.1', 7)
  if (!kept) throw new Error('not settled')
  test('is only what is settled, and teaches its board', () => {
    expect(keptOf(rawMapOf(at([off, charger])), 'Stock 2.1', 7)).toBeNull()
    expect(kept.others['1']).toEqual({ quantity: 'switch', k: null })
    const fact = (snapshots: RawSnapshot[]) => learnedFrom(at(snapshots), 'meter').find((l) => l.key === 'rawMap')
    expect(fact([off, charger])).toBeUndefined()
    expect(fact([off, charger, lamp])?.value).toMatchObject({ current: { key: '4', k: 3 } })
  })
  test('is tested on the next unit by one heater or lamp; a charger proves nothing', () => {
    expect(testOf(kept, [], 'Stock 2.1')).toBe('not tested')
    expect(testOf(kept, [charger], 'Stock 2.1')).toBe('not tested')
    expect(testOf(kept, [lamp], 'Stock 2.1')).toBe('fits')
    expect(testOf(kept, [lamp], 'Stock 2.2')).toBe('re-check')
    // Power and current the other way round.
    const crossed = { ...kept, current: kept.power, power: kept.current }
    expect(testOf(crossed, [lamp], 'Stock 2.1')).toBe('does not fit')
    expect(testOf(kept, [snapshot({ kind: 'resistive', w: 120, raw: '4: 512' })], 'Stock 2.1')).toBe('does not fit')
  })
})
