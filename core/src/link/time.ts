import { type Outcome, refusal } from '../edge/fault'
import { eraseOf, sectorBytes } from './erase'
import { inSteps, readFields, real, whole } from './fields'
import { flashBlockBytes, leastRate, mostRate } from './packet'
import { objectOf, romOf } from './rom'

/** How long reading or writing takes over the line: round trips, bytes, programming and erasing (brief 06 §3). */

export const timeActions = ['read-registers', 'read-rom', 'write'] as const
export type TimeAction = (typeof timeActions)[number]

/** Bytes on the line, both ENDs counted, escapes left out: under 1 % on mixed bytes. */
const out = { readRegister: 14, writeRegister: 26, flashRead: 18, flashData: 1050 }
const answerBytes = 10
const readBytes = 64
const pageBytes = 256
const secondsPerPage = 0.0007
const secondsPerSector = 0.045
/** Start, eight bits, stop. */
const bitsPerByte = 10

export interface LinkTime {
  exchanges: number
  bytesOut: number
  bytesIn: number
  seconds: number
  secondsPerKiB: number
}

interface Traffic {
  exchanges: number
  bytesOut: number
  bytesIn: number
  /** Besides the line. */
  work: number
}

/** Three registers once, then two per piece of 64 bytes and the words that it needs. */
function byRegisters(bytes: number, statusBytes: number): Traffic {
  const pieces = Math.ceil(bytes / readBytes)
  const writes = 3 + 2 * pieces
  const reads = 16 * Math.floor(bytes / readBytes) + Math.ceil((bytes % readBytes) / 4)
  const exchanges = writes + reads
  return {
    exchanges,
    bytesOut: writes * out.writeRegister + reads * out.readRegister,
    bytesIn: exchanges * (answerBytes + statusBytes),
    work: 0,
  }
}

function byRom(bytes: number, statusBytes: number): Traffic {
  const exchanges = Math.ceil(bytes / readBytes)
  return {
    exchanges,
    bytesOut: exchanges * out.flashRead,
    bytesIn: exchanges * (answerBytes + readBytes + statusBytes),
    work: 0,
  }
}

function written(
  bytes: number,
  offset: number,
  link: { statusBytes: number; beginWords: number; erase: 'as-told' | 'in-pairs' },
): Traffic {
  const blocks = Math.ceil(bytes / flashBlockBytes)
  const { erased } = eraseOf(link.erase, offset / sectorBytes, Math.ceil(bytes / sectorBytes))
  return {
    exchanges: 1 + blocks,
    bytesOut: answerBytes + 4 * link.beginWords + blocks * out.flashData,
    bytesIn: (1 + blocks) * (answerBytes + link.statusBytes),
    work: blocks * (flashBlockBytes / pageBytes) * secondsPerPage + erased * secondsPerSector,
  }
}

const isAction = (x: unknown): x is TimeAction => (timeActions as readonly unknown[]).includes(x)

/**
 * `link time`: `{ family, action, bytes, rate, latencyMs, offset? }` → round trips, bytes, seconds.
 * Refusals: `missing`, `type`, `range`, `unknown-family`, `unknown-command` and `not-in-rom` (at `/action`).
 */
export function linkTime(input: unknown): Outcome<LinkTime> {
  const given = objectOf(input)
  if (!given) return refusal('type', '', 'The input must be an object.')
  const rom = romOf(given.family, '/family')
  if (!rom.ok) return rom
  const { action } = given
  if (action === undefined || action === null) return refusal('missing', '/action', 'The field /action is missing.')
  if (typeof action !== 'string') return refusal('type', '/action', 'The field /action must be a text.')
  if (!isAction(action))
    return refusal('unknown-command', '/action', `There is no action called "${action}": ${timeActions.join(', ')}.`)
  const { family, link } = rom.value
  if (link === null) return refusal('not-in-rom', '/action', `The link does not speak to an ${family} yet.`)
  if (action === 'read-rom' && link.lacks.includes('flash-read'))
    return refusal('not-in-rom', '/action', `The ROM of an ${family} has no flash-read: it is read through registers.`)
  const offsets = whole('offset', { otherwise: 0 })
  const fields = readFields(given, '', [
    whole('bytes', { least: 1 }),
    real('rate', leastRate, mostRate),
    real('latencyMs', 0, 60_000),
    action === 'write' ? inSteps(offsets, sectorBytes) : offsets,
  ])
  if (!fields.ok) return fields
  const { bytes, rate, latencyMs, offset } = fields.value
  const traffic =
    action === 'write'
      ? written(bytes, offset, link)
      : action === 'read-rom'
        ? byRom(bytes, link.statusBytes)
        : byRegisters(bytes, link.statusBytes)
  const { work, ...line } = traffic
  const seconds = (line.exchanges * latencyMs) / 1000 + (bitsPerByte * (line.bytesOut + line.bytesIn)) / rate + work
  return { ok: true, value: { ...line, seconds, secondsPerKiB: seconds / (bytes / 1024) } }
}
