import { LineLost, type LostWhy } from '@fresh-coat/core/link/byte-link'

/** What has come over a line and was not taken yet, for lines that are told of bytes instead of asking for them. */
export class Inbox {
  private came: Uint8Array[] = []
  private wake: (() => void) | null = null
  private gone: { why: LostWhy; text: string } | null = null
  private readonly listeners = new Set<(why: LostWhy, text: string) => void>()

  push(bytes: Uint8Array): void {
    if (bytes.length === 0) return
    this.came.push(bytes)
    this.wake?.()
  }
  /** The line is gone: said once, whatever comes after it. */
  lose(why: LostWhy, text: string): void {
    if (this.gone) return
    this.gone = { why, text }
    for (const tell of this.listeners) tell(why, text)
    this.wake?.()
  }
  /** Nobody is told: it was closed on purpose. */
  closed(): void {
    this.gone ??= { why: 'closed', text: 'the port was closed' }
    this.wake?.()
  }
  /** @throws LineLost where nothing more will come */
  check(): void {
    if (this.gone) throw new LineLost(this.gone.why, this.gone.text)
  }
  /** What has come, at once when there is some; empty when the time is over. @throws LineLost once all of it was taken */
  async read(withinMs: number): Promise<Uint8Array> {
    if (this.came.length === 0 && !this.gone)
      await new Promise<void>((done) => {
        const timer = setTimeout(done, withinMs)
        this.wake = () => {
          clearTimeout(timer)
          done()
        }
      })
    this.wake = null
    const parts = this.came
    this.came = []
    if (parts.length === 0) this.check()
    if (parts.length === 1) return parts[0] as Uint8Array
    const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0))
    let at = 0
    for (const part of parts) {
      out.set(part, at)
      at += part.length
    }
    return out
  }
  onLost(tell: (why: LostWhy, text: string) => void): () => void {
    this.listeners.add(tell)
    return () => this.listeners.delete(tell)
  }
}
