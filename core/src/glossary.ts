import data from './glossary.json'

/** A word of the trade, and what it means in one sentence. */
export interface Entry {
  term: string
  /** Other forms that mean the same. */
  also: string[]
  says: string
}
export const glossary: readonly Entry[] = data

/** A stretch of text; one with an entry is a word that is explained. */
export interface Piece {
  text: string
  entry: Entry | null
}

const forms = glossary.flatMap((entry) => [entry.term, ...entry.also].map((form) => ({ form, entry })))
const escaped = (form: string) => form.replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&')
const pattern = new RegExp(
  `(?<![\\p{L}\\p{N}-])(${[...forms]
    .sort((a, b) => b.form.length - a.form.length)
    .map((f) => escaped(f.form))
    .join('|')})(?![\\p{L}\\p{N}-])`,
  'gu',
)

/** A text cut at the words of the trade in it; each is explained once, at its first place. Joined, the pieces are the text. */
export function piecesOf(text: string): Piece[] {
  const seen = new Set<Entry>()
  const pieces: Piece[] = []
  let at = 0
  for (const match of text.matchAll(pattern)) {
    const entry = forms.find((f) => f.form === match[1])?.entry
    if (!entry || seen.has(entry)) continue
    seen.add(entry)
    if (match.index > at) pieces.push({ text: text.slice(at, match.index), entry: null })
    pieces.push({ text: match[0], entry })
    at = match.index + match[0].length
  }
  if (at < text.length) pieces.push({ text: text.slice(at), entry: null })
  return pieces
}
