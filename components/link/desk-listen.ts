import { bytesOfLatin1, latin1 } from '@fresh-coat/core/bytes/text'
import { startByLines } from '@fresh-coat/core/link/enter'
import { newLine } from '@fresh-coat/core/link/flow'
import { type DeskBase, type OpenPort, timeoutMs } from './desk-base'

/** Hearing at the desk what a unit says, and saying a line to it. */

const listenMs = 250
/** So long it goes on listening after something was said to it. */
const talkMs = 30_000
const mostText = 200_000

export interface ListenJob {
  unitId: string | null
  open: OpenPort
  /** The adapter's lines give it its reset; otherwise hands do. */
  byLines: boolean
  rates: readonly { rate: number; seconds: number }[]
  heard: (text: string, rate: number) => void
}

/** What was heard and said so far, and until when it listens. */
export class Talk {
  text = ''
  private until = 0
  constructor(private readonly desk: DeskBase) {}

  /** Hears for so long, and longer while somebody talks to it. */
  async hear(ms: number): Promise<void> {
    const { link } = this.desk
    if (!link) return
    this.until = link.now() + ms
    for (
      let left = ms;
      left > 0 && !this.desk.stopping && this.text.length < mostText;
      left = this.until - link.now()
    ) {
      const part = latin1(await link.read(Math.min(left, listenMs)))
      if (part === '') continue
      this.text += part
      this.desk.show({ text: this.text })
    }
  }
  /** It stands in the text as what was said, not as what was answered. */
  async say(line: string): Promise<void> {
    const { link } = this.desk
    if (!link) return
    this.text = `${this.text.replace(/\n?$/, '\n')}> ${line}\n`
    this.until = Math.max(this.until, link.now() + talkMs)
    this.desk.show({ text: this.text }, true)
    await link.write(bytesOfLatin1(`${line}\r\n`))
  }
}

/** Hears what the unit says, at one rate after the other. Nothing is sent but what a person says. */
export async function listenAt(desk: DeskBase, talk: Talk, job: ListenJob): Promise<void> {
  if (desk.busy) return
  desk.begin('listen', job.unitId, false)
  talk.text = ''
  try {
    for (const { rate, seconds } of job.rates) {
      await desk.opened(job.open, rate)
      desk.show({ phase: 'listening', rate }, true)
      if (job.byLines && rate === job.rates[0]?.rate) await desk.run(startByLines(), newLine(rate, timeoutMs))
      await talk.hear(seconds * 1000)
      job.heard(talk.text, rate)
      if (desk.stopping) break
    }
    const bytes = talk.text.length
    await desk.finish({ words: bytes > 0 ? `Heard ${bytes} bytes.` : 'Nothing was heard.', good: bytes > 0 })
  } catch (cause) {
    await desk.endedBy(cause, async () => {})
  }
}
