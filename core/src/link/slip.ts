import { z } from 'zod'
import { bytesOfHex, hexOf } from '../bytes/text'
import { type Outcome, parseInput, refuse, strictCodes } from '../edge/fault'

/** Frames on a byte stream (RFC 1055): END at both sides, ESC before what would be one of the two. */
const end = 0xc0
const esc = 0xdb
const escapedEnd = 0xdc
const escapedEscape = 0xdd

/** A frame around these bytes, END at both sides. */
export function slipEncode(bytes: Uint8Array): Uint8Array {
  const out = [end]
  for (const byte of bytes)
    if (byte === end) out.push(esc, escapedEnd)
    else if (byte === esc) out.push(esc, escapedEscape)
    else out.push(byte)
  out.push(end)
  return Uint8Array.from(out)
}

/** What stands between two ENDs, unescaped; null where an ESC is followed by anything else than it may be. */
export function slipUnescape(piece: Uint8Array): Uint8Array | null {
  const out: number[] = []
  for (let i = 0; i < piece.length; i++) {
    const byte = piece[i] as number
    if (byte !== esc) out.push(byte)
    else {
      const next = piece[++i]
      if (next === escapedEnd) out.push(end)
      else if (next === escapedEscape) out.push(esc)
      else return null
    }
  }
  return Uint8Array.from(out)
}

export interface SlipPieces {
  /** Before the first END; everything where there is none. */
  head: Uint8Array
  /** Between two ENDs, as they came, without the empty ones. */
  pieces: Uint8Array[]
  /** Behind the last END: perhaps the beginning of a frame. */
  tail: Uint8Array
}

/** Cuts a stream at its ENDs. The loss of one END glues nothing together, since every frame has its own at both sides. */
export function slipPieces(stream: Uint8Array): SlipPieces {
  const first = stream.indexOf(end)
  if (first < 0) return { head: stream, pieces: [], tail: new Uint8Array(0) }
  const pieces: Uint8Array[] = []
  let from = first + 1
  for (let at = stream.indexOf(end, from); at >= 0; at = stream.indexOf(end, from)) {
    if (at > from) pieces.push(stream.subarray(from, at))
    from = at + 1
  }
  return { head: stream.subarray(0, first), pieces, tail: stream.subarray(from) }
}

/** Hex as people write it: pairs of digits, with blanks where they like. */
export const readHex = (text: string): Uint8Array | null => bytesOfHex(text.replaceAll(/\s+/g, ''))

const Hex = z.object({
  hex: z.string().superRefine((text, context) => {
    if (readHex(text) === null) refuse(context, 'range', [], 'This is not whole pairs of hex digits.')
  }),
})

/** `slip encode`: `{ hex }` → the frame. Refusals at `/hex`: `missing`, `type`, `range`. */
export function encodeHex(input: unknown): Outcome<{ hex: string }> {
  const parsed = parseInput(Hex, input, strictCodes)
  if (!parsed.ok) return parsed
  return { ok: true, value: { hex: hexOf(slipEncode(readHex(parsed.value.hex) as Uint8Array)) } }
}

/** `slip decode`: frames of a stream, pieces with a wrong escape as they came, and what stands before and behind. */
export function decodeHex(
  input: unknown,
): Outcome<{ frames: string[]; bad: { hex: string }[]; head: string; tail: string }> {
  const parsed = parseInput(Hex, input, strictCodes)
  if (!parsed.ok) return parsed
  const { head, pieces, tail } = slipPieces(readHex(parsed.value.hex) as Uint8Array)
  const read = pieces.map((piece) => ({ piece, frame: slipUnescape(piece) }))
  return {
    ok: true,
    value: {
      frames: read.flatMap(({ frame }) => (frame ? [hexOf(frame)] : [])),
      bad: read.flatMap(({ piece, frame }) => (frame ? [] : [{ hex: hexOf(piece) }])),
      head: hexOf(head),
      tail: hexOf(tail),
    },
  }
}
