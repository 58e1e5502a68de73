import { type Finding, severityRank } from './finding'

/** Findings of one kind as one: the first of them, with how many there are more. Worst first. */
export function foldAlike(findings: readonly Finding[]): Finding[] {
  const byKind = new Map<string, Finding[]>()
  for (const f of findings) {
    const kind = `${f.severity} ${f.code}`
    const alike = byKind.get(kind)
    if (alike) alike.push(f)
    else byKind.set(kind, [f])
  }
  return [...byKind.values()]
    .map((alike): Finding => {
      const [first] = alike as [Finding]
      const more = alike.length - 1
      return more === 0 ? first : { ...first, message: `${first.message} ${more} more of this kind.` }
    })
    .sort((a, b) => severityRank(a.severity) - severityRank(b.severity))
}
