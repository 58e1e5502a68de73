import { DeskBase } from './desk-base'
import { type Answered, type AskJob, type ListenJob, listenAt, Talk } from './desk-listen'
import { type MeasureJob, measureAt } from './desk-measure'
import { type ReadJob, readChip } from './desk-read'
import { deskStore } from './desk-store'
import { type WriteJob, writeChip } from './desk-write'

/** What is done at the desk, one thing at a time. */
export class Desk extends DeskBase {
  private readonly talk = new Talk(this)

  /** Reads the whole chip, twice or once more, and keeps each read. */
  read(job: ReadJob): Promise<void> {
    return readChip(this, job)
  }
  /** Writes what was checked, and proves it; the chip stays in its loader. */
  write(job: WriteJob): Promise<void> {
    return writeChip(this, job)
  }
  /** How long an answer waits over this line, and the highest rate that holds. */
  measure(job: MeasureJob): Promise<void> {
    return measureAt(this, job)
  }
  /** Hears what the unit says, at one rate after the other. */
  listen(job: ListenJob): Promise<void> {
    return listenAt(this, this.talk, job)
  }
  /** Sends a line to the program that is listened to. */
  async say(line: string): Promise<void> {
    if (this.view.phase === 'listening') await this.talk.say(line)
  }
  /** Asks the program that is listened to, and waits for its answer; null when nothing is listened to or the line is no line. */
  async ask(job: AskJob): Promise<Answered | null> {
    return this.view.phase === 'listening' ? this.talk.ask(job) : null
  }
}

/** One port at a time, whatever page is on screen. */
export const desk = new Desk(deskStore)
