import { hexOf, latin1 } from '../bytes/text'
import { coveredPlaces } from '../dump/cover'

/** What came over a line, as lines with their times, and as bytes. */
export interface HeardLine {
  /** Milliseconds since listening began, when its first byte came. */
  atMs: number
  from: 'unit' | 'us'
  text: string
}

const mostLines = 2000
const mostBytes = 4096

/** Takes bytes as they come and makes lines of them; the oldest ones go when there are too many. */
export class Heard {
  lines: HeardLine[] = []
  /** The last bytes, as they came. */
  tail: Uint8Array = new Uint8Array(0)
  /** Lines and bytes that are gone from the start. */
  dropped = 0
  total = 0
  private open: HeardLine | null = null
  private sawCr = false

  hear(bytes: Uint8Array, atMs: number): void {
    this.total += bytes.length
    const joined = new Uint8Array(this.tail.length + bytes.length)
    joined.set(this.tail)
    joined.set(bytes, this.tail.length)
    this.tail = joined.length > mostBytes ? joined.slice(joined.length - mostBytes) : joined
    for (const c of latin1(bytes)) this.take(c, atMs)
  }
  /** CR, LF and CR LF end a line, also where they come in two pieces. */
  private take(c: string, atMs: number): void {
    const afterCr = this.sawCr
    this.sawCr = c === '\r'
    if (c === '\n' && afterCr) return
    if (c === '\r' || c === '\n') {
      if (this.open === null) this.add({ atMs, from: 'unit', text: '' })
      this.open = null
      return
    }
    if (this.open === null) {
      this.open = { atMs, from: 'unit', text: '' }
      this.add(this.open)
    }
    this.open.text += c
  }
  /** A line of ours stands where it was said; what was half heard goes on below it. */
  said(text: string, atMs: number): HeardLine {
    const line: HeardLine = { atMs, from: 'us', text }
    this.open = null
    this.add(line)
    return line
  }
  private add(line: HeardLine): void {
    this.lines.push(line)
    if (this.lines.length <= mostLines) return
    this.lines.shift()
    this.dropped++
  }
  /** Lines of the unit that are whole, of those behind this one. */
  wholeAfter(line: HeardLine | null): string[] {
    const behind = line === null ? this.lines : this.lines.slice(this.lines.indexOf(line) + 1)
    return behind.filter((l) => l.from === 'unit' && l !== this.open).map((l) => l.text)
  }
}

/** Rows of sixteen bytes for reading: where, in hex, as text. */
export function hexRows(bytes: Uint8Array, from = 0): { at: number; hex: string; text: string }[] {
  const rows: { at: number; hex: string; text: string }[] = []
  for (let i = 0; i < bytes.length; i += 16) {
    const row = bytes.subarray(i, i + 16)
    rows.push({
      at: from + i,
      hex: (hexOf(row).match(/../g) ?? []).join(' '),
      text: latin1(row).replace(/[^ -~]/g, '·'),
    })
  }
  return rows
}

/** A byte per character, so that places in one are places in the other; other letters than ASCII count as letters. */
const asBytes = (text: string): Uint8Array => {
  const bytes = new Uint8Array(text.length)
  for (let i = 0; i < text.length; i++) bytes[i] = Math.min(text.charCodeAt(i), 0x80)
  return bytes
}

/** The text as it may be kept: what looks like a secret is covered, its length too. */
export function covered(text: string): { text: string; places: number } {
  const places = coveredPlaces(asBytes(text))
  let out = ''
  let at = 0
  for (const { offset, length } of places) {
    out += `${text.slice(at, offset)}•••`
    at = offset + length
  }
  return { text: out + text.slice(at), places: places.length }
}
