import { slugOf } from './slug'

/** How a name sounds to an assistant: its slug with spaces; a name without any slug letter as it is. */
export function spokenForm(name: string): string {
  const slug = slugOf(name)
  return slug ? slug.replaceAll('-', ' ') : name.normalize('NFC').toLowerCase().trim()
}

/** Optimal string alignment distance: insert, delete, replace, or swap two neighbours. */
export function alignmentDistance(a: string, b: string): number {
  const x = [...a]
  const y = [...b]
  const rows: number[][] = Array.from({ length: x.length + 1 }, (_, i) => [i])
  for (let j = 1; j <= y.length; j++) (rows[0] as number[])[j] = j
  const cell = (i: number, j: number) => (rows[i] as number[])[j] as number
  for (let i = 1; i <= x.length; i++)
    for (let j = 1; j <= y.length; j++) {
      let best = Math.min(cell(i - 1, j) + 1, cell(i, j - 1) + 1, cell(i - 1, j - 1) + (x[i - 1] === y[j - 1] ? 0 : 1))
      if (i > 1 && j > 1 && x[i - 1] === y[j - 2] && x[i - 2] === y[j - 1])
        best = Math.min(best, cell(i - 2, j - 2) + 1)
      ;(rows[i] as number[])[j] = best
    }
  return cell(x.length, y.length)
}

const soundClass: Record<string, string> = {
  b: '1',
  f: '1',
  p: '1',
  v: '1',
  c: '2',
  g: '2',
  j: '2',
  k: '2',
  q: '2',
  s: '2',
  x: '2',
  z: '2',
  d: '3',
  t: '3',
  l: '4',
  m: '5',
  n: '5',
  r: '6',
}

/** American Soundex; h and w do not part equal codes, vowels do. A word without letters stands for itself. */
export function soundex(word: string): string {
  const w = word.replace(/[^a-z]/g, '')
  if (!w) return word
  let out = (w[0] as string).toUpperCase()
  let last = soundClass[w[0] as string] ?? ''
  for (const c of w.slice(1)) {
    const code = soundClass[c] ?? ''
    if (code && code !== last) out += code
    if (c !== 'h' && c !== 'w') last = code
  }
  return out.slice(0, 4).padEnd(4, '0')
}

export type SpokenClash = 'same-name' | 'look-alike' | 'sound-alike' | 'contained'

const withoutDigits = (text: string) => text.replace(/\d+/g, '#')
export const numberedStem = withoutDigits

/** A name as it is compared with others: worked out once, however many others there are. */
export interface Heard {
  form: string
  length: number
  words: string[]
  sounds: string[]
  /** With every run of digits as one mark. */
  stem: string
  /** How often each letter comes, letters in few heaps. */
  letters: Uint16Array
}

const heaps = 32

export function heard(form: string): Heard {
  const words = form.split(' ')
  const signs = [...form]
  const letters = new Uint16Array(heaps)
  for (const sign of signs) {
    const heap = (sign.codePointAt(0) as number) % heaps
    letters[heap] = (letters[heap] as number) + 1
  }
  return { form, length: signs.length, words, sounds: words.map(soundex), stem: withoutDigits(form), letters }
}

/**
 * At least so many steps lie between two names: each letter that only one of them has is a step of its own, and one step changes one
 * letter for another. Thirty sums instead of a table as long as one name and as wide as the other.
 */
export function apartAtLeast(a: Heard, b: Heard): number {
  let [more, less] = [0, 0]
  for (let i = 0; i < heaps; i++) {
    const d = (a.letters[i] as number) - (b.letters[i] as number)
    if (d > 0) more += d
    else less -= d
  }
  return Math.max(more, less)
}

const tooAlike = 0.25

/** Names of too many other letters cannot look alike: most pairs end there. */
const looksAlike = (a: Heard, b: Heard): boolean => {
  const longer = Math.max(a.length, b.length)
  return apartAtLeast(a, b) / longer <= tooAlike && alignmentDistance(a.form, b.form) / longer <= tooAlike
}
const soundsAlike = (a: Heard, b: Heard): boolean =>
  a.sounds.length === b.sounds.length && a.sounds.every((s, i) => s === b.sounds[i])
const begins = (short: Heard, long: Heard): boolean =>
  short.words.length < long.words.length && short.words.every((w, i) => w === long.words[i])

/** Everything that makes two names hard to tell apart when spoken, in a fixed order. */
export function heardClashes(a: Heard, b: Heard): SpokenClash[] {
  if (a.form === b.form) return ['same-name']
  const out: SpokenClash[] = []
  // Two names that differ only in their digits are told apart by people.
  if (a.stem !== b.stem) {
    if (looksAlike(a, b)) out.push('look-alike')
    if (soundsAlike(a, b)) out.push('sound-alike')
  }
  if (begins(a, b) || begins(b, a)) out.push('contained')
  return out
}

export const spokenClashes = (nameA: string, nameB: string): SpokenClash[] =>
  heardClashes(heard(spokenForm(nameA)), heard(spokenForm(nameB)))
