import { lastOf, nth } from './nth'

test('an entry that is there is read, of lists and of bytes', () => {
  expect(nth(['a', 'b'], 1)).toBe('b')
  expect(nth(new Uint8Array([7, 8]), 0)).toBe(7)
  expect(lastOf([1, 2, 3])).toBe(3)
})

test('an entry may itself be undefined; one that is not there is a fault, said with its place', () => {
  expect(nth([undefined], 0)).toBeUndefined()
  for (const i of [-1, 2, 0.5 + 2, Number.NaN]) expect(() => nth([1, 2], i)).toThrow(`no entry ${i} in a list of 2`)
  expect(() => lastOf([])).toThrow('in a list of 0')
})
