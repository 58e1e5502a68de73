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
/** Two names that differ only in their digits are told apart by people. */
export const numberedAlike = (a: string, b: string): boolean => a !== b && withoutDigits(a) === withoutDigits(b)
export const numberedStem = withoutDigits

/** Everything that makes two names hard to tell apart when spoken, in a fixed order. */
export function spokenClashes(nameA: string, nameB: string): SpokenClash[] {
  const a = spokenForm(nameA)
  const b = spokenForm(nameB)
  if (a === b) return ['same-name']
  const out: SpokenClash[] = []
  const wordsA = a.split(' ')
  const wordsB = b.split(' ')
  if (!numberedAlike(a, b)) {
    if (alignmentDistance(a, b) / Math.max([...a].length, [...b].length) <= 0.25) out.push('look-alike')
    if (wordsA.length === wordsB.length && wordsA.every((w, i) => soundex(w) === soundex(wordsB[i] as string)))
      out.push('sound-alike')
  }
  const [short, long] = wordsA.length < wordsB.length ? [wordsA, wordsB] : [wordsB, wordsA]
  if (short.length < long.length && short.every((w, i) => w === long[i])) out.push('contained')
  return out
}
