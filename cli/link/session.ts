import { finding, type PlacedFinding, type Severity } from '@fresh-coat/core/edge/finding'
import { type ByteLink, LineLost } from '@fresh-coat/core/link/byte-link'
import { drive, Stopped, type Watch } from '@fresh-coat/core/link/drive'
import { type Flow, type Line, type LinkState, newLine, reportOf } from '@fresh-coat/core/link/flow'
import { type Identity, identify, OtherUnit, Refused, refused, Silent } from '@fresh-coat/core/link/identity'
import { leastRate, mostRate } from '@fresh-coat/core/link/packet'
import { type Options, wholeOption } from '../options'
import { openPort, PortFailed, portNamed } from './ports'
import { recorded } from './recorded'

/** A command that talks to a chip: it opens the port it is given, and nothing else. */

const rates = { otherwise: 115_200, least: leastRate, most: mostRate }
const timeouts = { otherwise: 400, least: 1, most: 600_000 }
const tryCounts = { otherwise: 20, least: 1, most: 10_000 }
const betweenProgressMs = 250

export interface Session {
  link: ByteLink
  line: Line
  /** One JSON object a line on standard error, at most four a second. */
  told: (progress: object) => void
  /** Runs a flow over the line; a signal ends it between two of its steps. */
  run: <T>(flow: Flow<T>, watch?: Watch) => Promise<T>
  /** Runs a flow that writes: a signal ends it between two blocks only. */
  write: <T>(flow: Flow<T>, onNote: NonNullable<Watch['onNote']>) => Promise<T>
  /** What the chip says of itself. */
  who: () => Promise<Identity>
}

/** The line of a call that opened none. */
export function notOpened(options: Options) {
  const { virtual } = portNamed(options.get('port'))
  return { virtual, line: reportOf(newLine(wholeOption(options, 'rate', rates), 0)) }
}

const say = (code: string, severity: Severity, message: string, next: string): PlacedFinding<null> => ({
  ...finding(code, severity, message, '', next),
  at: null,
})

/** What ended it, as a finding; null for a fault of ours, which is no finding. */
function ending(cause: unknown): PlacedFinding<unknown> | null {
  if (cause instanceof PortFailed)
    return say(
      'link-port-failed',
      'error',
      `The port cannot be opened: ${cause.message}.`,
      'Look at its name, and whether something else has it.',
    )
  if (cause instanceof LineLost)
    return say(
      'link-no-answer',
      'error',
      `The line was lost: ${cause.message}.`,
      'See that it is plugged in, and begin again.',
    )
  if (cause instanceof Silent)
    return say(
      'link-no-answer',
      'error',
      'The chip fell silent.',
      'Look at supply and wires; bring it into its loader again.',
    )
  if (cause instanceof Stopped)
    return say('link-cancelled', 'watch', 'It was stopped before its end.', 'Nothing on the chip has changed.')
  if (cause instanceof OtherUnit)
    return say(
      'link-other-unit',
      'error',
      'Another unit answers than before.',
      'Nothing was written. Begin again with one unit.',
    )
  return cause instanceof Refused ? refused(cause) : null
}

/** True from the first signal that asks to end; `over` gives signals back to whoever had them. */
function signals(): { stopped: () => boolean; over: () => void } {
  let stopped = false
  const stop = () => {
    stopped = true
  }
  const names = ['SIGINT', 'SIGTERM'] as const
  for (const name of names) process.once(name, stop)
  return { stopped: () => stopped, over: () => void names.map((name) => process.off(name, stop)) }
}

/**
 * Opens the port, runs, and closes it again; what goes wrong with the line is a finding, not a crash.
 * @param unsaid what the answer says where it ended early
 */
export async function session(
  options: Options,
  unsaid: () => object,
  run: (at: Session) => Promise<object>,
): Promise<object> {
  const rate = wholeOption(options, 'rate', rates)
  const tries = wholeOption(options, 'tries', tryCounts)
  const line = newLine(rate, wholeOption(options, 'timeout', timeouts))
  let saidAt = 0
  const told = (progress: object) => {
    const now = performance.now()
    if (now - saidAt < betweenProgressMs) return
    saidAt = now
    process.stderr.write(`${JSON.stringify({ progress })}\n`)
  }
  const { stopped, over } = signals()
  let link: ByteLink | null = null
  let virtual: true | null = null
  try {
    const opened = await openPort(options.get('port'), rate)
    virtual = opened.virtual
    const to = recorded(opened.link, options.get('record'))
    link = to
    const drawn: Session['run'] = (flow, watch) =>
      drive(flow, to, { stopped, onState: (state) => told({ state, retries: line.counts.retries }), ...watch })
    const onState = (state: LinkState) => told({ state, retries: line.counts.retries })
    const write: Session['write'] = (flow, onNote) => drive(flow, to, { cancelled: stopped, onState, onNote })
    const at: Session = { link: to, line, told, run: drawn, write, who: () => drawn(identify(line, tries)) }
    return { ...(await run(at)), virtual, line: reportOf(line) }
  } catch (cause) {
    const why = ending(cause)
    if (why === null) throw cause
    return { ...unsaid(), virtual, findings: [why], line: reportOf(line) }
  } finally {
    over()
    await link?.close()
  }
}
