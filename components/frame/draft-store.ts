import { createStore, del, get, keys, set } from 'idb-keyval'

/** Drafts in the browser's database: what was typed survives a reload, a crash and a server that is away. */
export interface KeptDraft {
  base: unknown
  mine: unknown
  version: number
}

let store: ReturnType<typeof createStore> | null = null
const where = () => {
  store ??= createStore('fresh-coat', 'drafts')
  return store
}
/** A full or forbidden store only costs the net under a reload; the page itself still holds the text. */
async function quietly<T>(run: () => Promise<T>, otherwise: T): Promise<T> {
  try {
    return await run()
  } catch {
    return otherwise
  }
}

const nameKey = 'fresh-coat:tab'
function newName(): string {
  const made = Math.random().toString(36).slice(2)
  try {
    sessionStorage.setItem(nameKey, made)
  } catch {
    // Forbidden: the name lasts as long as the page.
  }
  return made
}
function knownName(): string | null {
  try {
    return sessionStorage.getItem(nameKey)
  } catch {
    return 'only'
  }
}

const lockOf = (id: string) => `fresh-coat:tab:${id}`
/** A page that is reloaded lets go of its name within so long. */
const letGoMs = 500

/**
 * Holds a name for as long as this page lives: a draft of a tab that lives is that tab's, and nobody takes it over.
 * @returns false where another page holds it: this tab is a copy of that one
 */
const hold = (id: string): Promise<boolean> =>
  new Promise((answer) => {
    const wait = new AbortController()
    const enough = setTimeout(() => wait.abort(), letGoMs)
    navigator.locks
      .request(lockOf(id), { signal: wait.signal }, () => {
        clearTimeout(enough)
        answer(true)
        return new Promise<void>(() => {})
      })
      // Where locks fail, nobody can say who lives: the name stays as it is.
      .catch(() => answer(!wait.signal.aborted))
  })

async function named(): Promise<string> {
  const known = knownName() ?? newName()
  if (!navigator.locks || (await hold(known))) return known
  const fresh = newName()
  await hold(fresh)
  return fresh
}

let name: Promise<string> | null = null
/** Each tab has a name of its own, a copy of a tab too: two never write over each other's draft. */
function tab(): Promise<string> {
  name ??= named()
  return name
}

/** Over plain http from another machine a browser tells nobody who lives: every draft counts as left behind there. */
async function alive(): Promise<(id: string) => boolean> {
  const held = (await navigator.locks?.query().catch(() => null))?.held ?? []
  const names = new Set(held.map((l) => l.name))
  return (id) => names.has(lockOf(id))
}

const own = async (key: string) => `${key}|${await tab()}`

export const keepDraft = (key: string, draft: KeptDraft): Promise<void> =>
  quietly(async () => set(await own(key), draft, where()), undefined)
export const dropDraft = (key: string): Promise<void> => quietly(async () => del(await own(key), where()), undefined)

/** Drafts of a record that this tab kept, or one that lives no more left behind; those are taken over and removed. */
export const takeDrafts = (key: string): Promise<KeptDraft[]> =>
  quietly(async () => {
    const mine = await own(key)
    const lives = await alive()
    const found = (await keys<string>(where())).filter((k) => k.startsWith(`${key}|`))
    const drafts: KeptDraft[] = []
    for (const k of found) {
      if (k !== mine && lives(k.slice(key.length + 1))) continue
      const draft = await get<KeptDraft>(k, where())
      if (draft) drafts.push(draft)
      if (k !== mine) await del(k, where())
    }
    return drafts
  }, [])
