import { appendFileSync, writeFileSync } from 'node:fs'
import { finding } from '@fresh-coat/core/edge/finding'
import { type ByteLink, LineLost } from '@fresh-coat/core/link/byte-link'
import { drive } from '@fresh-coat/core/link/drive'
import { type LinkState, newLine, reportOf } from '@fresh-coat/core/link/flow'
import { identify } from '@fresh-coat/core/link/identity'
import { leastRate, mostRate } from '@fresh-coat/core/link/packet'
import { openPort, PortFailed } from './ports'
import { UsageError } from './usage'

/** Commands that talk to a chip: they open the port they are given, and nothing else. */

function number(options: Map<string, string>, name: string, otherwise: number, least: number, most: number): number {
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

const nobody = {
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

/** What a chip in its loader says of itself. */
export async function linkInfo(options: Map<string, string>): Promise<object> {
  const rate = number(options, 'rate', usualRate, leastRate, mostRate)
  const timeoutMs = number(options, 'timeout', usualTimeoutMs, 1, 600_000)
  const tries = number(options, 'tries', usualTries, 1, 10_000)
  const line = newLine(rate, timeoutMs)
  const told = (state: LinkState) =>
    process.stderr.write(`${JSON.stringify({ progress: { state, retries: line.counts.retries } })}\n`)
  let link: ByteLink | null = null
  let virtual: true | null = null
  try {
    const opened = await openPort(options.get('port'), rate)
    virtual = opened.virtual
    link = recorded(opened.link, options.get('record'))
    const { die: _, ...found } = await drive(identify(line, tries), link, { onState: told })
    return { ...found, virtual, line: reportOf(line) }
  } catch (cause) {
    if (cause instanceof PortFailed)
      return {
        ...nobody,
        virtual,
        findings: failed(
          'link-port-failed',
          `The port cannot be opened: ${cause.message}.`,
          'Look at its name, and whether something else has it.',
        ),
        line: reportOf(line),
      }
    if (cause instanceof LineLost)
      return {
        ...nobody,
        virtual,
        findings: failed(
          'link-no-answer',
          `The line was lost: ${cause.message}.`,
          'See that it is plugged in, and begin again.',
        ),
        line: reportOf(line),
      }
    throw cause
  } finally {
    await link?.close()
  }
}
