/** @jest-environment jsdom */
import { cleanup, renderHook } from '@testing-library/react'
import fc from 'fast-check'
import { type Packed, pack, usePacked } from './packed'

afterEach(cleanup)

/** What was unpacked at each drawing. */
function drawn(texts: readonly Packed<unknown>[]): unknown[] {
  const seen: unknown[] = []
  const { rerender, unmount } = renderHook(({ given }) => seen.push(usePacked(given)), {
    initialProps: { given: texts[0] as Packed<unknown> },
  })
  for (const given of texts.slice(1)) rerender({ given })
  unmount()
  return seen
}

test('what a page packs its controls unpack, whatever it is', () => {
  fc.assert(
    fc.property(fc.jsonValue(), (value) => {
      expect(drawn([pack(value)])[0]).toEqual(JSON.parse(JSON.stringify(value)))
    }),
    { numRuns: 60 },
  )
})
test('it is the same thing from drawing to drawing, as long as nothing new comes: what was worked out from it stays', () => {
  const [one, again, other] = drawn([pack({ a: [1] }), pack({ a: [1] }), pack({ a: [2] })])
  expect(again).toBe(one)
  expect(other).toEqual({ a: [2] })
})
test('what is not there does not arrive, as over the wire; what is null does', () => {
  expect(drawn([pack({ a: undefined, b: null })])[0]).toEqual({ b: null })
})
