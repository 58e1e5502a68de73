import type { ByteLink } from './byte-link'
import { LineLost } from './byte-link'
import type { Effect, Event, Flow, LinkState, WriteNote } from './flow'

/** It was asked to end, between two of its steps. */
export class Stopped extends Error {}

export interface Watch {
  /** Asked between two steps; true ends the flow with {@link Stopped}. A flow that writes must not be given it. */
  stopped?: () => boolean
  /** Asked between two blocks or sectors, where nothing is half done; true ends a flow that writes. It may take its time: a pause. */
  cancelled?: () => boolean | Promise<boolean>
  /** Hears the state that a person is shown. */
  onState?: (state: LinkState) => void
  /** Keeps a journal: the next block goes out once it is kept. */
  onNote?: (note: WriteNote) => void | Promise<void>
  /** Takes bytes of the chip as they come. */
  onBytes?: (at: number, bytes: Uint8Array) => void
}

async function carry(effect: Effect, link: ByteLink, watch: Watch): Promise<Event> {
  switch (effect.do) {
    case 'send':
      await link.write(effect.bytes)
      return { done: true }
    case 'read':
      return { bytes: await link.read(effect.withinMs) }
    case 'lines':
      if (link.can.lines) await link.setLines({ dtr: effect.dtr, rts: effect.rts })
      return { done: true }
    case 'now':
      return { now: link.now() }
    case 'note':
      await watch.onNote?.(effect.note)
      return { done: true }
    case 'rate':
      await link.changeRate(effect.rate)
      return { done: true }
    case 'boundary':
      return { stop: (await watch.cancelled?.()) ?? false }
    case 'keep':
      watch.onBytes?.(effect.at, effect.bytes)
      return { done: true }
    default:
      watch.onState?.(effect.state)
      return { done: true }
  }
}

/** Runs a flow over a line. A line that is lost ends it with {@link LineLost}: nothing is opened again by itself. */
export async function drive<T>(flow: Flow<T>, link: ByteLink, watch: Watch = {}): Promise<T> {
  let lost: LineLost | null = null
  const end = link.onLost((why, text) => {
    lost ??= new LineLost(why, text)
  })
  try {
    for (let at = flow.next(); ; ) {
      if (at.done) return at.value
      if (lost) throw lost
      if (watch.stopped?.()) throw new Stopped('stopped')
      at = flow.next(await carry(at.value, link, watch))
    }
  } finally {
    end()
  }
}
