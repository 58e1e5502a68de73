import { nth } from '../edge/nth'

/** Reading MAC and IPv4 addresses the way lists print them. MACs come out lower case with colons. */
const sixGroups = '(?:[0-9a-fA-F]{1,2}[:-]){5}[0-9a-fA-F]{1,2}'
const threeGroups = '[0-9a-fA-F]{4}\\.[0-9a-fA-F]{4}\\.[0-9a-fA-F]{4}'
const exactMac = new RegExp(`^(?:${sixGroups}|${threeGroups}|[0-9a-fA-F]{12})$`)
const macAnywhere = new RegExp(`(?<![0-9a-zA-Z:.-])(?:${sixGroups}|${threeGroups})(?![0-9a-zA-Z:]|[.-][0-9a-fA-F])`)
const fourOctets = '\\d{1,3}\\.\\d{1,3}\\.\\d{1,3}\\.\\d{1,3}'
const exactAddress = new RegExp(`^${fourOctets}$`)
const addressAnywhere = new RegExp(`(?<![\\d.])${fourOctets}(?![\\d.])`, 'g')

const asKept = /^[0-9a-f]{2}(?::[0-9a-f]{2}){5}$/

/** The MAC written as `text`, or null. */
export function parseMac(text: string): string | null {
  // What is kept is written so already, and there may be thousands.
  if (asKept.test(text)) return text
  if (!exactMac.test(text)) return null
  const groups = /[:-]/.test(text)
    ? text.split(/[:-]/).map((g) => g.padStart(2, '0'))
    : (text.replaceAll('.', '').match(/../g) as string[])
  return groups.join(':').toLowerCase()
}

export const findMac = (line: string): string | null => {
  const found = macAnywhere.exec(line)
  return found ? parseMac(found[0]) : null
}

/** The host address written as `text`, or null: masks, loopback, multicast and broadcast are none. */
export function parseAddress(text: string): string | null {
  if (!exactAddress.test(text)) return null
  const octets = text.split('.').map(Number)
  const first = nth(octets, 0)
  if (octets.some((o) => o > 255) || first === 0 || first === 127 || first >= 224) return null
  return octets.join('.')
}

export function findAddress(line: string): string | null {
  for (const found of line.matchAll(addressAnywhere)) {
    const address = parseAddress(found[0])
    if (address) return address
  }
  return null
}

const octetsOf = (mac: string) => mac.split(':').map((o) => Number.parseInt(o, 16))

/** A MAC as numbers: the first octet, the four after it, and the last. */
export interface MacNumbers {
  first: number
  middle: number
  last: number
}
export const macNumbers = (mac: string): MacNumbers => {
  const o = octetsOf(mac) as [number, number, number, number, number, number]
  return { first: o[0], middle: ((o[1] * 256 + o[2]) * 256 + o[3]) * 256 + o[4], last: o[5] }
}

/** A group address, or all zero: never a device. */
export const isMulticastMac = (mac: string): boolean =>
  ((octetsOf(mac)[0] as number) & 1) === 1 || mac === '00:00:00:00:00:00'
/** The locally administered bit: an access point's own, or a phone that hides. */
export const isLocalMac = (mac: string): boolean => ((octetsOf(mac)[0] as number) & 2) === 2

export const macRelations = ['same', 'local-bit', 'minus-one', 'plus-one', 'other'] as const
export type MacRelation = (typeof macRelations)[number]

/** What the MAC of an entry is to a known one. */
export const macRelation = (entry: string, knownMac: string): MacRelation =>
  relationOf(macNumbers(entry), macNumbers(knownMac))

/** The same of MACs that were read before: a list of thousands is compared with every unit. */
export function relationOf(e: MacNumbers, k: MacNumbers): MacRelation {
  if (e.middle !== k.middle) return 'other'
  if (e.last === k.last) return e.first === k.first ? 'same' : e.first === (k.first ^ 2) ? 'local-bit' : 'other'
  if (e.first !== k.first) return 'other'
  if (e.last === ((k.last + 255) & 255)) return 'minus-one'
  return e.last === ((k.last + 1) & 255) ? 'plus-one' : 'other'
}

export const addressNumber = (ip: string): number => ip.split('.').reduce((n, o) => n * 256 + Number(o), 0)
