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

const own = (key: string) => `${key}|${tab()}`

export const keepDraft = (key: string, draft: KeptDraft): Promise<void> =>
  quietly(() => set(own(key), draft, where()), undefined)
export const dropDraft = (key: string): Promise<void> => quietly(() => del(own(key), where()), undefined)

/** Drafts of a record that any tab left behind; they are taken over and removed. */
export const takeDrafts = (key: string): Promise<KeptDraft[]> =>
  quietly(async () => {
    const found = (await keys<string>(where())).filter((k) => k.startsWith(`${key}|`))
    const drafts: KeptDraft[] = []
    for (const k of found) {
      const draft = await get<KeptDraft>(k, where())
      if (draft) drafts.push(draft)
      if (k !== own(key)) await del(k, where())
    }
    return drafts
  }, [])
