import { bytesOfLatin1, latin1 } from '@fresh-coat/core/bytes/text'
import { startByLines } from '@fresh-coat/core/link/enter'
import { newLine } from '@fresh-coat/core/link/flow'
import { Heard, type HeardLine } from '@fresh-coat/core/link/heard'
import {
  type Answer,
  answerIn,
  type Judged,
  judgeAnswer,
  lineEnds,
  lineOf,
  type Question,
} from '@fresh-coat/core/link/questions'
import type { PatternVars } from '@fresh-coat/core/topics/pattern'
import { type DeskBase, type OpenPort, timeoutMs } from './desk-base'

/** Hearing at the desk what a unit says, saying a line to it, and asking it what its firmware can be asked. */

const listenMs = 250
/** So long it goes on listening after something was said to it. */
const talkMs = 60_000
const mostText = 200_000

export interface ListenJob {
  unitId: string | null
  open: OpenPort
  /** The adapter's lines give it its reset; otherwise hands do. */
  byLines: boolean
  rates: readonly { rate: number; seconds: number }[]
  heard: (text: string, rate: number) => void
}
export interface AskJob {
  question: Question
  vars: PatternVars
  ends: keyof typeof lineEnds
  /** Which release was written, when that is known. */
  release: string | null
}
export interface Answered extends Judged {
  said: string
  answer: Answer | null
}

interface Waiting {
  job: AskJob
  /** The line that asked: what came before it is no answer. */
  asked: HeardLine
  until: number
  settle: (answer: Answer | null) => void
}

/** What was heard and said so far, and until when it listens. */
export class Talk {
  text = ''
  private heard = new Heard()
  private began = 0
  private until = 0
  private waiting: Waiting | null = null
  constructor(private readonly desk: DeskBase) {}

  start(): void {
    this.text = ''
    this.heard = new Heard()
    this.began = performance.now()
    this.show()
  }
  private show(): void {
    const { lines, tail, total } = this.heard
    this.desk.show({ text: this.text, lines: [...lines], tail, before: total - tail.length })
  }
  private get sinceMs(): number {
    return Math.round(performance.now() - this.began)
  }
  /** Hears for so long, and longer while somebody talks to it. */
  async hear(ms: number): Promise<void> {
    const { link } = this.desk
    if (!link) return
    this.until = link.now() + ms
    try {
      for (
        let left = ms;
        left > 0 && !this.desk.stopping && this.text.length < mostText;
        left = this.until - link.now()
      ) {
        const bytes = await link.read(Math.min(left, listenMs))
        if (bytes.length > 0) {
          this.text += latin1(bytes)
          this.heard.hear(bytes, this.sinceMs)
          this.show()
        }
        this.look(link.now())
      }
    } finally {
      this.waiting?.settle(null)
    }
  }
  /** Is what was asked answered now, or too late for it? */
  private look(now: number): void {
    const { waiting } = this
    if (!waiting) return
    const answer = answerIn(waiting.job.question, waiting.job.vars, this.heard.wholeAfter(waiting.asked))
    // A restart is over when its boot text came: its answer alone is its word.
    if ((answer && waiting.job.question.what !== 'restart') || now >= waiting.until) waiting.settle(answer)
  }
  /** It stands in the text as what was said, not as what was answered. */
  async say(line: string, ends: keyof typeof lineEnds = 'crlf'): Promise<void> {
    const { link } = this.desk
    if (!link) return
    this.note(line, link.now())
    await link.write(bytesOfLatin1(`${line}${lineEnds[ends]}`))
  }
  private note(line: string, now: number): HeardLine {
    this.text = `${this.text.replace(/\n?$/, '\n')}> ${line}\n`
    this.until = Math.max(this.until, now + talkMs)
    const said = this.heard.said(line, this.sinceMs)
    this.show()
    return said
  }
  /** One question at a time: answers carry no names. */
  async ask(job: AskJob): Promise<Answered | null> {
    const { link } = this.desk
    const rendered = lineOf(job.question, job.vars)
    if (!link || this.waiting || 'why' in rendered) return null
    const asked = this.note(rendered.line, link.now())
    const from = this.text.length
    const answered = new Promise<Answer | null>((settle) => {
      this.waiting = { job, asked, until: link.now() + job.question.withinMs, settle }
    })
    this.desk.show({ asking: job.question.what }, true)
    try {
      await link.write(bytesOfLatin1(`${rendered.line}${lineEnds[job.ends]}`))
      const answer = await answered
      return { ...judgeAnswer(job.question, answer, this.text.slice(from), job.release), said: rendered.line, answer }
    } finally {
      this.waiting = null
      this.desk.show({ asking: null }, true)
    }
  }
}

/** Hears what the unit says, at one rate after the other. Nothing is sent but what a person says. */
export async function listenAt(desk: DeskBase, talk: Talk, job: ListenJob): Promise<void> {
  if (desk.busy) return
  desk.begin('listen', job.unitId, false)
  talk.start()
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
