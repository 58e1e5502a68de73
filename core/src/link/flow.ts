import type { PlacedFinding } from '../edge/finding'
import type { RomAnswer } from './answers'
import { readAnswer } from './answers'
import { commandCodes, type LinkCommand } from './codes'
import { packetOf, type Request } from './packet'
import { slipEncode, slipUnescape } from './slip'

/**
 * The flow over a line, as coroutines: a flow yields what is to be done and is handed what came of it. It has no clock, no
 * port and no promise of its own, so that a test, a worker and a command line run the same steps (brief 06 §4). A driver
 * carries the effects out (`drive.ts`).
 */
export type Effect =
  | { do: 'send'; bytes: Uint8Array }
  /** What has come, at once when there is some; empty when the time is over. */
  | { do: 'read'; withinMs: number }
  | { do: 'lines'; dtr: boolean; rts: boolean }
  | { do: 'now' }
  /** The state that a person is shown. */
  | { do: 'state'; state: LinkState }
  /** Bytes of the chip, from the place where the read began. */
  | { do: 'keep'; at: number; bytes: Uint8Array }
  /** What a journal has to hold before the next block goes out. */
  | { do: 'note'; note: WriteNote }
  /** This side listens and sends at another rate from now on. */
  | { do: 'rate'; rate: number }
  /** Nothing is half done here: it may rest, or end. */
  | { do: 'boundary' }

/** How far a region has come: what is confirmed stands in the chip, the rest may be half. */
export interface WriteNote {
  offset: number
  bytes: number
  confirmedBlocks: number
  /** A sector that the ROM erases along with the region, and what stood in it. */
  carried: { offset: number; bytes: Uint8Array } | null
}

export type Event = { bytes: Uint8Array } | { now: number } | { stop: boolean } | { done: true }
export type Flow<T> = Generator<Effect, T, Event>

export const linkStates = [
  'listening',
  'calling',
  'detecting',
  'testing',
  'rating',
  'backing up',
  'erasing',
  'writing',
  'recovering',
  'verifying',
] as const
export type LinkState = (typeof linkStates)[number]

export interface LineCounts {
  exchanges: number
  retries: number
  resumes: number
  noiseBytes: number
  /** Of each exchange that was answered, in ms. */
  roundTrips: number[]
  /** Those of register reads: what is left of them without their bytes is the adapter's wait. */
  registerTrips: number[]
  /** Our own requests that came back. */
  echoes: number
}

/** What a flow keeps of its line between two exchanges. */
export interface Line {
  rate: number
  /** The rate of the first sync: a chip that restarted is heard at it, and at no other. */
  firstRate: number
  /** Bytes of status behind an answer; told by the first answer, since the family is not known before. */
  statusBytes: 2 | 4
  timeoutMs: number
  /** Sent and not yet cut into frames: what has come behind the last END. */
  rest: Uint8Array
  counts: LineCounts
  /** What came besides answers, newest last, so far as it is worth a look. */
  noise: Uint8Array
}

export const newLine = (rate: number, timeoutMs: number): Line => ({
  rate,
  firstRate: rate,
  statusBytes: 4,
  timeoutMs,
  rest: new Uint8Array(0),
  counts: { exchanges: 0, retries: 0, resumes: 0, noiseBytes: 0, roundTrips: [], registerTrips: [], echoes: 0 },
  noise: new Uint8Array(0),
})

const end = 0xc0
const quietMs = 30
/** Less than this is no time to wait for: sums of moments never come out even. */
const leastWaitMs = 0.5
const mostNoise = 4096
/** How long one fence may go on hearing bytes before it tries all the same. */
const mostDrainMs = 2000

export function* read(withinMs: number): Flow<Uint8Array> {
  const event = yield { do: 'read', withinMs }
  return 'bytes' in event ? event.bytes : new Uint8Array(0)
}
export function* now(): Flow<number> {
  const event = yield { do: 'now' }
  return 'now' in event ? event.now : 0
}
export function* show(state: LinkState): Flow<void> {
  yield { do: 'state', state }
}
export function* send(request: Request): Flow<void> {
  yield { do: 'send', bytes: slipEncode(packetOf(request)) }
}

function joined(a: Uint8Array, b: Uint8Array): Uint8Array {
  const out = new Uint8Array(a.length + b.length)
  out.set(a)
  out.set(b, a.length)
  return out
}

function keepNoise(line: Line, bytes: Uint8Array): void {
  if (bytes.length === 0) return
  line.counts.noiseBytes += bytes.length
  line.noise = joined(line.noise, bytes).slice(-mostNoise)
}

/** Takes the whole frames out of what has come; what is no answer is noise. */
function taken(line: Line, fresh: Uint8Array): RomAnswer[] {
  const stream = joined(line.rest, fresh)
  const last = stream.lastIndexOf(end)
  if (last < 0) {
    // Text without any END stands before the first frame.
    line.rest = stream
    return []
  }
  const answers: RomAnswer[] = []
  let from = 0
  for (let at = stream.indexOf(end); at >= 0; at = stream.indexOf(end, from)) {
    const piece = stream.subarray(from, at)
    from = at + 1
    if (piece.length === 0) continue
    const frame = slipUnescape(piece)
    const found = frame ? readAnswer(frame, line.statusBytes) : null
    if (found?.kind === 'answer') answers.push(found.answer)
    else {
      if (found?.kind === 'noise' && found.reason === 'echo') line.counts.echoes++
      keepNoise(line, piece)
    }
  }
  line.rest = stream.subarray(from)
  return answers
}

/** Waits for an answer to this command until the time is over; answers to others are noise by then. */
export function* answerTo(line: Line, command: LinkCommand, withinMs: number): Flow<RomAnswer | null> {
  const code = commandCodes[command]
  const began = yield* now()
  for (let left = withinMs; left >= leastWaitMs; left = withinMs - ((yield* now()) - began)) {
    const answer = taken(line, yield* read(left)).find((a) => a.code === code)
    if (answer) return answer
  }
  return null
}

/** Drops what has come, until it was quiet for a moment. */
export function* drain(line: Line): Flow<void> {
  const began = yield* now()
  for (let bytes = yield* read(quietMs); bytes.length > 0; bytes = yield* read(quietMs)) {
    keepNoise(line, joined(line.rest, bytes))
    line.rest = new Uint8Array(0)
    if ((yield* now()) - began > mostDrainMs) return
  }
}

const syncData = Uint8Array.from([0x07, 0x07, 0x12, 0x20, ...Array(32).fill(0x55)])
const syncMs = 150
/** A chip answers a sync eight times. */
const moreSyncs = 7

/** So often it is called at a rate that was raised, before it is taken for restarted. */
const triesAtRaised = 8

/** This side's rate alone; what the chip sends at another is noise from then on. */
export function* toRate(line: Line, rate: number): Flow<void> {
  yield { do: 'rate', rate }
  line.rate = rate
  yield* drain(line)
}

/** May it go on? Between two blocks or sectors a person may rest it, or end it. */
export function* mayGoOn(): Flow<boolean> {
  const event = yield { do: 'boundary' }
  return !('stop' in event && event.stop)
}

/**
 * Calls until the chip answers. It answers in order, so whatever comes behind a sync answer belongs to what is sent from
 * then on: this is the fence after every time-out too. The length of its status is learned here.
 */
export function* fence(line: Line, tries: number): Flow<boolean> {
  yield* drain(line)
  for (let i = 0; i < tries; i++) {
    // A restart forgets the faster rate.
    if (i === triesAtRaised && line.rate !== line.firstRate) yield* toRate(line, line.firstRate)
    yield* send({ command: 'sync', data: syncData, checksum: 0 })
    // With the shorter status every answer is read, and its length says which it is.
    line.statusBytes = 2
    const answer = yield* answerTo(line, 'sync', syncMs)
    if (!answer) continue
    line.statusBytes = answer.data.length >= 2 ? 4 : 2
    for (let n = 0; n < moreSyncs; n++) if (!(yield* answerTo(line, 'sync', syncMs))) break
    yield* drain(line)
    // What was heard before it answered says nothing about a silence that comes later.
    line.noise = new Uint8Array(0)
    return true
  }
  return false
}

const mostRepeats = 4
const repeatsOfRefused = 2

export type Exchanged = { kind: 'answer'; answer: RomAnswer } | { kind: 'silent' }

/**
 * One request and its answer; a time-out is fenced, and the request repeated. Only for requests that may be: those that write
 * are never sent again blindly.
 */
export function* exchange(
  line: Line,
  request: Request,
  fenceTries: number,
  withinMs = line.timeoutMs,
): Flow<Exchanged> {
  for (let i = 0; i <= mostRepeats; i++) {
    const began = yield* now()
    line.counts.exchanges++
    yield* send(request)
    const answer = yield* answerTo(line, request.command, withinMs)
    if (answer) {
      const trip = (yield* now()) - began
      line.counts.roundTrips.push(trip)
      if (request.command === 'read-register') line.counts.registerTrips.push(trip)
      // A request that was damaged on the way is refused, and a bit of the status may have flipped on the way back.
      if (answer.status.failed && i < repeatsOfRefused) {
        line.counts.retries++
        continue
      }
      return { kind: 'answer', answer }
    }
    line.counts.retries++
    if (!(yield* fence(line, fenceTries))) return { kind: 'silent' }
  }
  return { kind: 'silent' }
}

export interface LineReport {
  exchanges: number
  retries: number
  resumes: number
  noiseBytes: number
  rttMs: { min: number | null; median: number | null; p95: number | null }
  latencyMs: number | null
}

const bytesOfRegisterRead = 26
const bitsPerByte = 10

/** What the line was like: round trips, and the adapter's own wait without the bytes' time on the line. */
export function reportOf({ counts, rate }: Line): LineReport {
  const share = (list: readonly number[], of: number): number | null => {
    const sorted = [...list].sort((x, y) => x - y)
    return sorted[Math.min(sorted.length - 1, Math.floor(of * sorted.length))] ?? null
  }
  const ofRegisters = share(counts.registerTrips, 0.5)
  const onLine = (bytesOfRegisterRead * bitsPerByte * 1000) / rate
  return {
    exchanges: counts.exchanges,
    retries: counts.retries,
    resumes: counts.resumes,
    noiseBytes: counts.noiseBytes,
    rttMs: {
      min: share(counts.roundTrips, 0),
      median: share(counts.roundTrips, 0.5),
      p95: share(counts.roundTrips, 0.95),
    },
    latencyMs: ofRegisters === null ? null : Math.max(0, ofRegisters - onLine),
  }
}

export type LinkFinding = PlacedFinding<number | null>
