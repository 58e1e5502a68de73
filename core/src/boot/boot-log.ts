import { z } from 'zod'
import { bytesOfHex, bytesOfLatin1, latin1, utf8 } from '../bytes/text'
import { type Outcome, parseInput, refuse, strictCodes } from '../edge/fault'

export const BootLogInput = z
  .object({
    text: z.string().max(4_000_000).optional(),
    bytesHex: z
      .string()
      .max(8_000_000)
      .superRefine((hex, context) => {
        if (bytesOfHex(hex) === null) refuse(context, 'range', [], 'bytesHex must be whole pairs of hex digits.')
      })
      .optional(),
    baud: z.number().positive().max(10_000_000).nullish(),
  })
  .superRefine((input, context) => {
    if (input.text === undefined && input.bytesHex === undefined)
      refuse(context, 'missing', ['text'], 'Give the log as text, or as bytesHex.')
  })

export type BootMode = 'download' | 'flash' | 'sdio' | 'invalid'
export type BootVerdict =
  | 'silent'
  | 'serial_download'
  | 'brown_out'
  | 'sdio_wait'
  | 'bad_strap'
  | 'flash_blank'
  | 'flash_unreadable'
  | 'boot_loop'
  | 'flash_boot'
  | 'loader_waiting'
  | 'app_text'
  | 'wrong_rate'
  | 'unreadable'

export interface BootLine {
  family: 'LX106' | 'LX6' | 'LX7_or_RV32'
  cause: string
  mode: BootMode
  strap: Record<string, 0 | 1>
}

export interface BootLog {
  family: BootLine['family'] | 'CM3' | null
  boots: number
  mode: BootMode | null
  cause: string | null
  strap: Record<string, 0 | 1> | null
  /** Share of bytes that are text. */
  printable: number
  likelyBaud: number | null
  verdict: BootVerdict
  lines: BootLine[]
}

/** What to do next, per verdict. */
export const bootAdvice: Record<BootVerdict, string> = {
  silent: 'Exchange TX and RX; check ground and power; try the reset again.',
  serial_download: 'It waits in its loader. Start the tool now.',
  brown_out: 'Stronger 3.3 V supply, shorter wires, capacitor.',
  sdio_wait: 'GPIO15 is high at reset: find what pulls it up.',
  bad_strap: 'Another strap is wrong: LX106 GPIO2 low, LX6 GPIO2 high.',
  flash_blank: 'Nothing is written at the start offset: write again at the right offset.',
  flash_unreadable: 'Flash mode, size or offset does not fit; on an LX6 with GPIO12 = 1 it is the 1.8 V strap.',
  boot_loop: 'It starts again and again. Supply first, then image and settings.',
  flash_boot: 'It runs its firmware. For the loader: the strap was not low at reset, so enter download mode again.',
  loader_waiting: 'The loader waits. Send the image.',
  app_text: 'Firmware is talking. For the loader: reset with the strap held.',
  wrong_rate: 'The rate is wrong: read again at the likely rate.',
  unreadable: 'Read again at 115200, 74880, 9600; check ground.',
}

const form1Cause: Record<number, string> = { 1: 'power_on', 2: 'external', 3: 'software', 4: 'watchdog' }
const watchdogs = new Set([0x4, 0x7, 0x8, 0x9, 0xb, 0xd, 0x10, 0x11, 0x12])
function form2Cause(n: number): string {
  if (n === 0x1) return 'power_on'
  if (n === 0x3 || n === 0xc) return 'software'
  if (watchdogs.has(n)) return 'watchdog'
  if (n === 0x5) return 'deep_sleep'
  if (n === 0x6 || n === 0xe) return 'external'
  if (n === 0xf) return 'brown_out'
  if (n === 0x15 || n === 0x16) return 'usb'
  return 'unknown'
}
const bit = (word: number, mask: number): 0 | 1 => (word & mask ? 1 : 0)

/** Form 1, LX106: the first number of the boot mode is GPIO15, GPIO0, GPIO2. */
function lineOfForm1(cause: number, a: number): BootLine {
  const mode: BootMode = a === 1 ? 'download' : a === 3 ? 'flash' : a >= 4 && a <= 7 ? 'sdio' : 'invalid'
  return {
    family: 'LX106',
    cause: form1Cause[cause] ?? 'unknown',
    mode,
    strap: { GPIO15: bit(a, 4), GPIO0: bit(a, 2), GPIO2: bit(a, 1) },
  }
}

/** Form 2, LX6 and later: the strap word is read by name first, by bits where the name says nothing. */
function lineOfForm2(cause: number, name: string, word: number, modeName: string): BootLine {
  const lx6 = name.endsWith('_RESET') && cause <= 0x10
  const strap: Record<string, 0 | 1> = lx6
    ? {
        GPIO12: bit(word, 0x20),
        GPIO0: bit(word, 0x10),
        GPIO2: bit(word, 0x08),
        GPIO4: bit(word, 0x04),
        GPIO15: bit(word, 0x02),
        GPIO5: bit(word, 0x01),
      }
    : { BOOT: bit(word, 0x08) }
  let mode: BootMode
  if (modeName.startsWith('DOWNLOAD')) mode = 'download'
  else if (modeName.includes('FLASH_BOOT')) mode = 'flash'
  else if (lx6) mode = strap.GPIO0 ? 'flash' : strap.GPIO2 ? 'invalid' : 'download'
  else mode = strap.BOOT ? 'flash' : 'download'
  return { family: lx6 ? 'LX6' : 'LX7_or_RV32', cause: form2Cause(cause), mode, strap }
}

function bootLines(text: string): BootLine[] {
  const pattern =
    /rst cause:\s*(\d+), ?boot mode:\s*\(\s*(\d+)\s*,\s*(\d+)\s*\)|rst:0x([0-9a-fA-F]+) \(([^)\r\n]*)\),boot:0x([0-9a-fA-F]+) \(((?:[^()\r\n]|\([^()\r\n]*\))*)\)/g
  return [...text.matchAll(pattern)].map((m) =>
    m[1] !== undefined
      ? lineOfForm1(Number(m[1]), Number(m[2]))
      : lineOfForm2(
          Number.parseInt(m[4] as string, 16),
          m[5] as string,
          Number.parseInt(m[6] as string, 16),
          m[7] as string,
        ),
  )
}

/** Share of tab, line ends and visible ASCII; 1 for nothing at all. */
export function printableShare(bytes: Uint8Array): number {
  if (bytes.length === 0) return 1
  let n = 0
  for (const b of bytes) if (b === 9 || b === 10 || b === 13 || (b >= 32 && b <= 126)) n++
  return n / bytes.length
}

const referenceText =
  '\r\n ets Jan  8 2013,rst cause:2, boot mode:(3,6)\r\n\r\nload 0x40100000, len 1392, room 16 \r\ntail 0\r\nchksum 0xd0\r\ncsum 0xd0\r\nets Jun  8 2016 00:22:57\r\n\r\nrst:0x1 (POWERON_RESET),boot:0x13 (SPI_FAST_FLASH_BOOT)\r\nconfigsip: 0, SPIWP:0xee\r\nmode:DIO, clock div:2\r\nload:0x3fff0030,len:1184\r\nentry 0x400805e4\r\n'
const candidateRates = [9600, 57600, 74880, 115200]

/**
 * What a receiver at `readRate` makes of `sent` at `sendRate`: back-to-back 8N1, line idle high. The receiver waits for a
 * falling edge, samples at 1.5 … 8.5 of its bit times (low bit first, no stop-bit check), and listens again from 9.5 on.
 */
export function receiveAt(sent: Uint8Array, sendRate: number, readRate: number): Uint8Array {
  const levels = new Uint8Array(sent.length * 10)
  sent.forEach((byte, i) => {
    for (let k = 0; k < 8; k++) levels[i * 10 + 1 + k] = (byte >> k) & 1
    levels[i * 10 + 9] = 1
  })
  const ratio = sendRate / readRate
  // Time in sender's bits; the small push keeps a sample that falls exactly on an edge in the bit that begins there.
  const levelAt = (time: number) => {
    const index = Math.floor(time + 1e-9)
    return index >= levels.length ? 1 : (levels[index] as number)
  }
  const out: number[] = []
  let ready = 0
  for (;;) {
    let edge = Math.max(0, Math.ceil(ready - 1e-9))
    while (edge < levels.length && !(levels[edge] === 0 && (edge === 0 || levels[edge - 1] === 1))) edge++
    if (edge >= levels.length) break
    let byte = 0
    for (let k = 0; k < 8; k++) byte |= levelAt(edge + (1.5 + k) * ratio) << k
    out.push(byte)
    ready = edge + 9.5 * ratio
  }
  return Uint8Array.from(out)
}

function similarity(a: Uint8Array, b: Uint8Array): number {
  const histogram = (bytes: Uint8Array) => {
    const bins = new Float64Array(256)
    for (const byte of bytes) bins[byte] = (bins[byte] as number) + 1
    return bins.map(Math.sqrt)
  }
  const x = histogram(a)
  const y = histogram(b)
  let dot = 0
  let xx = 0
  let yy = 0
  for (let i = 0; i < 256; i++) {
    dot += (x[i] as number) * (y[i] as number)
    xx += (x[i] as number) ** 2
    yy += (y[i] as number) ** 2
  }
  return xx && yy ? dot / Math.sqrt(xx * yy) : 0
}

/** The rate boot text was really sent at, from bytes captured at another; null when nothing fits clearly. */
export function likelyRate(bytes: Uint8Array, readRate: number): number | null {
  if (bytes.length < 24) return null
  const reference = bytesOfLatin1(referenceText)
  const scores = candidateRates
    .filter((rate) => rate !== readRate)
    .map((rate) => ({ rate, score: similarity(receiveAt(reference, rate, readRate), bytes) }))
    .sort((a, b) => b.score - a.score)
  const [best, second] = scores
  return best && best.score >= 0.4 && best.score - (second?.score ?? 0) >= 0.08 ? best.rate : null
}

function verdictFor(
  text: string,
  bytes: Uint8Array,
  last: BootLine | undefined,
  boots: number,
  printable: number,
  rate: () => number | null,
): { verdict: BootVerdict; likelyBaud: number | null } {
  const plain = (verdict: BootVerdict) => ({ verdict, likelyBaud: null })
  if (bytes.length === 0) return plain('silent')
  if (last?.mode === 'download') return plain('serial_download')
  if (last?.cause === 'brown_out' || text.includes('Brownout detector was triggered')) return plain('brown_out')
  if (last?.mode === 'sdio') return plain('sdio_wait')
  if (last?.mode === 'invalid') return plain('bad_strap')
  if (text.includes('invalid header: 0xffffffff')) return plain('flash_blank')
  if (/csum err|flash read err|ets_main\.c|invalid header:/.test(text)) return plain('flash_unreadable')
  if (boots >= 3) return plain('boot_loop')
  if (last?.mode === 'flash') return plain('flash_boot')
  if (/C{5,}/.test(text)) return plain('loader_waiting')
  if (printable >= 0.85) return plain('app_text')
  const likelyBaud = rate()
  return { verdict: likelyBaud === null ? 'unreadable' : 'wrong_rate', likelyBaud }
}

/** Judges what came out of a serial console through a reset: who talks, in which mode, and what to do. */
export function readBootLog(input: unknown): Outcome<BootLog> {
  const parsed = parseInput(BootLogInput, input, strictCodes)
  if (!parsed.ok) return parsed
  const { text: given, bytesHex, baud } = parsed.value
  const bytes = bytesHex !== undefined ? (bytesOfHex(bytesHex) as Uint8Array) : utf8(given as string)
  const text = bytesHex !== undefined ? latin1(bytes) : (given as string)
  const lines = bootLines(text)
  const last = lines.at(-1)
  const printable = printableShare(bytes)
  const { verdict, likelyBaud } = verdictFor(text, bytes, last, lines.length, printable, () =>
    // Without the rate it was read at there is nothing to simulate against.
    baud == null ? null : likelyRate(bytes, baud),
  )
  const loader = verdict === 'loader_waiting'
  return {
    ok: true,
    value: {
      family: last?.family ?? (loader ? 'CM3' : null),
      boots: lines.length,
      mode: last?.mode ?? (loader ? 'download' : null),
      cause: last?.cause ?? null,
      strap: last?.strap ?? null,
      printable,
      likelyBaud,
      verdict,
      lines,
    },
  }
}
