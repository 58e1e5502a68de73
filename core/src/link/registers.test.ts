import { factsOf, knownFamilies } from '../families/families'
import {
  cipherCount,
  crystalOf,
  dieOf,
  encryptedBy,
  flashBytesBy,
  flashIdOf,
  flashIdRead,
  macOf,
  otherDieOf,
  wordOf,
} from './registers'

const dies = knownFamilies.flatMap((f) => factsOf(f).link?.dies ?? [])
const die = (name: string) => {
  const found = dies.find((d) => d.name === name)
  if (!found) throw new Error(name)
  return found
}

describe('the address', () => {
  test('from two words: the third byte of the second is a check', () =>
    expect(macOf([0x59102030, 0x00c3024c])).toBe('02:4c:59:10:20:30'))
  test('from three words, where the last three bytes stand apart from the first', () =>
    expect(macOf([0x30000000, 0x00001020, 0x00024c59])).toBe('02:4c:59:10:20:30'))
  test.each([
    [0x00001020, '18:fe:34:10:20:30'],
    [0x00011020, 'ac:d0:74:10:20:30'],
    [0x00021020, null],
  ])('without a third word the second says which usual ones they are: %i', (second, mac) =>
    expect(macOf([0x30000000, second, 0])).toBe(mac),
  )
})

test.each([
  [115_200, 451, true, 26],
  [115_200, 694, true, 40],
  [115_200, 226, false, 26],
  [115_200, 347, false, 40],
  [74_880, 0xff000000 | 1068, true, 40],
] as const)('the crystal at %i with a divider of %i', (rate, divider, halved, mhz) =>
  expect(crystalOf(rate, divider, halved)).toBe(mhz),
)

test('the flash id, and what its chip holds', () => {
  expect([flashIdOf(0x144068), flashBytesBy(0x144068)]).toEqual(['684014', 1_048_576])
  expect(flashBytesBy(0)).toBeNull()
})

test('an odd count of set bits says that the flash is encrypted', () => {
  expect([0, 1, 3, 7].map(encryptedBy)).toEqual([false, true, false, true])
  expect(cipherCount(0x7f << 20)).toBe(0x7f)
})

test('the flash is asked for its id where each die has its registers', () => {
  const old = flashIdRead(die('LX106')).writes
  expect(old).toContainEqual({ address: 0x60000220, value: 0x1700 })
  expect(old.at(-1)).toEqual({ address: 0x60000200, value: 0x40000 })
  const later = flashIdRead(die('LX6'))
  expect(later.writes).toContainEqual({ address: 0x3ff4202c, value: 23 })
  expect(later.w0).toBe(0x3ff42080)
  // What it changes is put back: the two that the ROM itself uses.
  expect(flashIdRead(die('RV32, id 5')).saved).toEqual([0x60002018, 0x60002020])
})

test('every magic word tells one die, and none of another part', () => {
  const words = dies.flatMap((d) => d.magic.map(wordOf))
  expect(new Set(words).size).toBe(words.length)
  for (const d of dies) for (const m of d.magic) expect(dieOf(wordOf(m))?.die.name).toBe(d.name)
  expect(dieOf(0xdeadbeef)).toBeNull()
  for (const other of [0x6f51306f, 0x7c41a06f, 0x2ce0806f, 0xd7b73e80]) {
    expect(otherDieOf(other)).toMatch(/RV32, id/)
    expect(dieOf(other)).toBeNull()
  }
})
