import type { KnownFamily } from '../families/families'
import { sectorBytes } from './erase'
import { type Flow, type Line, mayGoOn, show } from './flow'
import {
  ask,
  attach,
  demand,
  type Identity,
  lacks,
  OtherUnit,
  readRegister,
  request,
  Silent,
  writeRegister,
} from './identity'
import { type Die, dieOf, macOf, magicAddress, wordOf } from './registers'

/** Reading a chip's flash through its loader: by its own command, or through registers where it has none (brief 06 §3). */

/** Bytes of one piece: the buffer of flash-read, and the sixteen words of the flash controller. */
const pieceBytes = 64
const mostAgain = 4
const readMs = 1000

export interface Reader {
  line: Line
  /** Its address, as it was read first. */
  mac: string | null
  found: Die
  flashBytes: number
}

const userRead = 0xd0000000
const user1Read = 0x5c01ff00
const user2Read = 0x70000003
const start = 0x00040000

/** Is it the die and the address that were read first? */
function* same({ line, found, mac }: Reader): Flow<boolean> {
  if (dieOf(yield* readRegister(line, magicAddress))?.die !== found.die) return false
  const words: number[] = []
  for (const address of found.die.mac) words.push(yield* readRegister(line, wordOf(address)))
  return macOf(words) === mac
}

/**
 * A reset forgets everything: looked at and attached anew. Magic and address say that it is the same unit; where they do not, they
 * are read once more, since one bit on the way back looks right.
 */
export function* attachedAnew(reader: Reader): Flow<void> {
  const { line, found, flashBytes } = reader
  if (!(yield* same(reader)) && !(yield* same(reader))) throw new OtherUnit()
  yield* attach(line, found)
  if (!byRegisters(found))
    yield* demand(line, request('spi-parameters', 0, flashBytes, 65_536, sectorBytes, 256, 0xffff))
}

/** Attached, and its registers set to read where the ROM has no command for it. */
export function* ready(reader: Reader): Flow<void> {
  const { line, found } = reader
  yield* attachedAnew(reader)
  if (!byRegisters(found)) return
  const at = (offset: number) => wordOf(found.die.spi.base) + offset
  yield* writeRegister(line, at(found.die.spi.user), userRead)
  yield* writeRegister(line, at(found.die.spi.user1), user1Read)
  yield* writeRegister(line, at(found.die.spi.user2), user2Read)
}

/** Does the ROM of this family work out a digest? */
export const hasDigest = (family: KnownFamily): boolean => !lacks({ family }, 'flash-digest')

/** A ROM without flash-read is read through the registers of its flash controller. */
export const byRegisters = (found: Die): boolean => lacks(found, 'flash-read')

function* pieceOf({ line, found }: Reader, offset: number, bytes: number): Flow<Uint8Array | null> {
  if (!byRegisters(found)) {
    const answer = yield* ask(line, request('flash-read', offset, bytes), Math.max(readMs, line.timeoutMs))
    return answer.status.failed ? null : answer.data.slice(0, bytes)
  }
  const base = wordOf(found.die.spi.base)
  yield* writeRegister(line, base + 4, (offset << 8) >>> 0)
  yield* writeRegister(line, base, start)
  const out = new Uint8Array(Math.ceil(bytes / 4) * 4)
  const view = new DataView(out.buffer)
  for (let at = 0; at < bytes; at += 4)
    view.setUint32(at, yield* readRegister(line, base + found.die.spi.w0 + at), true)
  return out.slice(0, bytes)
}

function* sectorOf(reader: Reader, offset: number, bytes: number): Flow<Uint8Array | null> {
  const out = new Uint8Array(bytes)
  for (let at = 0; at < bytes; at += pieceBytes) {
    const piece = yield* pieceOf(reader, offset + at, Math.min(pieceBytes, bytes - at))
    if (piece === null) return null
    out.set(piece, at)
  }
  return out
}

/** What a flow needs to know of a chip that was identified. @throws OtherUnit where it was not */
export function readerOf(line: Line, who: Identity): Reader {
  const found = who.magic === null ? null : dieOf(Number(who.magic))
  if (!found || who.flashBytes === null) throw new OtherUnit()
  return { line, found, mac: who.mac, flashBytes: who.flashBytes }
}

/**
 * A span within one sector, read in one go: where it was not, the unit may have restarted in it, and it is looked at anew and
 * read again.
 */
export function* spanInOneGo(reader: Reader, offset: number, bytes: number): Flow<Uint8Array> {
  const { line } = reader
  for (let again = 0; ; again++) {
    const before = line.counts.retries
    const span = yield* sectorOf(reader, offset, bytes)
    if (span !== null && line.counts.retries === before) return span
    if (again >= mostAgain) throw new Silent()
    line.counts.resumes++
    yield* ready(reader)
  }
}

/**
 * Reads from `offset` on, sector by sector, and hands each one out as it is whole. False where somebody ended it between two.
 */
export function* readFlash(line: Line, who: Identity, offset: number, bytes: number): Flow<boolean> {
  const reader = readerOf(line, who)
  yield* show('backing up')
  yield* ready(reader)
  for (let at = 0; at < bytes; ) {
    if (!(yield* mayGoOn())) return false
    const length = Math.min(sectorBytes - ((offset + at) % sectorBytes), bytes - at)
    yield { do: 'keep', at, bytes: yield* spanInOneGo(reader, offset + at, length) }
    at += length
  }
  return true
}
