import { bytesOfHex, hexOf } from '@fresh-coat/core/bytes/text'
import { type ByteLink, LineLost, type LostWhy } from '@fresh-coat/core/link/byte-link'

/** A line that was recorded, played back: what is sent has to be what was sent, and what came is given at once. */

export type Recorded = { t: number } & (
  | { out: string }
  | { in: string }
  | { lines: { dtr: boolean; rts: boolean } }
  | { rate: number }
  | { lost: LostWhy }
)

/** The flow does otherwise than it did: at this line of the recording, counted from 1. */
export class Diverged extends Error {
  constructor(
    readonly line: number,
    text: string,
  ) {
    super(`replay-diverged at line ${line}: ${text}`)
  }
}

/** Lines of JSON, as they are written down. @throws SyntaxError for a line that is none */
export const recordedLines = (text: string): Recorded[] =>
  text
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => JSON.parse(line) as Recorded)

/** The same line, with everything that goes over it told as it is written down. */
export function recording(link: ByteLink, note: (line: Recorded) => void): ByteLink {
  const t = () => Math.round(link.now())
  return {
    kind: link.kind,
    can: link.can,
    now: () => link.now(),
    read: async (withinMs) => {
      const bytes = await link.read(withinMs)
      if (bytes.length > 0) note({ t: t(), in: hexOf(bytes) })
      return bytes
    },
    write: async (bytes) => {
      note({ t: t(), out: hexOf(bytes) })
      await link.write(bytes)
    },
    setLines: async (lines) => {
      note({ t: t(), lines })
      await link.setLines(lines)
    },
    changeRate: async (rate) => {
      note({ t: t(), rate })
      await link.changeRate(rate)
    },
    close: () => link.close(),
    onLost: (tell) =>
      link.onLost((why, text) => {
        note({ t: t(), lost: why })
        tell(why, text)
      }),
  }
}

export class ReplayLink implements ByteLink {
  readonly kind = 'replay' as const
  /** What the recording did it could do. */
  readonly can: { lines: boolean; rate: boolean }
  private at = 0
  private time = 0
  private readonly listeners = new Set<(why: LostWhy, text: string) => void>()

  constructor(private readonly lines: readonly Recorded[]) {
    this.can = { lines: lines.some((l) => 'lines' in l), rate: lines.some((l) => 'rate' in l) }
  }

  /** All of it was played. */
  get over(): boolean {
    return this.at >= this.lines.length
  }
  now(): number {
    return this.time
  }
  private take(): void {
    this.time = Math.max(this.time, this.lines[this.at]?.t ?? 0)
    this.at++
  }
  private expect(same: (line: Recorded) => boolean, what: string): void {
    const line = this.lines[this.at]
    if (!line || !same(line)) throw new Diverged(this.at + 1, what)
    this.take()
  }
  async read(withinMs: number): Promise<Uint8Array> {
    const line = this.lines[this.at]
    if (line && 'lost' in line) {
      this.take()
      for (const tell of this.listeners) tell(line.lost, 'as it was recorded')
      throw new LineLost(line.lost, 'as it was recorded')
    }
    if (line && 'in' in line) {
      this.take()
      return bytesOfHex(line.in) ?? new Uint8Array(0)
    }
    this.time += withinMs
    return new Uint8Array(0)
  }
  async write(bytes: Uint8Array): Promise<void> {
    const hex = hexOf(bytes)
    this.expect((line) => 'out' in line && line.out === hex, `${hex.slice(0, 40)} was sent`)
  }
  async setLines(lines: { dtr: boolean; rts: boolean }): Promise<void> {
    const same = (line: Recorded) => 'lines' in line && line.lines.dtr === lines.dtr && line.lines.rts === lines.rts
    this.expect(same, 'the lines were set')
  }
  async changeRate(rate: number): Promise<void> {
    this.expect((line) => 'rate' in line && line.rate === rate, `the rate was set to ${rate}`)
  }
  async close(): Promise<void> {}
  onLost(tell: (why: LostWhy, text: string) => void): () => void {
    this.listeners.add(tell)
    return () => this.listeners.delete(tell)
  }
}
