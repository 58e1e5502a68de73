/** Phrases as a person types them: `key: phrase`, one a line; a key that comes again has several. */

const keyForm = /^([a-z][A-Za-z0-9.-]*):\s?(.*)$/
const mostPhrases = 400

export function writePhraseLines(phrases: Readonly<Record<string, string | readonly string[]>>): string {
  return Object.entries(phrases)
    .flatMap(([key, said]) => (typeof said === 'string' ? [said] : said).map((s) => `${key}: ${s}`))
    .join('\n')
}

/** Nothing is dropped silently: the first line that is none says so. */
export function readPhraseLines(text: string): { phrases: Record<string, string | string[]>; fault: string | null } {
  const found = new Map<string, string[]>()
  for (const [i, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue
    const [, key, said] = keyForm.exec(line.trim()) ?? []
    if (key === undefined || said === undefined)
      return { phrases: {}, fault: `Line ${i + 1} is no phrase: a key, a colon, and what is said.` }
    found.set(key, [...(found.get(key) ?? []), said])
  }
  if (found.size > mostPhrases) return { phrases: {}, fault: `More than ${mostPhrases} keys are not taken.` }
  return {
    phrases: Object.fromEntries([...found].map(([key, all]) => [key, all.length === 1 ? (all[0] as string) : all])),
    fault: null,
  }
}
