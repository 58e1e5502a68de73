import { type Finding, severityRank } from './finding'

/** The first of every kind, in the order they came, and how many there are more of it. */
export function firstOfKind<T>(items: readonly T[], kindOf: (item: T) => string): { first: T; more: number }[] {
  const kinds = new Map<string, { first: T; more: number }>()
  for (const item of items) {
    const kind = kindOf(item)
    const known = kinds.get(kind)
    if (known) known.more++
    else kinds.set(kind, { first: item, more: 0 })
  }
  return [...kinds.values()]
}

/** A finding that stands for others of its kind too. */
export const andMore = <F extends Finding>(first: F, more: number): F =>
  more === 0 ? first : { ...first, message: `${first.message} ${more} more of this kind.` }

export const worstFirst = (a: Finding, b: Finding): number => severityRank(a.severity) - severityRank(b.severity)

/** Findings of one kind as one: the first of them, with how many there are more. Worst first. */
export const foldAlike = (findings: readonly Finding[]): Finding[] =>
  firstOfKind(findings, (f) => `${f.severity} ${f.code}`)
    .map(({ first, more }) => andMore(first, more))
    .sort(worstFirst)
