import { appendFileSync, mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import type { Message } from '@fresh-coat/core/live/listener'

/**
 * What was acknowledged to a broker and does not stand in the database yet, in a file for each batch. A listener that is killed
 * finds it again: the broker will not send it a second time.
 */
export class AckJournal {
  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true })
  }
  private fileOf(batch: number): string {
    return join(this.folder, `${batch}.log`)
  }
  private batches(): number[] {
    return readdirSync(this.folder)
      .flatMap((name) => /^(\d+)\.log$/.exec(name)?.[1] ?? [])
      .map(Number)
      .sort((a, b) => a - b)
  }

  /** Before it is acknowledged. */
  note(batch: number, { topic, bytes, dup, at }: Message): void {
    const line = JSON.stringify({ topic, bytes: Buffer.from(bytes).toString('base64'), dup, at })
    appendFileSync(this.fileOf(batch), `${line}\n`)
  }

  /** The batch stands in the database, and all before it. */
  written(batch: number): void {
    for (const n of this.batches()) if (n <= batch) rmSync(this.fileOf(n), { force: true })
  }

  /**
   * What was noted after the last batch that was written, in its order; a line that was cut in half was never acknowledged.
   * @returns the number that the next batch has to have, so that all of it counts as written with it
   */
  after(last: number): { messages: Message[]; next: number } {
    this.written(last)
    const batches = this.batches()
    const messages = batches.flatMap((n) =>
      readFileSync(this.fileOf(n), 'utf8')
        .split('\n')
        .flatMap((line): Message[] => {
          try {
            const m = JSON.parse(line) as { topic: string; bytes: string; dup: boolean; at: number }
            return [{ topic: m.topic, bytes: Buffer.from(m.bytes, 'base64'), retained: false, dup: m.dup, at: m.at }]
          } catch {
            return []
          }
        }),
    )
    return { messages, next: Math.max(last, ...batches) + 1 }
  }
}
