import { type Finding, finding } from '../edge/finding'
import type { SpokenClash } from './spoken'

/** What is wrong with the names of a place, in words. */

const clashWords: Record<SpokenClash | 'group-name', string> = {
  'same-name': 'are called the same',
  'look-alike': 'look alike',
  'sound-alike': 'sound alike',
  contained: 'begin alike: one name is the start of the other',
  'group-name': 'is called like a group',
}
export const clashSays = (code: string): string => clashWords[code as SpokenClash] ?? code

export const collisionFinding = (slug: string, count: number, who: string): Finding =>
  finding(
    'collision',
    'watch',
    `${count} units would be called ${slug}.`,
    who,
    'Each gets its number; or give them names of their own.',
  )

export const clashFinding = (code: string, who: string): Finding =>
  finding(code, 'watch', `${who} ${clashSays(code)}.`, '', 'A voice assistant cannot tell them apart: rename one.')

interface Named {
  number: number
  name: string
}

/** Findings for names that were compared one by one, as they were given. */
export function nameFindings(
  shared: readonly { slug: string; numbers: readonly number[] }[],
  clashes: readonly { code: string; a: Named; b: Named }[],
): Finding[] {
  const two = (n: number) => String(n).padStart(2, '0')
  return [
    ...shared.map((s) =>
      collisionFinding(s.slug, s.numbers.length, `Units ${s.numbers.map(two).join(', ')} share the name.`),
    ),
    ...clashes.map((c) =>
      clashFinding(c.code, `“${c.a.name}” (${two(c.a.number)}) and “${c.b.name}” (${two(c.b.number)})`),
    ),
  ]
}
