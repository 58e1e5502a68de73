import { parseInput, strictCodes } from '@fresh-coat/core/edge/fault'
import { Journal } from '@fresh-coat/core/link/journal'
import { createStore, del, get, set } from 'idb-keyval'

/**
 * Journals of writes that are not finished: in the browser that writes, where they survive a reload, a crash and a closed
 * laptop, and on the server, where another browser finds them.
 */
let store: ReturnType<typeof createStore> | null = null
const where = () => {
  store ??= createStore('fresh-coat-journals', 'journals')
  return store
}

/** A browser that keeps nothing throws where others refuse: to whoever waits both are the same. */
const here = async <T>(act: () => Promise<T>): Promise<T> => act()

interface Of {
  id: string
  number: number
}

const url = ({ number }: Of) => `/api/units/${number}/journal`

async function answered(request: Promise<Response>): Promise<unknown> {
  const response = await request
  if (!response.ok) throw new Error(`The server answered ${response.status}.`)
  return response.json()
}

const atServer = (of: Of, journal: Journal) =>
  answered(
    fetch(url(of), {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(journal),
      keepalive: true,
    }),
  )

/**
 * Keeps the journal of a unit, or takes it away here where it is null. Before anything is erased it must stand in one of the two
 * places, so the first one throws where neither keeps it; later ones wait for this browser only, and the server gets the
 * newest there is, one after the other.
 */
export function journalKeeper(of: Of): (journal: Journal | null) => Promise<void> {
  let newest: Journal | null = null
  let sending: Promise<unknown> | null = null
  let first = true
  const send = async (journal: Journal): Promise<void> => {
    await atServer(of, journal)
    if (newest && newest !== journal) await send(newest)
  }
  const sent = (journal: Journal): Promise<unknown> => {
    sending ??= send(journal).finally(() => {
      sending = null
    })
    return sending
  }
  return async (journal) => {
    newest = journal
    if (journal === null) {
      await here(() => del(of.id, where())).catch(() => {})
      // The server’s goes with the attempt that is logged next: nothing that is still on its way may come after it.
      await sending?.catch(() => {})
      return
    }
    const kept = here(() => set(of.id, journal, where()))
    const there = sent(journal)
    if (first) {
      await Promise.any([kept, there]).catch(() => {
        throw new Error('neither this browser nor the server can keep the journal of the write')
      })
      first = false
    }
    there.catch(() => {})
    await kept.catch((cause) => there.catch(() => Promise.reject(cause)))
  }
}

const read = (kept: unknown): Journal | null => {
  const journal = parseInput(Journal, kept, strictCodes)
  return journal.ok ? journal.value : null
}

/** The unfinished write of a unit, the newer of the two copies; null where there is none, or nobody can say. */
export async function openJournal(of: Of): Promise<Journal | null> {
  const [own, there] = await Promise.all([
    here(() => get(of.id, where()))
      .then(read)
      .catch(() => null),
    answered(fetch(url(of), { cache: 'no-store' }))
      .then((answer) => read((answer as { value?: unknown }).value))
      .catch(() => null),
  ])
  if (!own || !there) return own ?? there
  return there.updatedAt > own.updatedAt ? there : own
}
