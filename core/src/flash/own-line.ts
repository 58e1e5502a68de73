/** A person's own line for a tool of theirs: words in braces are filled in with what is being written. */

export const placeholders = ['port', 'file', 'offset', 'baud', 'bytes', 'sha256'] as const
export type Placeholder = (typeof placeholders)[number]

const inBraces = /\{([^{}]*)\}/g

export interface FilledLine {
  text: string
  /** Words in braces that mean nothing here; they stay as they are. */
  unknown: string[]
  /** Placeholders that nobody has said yet. */
  missing: Placeholder[]
}

/** Fills a line in. What is not known stays in its braces and is named, so that nobody runs half a line. */
export function fillLine(line: string, values: Partial<Record<Placeholder, string>>): FilledLine {
  const unknown = new Set<string>()
  const missing = new Set<Placeholder>()
  const text = line.replaceAll(inBraces, (whole, word: string) => {
    const name = placeholders.find((p) => p === word.trim().toLowerCase())
    if (!name) {
      unknown.add(word)
      return whole
    }
    const value = values[name]
    if (value !== undefined && value !== '') return value
    missing.add(name)
    return whole
  })
  return { text, unknown: [...unknown], missing: [...missing] }
}

/** The same line for each of several files, one under the other. */
export function fillLines(line: string, each: readonly Partial<Record<Placeholder, string>>[]): FilledLine {
  const filled = each.map((values) => fillLine(line, values))
  return {
    text: filled.map((f) => f.text).join('\n'),
    unknown: [...new Set(filled.flatMap((f) => f.unknown))],
    missing: [...new Set(filled.flatMap((f) => f.missing))],
  }
}
