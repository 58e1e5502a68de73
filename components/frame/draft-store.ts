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

/** Each tab keeps its own: two tabs never write over each other's draft. */
function tab(): string {
  try {
    const known = sessionStorage.getItem('fresh-coat:tab')
    if (known) return known
    const made = Math.random().toString(36).slice(2)
    sessionStorage.setItem('fresh-coat:tab', made)
    return made
  } catch {
    return 'only'
  }
}

const lockOf = (id: string) => `fresh-coat:tab:${id}`
let holding = false
/** Held as long as this page lives: a draft of a tab that lives is that tab's, and nobody takes it over. */
function live(): void {
  if (holding || !navigator.locks) return
  holding = true
  navigator.locks.request(lockOf(tab()), () => new Promise<void>(() => {})).catch(() => {})
}
/** Over plain http from another machine a browser tells nobody who lives: every draft counts as left behind there. */
async function alive(): Promise<(id: string) => boolean> {
  const held = (await navigator.locks?.query().catch(() => null))?.held ?? []
  const names = new Set(held.map((l) => l.name))
  return (id) => names.has(lockOf(id))
}

const own = (key: string) => `${key}|${tab()}`

export const keepDraft = (key: string, draft: KeptDraft): Promise<void> =>
  quietly(() => set(own(key), draft, where()), undefined)
export const dropDraft = (key: string): Promise<void> => quietly(() => del(own(key), where()), undefined)

/** Drafts of a record that this tab kept, or one that lives no more left behind; those are taken over and removed. */
export const takeDrafts = (key: string): Promise<KeptDraft[]> =>
  quietly(async () => {
    live()
    const lives = await alive()
    const found = (await keys<string>(where())).filter((k) => k.startsWith(`${key}|`))
    const drafts: KeptDraft[] = []
    for (const k of found) {
      if (k !== own(key) && lives(k.slice(key.length + 1))) continue
      const draft = await get<KeptDraft>(k, where())
      if (draft) drafts.push(draft)
      if (k !== own(key)) await del(k, where())
    }
    return drafts
  }, [])
