import { createHash } from 'node:crypto'
import { appendFileSync, existsSync, writeFileSync } from 'node:fs'
import { basename } from 'node:path'
import { compareDumps } from '@fresh-coat/core/dump/compare'
import { finding } from '@fresh-coat/core/edge/finding'
import { type ByteLink, LineLost } from '@fresh-coat/core/link/byte-link'
import { drive } from '@fresh-coat/core/link/drive'
import { type Line, type LinkState, newLine, reportOf } from '@fresh-coat/core/link/flow'
import { identify, Refused, refused, Silent } from '@fresh-coat/core/link/identity'
import { leastRate, mostRate } from '@fresh-coat/core/link/packet'
import { OtherUnit, readFlash } from '@fresh-coat/core/link/reading'
import { openPort, PortFailed } from './ports'
import { FileError, UsageError } from './usage'

/** Commands that talk to a chip: they open the port they are given, and nothing else. */

export function number(
  options: Map<string, string>,
  name: string,
  otherwise: number,
  least: number,
  most: number,
): number {
  const text = options.get(name)
  if (text === undefined) return otherwise
  const n = /^\d+$/.test(text) ? Number(text) : Number.NaN
  if (!(n >= least && n <= most)) throw new UsageError(`--${name} must be a whole number from ${least} to ${most}`)
  return n
}

const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex')

/** The same line, written down as it goes: a JSON object a line, with its time. */
function recorded(link: ByteLink, path: string | undefined): ByteLink {
  if (path === undefined) return link
  // It may hold what a dump holds.
  writeFileSync(path, '', { mode: 0o600 })
  const note = (what: object) => appendFileSync(path, `${JSON.stringify({ t: Math.round(link.now()), ...what })}\n`)
  return {
    kind: link.kind,
    can: link.can,
    now: () => link.now(),
    read: async (withinMs) => {
      const bytes = await link.read(withinMs)
      if (bytes.length > 0) note({ in: hex(bytes) })
      return bytes
    },
    write: async (bytes) => {
      note({ out: hex(bytes) })
      await link.write(bytes)
    },
    setLines: async (lines) => {
      note({ lines })
      await link.setLines(lines)
    },
    changeRate: async (rate) => {
      note({ rate })
      await link.changeRate(rate)
    },
    close: () => link.close(),
    onLost: (tell) =>
      link.onLost((why, text) => {
        note({ lost: why })
        tell(why, text)
      }),
  }
}

const usualRate = 115_200
const usualTimeoutMs = 400
const usualTries = 20
const betweenProgressMs = 250

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
const failed = (code: string, message: string, next: string) => [
  { ...finding(code, 'error', message, '', next), at: null },
]

export interface Session {
  link: ByteLink
  line: Line
  /** One JSON object a line on standard error, at most four a second. */
  told: (progress: object) => void
}

/** Opens the port, runs, and closes it again; what goes wrong with the line is a finding, not a crash. */
export async function session(
  options: Map<string, string>,
  unsaid: object,
  run: (at: Session, tries: number) => Promise<object>,
): Promise<object> {
  const rate = number(options, 'rate', usualRate, leastRate, mostRate)
  const timeoutMs = number(options, 'timeout', usualTimeoutMs, 1, 600_000)
  const tries = number(options, 'tries', usualTries, 1, 10_000)
  const line = newLine(rate, timeoutMs)
  let saidAt = 0
  const told = (progress: object) => {
    const now = performance.now()
    if (now - saidAt < betweenProgressMs) return
    saidAt = now
    process.stderr.write(`${JSON.stringify({ progress })}\n`)
  }
  let link: ByteLink | null = null
  let virtual: true | null = null
  const end = (code: string, message: string, next: string) => ({
    ...unsaid,
    virtual,
    findings: failed(code, message, next),
    line: reportOf(line),
  })
  try {
    const opened = await openPort(options.get('port'), rate)
    virtual = opened.virtual
    link = recorded(opened.link, options.get('record'))
    return { ...(await run({ link, line, told }, tries)), virtual, line: reportOf(line) }
  } catch (cause) {
    if (cause instanceof PortFailed)
      return end(
        'link-port-failed',
        `The port cannot be opened: ${cause.message}.`,
        'Look at its name, and whether something else has it.',
      )
    if (cause instanceof LineLost)
      return end(
        'link-no-answer',
        `The line was lost: ${cause.message}.`,
        'See that it is plugged in, and begin again.',
      )
    if (cause instanceof Silent)
      return end('link-no-answer', 'The chip fell silent.', 'Look at supply and wires; bring it into its loader again.')
    if (cause instanceof Refused) return { ...unsaid, virtual, findings: [refused(cause)], line: reportOf(line) }
    if (cause instanceof OtherUnit)
      return end(
        'link-other-unit',
        'Another unit answers than before.',
        'Nothing was written. Begin again with one unit.',
      )
    throw cause
  } finally {
    await link?.close()
  }
}

/** What a chip in its loader says of itself. */
export const linkInfo = (options: Map<string, string>): Promise<object> =>
  session(options, nobody, async ({ link, line, told }, tries) => {
    const { die: _, ...found } = await drive(identify(line, tries), link, {
      onState: (state) => told({ state, retries: line.counts.retries }),
    })
    return found
  })

export function place(options: Map<string, string>, name: string): number | null {
  const text = options.get(name)
  if (text === undefined) return null
  const n = /^(0x[0-9a-f]+|\d+)$/i.test(text) ? Number(text) : Number.NaN
  if (!Number.isSafeInteger(n)) throw new UsageError(`--${name} must be a number of bytes`)
  return n
}

/** What is to be read, within the chip; the whole of it where nobody says. */
function spanOf(options: Map<string, string>, flashBytes: number | null): { offset: number; bytes: number } {
  const [offset, bytes] = [place(options, 'offset') ?? 0, place(options, 'bytes')]
  const size = flashBytes ?? (bytes === null ? null : offset + bytes)
  if (size === null) throw new UsageError('The chip does not say its size: give --bytes')
  const length = bytes ?? size - offset
  if (length < 1 || offset + length > size)
    throw new UsageError(`${offset} and ${length} bytes do not lie within the chip of ${size}`)
  return { offset, bytes: length }
}

const notKept = { out: null, sha256: null, reads: 0, verdict: null, compare: null, whole: false, seconds: 0 }

/** Reads the chip, twice unless it is told once; what two reads do not agree on is kept as a partial file, and never mixed. */
export function linkBackup(options: Map<string, string>): Promise<object> {
  const out = options.get('out')
  if (out === undefined) throw new UsageError('--out is missing: the file to keep it in')
  if (existsSync(out)) throw new FileError(`${out} is there already; nothing was read`)
  const once = options.has('once')
  return session(options, { ...nobody, ...notKept }, async ({ link, line, told }, tries) => {
    const began = link.now()
    const onState = (state: LinkState) => told({ state, retries: line.counts.retries })
    const { die: _, ...who } = await drive(identify(line, tries), link, { onState })
    if (who.family === null) return { ...who, ...notKept }
    const { offset, bytes } = spanOf(options, who.flashBytes)
    const identity = { ...who, die: null, flashBytes: who.flashBytes ?? offset + bytes }
    const reads: Uint8Array[] = []
    for (let n = 1; n <= (once ? 1 : 2); n++) {
      const read = new Uint8Array(bytes)
      const from = link.now()
      await drive(readFlash(line, identity, offset, bytes), link, {
        onState,
        onBytes: (at, part) => {
          read.set(part, at)
          const seconds = (link.now() - from) / 1000
          const done = at + part.length
          const rate = seconds > 0 ? done / seconds : 0
          told({
            state: 'backing up',
            read: n,
            done,
            total: bytes,
            bytesPerSecond: Math.round(rate),
            retries: line.counts.retries,
            secondsLeft: rate > 0 ? Math.round((bytes - done) / rate) : null,
          })
        },
      })
      reads.push(read)
    }
    const [first, second] = reads as [Uint8Array, Uint8Array | undefined]
    const compare = second ? compareDumps(first, second) : null
    const stable = compare === null || compare.verdict === 'same'
    const sha256 = stable ? createHash('sha256').update(first).digest('hex') : null
    const path = stable ? out : `${out}.partial`
    // A dump holds keys and passwords: for its owner only.
    writeFileSync(path, first, { flag: 'wx', mode: 0o600 })
    if (sha256) writeFileSync(`${out}.sha256`, `${sha256}  ${basename(out)}\n`, { mode: 0o600 })
    return {
      ...who,
      out: path,
      offset,
      bytes,
      sha256,
      reads: reads.length,
      verdict: stable ? (second ? 'verified' : 'single') : 'unstable',
      compare,
      whole: offset === 0 && bytes === who.flashBytes,
      seconds: (link.now() - began) / 1000,
      findings: [...who.findings, ...(compare?.findings ?? []), ...slowFindings(line)],
    }
  })
}

const slowMs = 8
/** An adapter that waits before it hands an answer on makes a read by single answers many times longer. */
function slowFindings(line: Line) {
  const { latencyMs } = reportOf(line)
  if (latencyMs === null || latencyMs < slowMs) return []
  return [
    {
      ...finding(
        'link-slow-adapter',
        'watch',
        `Each answer waits ${Math.round(latencyMs)} ms in the adapter.`,
        'Reading is one short answer after the other.',
        'Its driver has a latency setting: 1 ms would make this several times faster.',
      ),
      at: null,
    },
  ]
}
