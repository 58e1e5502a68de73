import { seededRandom } from '../random'

const filledBytes = 32_768

/** A flash chip as an array: it is erased to FF by sectors, and programming only clears bits. */
export class FlashArray {
  readonly bytes: Uint8Array
  constructor(size: number, seed: number) {
    this.bytes = new Uint8Array(size).fill(0xff)
    // Something stands at its start, as in a chip that comes from a shop.
    const random = seededRandom(seed)
    for (let i = 0; i < Math.min(size, filledBytes); i++) this.bytes[i] = Math.floor(random() * 256)
  }
  /** An address beyond the chip's end comes round again. */
  read(offset: number, length: number): Uint8Array {
    return Uint8Array.from({ length }, (_, i) => this.bytes[(offset + i) % this.bytes.length] as number)
  }
  erase(sector: number, sectors: number): void {
    for (let s = 0; s < sectors; s++) {
      const from = ((sector + s) * 4096) % this.bytes.length
      this.bytes.fill(0xff, from, from + 4096)
    }
  }
  /** @returns whether what stands there now is what was to be written */
  program(offset: number, block: Uint8Array): boolean {
    let same = true
    for (const [i, byte] of block.entries()) {
      const at = (offset + i) % this.bytes.length
      const now = (this.bytes[at] as number) & byte
      this.bytes[at] = now
      if (now !== byte) same = false
    }
    return same
  }
}
