import { type Db, inSnapshot } from './client'
import { type KeptList, tokensOf } from './kept'

/**
 * Rooms that are worked out of thousands of rows (kept.ts) are worked out again soon after a change, for as long as somebody looked at them
 * lately: whoever comes back finds them ready, and one command after the other is not held up by them.
 */

const latelyMs = 10 * 60_000
const soonMs = 400

type Room = (source: Db) => Promise<unknown>
interface Looked {
  room: Room
  /** When somebody looked last, ms. */
  at: number
  /** What it is worked out of, and under which token it was last worked out here. */
  list: KeptList
  token: string | null
}
interface Warm {
  /** By their names. */
  rooms: Map<string, Looked>
  timer: NodeJS.Timeout | null
  again: Promise<void>
}
// Pages and commands are different programs of one process: what both know of stands outside of either.
const all = globalThis as unknown as { freshCoatWarm?: WeakMap<Db, Warm> }

function warmOf(db: Db): Warm {
  all.freshCoatWarm ??= new WeakMap()
  const own = all.freshCoatWarm.get(db) ?? { rooms: new Map(), timer: null, again: Promise.resolve() }
  all.freshCoatWarm.set(db, own)
  return own
}

/** A room as of one moment; for some time afterwards it is worked out again whenever its list has changed. */
export function lookInto<R>(db: Db, name: string, list: KeptList, room: (source: Db) => Promise<R>): Promise<R> {
  const { rooms } = warmOf(db)
  rooms.set(name, { room, list, at: Date.now(), token: rooms.get(name)?.token ?? null })
  return inSnapshot(db, room)
}

async function again(db: Db, { rooms }: Warm): Promise<void> {
  const tokens = await tokensOf(db)
  for (const [name, looked] of [...rooms]) {
    const token = tokens[looked.list]
    if (Date.now() - looked.at > latelyMs) rooms.delete(name)
    else if (looked.token !== token) {
      await inSnapshot(db, looked.room)
      looked.token = token
    }
  }
}

/** Something changed: once for all that changes within a moment. What fails is read by whoever looks next, and said there. */
export function warmSoon(db: Db): void {
  const own = warmOf(db)
  if (own.rooms.size === 0 || own.timer) return
  own.timer = setTimeout(() => {
    own.timer = null
    own.again = own.again.then(() => again(db, own)).catch(() => {})
  }, soonMs)
  own.timer.unref()
}
