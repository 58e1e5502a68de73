/** Bytes to and from a chip, whatever carries them: the seam between the flow and the platform (brief 06 §9). */

export type LostWhy = 'unplugged' | 'closed' | 'error'

export interface ByteLink {
  readonly kind: 'web-serial' | 'tcp' | 'virtual' | 'replay'
  /** False: it is done by hand, or left out. */
  readonly can: { lines: boolean; rate: boolean }
  /** What has come, at once when there is some; empty when the time is over. */
  read(withinMs: number): Promise<Uint8Array>
  /** Done when handed over, not when sent. */
  write(bytes: Uint8Array): Promise<void>
  setLines(lines: { dtr: boolean; rts: boolean }): Promise<void>
  changeRate(rate: number): Promise<void>
  close(): Promise<void>
  onLost(tell: (why: LostWhy, text: string) => void): () => void
  /** Milliseconds of this link's own clock: a virtual chip's time does not pass outside it. */
  now(): number
}

/** The line is gone: nothing more comes or goes. */
export class LineLost extends Error {
  constructor(
    readonly why: LostWhy,
    text: string,
  ) {
    super(text)
  }
}
