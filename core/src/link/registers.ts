import { factsOf, type KnownFamily, knownFamilies, type LinkDie } from '../families/families'
import { flashBytesOfCapacity } from '../flash/flash-id'

/** What the words of a chip's registers mean: family, address, crystal, flash id (brief 06 §3). */

export const magicAddress = 0x40001000
/** A word as the facts write it. */
export const wordOf = (hex: string): number => Number(hex)

export interface Die {
  family: KnownFamily
  die: LinkDie
}

/** Dies of families we speak to that are other parts all the same: named, and refused. */
const otherDies: Record<number, string> = {
  1867591791: 'RV32, id 12',
  2084675695: 'RV32, id 12',
  752910447: 'RV32, id 13',
  3619110528: 'RV32, id 16',
}
export const otherDieOf = (magic: number): string | null => otherDies[magic] ?? null

/** The die that answers with this magic word; null where the table has none. */
export function dieOf(magic: number): Die | null {
  for (const family of knownFamilies)
    for (const die of factsOf(family).link?.dies ?? [])
      if (die.magic.some((m) => wordOf(m) === magic)) return { family, die }
  return null
}

const byte = (word: number, at: number) => (word >>> (8 * at)) & 0xff
const two = (n: number) => n.toString(16).padStart(2, '0')

/** First three bytes where the die keeps none: by one byte of its second word. */
const usualFirst: Record<number, readonly number[]> = { 0: [0x18, 0xfe, 0x34], 1: [0xac, 0xd0, 0x74] }

/** The station's MAC from the words of the die, in their order; null where they say none. */
export function macOf(words: readonly number[]): string | null {
  const [first = 0, second = 0, third] = words
  if (third === undefined)
    return [byte(second, 1), byte(second, 0), byte(first, 3), byte(first, 2), byte(first, 1), byte(first, 0)]
      .map(two)
      .join(':')
  const head = third !== 0 ? [byte(third, 2), byte(third, 1), byte(third, 0)] : usualFirst[byte(second, 2)]
  return head ? [...head, byte(second, 1), byte(second, 0), byte(first, 3)].map(two).join(':') : null
}

const dividerBits = 0xfffff
const betweenCrystals = 33

/** 26 or 40 MHz, from the UART's divider at the rate of the first sync. */
export function crystalOf(rate: number, divider: number, halved: boolean): 26 | 40 {
  const mhz = (rate * (divider & dividerBits)) / 1e6 / (halved ? 2 : 1)
  return mhz > betweenCrystals ? 40 : 26
}

const ones = (word: number): number => {
  let count = 0
  for (let rest = word >>> 0; rest; rest >>>= 1) count += rest & 1
  return count
}

/** An odd number of set bits says that the flash is encrypted. */
export const encryptedBy = (count: number): boolean => ones(count) % 2 === 1
export const cipherCount = (word: number): number => (word >>> 20) & 0x7f

/** The flash id as it is written down: maker, type, capacity. */
export const flashIdOf = (w0: number): string => [byte(w0, 0), byte(w0, 1), byte(w0, 2)].map(two).join('')

/** Bytes of the chip by the third byte of its id; null where it says none. */
export const flashBytesBy = (w0: number): number | null => flashBytesOfCapacity(byte(w0, 2))

export interface SpiRead {
  /** Registers to save before and put back after. */
  saved: number[]
  writes: { address: number; value: number }[]
  /** Where the id then stands. */
  w0: number
  command: number
}

const startCommand = 0x00040000
/** Five writes and a read that make the SPI controller ask the flash for its id. */
export function flashIdRead(die: LinkDie): SpiRead {
  const at = (offset: number) => wordOf(die.spi.base) + offset
  const bitsIn = 23
  return {
    saved: [at(die.spi.user), at(die.spi.user2)],
    writes: [
      { address: at(die.spi.user), value: 0x90000000 },
      die.spi.inLength === null
        ? { address: at(die.spi.user1), value: bitsIn << 8 }
        : { address: at(die.spi.inLength), value: bitsIn },
      { address: at(die.spi.user2), value: 0x7000009f },
      { address: at(die.spi.w0), value: 0 },
      { address: at(0), value: startCommand },
    ],
    w0: at(die.spi.w0),
    command: at(0),
  }
}
