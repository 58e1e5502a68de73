import { factsOf, type KnownFamily } from '../families/families'

/** What the pin table of a family says about one pin. */
export interface PinFacts {
  words: ReadonlySet<string>
  /** Highest voltage the pin can measure, or null when it cannot measure (or not while Wi-Fi is on). */
  adcVolts: number | null
}

/** The words of a pin, or null when the family has no such pin. */
export function pinFacts(family: KnownFamily, pin: string): PinFacts | null {
  const table = factsOf(family).pins
  if (!Object.hasOwn(table, pin)) return null
  const words = (table[pin] as string).split(' ')
  const adc = words.find((w) => w.startsWith('adc:'))
  return { words: new Set(words), adcVolts: adc ? Number(adc.slice(4)) : null }
}

/** Pin ids and channels in natural order: prefix alphabetically, then number. */
export function naturalOrder(a: string, b: string): number {
  const parts = (id: string) => /^(\D*)(\d*)$/.exec(id) ?? [id, id, '']
  const [, prefixA = '', numberA = ''] = parts(a)
  const [, prefixB = '', numberB = ''] = parts(b)
  if (prefixA !== prefixB) return prefixA < prefixB ? -1 : 1
  return Number(numberA || -1) - Number(numberB || -1)
}
