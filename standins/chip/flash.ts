import { seededRandom } from '../random'

const filledBytes = 32_768

/** A flash chip as an array: it is erased to FF by sectors, and programming only clears bits. */
export class FlashArray {
  readonly bytes: Uint8Array
  private reads = 0
  /** Something was erased or programmed since it came from its shop. */
  changed = false
  /** Cells that do not take these bits, so many times. */
  private readonly weak: { address: number; mask: number; times: number }[]
  constructor(
    size: number,
    seed: number,
    stands: Uint8Array | null = null,
    weak: readonly { address: number; mask: number; times: number }[] = [],
    private readonly unstable: readonly { address: number; mask: number }[] = [],
  ) {
    this.weak = weak.map((w) => ({ ...w }))
    this.bytes = new Uint8Array(size).fill(0xff)
    if (stands) {
      this.bytes.set(stands.subarray(0, size))
      return
    }
    // Something stands at its start, as in a chip that comes from a shop.
    const random = seededRandom(seed)
    for (let i = 0; i < Math.min(size, filledBytes); i++) this.bytes[i] = Math.floor(random() * 256)
  }
  /** An address beyond the chip's end comes round again. */
  read(offset: number, length: number): Uint8Array {
    this.reads++
    const otherwise = (at: number) =>
      this.reads % 2 === 0 ? (this.unstable.find((u) => u.address === at)?.mask ?? 0) : 0
    return Uint8Array.from({ length }, (_, i) => {
      const at = (offset + i) % this.bytes.length
      return (this.bytes[at] as number) ^ (this.unstable.length > 0 ? otherwise(at) : 0)
    })
  }
  erase(sector: number, sectors: number): void {
    this.changed = true
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
      const now = ((this.bytes[at] as number) & byte) | this.notTaken(at, this.bytes[at] as number)
      this.bytes[at] = now
      if (now !== byte) same = false
    }
    return same
  }
  /** Bits of this cell that stay as they were, this time. */
  private notTaken(at: number, before: number): number {
    const weak = this.weak.find((w) => w.address === at && w.times > 0)
    if (!weak) return 0
    weak.times--
    return before & weak.mask
  }
}
