/** Devices that are joined to a bridge, from a list as a hub shows it. */

export interface JoinedDevice {
  address: string
  name: string
  room: string
  heard: string
  /** dB, at most 0; null where the list has none. */
  signal: number | null
}

/** An IEEE 802.15.4 address: 16 hex digits, with 0x or colons as hubs write it. */
const ieee = /^(?:0x)?((?:[0-9a-f]{2}[:-]?){7}[0-9a-f]{2})$/i
const signal = /^(-\d{1,3})(?:\s*dbm?)?$/i
const moment = /^\d{4}-\d{2}-\d{2}(?:[T ]\d{2}:\d{2}(?::\d{2})?(?:\.\d+)?(?:Z|[+-]\d{2}:?\d{2})?)?$/
const mostDevices = 500

/**
 * One device to a line, its cells apart by tab, semicolon, comma or two spaces: the address is the one that looks like it, so is
 * the signal and the moment; of the rest the first is its name and the next its room. Of two lines with one address the later counts.
 * @returns devices by address, and the lines that hold no address
 */
export function readJoined(text: string): { joined: JoinedDevice[]; unread: string[] } {
  const found = new Map<string, JoinedDevice>()
  const unread: string[] = []
  for (const line of text.split('\n').map((l) => l.trim())) {
    if (line === '') continue
    const cells = line.split(/\t|;|,|\s{2,}/).map((c) => c.trim())
    const at = cells.findIndex((c) => ieee.test(c))
    const digits = at < 0 ? undefined : ieee.exec(cells[at] ?? '')?.[1]
    if (!digits || found.size >= mostDevices) {
      unread.push(line)
      continue
    }
    const rest = cells.filter((c, i) => i !== at && c !== '')
    const heard = rest.find((c) => moment.test(c)) ?? ''
    const strength = rest.find((c) => signal.test(c))
    const [name = '', room = ''] = rest.filter((c) => c !== heard && c !== strength)
    const address = digits.replace(/[:-]/g, '').toLowerCase()
    found.set(address, {
      address,
      name: name.slice(0, 120),
      room: room.slice(0, 120),
      heard: heard.slice(0, 40),
      signal: strength === undefined ? null : Math.max(-200, Number(signal.exec(strength)?.[1])),
    })
  }
  return { joined: [...found.values()].sort((a, b) => (a.address < b.address ? -1 : 1)), unread }
}
