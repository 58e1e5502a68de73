import { findAddress, findMac, isMulticastMac, parseAddress, parseMac } from './mac'

export const tableFormats = [
  'isc-leases',
  'ip-neigh',
  'arp-unix',
  'dnsmasq-lease',
  'services',
  'ssdp',
  'arp-windows',
  'cards',
  'csv',
  'table',
] as const
export type TableFormat = (typeof tableFormats)[number]
export type SkipReason =
  | 'incomplete'
  | 'not-active'
  | 'multicast'
  | 'ipv6'
  | 'unresolved'
  | 'header'
  | 'no-mac'
  | 'unparsed'

export interface TableEntry {
  mac: string | null
  ip: string | null
  hostname: string | null
}

export interface ReadLines {
  format: TableFormat
  entries: TableEntry[]
  /** Lines not used, counted from 1. */
  skipped: { line: number; reason: SkipReason }[]
}

const ipv4 = '\\d{1,3}(?:\\.\\d{1,3}){3}'
const looksIpv6 = (text: string) =>
  /^[0-9a-fA-F:]*::[0-9a-fA-F:.]*(?:[/%].*)?$/.test(text) ||
  /^(?:[0-9a-fA-F]{1,4}:){7}[0-9a-fA-F]{1,4}(?:[/%].*)?$/.test(text)

/** Trailing dot and `.local` cut; '' and the usual signs for "no name" are none. */
function cleanName(name: string | undefined): string | null {
  const text = (name ?? '')
    .trim()
    .replace(/\.$/, '')
    .replace(/\.local$/i, '')
  return text === '' || text === '*' || text === '-' || text === '?' ? null : text
}

class Sink {
  readonly entries: TableEntry[] = []
  readonly skipped: { line: number; reason: SkipReason }[] = []
  skip(line: number, reason: SkipReason): void {
    this.skipped.push({ line, reason })
  }
  /** Keeps an entry unless its MAC can be no device. */
  keep(line: number, mac: string | null, ip: string | null, hostname: string | null): void {
    if (mac !== null && isMulticastMac(mac)) this.skip(line, 'multicast')
    else this.entries.push({ mac, ip, hostname })
  }
}

type Reader = (lines: readonly string[], sink: Sink) => void

const readIsc: Reader = (lines, sink) => {
  interface Block {
    line: number
    mac: string | null
    hostname: string | null
    active: boolean
  }
  const blocks = new Map<string, Block>()
  let open: (Block & { ip: string }) | null = null
  lines.forEach((line, i) => {
    const start = new RegExp(`^\\s*lease\\s+(${ipv4})\\s*\\{`).exec(line)
    if (start) {
      open = { ip: start[1] as string, line: i + 1, mac: null, hostname: null, active: true }
      // The file is a log: a later block for an address replaces the earlier one, and stands in its own place.
      blocks.delete(open.ip)
      blocks.set(open.ip, open)
      return
    }
    if (!open) {
      if (line.trim() !== '' && !line.trim().startsWith('#')) sink.skip(i + 1, 'unparsed')
      return
    }
    const text = line.trim()
    const state = /^binding state (\S+?);/.exec(text)
    if (state) open.active = state[1] === 'active'
    const hardware = /^hardware ethernet (\S+?);/.exec(text)
    if (hardware) open.mac = parseMac(hardware[1] as string)
    const name = /^client-hostname "([^"]*)";/.exec(text)
    if (name) open.hostname = cleanName(name[1])
    if (text.startsWith('}') || text.endsWith('}')) open = null
  })
  for (const [ip, block] of [...blocks].sort((a, b) => a[1].line - b[1].line)) {
    if (!block.active) sink.skip(block.line, 'not-active')
    else if (block.mac === null) sink.skip(block.line, 'no-mac')
    else sink.keep(block.line, block.mac, parseAddress(ip), block.hostname)
  }
}

const readNeigh: Reader = (lines, sink) => {
  lines.forEach((line, i) => {
    const [first = '', ...words] = line.trim().split(/\s+/)
    if (first === '') return
    if (looksIpv6(first)) return sink.skip(i + 1, 'ipv6')
    const ip = parseAddress(first)
    if (ip === null || !words.includes('dev')) return sink.skip(i + 1, 'unparsed')
    const mac = parseMac(words[words.indexOf('lladdr') + 1] ?? '')
    if (!words.includes('lladdr') || mac === null) return sink.skip(i + 1, 'incomplete')
    sink.keep(i + 1, mac, ip, null)
  })
}

const readArpUnix: Reader = (lines, sink) => {
  lines.forEach((line, i) => {
    if (line.trim() === '') return
    const found = new RegExp(`^\\s*(\\S*)\\s*\\((${ipv4})\\) at (\\S+)`).exec(line)
    if (!found) return sink.skip(i + 1, 'unparsed')
    const [, name, ip, macText] = found as unknown as [string, string, string, string]
    if (/incomplete/.test(macText)) return sink.skip(i + 1, 'incomplete')
    const mac = parseMac(macText)
    if (mac === null) return sink.skip(i + 1, 'unparsed')
    const address = parseAddress(ip)
    if (address === null) return sink.skip(i + 1, 'multicast')
    sink.keep(i + 1, mac, address, cleanName(name))
  })
}

const readDnsmasq: Reader = (lines, sink) => {
  for (const [i, line] of lines.entries()) {
    const words = line.trim().split(/\s+/)
    if (words[0] === '') continue
    // Here the IPv6 part of the file begins.
    if (words[0] === 'duid') return
    const [expiry = '', macText = '', ipText = '', name] = words
    // A hardware type in front of the MAC (06-) is cut.
    const mac = parseMac(macText.replace(/^[0-9a-fA-F]{2}-(?=(?:[0-9a-fA-F]{2}:){5}[0-9a-fA-F]{2}$)/, ''))
    const ip = parseAddress(ipText)
    if (!/^\d+$/.test(expiry) || mac === null || ip === null) {
      sink.skip(i + 1, looksIpv6(ipText) ? 'ipv6' : 'unparsed')
      continue
    }
    sink.keep(i + 1, mac, ip, cleanName(name))
  }
}

const readServices: Reader = (lines, sink) => {
  lines.forEach((line, i) => {
    if (line.trim() === '') return
    if (line.startsWith('+;')) return sink.skip(i + 1, 'unresolved')
    if (!line.startsWith('=;')) return sink.skip(i + 1, 'unparsed')
    const fields = line.split(';')
    if (fields[2] === 'IPv6' || looksIpv6(fields[7] ?? '')) return sink.skip(i + 1, 'ipv6')
    const ip = parseAddress((fields[7] ?? '').trim())
    if (ip === null) return sink.skip(i + 1, 'unparsed')
    const txt = /"mac=([^"]*)"/i.exec(fields.slice(9).join(';'))
    sink.keep(i + 1, txt ? parseMac(txt[1] as string) : null, ip, cleanName(fields[6]))
  })
}

const readSsdp: Reader = (lines, sink) => {
  lines.forEach((line, i) => {
    const location = /^\s*LOCATION:\s*(\S+)/i.exec(line)
    if (!location) return
    const url = location[1] as string
    const host = /^https?:\/\/(\[[^\]]*\]|[^/:]+)/i.exec(url)?.[1] ?? ''
    const ip = parseAddress(host)
    if (ip === null) return sink.skip(i + 1, host.startsWith('[') ? 'ipv6' : 'unparsed')
    sink.keep(i + 1, null, ip, null)
  })
}

const readArpWindows: Reader = (lines, sink) => {
  let data = false
  lines.forEach((line, i) => {
    if (line.trim() === '') return
    const words = line.trim().split(/\s+/)
    const mac = parseMac(words[1] ?? '')
    if (!/^\s/.test(line) || mac === null || !new RegExp(`^${ipv4}$`).test(words[0] as string)) {
      // Every interface begins with a line of its own and the column titles.
      const title = !data || /^\S.*---/.test(line) || !/\d/.test(line)
      return sink.skip(i + 1, title ? 'header' : 'unparsed')
    }
    data = true
    const ip = parseAddress(words[0] as string)
    if (ip === null) return sink.skip(i + 1, 'multicast')
    sink.keep(i + 1, mac, ip, null)
  })
}

const notNames = new Set(
  'dynamic static reachable stale delay probe permanent failed active inactive expired online offline wifi wi-fi wlan lan ethernet ether wireless wired mesh guest yes no unknown none dhcp reserved unlimited infinite connected disconnected idle bound leased enabled disabled auto automatic manual fixed allowed blocked never left n/a - *'.split(
    ' ',
  ),
)
const durationUnit = '(?:s|secs?|seconds?|m|mins?|minutes?|h|hrs?|hours?|d|days?|w|wks?|weeks?)'
const duration = new RegExp(
  `^(?:(?:\\d+(?:\\.\\d+)?${durationUnit})+|(?:secs?|seconds?|mins?|minutes?|hrs?|hours?|days?|wks?|weeks?))$`,
  'i',
)
const rate = /^\d+(?:\.\d+)?(?:[kmg]?hz|[kmg]?bps|[kmg]bit(?:\/s)?)$/i

/** Could this cell be a host name? Not an address, a time, a rate, or a word that lists use for something else. */
export function looksLikeName(cell: string): boolean {
  const text = cell.trim()
  if (text.length < 2 || !/^[A-Za-z0-9][A-Za-z0-9._-]*$/.test(text) || !/[A-Za-z]/.test(text)) return false
  if (parseMac(text) !== null || parseAddress(text) !== null) return false
  return !notNames.has(text.toLowerCase()) && !duration.test(text) && !rate.test(text)
}

/** Cells of one line of separated values; a quoted cell may hold the separator (RFC 4180). */
export function cutCells(line: string, separator: string): string[] {
  const cells: string[] = []
  let cell = ''
  let quoted = false
  for (let i = 0; i < line.length; i++) {
    const c = line[i] as string
    if (quoted) {
      if (c === '"' && line[i + 1] === '"') {
        cell += '"'
        i++
      } else if (c === '"') quoted = false
      else cell += c
    } else if (c === '"' && cell.trim() === '') {
      quoted = true
      cell = ''
    } else if (c === separator) {
      cells.push(cell.trim())
      cell = ''
    } else cell += c
  }
  cells.push(cell.trim())
  return cells
}

const holdsAny = (line: string) => findMac(line) !== null || findAddress(line) !== null
const onlyOne = (cell: string) => parseMac(cell) !== null || parseAddress(cell) !== null

function csvSeparator(lines: readonly string[]): string | null {
  const first = lines.find(
    (line) => holdsAny(line) || line.split(/[,;\t]/).some((cell) => onlyOne(cell.trim().replace(/^"|"$/g, ''))),
  )
  if (first === undefined) return null
  let best: { separator: string; count: number } | null = null
  for (const separator of [',', ';', '\t']) {
    const cells = cutCells(first, separator)
    if (cells.length >= 2 && cells.some(onlyOne) && cells.length > (best?.count ?? 0))
      best = { separator, count: cells.length }
  }
  return best?.separator ?? null
}

const isNameTitle = (title: string) => {
  const text = title.toLowerCase()
  return /host|name|client|device/.test(text) && !/mac|address/.test(text) && !/\bip\b/.test(text)
}

/** Lines of cells: separated values with titles, or a table drawn with spaces. */
function readCells(cut: (line: string) => string[], titled: boolean): Reader {
  return (lines, sink) => {
    let data = false
    let titles: string[] | null = null
    lines.forEach((line, i) => {
      if (line.trim() === '') return
      const cells = cut(line)
      const firstOf = (read: (cell: string) => string | null) => cells.map(read).find((x) => x !== null) ?? null
      const mac = firstOf(parseMac) ?? findMac(line)
      const ip = firstOf(parseAddress) ?? findAddress(line)
      if (mac === null && ip === null) {
        if (cells.some(looksIpv6)) return sink.skip(i + 1, 'ipv6')
        if (/incomplete/i.test(line) && data) return sink.skip(i + 1, 'incomplete')
        if (!data && cells.length >= 2) titles = cells
        return sink.skip(i + 1, data ? 'unparsed' : 'header')
      }
      data = true
      if (mac === null) return sink.skip(i + 1, /incomplete/i.test(line) ? 'incomplete' : 'no-mac')
      if (ip === null && cells.some((c) => looksIpv6(c) && parseMac(c) === null)) return sink.skip(i + 1, 'ipv6')
      let name: string | null
      if (titled && titles !== null) {
        const column = titles.findIndex(isNameTitle)
        name = column < 0 ? null : cleanName(cells[column])
      } else name = cleanName(cells.find(looksLikeName))
      sink.keep(i + 1, mac, ip, name)
    })
  }
}

function tableCells(line: string): string[] {
  const wide = line.trim().split(/\t+|\s{2,}/)
  return wide.length >= 3 ? wide : line.trim().split(/\s+/)
}

const passedOver = /^[^:=]*\b(?:gateway|router|dns|server|mask|netmask|broadcast|subnet ?mask)\b/i
const nameLabel = /^(?:name|host|device|client|(?:host|device|client)[ _-]?name)$/i
const valueLabel = /^(?:(?:mac|ip|ipv4)(?:[ _-]?address)?|address)$/i

/** What a text is when it is nothing but a MAC or an address; a prefix length (`/24`) is cut. */
function onlyValue(text: string): { mac: string | null; ip: string | null } | null {
  const mac = parseMac(text)
  const ip = parseAddress(text.replace(/\/(?:[12]?\d|3[0-2])$/, ''))
  return mac || ip ? { mac, ip } : null
}

/** MAC or address of a line that holds nothing else but, in front, a label of that kind. */
function cardValue(line: string): { mac: string | null; ip: string | null } | null {
  const text = line.trim()
  const plain = onlyValue(text)
  if (plain) return plain
  const labelled = /^([A-Za-z][A-Za-z0-9 _()/.-]*?)\s*[:=\s]\s*(\S+)$/.exec(text)
  if (!labelled || !/\b(?:mac|address|ip|ipv4)\b|mac[_-]|ip[_-]/i.test((labelled[1] as string).replaceAll('_', ' ')))
    return null
  return onlyValue(labelled[2] as string)
}

function isCards(lines: readonly string[]): boolean {
  let macs = 0
  let addresses = 0
  for (const line of lines) {
    if (passedOver.test(line.trim())) continue
    const value = cardValue(line)
    const mac = findMac(line) ?? value?.mac ?? null
    const ip = findAddress(line) ?? value?.ip ?? null
    if (mac === null && ip === null) continue
    if (value === null) return false
    if (value.mac) macs++
    else addresses++
  }
  return macs > 0 && addresses > 0
}

const readCards: Reader = (lines, sink) => {
  interface Card {
    line: number
    mac: string | null
    ip: string | null
    name: string | null
  }
  const cards: Card[] = []
  let card: Card | null = null
  const begin = (line: number): Card => {
    const fresh = { line, mac: null, ip: null, name: null }
    cards.push(fresh)
    return fresh
  }
  const put = (line: number, field: 'mac' | 'ip' | 'name', value: string) => {
    if (card === null || card[field] !== null) card = begin(line)
    card[field] = value
  }
  const isLabel = (text: string) =>
    nameLabel.test(text.replace(/\s*[:=]$/, '')) || valueLabel.test(text.replace(/\s*[:=]$/, ''))
  for (let i = 0; i < lines.length; i++) {
    const text = (lines[i] as string).trim()
    if (text === '') {
      card = null
      continue
    }
    // A paragraph is a record from its first line on, whatever that line holds.
    card ??= begin(i + 1)
    if (passedOver.test(text)) continue
    const label = text.replace(/\s*[:=]$/, '')
    if (nameLabel.test(label) || valueLabel.test(label)) {
      const below = (lines[i + 1] ?? '').trim()
      if (below === '' || isLabel(below)) continue
      const value = onlyValue(below)
      if (nameLabel.test(label)) {
        const name = cleanName(below)
        if (name !== null) put(i + 1, 'name', name)
        i++
      } else if (value) {
        put(i + 1, value.mac ? 'mac' : 'ip', (value.mac ?? value.ip) as string)
        i++
      }
      continue
    }
    const value = cardValue(text)
    if (value) {
      put(i + 1, value.mac ? 'mac' : 'ip', (value.mac ?? value.ip) as string)
      continue
    }
    const named = /^([^:=\t]+?)\s*[:=\t]\s*(.+)$/.exec(text)
    if (named && nameLabel.test((named[1] as string).trim())) {
      const name = cleanName(named[2])
      if (name !== null) put(i + 1, 'name', name)
    } else if (looksLikeName(text)) {
      const name = cleanName(text)
      if (name !== null) put(i + 1, 'name', name)
    }
  }
  let data = false
  for (const c of cards) {
    if (c.mac === null && c.ip === null) sink.skip(c.line, data ? 'unparsed' : 'header')
    else {
      data = true
      if (c.mac === null) sink.skip(c.line, 'no-mac')
      else sink.keep(c.line, c.mac, c.ip, c.name)
    }
  }
}

const any = (pattern: RegExp) => (lines: readonly string[]) => lines.some((line) => pattern.test(line))

const recognisers: Record<TableFormat, (lines: readonly string[]) => boolean> = {
  'isc-leases': any(new RegExp(`^\\s*lease\\s+${ipv4}\\s*\\{`)),
  'ip-neigh': any(new RegExp(`^\\s*${ipv4}\\s+dev\\s+\\S+`)),
  'arp-unix': any(new RegExp(`\\(${ipv4}\\) at `)),
  'dnsmasq-lease': any(
    new RegExp(`^\\s*\\d+\\s+(?:[0-9a-fA-F]{2}-)?(?:[0-9a-fA-F]{2}:){5}[0-9a-fA-F]{2}\\s+${ipv4}\\s+\\S+\\s+\\S+`),
  ),
  services: any(/^[=+];/),
  ssdp: any(/^\s*LOCATION:\s*http/i),
  'arp-windows': any(new RegExp(`^\\s+${ipv4}\\s+(?:[0-9a-fA-F]{2}-){5}[0-9a-fA-F]{2}\\s+\\w+`)),
  cards: isCards,
  csv: (lines) => csvSeparator(lines) !== null,
  table: () => true,
}

export const recogniseTable = (lines: readonly string[]): TableFormat =>
  tableFormats.find((format) => recognisers[format](lines)) as TableFormat

const readers: Record<Exclude<TableFormat, 'csv'>, Reader> = {
  'isc-leases': readIsc,
  'ip-neigh': readNeigh,
  'arp-unix': readArpUnix,
  'dnsmasq-lease': readDnsmasq,
  services: readServices,
  ssdp: readSsdp,
  'arp-windows': readArpWindows,
  cards: readCards,
  table: readCells(tableCells, false),
}

/** Reads a pasted lease list, neighbour table, browse result or table of any of the known formats. */
export function readTable(text: string, format: TableFormat | 'auto' = 'auto'): ReadLines {
  const lines = text.split(/\r\n|\n|\r/)
  const chosen = format === 'auto' ? recogniseTable(lines) : format
  const sink = new Sink()
  const reader =
    chosen === 'csv' ? readCells((line) => cutCells(line, csvSeparator(lines) ?? ','), true) : readers[chosen]
  reader(lines, sink)
  return { format: chosen, entries: sink.entries, skipped: sink.skipped.sort((a, b) => a.line - b.line) }
}
