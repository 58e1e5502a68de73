import type { ByteLink, LostWhy } from '@fresh-coat/core/link/byte-link'
import { Inbox } from '@/link/inbox'

/** A port of the machine that runs the app, or a bridge that it reaches: its bytes come and go over the app's own server. */

export type FieldWay = { kind: 'bridge'; host: string; port: number } | { kind: 'adapter'; path: string }

const said = async (answer: Response): Promise<string> => {
  const told = (await answer.json().catch(() => null)) as { error?: { message?: string } } | null
  return told?.error?.message ?? `the server answered ${answer.status}`
}

export class FieldLink implements ByteLink {
  readonly kind = 'tcp' as const
  private readonly inbox = new Inbox()
  private readonly ending = new AbortController()

  private constructor(
    private readonly where: string,
    readonly can: { lines: boolean; rate: boolean },
  ) {}

  /** @throws what the server says, where the port cannot be opened */
  static async open(way: FieldWay, rate: number): Promise<FieldLink> {
    const answer = await fetch('/api/field', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(way.kind === 'adapter' ? { ...way, rate } : way),
    })
    if (!answer.ok) throw new Error(await said(answer))
    const { value } = (await answer.json()) as { value: { id: string; can: { lines: boolean; rate: boolean } } }
    const link = new FieldLink(`/api/field/${value.id}`, value.can)
    void link.pump()
    if (link.can.lines) await link.setLines({ dtr: false, rts: false })
    return link
  }
  private async pump(): Promise<void> {
    try {
      const answer = await fetch(this.where, { signal: this.ending.signal })
      const reader = answer.body?.getReader()
      for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) this.inbox.push(part.value)
      this.inbox.lose('unplugged', 'the line was closed at its other end')
    } catch (cause) {
      this.inbox.lose('error', cause instanceof Error ? cause.message : String(cause))
    }
  }
  private async tell(body: BodyInit, type: string): Promise<void> {
    this.inbox.check()
    try {
      const answer = await fetch(this.where, { method: 'POST', headers: { 'content-type': type }, body })
      if (!answer.ok) this.inbox.lose('error', await said(answer))
    } catch (cause) {
      // The app's own server went away: so has the line.
      this.inbox.lose('error', cause instanceof Error ? cause.message : String(cause))
    }
    this.inbox.check()
  }

  now(): number {
    return performance.now()
  }
  read(withinMs: number): Promise<Uint8Array> {
    return this.inbox.read(withinMs)
  }
  write(bytes: Uint8Array): Promise<void> {
    return this.tell(bytes.slice() as Uint8Array<ArrayBuffer>, 'application/octet-stream')
  }
  setLines(lines: { dtr: boolean; rts: boolean }): Promise<void> {
    return this.tell(JSON.stringify(lines), 'application/json')
  }
  changeRate(rate: number): Promise<void> {
    return this.tell(JSON.stringify({ rate }), 'application/json')
  }
  async close(): Promise<void> {
    this.inbox.closed()
    await fetch(this.where, { method: 'DELETE' }).catch(() => {})
    this.ending.abort()
  }
  onLost(tell: (why: LostWhy, text: string) => void): () => void {
    return this.inbox.onLost(tell)
  }
}
