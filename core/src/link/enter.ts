import { type Flow, read } from './flow'

/** Into the loader, and out of it, by an adapter's lines: both on or both off act as none (brief 01 §7.4). */

const resetMs = 100
const strapMs = 50

/** What comes while it waits is of a part that restarts. */
function* wait(ms: number): Flow<void> {
  yield* read(ms)
}

/** Held in reset, let go with BOOT low, and both lines off again. */
export function* enterByLines(): Flow<void> {
  yield { do: 'lines', dtr: false, rts: true }
  yield* wait(resetMs)
  yield { do: 'lines', dtr: true, rts: false }
  yield* wait(strapMs)
  yield { do: 'lines', dtr: false, rts: false }
}

/** A reset with BOOT free: it starts what is in its flash. */
export function* startByLines(): Flow<void> {
  yield { do: 'lines', dtr: false, rts: true }
  yield* wait(resetMs)
  yield { do: 'lines', dtr: false, rts: false }
}
