import { blank, numberBefore, word } from './words'

/** How a tool's work ended, as its last telling line says it. */
export const pasteOutcomes = ['verified', 'port', 'no-answer', 'bad-bytes', 'lost', 'done'] as const
export type PasteOutcome = (typeof pasteOutcomes)[number]

const spaced = (text: string) => text.replaceAll(' ', `${blank}+`)
const noWord = word('no', 'not', "[A-Za-z]*n['’]t", 'failed', 'error', 'wrong', 'bad', 'mismatch', 'differs?')
const aDigest = word('hash', 'digest', 'md5')
const agrees = word('verified', 'match(?:es)?', 'ok')
const refused = word('refused', 'denied', 'busy', spaced('no such'))
const aPort = word('port', 'tty[A-Za-z0-9]*', 'com[0-9]+')
const silent = word(...['timed out', 'timeout', 'no answer', 'failed to connect', 'no sync'].map(spaced))
const bad = word(spaced('invalid head'), 'mismatch')
const checked = word('hash', 'digest', 'md5', 'checksum', 'verify', 'verified')
const gone = word('lost', 'disconnected', 'input/output')
const ended = word('done', 'finished', 'completed?')
const failed = word('failed', 'error', 'fatal', 'wrong', 'aborted', 'cancelled')
const allOfIt = (line: string) => [...line.matchAll(numberBefore('%'))].some((found) => Number(found[1]) === 100)

/** Tried in this order on a line; `failure` says that something went wrong, and not what. */
const fits: [PasteOutcome | 'failure', (line: string, no: boolean) => boolean][] = [
  ['verified', (line, no) => !no && aDigest.test(line) && agrees.test(line)],
  ['port', (line) => refused.test(line) && aPort.test(line)],
  ['no-answer', (line) => silent.test(line)],
  ['bad-bytes', (line, no) => bad.test(line) || (no && checked.test(line))],
  ['lost', (line) => gone.test(line)],
  ['done', (line, no) => !no && (ended.test(line) || allOfIt(line))],
  ['failure', (line) => failed.test(line)],
]

/** From the end backwards, the first line that tells; null where none does, or where it tells a failure and not which. */
export function outcomeOf(lines: readonly string[]): { outcome: PasteOutcome | null; line: number | null } {
  for (let i = lines.length - 1; i >= 0; i--) {
    const line = lines[i] as string
    const no = noWord.test(line)
    const found = fits.find(([, fit]) => fit(line, no))?.[0]
    if (found) return { outcome: found === 'failure' ? null : found, line: i + 1 }
  }
  return { outcome: null, line: null }
}
