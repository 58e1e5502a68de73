import { readBootLog } from '../boot/boot-log'
import { latin1 } from '../bytes/text'
import { finding } from '../edge/finding'
import { nth } from '../edge/nth'
import { factsOf, type KnownFamily } from '../families/families'
import type { RomAnswer } from './answers'
import type { LinkCommand } from './codes'
import { drain, exchange, type Flow, fence, type Line, type LinkFinding, read, show } from './flow'
import type { Request } from './packet'
import {
  cipherCount,
  crystalOf,
  type Die,
  dieOf,
  encryptedBy,
  flashBytesBy,
  flashIdOf,
  flashIdRead,
  macOf,
  magicAddress,
  otherDieOf,
  wordOf,
} from './registers'

/** What a chip says of itself in its ROM loader: nothing is written but registers, nothing erased. */
export interface Identity {
  family: KnownFamily | null
  die: string | null
  /** "0xFFF0C101", as it was read twice; null where nothing answered. */
  magic: string | null
  chipId: number | null
  mac: string | null
  crystalMHz: 26 | 40 | null
  flashId: string | null
  flashBytes: number | null
  security: { flags: number; count: number; secureDownload: boolean; encrypted: boolean } | null
  findings: LinkFinding[]
}

/** What is known of a chip that nobody heard. */
export const nobody = {
  family: null,
  magic: null,
  chipId: null,
  mac: null,
  crystalMHz: null,
  flashId: null,
  flashBytes: null,
  security: null,
}
const say = (...args: Parameters<typeof finding>): LinkFinding => ({ ...finding(...args), at: null })

function words(...list: number[]): Uint8Array {
  const out = new Uint8Array(4 * list.length)
  const view = new DataView(out.buffer)
  for (const [i, word] of list.entries()) view.setUint32(4 * i, word, true)
  return out
}
export const request = (command: LinkCommand, ...list: number[]): Request => ({
  command,
  data: words(...list),
  checksum: 0,
})

/** Does the ROM of this family lack a command? */
export const lacks = ({ family }: Pick<Die, 'family'>, command: LinkCommand): boolean =>
  factsOf(family).link?.lacks.includes(command) ?? true

/** The chip went silent in the middle: said once, whatever was asked. */
export class Silent extends Error {}
/** What speaks of a chip that is not the one that was read before. */
export class OtherUnit extends Error {}
/** The chip understood, and would not: what it was asked, and its status. */
export class Refused extends Error {}

const fenceTries = 20

export function* ask(line: Line, wanted: Request, withinMs = line.timeoutMs): Flow<RomAnswer> {
  const out = yield* exchange(line, wanted, fenceTries, withinMs)
  if (out.kind === 'silent') throw new Silent()
  return out.answer
}
/** As {@link ask}, where a refusal is no answer to go on with. */
export function* demand(line: Line, wanted: Request): Flow<RomAnswer> {
  const answer = yield* ask(line, wanted)
  const { failed, code, name } = answer.status
  if (failed) throw new Refused(`${wanted.command} was refused: status ${code}, ${name}`)
  return answer
}
export function* readRegister(line: Line, address: number): Flow<number> {
  return (yield* demand(line, request('read-register', address))).value
}
export function* writeRegister(line: Line, address: number, value: number): Flow<void> {
  yield* demand(line, request('write-register', address, value, 0xffffffff, 0))
}

const running: ReadonlySet<string> = new Set(['flash_boot', 'app_text', 'boot_loop'])
/** Text of a running program, by what came instead of an answer. */
function isProgram(bytes: Uint8Array): boolean {
  const read = readBootLog({ text: latin1(bytes) })
  return read.ok && running.has(read.value.verdict)
}

/** Why nobody answered, as far as what came says it. */
function noAnswer(line: Line): LinkFinding {
  const heard = heardOf(line)
  if (line.counts.echoes > 0)
    return say(
      'link-echo',
      'error',
      'What we send comes back: nothing else does.',
      `${line.counts.echoes} of our own requests came back.`,
      'RX and TX are joined, or the adapter is in loop: part them.',
    )
  if (isProgram(heardOf(line)))
    return say(
      'link-app-running',
      'error',
      'It started its firmware: BOOT was not low at reset.',
      'Readable text came instead of an answer.',
      'Hold BOOT, and give it its reset again.',
    )
  return say(
    'link-no-answer',
    'error',
    'Nothing answered.',
    heard.length > 0 ? `${heard.length} bytes came that are no answer.` : 'Not a single byte came.',
    'Look at rate, wires, supply and the way into download mode.',
  )
}
const heardOf = ({ noise, rest }: Line): Uint8Array => Uint8Array.from([...noise, ...rest])

/** A ROM without a command for it attaches its flash by a flash-begin of nothing, which erases nothing. */
export function* attach(line: Line, found: Die): Flow<void> {
  yield* demand(line, lacks(found, 'spi-attach') ? request('flash-begin', 0, 0, 0, 0) : request('spi-attach', 0, 0))
}

function* readFlashId(line: Line, { die }: Die): Flow<number> {
  const plan = flashIdRead(die)
  const before: number[] = []
  for (const address of plan.saved) before.push(yield* readRegister(line, address))
  for (const { address, value } of plan.writes) yield* writeRegister(line, address, value)
  // It clears itself within microseconds, far less than a round trip; looked at once to be sure.
  yield* readRegister(line, plan.command)
  const id = yield* readRegister(line, plan.w0)
  for (const [i, address] of plan.saved.entries()) yield* writeRegister(line, address, nth(before, i))
  return id
}

function* securityOf(line: Line, found: Die): Flow<Pick<Identity, 'security' | 'chipId'>> {
  if (found.die.cipherWord !== null) {
    const count = cipherCount(yield* readRegister(line, wordOf(found.die.cipherWord)))
    return { chipId: null, security: { flags: 0, count, secureDownload: false, encrypted: encryptedBy(count) } }
  }
  if (lacks(found, 'security-info')) return { chipId: null, security: null }
  const { data, status } = yield* ask(line, request('security-info'))
  if (status.failed || data.length < 5) return { chipId: null, security: null }
  const view = new DataView(data.buffer, data.byteOffset, data.length)
  const [flags, count] = [view.getUint32(0, true), view.getUint8(4)]
  return {
    chipId: data.length >= 16 ? view.getUint32(12, true) : null,
    security: { flags, count, secureDownload: (flags & 4) !== 0, encrypted: encryptedBy(count) },
  }
}

const twoReads = ['first', 'second'] as const

/** The magic word, read twice: an answer that came late would be another one. */
function* magicOf(line: Line): Flow<number | null> {
  const seen: number[] = []
  for (const _ of twoReads) seen.push(yield* readRegister(line, magicAddress))
  return seen[0] === seen[1] ? nth(seen, 0) : null
}

function unknownDie(magic: number | null): LinkFinding {
  const other = magic === null ? null : otherDieOf(magic)
  return say(
    'link-die-unknown',
    'error',
    other ? `This is a ${other}: the link does not speak to it yet.` : 'No die of the table answers like this.',
    magic === null ? 'Its magic word differed between two reads.' : `Its magic word is ${hexWord(magic)}.`,
    'It may be read; nothing is written.',
  )
}
const hexWord = (word: number): string => `0x${word.toString(16).toUpperCase().padStart(8, '0')}`

function* detect(line: Line): Flow<Identity> {
  yield* show('detecting')
  const magic = yield* magicOf(line)
  const found = magic === null ? null : dieOf(magic)
  const seen = { ...nobody, die: null, magic: magic === null ? null : hexWord(magic) }
  if (!found) return { ...seen, findings: [unknownDie(magic)] }
  const { die, family } = found
  const lock = yield* securityOf(line, found)
  const findings: LinkFinding[] = []
  if (lock.chipId !== null && die.chipId !== null && lock.chipId !== die.chipId) findings.push(unknownDie(magic))
  if (lock.security?.encrypted || lock.security?.secureDownload)
    findings.push(
      say(
        'link-encrypted',
        'error',
        'This chip is locked: its flash is encrypted, or its loader is.',
        'A dump would be cipher text, and a plain image would not start.',
        'Leave it as it is, or replace the module.',
      ),
    )
  const macWords: number[] = []
  for (const address of die.mac) macWords.push(yield* readRegister(line, wordOf(address)))
  const divider = die.uartDivider === null ? null : yield* readRegister(line, wordOf(die.uartDivider))
  yield* attach(line, found)
  const id = yield* readFlashId(line, found)
  const answered = id !== 0 && (id & 0xffffff) !== 0xffffff
  return {
    ...seen,
    family,
    die: die.name,
    chipId: lock.chipId,
    security: lock.security,
    mac: macOf(macWords),
    crystalMHz: divider === null ? 40 : crystalOf(line.rate, divider, die.crystalHalved),
    flashId: answered ? flashIdOf(id) : null,
    flashBytes: answered ? flashBytesBy(id) : null,
    findings,
  }
}

export const refused = (cause: Refused): LinkFinding =>
  say(
    'rom-refused',
    'error',
    `The chip refused: ${cause.message}.`,
    '',
    'Bring it into its loader again; look at supply and wires.',
  )

/** Calls the chip and asks it what it is. @param tries syncs before it gives up */
export function* identify(line: Line, tries: number): Flow<Identity> {
  yield* show('listening')
  // Opening a port often raises both lines: with the usual circuit both on act as none, wired directly they may hold it.
  yield { do: 'lines', dtr: false, rts: false }
  yield* show('calling')
  if (!(yield* fence(line, tries))) {
    line.noise = Uint8Array.from([...line.noise, ...(yield* read(line.timeoutMs))])
    return { ...nobody, die: null, findings: [noAnswer(line)] }
  }
  try {
    return yield* detect(line)
  } catch (cause) {
    if (cause instanceof Refused) return { ...nobody, die: null, findings: [refused(cause)] }
    if (!(cause instanceof Silent)) throw cause
    yield* drain(line)
    return { ...nobody, die: null, findings: [noAnswer(line)] }
  }
}
