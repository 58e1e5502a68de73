import { z } from 'zod'
import { readBootLog } from '../boot/boot-log'
import { refuse } from '../edge/fault'
import { type Finding, finding, type Severity } from '../edge/finding'
import { matchPattern, type Pattern, type PatternVars, readPattern, renderPattern } from '../topics/pattern'

/**
 * What a firmware can be asked over its console, as data of its profile: the line that is said, and the lines that answer it, in
 * the pattern language of brief 05 §4. Nothing is known by heart: another firmware is another list.
 */
export const questionKinds = [
  'status',
  'version',
  'restart',
  'relay-on',
  'relay-off',
  'level',
  'drive',
  'rest',
] as const
export type QuestionKind = (typeof questionKinds)[number]
export const questionWords: Record<QuestionKind, string> = {
  status: 'How is it?',
  version: 'Which version?',
  restart: 'Restart',
  'relay-on': 'Relay on',
  'relay-off': 'Relay off',
  level: 'Level of a pin',
  drive: 'Drive a pin',
  rest: 'Let a pin go',
}

const PatternText = z
  .string()
  .trim()
  .max(200)
  .superRefine((text, context) => {
    const read = readPattern(text)
    if (typeof read === 'string') refuse(context, 'input', [], read)
  })

export const Question = z.object({
  what: z.enum(questionKinds),
  say: PatternText,
  answers: z.array(PatternText).max(8).default([]),
  withinMs: z.number().int().min(100).max(60_000).default(3000),
})
export type Question = z.infer<typeof Question>

export const lineEnds = { crlf: '\r\n', lf: '\n', cr: '\r' } as const
export const ConsoleWords = z.object({
  rate: z.number().int().min(300).max(4_000_000).default(115_200),
  ends: z.enum(['crlf', 'lf', 'cr']).default('crlf'),
  questions: z.array(Question).max(24).default([]),
  /** Lines in which it names its access point, as {name}. */
  accessPoint: z.array(PatternText).max(4).default([]),
})
export type ConsoleWords = z.infer<typeof ConsoleWords>

/** Of a text that its schema let through. */
const patternOf = (text: string): Pattern => {
  const read = readPattern(text)
  return typeof read === 'string' ? [] : read
}

/** The line that asks it; a text says why there is none. */
export function lineOf(question: Question, vars: PatternVars): { line: string } | { why: string } {
  const rendered = renderPattern(patternOf(question.say), vars)
  return 'code' in rendered ? { why: rendered.message } : { line: rendered.topic }
}

/** What has to be given before it can be asked. */
export const wantedBy = (question: Question): string[] => [
  ...new Set(patternOf(question.say).flatMap((level) => level.flatMap((p) => ('text' in p ? [] : [p.name])))),
]

export interface Answer {
  line: string
  vars: PatternVars
}

/** The first of these lines that answers it: of another pin or relay than the one that was asked about, none does. */
export function answerIn(question: Question, asked: PatternVars, lines: readonly string[]): Answer | null {
  for (const line of lines)
    for (const text of question.answers) {
      const vars = matchPattern(patternOf(text), line.trim())
      if (vars && Object.entries(asked).every(([name, v]) => !(name in vars) || String(vars[name]) === String(v)))
        return { line: line.trim(), vars }
    }
  return null
}

const ons = new Set(['on', 'high', '1', 'true', 'yes'])
const offs = new Set(['off', 'low', '0', 'false', 'no'])
/** A state as firmwares word it; null where the answer has none, or none that is known. */
export function stateIn(vars: PatternVars): boolean | null {
  const text = String(vars.state ?? '').toLowerCase()
  return ons.has(text) ? true : offs.has(text) ? false : null
}

const wantedState: Partial<Record<QuestionKind, boolean>> = {
  'relay-on': true,
  'relay-off': false,
  drive: true,
  rest: false,
}

export interface Judged {
  severity: Severity
  words: string
}

/**
 * What an answer is worth. It is the firmware's word only: that a relay is said to be on is no click that somebody heard.
 * @param text everything heard since it was asked
 * @param release which release was written, when that is known
 */
export function judgeAnswer(question: Question, answer: Answer | null, text: string, release: string | null): Judged {
  if (question.what === 'restart') {
    const boot = readBootLog({ text })
    if (boot.ok && boot.value.boots > 0) return { severity: 'ok', words: 'It started again.' }
    if (answer) return { severity: 'watch', words: 'It says that it restarts; no boot text was heard.' }
  }
  if (!answer)
    return {
      severity: 'watch',
      words: text.trim() === '' ? 'Nothing came back.' : 'What came back is no answer to it.',
    }
  if (question.what === 'version') {
    const version = String(answer.vars.version ?? '')
    const [wanted] = (release ?? '').split('/')
    if (!version || !wanted) return { severity: 'ok', words: answer.line }
    return version === wanted
      ? { severity: 'ok', words: `It is ${version}, as written.` }
      : { severity: 'watch', words: `It says ${version}; ${wanted} was written.` }
  }
  const wanted = wantedState[question.what]
  const state = stateIn(answer.vars)
  if (wanted !== undefined && state !== null && state !== wanted)
    return { severity: 'watch', words: `It answers ${state ? 'on' : 'off'}: it did not do it.` }
  return { severity: 'ok', words: answer.line }
}

/** The name of its access point, as it says it. */
export function accessPointIn(patterns: readonly string[], lines: readonly string[]): string | null {
  for (const line of lines)
    for (const text of patterns) {
      const name = matchPattern(patternOf(text), line.trim())?.name
      if (name !== undefined) return String(name)
    }
  return null
}

/** The end of a name that may be the end of its MAC: four or six hex digits behind a sign. */
export const suffixOf = (name: string): string | null => /[-_ ]([0-9A-Fa-f]{6}|[0-9A-Fa-f]{4})$/.exec(name)?.[1] ?? null

/** Two questions of one kind: the second would never be asked. */
export function questionFindings(words: ConsoleWords): Finding[] {
  const twice = words.questions.filter((q, i) => words.questions.findIndex((o) => o.what === q.what) < i)
  const deaf = words.questions.filter((q) => q.answers.length === 0 && q.what !== 'restart')
  return [
    ...twice.map((q) =>
      finding('question-twice', 'watch', `“${questionWords[q.what]}” is there twice.`, '', 'The first one is asked.'),
    ),
    ...deaf.map((q) =>
      finding(
        'question-without-answer',
        'watch',
        `“${questionWords[q.what]}” has no answer that would be known.`,
        '',
        'Add the line that it answers with.',
      ),
    ),
  ]
}
