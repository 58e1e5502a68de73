import type { Finding } from '../../edge/finding'

/**
 * A warning that was answered holds for what it said, not for others of its kind: the same code about another sector, another
 * chip or another backup is asked anew.
 */

type Warning = Pick<Finding, 'code' | 'message'>

/** How an answer is written down. */
export const answerTo = ({ code, message }: Warning): string => `${code}: ${message}`

/** Records of older versions hold bare codes; those count for all of their kind, as they did. */
export const isAnswered = (answered: readonly string[], warning: Warning): boolean =>
  answered.includes(answerTo(warning)) || answered.includes(warning.code)

/** What an answer was given to, in words: the warning as it stands, or as it was said then. */
export const answeredWords = (answer: string, findings: readonly Warning[]): { words: string; found: boolean } => {
  const stands = findings.find((f) => answer === answerTo(f) || answer === f.code)
  const said = answer.slice(answer.indexOf(': ') + 2)
  return { words: stands?.message ?? said, found: stands !== undefined }
}
