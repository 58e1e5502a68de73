import { hexOf, latin1 } from '../bytes/text'
import { type Outcome, refusal } from '../edge/fault'
import { finding, type PlacedFinding } from '../edge/finding'
import { nth } from '../edge/nth'
import { commandOf, type LinkCommand, statusName, statusNext } from './codes'
import { objectOf, romOf } from './rom'
import { readHex, slipPieces, slipUnescape } from './slip'

/** What came back: answers of the ROM, and everything between them that is none (brief 06 §1). */

export const noiseReasons = ['head', 'escape', 'short', 'echo', 'direction', 'size'] as const
export type NoiseReason = (typeof noiseReasons)[number]

export interface RomAnswer {
  /** Null for a code that we do not send. */
  command: LinkCommand | null
  code: number
  /** What read-register read; without meaning elsewhere. */
  value: number
  /** Without the status. */
  data: Uint8Array
  status: { failed: boolean; code: number; name: string | null }
}
export type Piece =
  | { kind: 'answer'; answer: RomAnswer }
  /** Unescaped; as it came where it cannot be, or stands before the first END. */
  | { kind: 'noise'; bytes: Uint8Array; reason: NoiseReason }

const headBytes = 8

/** A frame as an answer, or the first reason why it is none. */
export function readAnswer(frame: Uint8Array, statusBytes: number): Piece {
  const noise = (reason: NoiseReason): Piece => ({ kind: 'noise', bytes: frame, reason })
  if (frame.length < headBytes) return noise('short')
  const view = new DataView(frame.buffer, frame.byteOffset, frame.length)
  const length = view.getUint16(2, true)
  const fits = length === frame.length - headBytes
  if (frame[0] === 0 && fits) return noise('echo')
  if (frame[0] !== 1) return noise('direction')
  if (!fits || length < statusBytes) return noise('size')
  const statusAt = frame.length - statusBytes
  const failed = frame[statusAt] !== 0
  const code = nth(frame, statusAt + 1)
  return {
    kind: 'answer',
    answer: {
      command: commandOf(nth(frame, 1)),
      code: nth(frame, 1),
      value: view.getUint32(4, true),
      data: frame.subarray(headBytes, statusAt),
      status: { failed, code, name: failed ? statusName(code) : null },
    },
  }
}

/** A stream in pieces, in its order. */
export function readStream(stream: Uint8Array, statusBytes: number): { pieces: Piece[]; tail: Uint8Array } {
  const { head, pieces, tail } = slipPieces(stream)
  return {
    tail,
    pieces: [
      ...(head.length > 0 ? [{ kind: 'noise' as const, bytes: head, reason: 'head' as const }] : []),
      ...pieces.map((piece): Piece => {
        const frame = slipUnescape(piece)
        return frame ? readAnswer(frame, statusBytes) : { kind: 'noise', bytes: piece, reason: 'escape' }
      }),
    ],
  }
}

/** A digest is sent as 32 characters of hex text; null where it is anything else. */
export function digestOf({ command, data, status }: RomAnswer): string | null {
  const text = latin1(data)
  return command === 'flash-digest' && !status.failed && /^[0-9a-f]{32}$/i.test(text) ? text.toLowerCase() : null
}

const noiseWords: Record<NoiseReason, string> = {
  head: 'Bytes before the first frame: boot text, or another rate.',
  escape: 'A frame with a wrong escape in it.',
  short: 'A piece that is too short for an answer.',
  echo: 'Our own request came back: TX and RX are joined.',
  direction: 'A frame that does not come from a chip.',
  size: 'A frame whose length does not fit, or without the status of this family.',
}

function findingOf(piece: Piece): PlacedFinding<null>[] {
  if (piece.kind === 'noise')
    return [
      {
        ...finding(
          `frame-${piece.reason}`,
          'watch',
          noiseWords[piece.reason],
          `${piece.bytes.length} bytes are no answer.`,
          piece.reason === 'echo' ? 'Look whether RX and TX touch.' : 'Some of it is normal; it is kept.',
        ),
        at: null,
      },
    ]
  const { status, command, code } = piece.answer
  if (!status.failed) return []
  const number = `0x${status.code.toString(16).padStart(2, '0')}`
  return [
    {
      ...finding(
        'rom-refused',
        'error',
        `The chip refused ${command ?? `command 0x${code.toString(16)}`}: status ${number}, ${status.name}.`,
        '',
        statusNext[status.name ?? 'other'] ?? '',
      ),
      at: null,
    },
  ]
}

export interface ParsedStream {
  answers: (Omit<RomAnswer, 'data'> & { data: string; digest?: string | null })[]
  noise: { hex: string; reason: NoiseReason }[]
  tail: string
  findings: PlacedFinding<null>[]
}

/** `link frame` with `parse`: answers and noise of a stream. Refusals: `missing`, `type`, `range`, `unknown-family`, `not-in-rom`. */
export function parseFrames(input: unknown, place = '/parse'): Outcome<ParsedStream> {
  const given = objectOf(input)
  if (!given) return refusal('type', place, `The field ${place} must be an object.`)
  const rom = romOf(given.family, `${place}/family`)
  if (!rom.ok) return rom
  const { family, link } = rom.value
  if (link === null) return refusal('not-in-rom', `${place}/family`, `The link does not speak to an ${family} yet.`)
  const at = `${place}/hex`
  if (given.hex === undefined || given.hex === null) return refusal('missing', at, `The field ${at} is missing.`)
  if (typeof given.hex !== 'string') return refusal('type', at, `The field ${at} must be hex in a text.`)
  const stream = readHex(given.hex)
  if (!stream) return refusal('range', at, `The field ${at} must be whole pairs of hex digits.`)
  const { pieces, tail } = readStream(stream, link.statusBytes)
  const answers = pieces.flatMap((p) => (p.kind === 'answer' ? [p.answer] : []))
  const none = finding(
    'frame-none',
    'error',
    'There is no answer in it at all.',
    `${pieces.length} ${pieces.length === 1 ? 'piece' : 'pieces'}, none of them an answer of an ${family}.`,
    'Look at rate, wires and the way into download mode.',
  )
  return {
    ok: true,
    value: {
      answers: answers.map((a) => ({
        ...a,
        data: hexOf(a.data),
        ...(a.command === 'flash-digest' ? { digest: digestOf(a) } : {}),
      })),
      noise: pieces.flatMap((p) => (p.kind === 'noise' ? [{ hex: hexOf(p.bytes), reason: p.reason }] : [])),
      tail: hexOf(tail),
      findings: [...pieces.flatMap(findingOf), ...(answers.length === 0 ? [{ ...none, at: null }] : [])],
    },
  }
}
