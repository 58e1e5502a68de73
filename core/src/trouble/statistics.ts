import { causeSays } from './troubleshoot'

/** "On this board 4 of 6 failures were …": what troubles turned out to be. */
export function troubleShares(causes: Readonly<Record<string, number>>): { cause: string; n: number; of: number }[] {
  const of = Object.values(causes).reduce((a, b) => a + b, 0)
  return Object.entries(causes)
    .filter(([, n]) => n > 0)
    .map(([cause, n]) => ({ cause, n, of }))
    .sort((a, b) => b.n - a.n || (a.cause < b.cause ? -1 : 1))
}

/** One sentence for the most frequent cause; empty when nothing is on record. */
export function troubleSentence(causes: Readonly<Record<string, number>>): string {
  const [top] = troubleShares(causes)
  if (!top) return ''
  const says = top.cause === 'other' ? 'something else' : causeSays(top.cause)
  // An abbreviation keeps its capitals.
  const inline = /^[A-Z][a-z]/.test(says) || /^A /.test(says) ? `${says.charAt(0).toLowerCase()}${says.slice(1)}` : says
  return `On this board ${top.n} of ${top.of} ${top.of === 1 ? 'failure' : 'failures'}: ${inline}.`
}
