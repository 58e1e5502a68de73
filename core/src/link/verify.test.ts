import fc from 'fast-check'
import { firstDifference, sampleOf, sectorsOf } from './verify'

test('sectors of a span are its bytes, each within a sector of the chip', () =>
  fc.assert(
    fc.property(fc.nat(20_000), fc.integer({ min: 1, max: 60_000 }), (offset, bytes) => {
      const sectors = sectorsOf(offset, bytes)
      expect(sectors.reduce((n, s) => n + s.length, 0)).toBe(bytes)
      for (const { at, length } of sectors) {
        expect(length).toBeGreaterThan(0)
        expect(Math.floor((offset + at) / 4096)).toBe(Math.floor((offset + at + length - 1) / 4096))
      }
    }),
  ))
test('a sample holds the first and the last, no more than there are, and is the same for the same seed', () =>
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 2000 }), fc.nat(0xffffffff), (count, seed) => {
      const chosen = sampleOf(count, seed)
      expect(chosen).toEqual(sampleOf(count, seed))
      expect([chosen[0], chosen.at(-1)]).toEqual([0, count - 1])
      expect(new Set(chosen).size).toBe(chosen.length)
      expect(chosen.length).toBe(Math.min(count, Math.max(Math.min(2, count), Math.round(count / 10))))
    }),
  ))
test('the first byte that differs, a missing one too', () => {
  expect(firstDifference(Uint8Array.of(1, 2, 3), Uint8Array.of(1, 2, 3))).toBeNull()
  expect(firstDifference(Uint8Array.of(1, 2, 3), Uint8Array.of(1, 9, 3))).toBe(1)
  expect(firstDifference(Uint8Array.of(1, 2), Uint8Array.of(1, 2, 3))).toBe(2)
})
