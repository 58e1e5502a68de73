/** Pairs of indicated and reference readings, as people paste them from a sheet, a notebook or a message. */

export interface Pair {
  indicated: number
  reference: number
  /** The line it came from. */
  text: string
}

export interface PairsRead {
  pairs: Pair[]
  /** Lines that hold no pair, counted from 1; blank ones are passed over. */
  unread: { line: number; text: string }[]
}

const unitOf = '(?:\\s*(?:k?W|m?A|V|VA|Wh|kWh))?'
const point = `(\\d+(?:[\u2009\u202f\u00a0']\\d{3})*(?:\\.\\d+)?)${unitOf}`
const comma = `(\\d+(?:[\u2009\u202f\u00a0'.]\\d{3})*,\\d+|\\d+)${unitOf}`
const between = '\\s*(?:[;|/\\t]|->|→|=|:|\\bto\\b|\\bvs\\.?|\\s)\\s*'
const label = '(?:[^\\d\\s][^\\d]*[\\s:;\\t])?'

/** Forms of a line, the first that fits counts: decimal points with any separator, a comma among them; then decimal commas. */
const forms: { shape: RegExp; decimals: '.' | ',' }[] = [
  { shape: new RegExp(`^${label}${point}${between}${point}$`, 'i'), decimals: '.' },
  { shape: new RegExp(`^${label}${point}\\s*,\\s*${point}$`, 'i'), decimals: '.' },
  { shape: new RegExp(`^${label}${comma}${between}${comma}$`, 'i'), decimals: ',' },
  { shape: new RegExp(`^${label}(\\d+,\\d+)${unitOf}\\s*,\\s*(\\d+,\\d+)${unitOf}$`, 'i'), decimals: ',' },
]

const numberOf = (text: string, decimals: '.' | ','): number => {
  const plain = text.replaceAll(/[\u2009\u202f\u00a0']/g, '')
  return Number(decimals === ',' ? plain.replaceAll('.', '').replace(',', '.') : plain)
}

/** Two whole numbers with a comma between are two readings; "1,5" alone is none. */
export function readPairs(pasted: string): PairsRead {
  const pairs: Pair[] = []
  const unread: PairsRead['unread'] = []
  pasted.split(/\r\n|\n|\r/).forEach((whole, i) => {
    const text = whole.trim()
    if (text === '') return
    for (const { shape, decimals } of forms) {
      const found = shape.exec(text)
      if (!found) continue
      const [indicated, reference] = [numberOf(found[1] as string, decimals), numberOf(found[2] as string, decimals)]
      if (!Number.isFinite(indicated) || !Number.isFinite(reference)) continue
      pairs.push({ indicated, reference, text })
      return
    }
    unread.push({ line: i + 1, text })
  })
  return { pairs, unread }
}
