import { factsOf } from '../families/families'
import type { RomAnswer } from './answers'
import { eraseOf, sectorBytes } from './erase'
import { answerTo, type Flow, fence, type Line, mayGoOn, send, show, type WriteNote } from './flow'
import { type Identity, Refused, request, Silent } from './identity'
import { blockChecksum, flashBlockBytes, type Request } from './packet'
import { attachedAnew, type Reader, readerOf, ready, spanInOneGo } from './reading'
import { firstDifference } from './verify'

/**
 * Writing a region: erased exactly, block by block, and gone on from the sector of the first block that nobody confirmed. A block
 * whose answer was lost is never sent again blindly, whatever the ROM does with its numbers (brief 06 §5).
 */
export interface Region {
  /** A multiple of 4096. */
  offset: number
  data: Uint8Array
}

export type WriteEnd =
  | { outcome: 'written' }
  /** Half written from here on; the journal says how far. */
  | { outcome: 'lost-midway' | 'block-refused' | 'cancelled'; at: number }

/** Blocks of a write: all of it, sent with those that went again, and those the chip confirmed. */
export interface BlockCounts {
  total: number
  sent: number
  confirmed: number
  resent: number
}
export const noBlocks = (): BlockCounts => ({ total: 0, sent: 0, confirmed: 0, resent: 0 })

/** Where a write that was broken off is gone on with, and what stood in the sector that the ROM takes along. */
export type ResumeFrom = Pick<WriteNote, 'confirmedBlocks' | 'carried'>

const blocksInSector = sectorBytes / flashBlockBytes
const fenceTries = 20
const mostStuck = 4
const mostSameBlock = 4
const checksumWrong = 7
const blockMs = 3000
const beginMs = 3000
const beginMsPerSector = 400

const sectorsIn = (bytes: number) => Math.ceil(bytes / sectorBytes)

/** With FF to the end of its last sector: that is what stands there after the erase. */
function toWholeSectors(data: Uint8Array): Uint8Array {
  const out = new Uint8Array(sectorsIn(data.length) * sectorBytes).fill(0xff)
  out.set(data)
  return out
}

interface Exact extends Region {
  carried: WriteNote['carried']
}

const mostReads = 5

/** A sector that will be erased and written back: a bit that flipped on the way would stay wrong, so two reads have to agree. */
function* agreedSector(reader: Reader, at: number): Flow<Uint8Array> {
  yield* ready(reader)
  let before = yield* spanInOneGo(reader, at, sectorBytes)
  for (let i = 1; i < mostReads; i++) {
    const now = yield* spanInOneGo(reader, at, sectorBytes)
    if (firstDifference(before, now) === null) return now
    before = now
  }
  throw new Silent()
}

/**
 * The region as this ROM erases it, no more and no less. Where it would take one sector too many, that sector is read first and
 * written back with the rest; at the end of the chip, where the extra one would wrap, the sector before instead.
 */
function* exactly(reader: Reader, { offset, data }: Region, kept: WriteNote['carried']): Flow<Exact> {
  const rule = factsOf(reader.found.family).link?.erase ?? 'as-told'
  const [first, count] = [offset / sectorBytes, sectorsIn(data.length)]
  if (eraseOf(rule, first, count).erased === count) return { offset, data, carried: null }
  const behind = (first + count) * sectorBytes
  const carriesBehind = behind < reader.flashBytes
  const at = carriesBehind ? behind : offset - sectorBytes
  // The journal's bytes, where there is one: the chip's own copy may be gone.
  const bytes = kept?.offset === at ? kept.bytes : yield* agreedSector(reader, at)
  const whole = toWholeSectors(data)
  const joined = new Uint8Array(whole.length + sectorBytes)
  joined.set(whole, carriesBehind ? 0 : sectorBytes)
  joined.set(bytes, carriesBehind ? whole.length : 0)
  return { offset: carriesBehind ? offset : at, data: joined, carried: { offset: at, bytes } }
}

/** Sends once and waits: what writes is never repeated by itself. */
function* once(line: Line, wanted: Request, withinMs: number): Flow<RomAnswer | null> {
  line.counts.exchanges++
  yield* send(wanted)
  return yield* answerTo(line, wanted.command, withinMs)
}

/** The sector to begin at again: that of the first unconfirmed block, or the one before where only that erases exactly. */
function beginAt(reader: Reader, region: Exact, confirmed: number): number {
  const rule = factsOf(reader.found.family).link?.erase ?? 'as-told'
  const total = sectorsIn(region.data.length)
  for (let sector = Math.floor(confirmed / blocksInSector); sector > 0; sector--) {
    const rest = total - sector
    if (eraseOf(rule, region.offset / sectorBytes + sector, rest).erased === rest) return sector
  }
  return 0
}

function* begin(reader: Reader, region: Exact, sector: number): Flow<RomAnswer | null> {
  const facts = factsOf(reader.found.family).link
  const offset = region.offset + sector * sectorBytes
  const bytes = region.data.length - sector * sectorBytes
  const { told, erased } = eraseOf(facts?.erase ?? 'as-told', offset / sectorBytes, sectorsIn(bytes))
  const words = [told * sectorBytes, Math.ceil(bytes / flashBlockBytes), flashBlockBytes, offset]
  yield* show('erasing')
  return yield* once(
    reader.line,
    request('flash-begin', ...words, ...(facts?.beginWords === 5 ? [0] : [])),
    beginMs + erased * beginMsPerSector,
  )
}

function blockRequest(region: Exact, block: number, sequence: number): Request {
  const bytes = new Uint8Array(flashBlockBytes).fill(0xff)
  bytes.set(region.data.subarray(block * flashBlockBytes, (block + 1) * flashBlockBytes))
  const head = request('flash-data', flashBlockBytes, sequence, 0, 0).data
  const data = new Uint8Array(head.length + bytes.length)
  data.set(head)
  data.set(bytes, head.length)
  return { command: 'flash-data', data, checksum: blockChecksum(bytes) }
}

type BlockEnd = 'confirmed' | 'refused' | 'silent'

/** One block: damaged on the way, nothing was written, and it goes again with the same number. */
function* block(reader: Reader, region: Exact, index: number, sequence: number, counts: BlockCounts): Flow<BlockEnd> {
  for (let i = 0; i <= mostSameBlock; i++) {
    counts.sent++
    const answer = yield* once(reader.line, blockRequest(region, index, sequence), blockMs)
    if (!answer) return 'silent'
    if (!answer.status.failed) return 'confirmed'
    reader.line.counts.retries++
    if (answer.status.code !== checksumWrong) return 'refused'
  }
  return 'refused'
}

/** After a silence: quiet, a fence, and the same unit attached anew. False where it is not heard again. */
function* recovered(reader: Reader): Flow<boolean> {
  yield* show('recovering')
  reader.line.counts.resumes++
  if (!(yield* fence(reader.line, fenceTries))) return false
  try {
    yield* attachedAnew(reader)
    return true
  } catch (cause) {
    if (cause instanceof Silent || cause instanceof Refused) return false
    throw cause
  }
}

/**
 * Writes a region and ends it nowhere: the chip stays in its loader. What is confirmed is noted at the start and at every sector.
 * @param from where an earlier write of the same region had come to @param counts is counted up while it writes
 * @throws OtherUnit where another unit answers after a silence
 */
export function* writeRegion(
  line: Line,
  who: Identity,
  wanted: Region,
  from: ResumeFrom = { confirmedBlocks: 0, carried: null },
  counts: BlockCounts = noBlocks(),
): Flow<WriteEnd> {
  const reader = readerOf(line, who)
  yield* attachedAnew(reader)
  const region = yield* exactly(reader, wanted, from.carried)
  // Reading set the registers of the flash for itself.
  if (region.carried) yield* attachedAnew(reader)
  const total = Math.ceil(region.data.length / flashBlockBytes)
  counts.total = total
  const note = (confirmedBlocks: number) => ({
    do: 'note' as const,
    note: { offset: region.offset, bytes: region.data.length, confirmedBlocks, carried: region.carried },
  })
  const addressOf = (index: number) => region.offset + index * flashBlockBytes
  const first = Math.min(from.confirmedBlocks, total)
  counts.confirmed = first
  yield note(first)
  let [best, stuck, refused] = [first, 0, 0]
  for (let confirmed = first; confirmed < total; ) {
    const sector = beginAt(reader, region, confirmed)
    const begun = yield* begin(reader, region, sector)
    let ended: BlockEnd = begun ? (begun.status.failed ? 'refused' : 'confirmed') : 'silent'
    confirmed = ended === 'confirmed' ? sector * blocksInSector : confirmed
    yield* show('writing')
    for (let sequence = 0; ended === 'confirmed' && confirmed < total; sequence++) {
      if (!(yield* mayGoOn())) return { outcome: 'cancelled', at: addressOf(confirmed) }
      const sentBefore = counts.sent
      ended = yield* block(reader, region, confirmed, sequence, counts)
      counts.resent += counts.sent - sentBefore - (confirmed < best ? 0 : 1)
      if (ended !== 'confirmed') break
      confirmed++
      counts.confirmed = confirmed
      if (confirmed > best) [best, stuck, refused] = [confirmed, 0, 0]
      if (confirmed % blocksInSector === 0 || confirmed === total) yield note(confirmed)
    }
    if (ended === 'refused' && ++refused > mostStuck) return { outcome: 'block-refused', at: addressOf(confirmed) }
    if (ended !== 'silent') continue
    if (++stuck > mostStuck || !(yield* recovered(reader))) return { outcome: 'lost-midway', at: addressOf(confirmed) }
  }
  return { outcome: 'written' }
}

/**
 * Erases the whole chip: there is no command of its own for it, so it is a flash-begin over all of it, and no block is sent.
 * False where the chip was not heard again, or would not.
 */
export function* eraseWhole(line: Line, who: Identity): Flow<boolean> {
  const reader = readerOf(line, who)
  yield* attachedAnew(reader)
  const all: Exact = { offset: 0, data: new Uint8Array(reader.flashBytes), carried: null }
  for (let i = 0; i <= mostStuck; i++) {
    const begun = yield* begin(reader, all, 0)
    if (begun && !begun.status.failed) return true
    if (!begun && !(yield* recovered(reader))) return false
  }
  return false
}
