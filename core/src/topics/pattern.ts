import { z } from 'zod'
import { utf8 } from '../bytes/text'
import { inputCodes, type Outcome, parseInput, refusal, refuse } from '../edge/fault'

/**
 * Patterns of topics, and of lines that a firmware answers with (brief 05 §4): levels parted by `/`; `{name}`,
 * `{name:int}`, `{name:a|b}`, and `{name...}` alone in the last level; `{{` and `}}` are braces.
 */
export type Piece =
  | { text: string }
  | { name: string; kind: 'some' | 'int' | 'rest' }
  | { name: string; kind: 'one-of'; of: readonly string[] }
export type Pattern = readonly (readonly Piece[])[]
export type PatternVars = Record<string, string | number>

const longestTopic = 200
const longestPattern = 400
const nameForm = /^[a-z][A-Za-z0-9]*$/
// biome-ignore lint/suspicious/noControlCharactersInRegex: what a topic must not hold
const controls = /[\u0000-\u001f\u007f-\u009f]/
const bytesOf = (text: string): number => utf8(text).length

function placeholder(inner: string): Piece | string {
  if (inner.endsWith('...')) {
    const name = inner.slice(0, -3)
    return nameForm.test(name) ? { name, kind: 'rest' } : `“${name}” is no name.`
  }
  const colon = inner.indexOf(':')
  const name = colon < 0 ? inner : inner.slice(0, colon)
  if (!nameForm.test(name)) return `“${name}” is no name: a small letter, then letters and digits.`
  if (colon < 0) return { name, kind: 'some' }
  const kind = inner.slice(colon + 1)
  if (kind === 'int') return { name, kind: 'int' }
  const of = kind.split('|')
  if (of.some((o) => o === '')) return `{${inner}} has a choice without a word.`
  if (of.some((o) => /[#+/{]/.test(o) || controls.test(o))) return `{${inner}} has a choice that no topic can hold.`
  return { name, kind: 'one-of', of }
}

/** Level by level; a text says what is wrong with it. */
function readLevel(level: string): Piece[] | string {
  const pieces: Piece[] = []
  let text = ''
  const flush = () => {
    if (text !== '') pieces.push({ text })
    text = ''
  }
  for (let i = 0; i < level.length; ) {
    const two = level.slice(i, i + 2)
    if (two === '{{' || two === '}}') {
      text += two[0]
      i += 2
    } else if (level[i] === '{') {
      const end = level.indexOf('}', i)
      if (end < 0) return 'A brace is opened and not closed.'
      const piece = placeholder(level.slice(i + 1, end))
      if (typeof piece === 'string') return piece
      flush()
      const before = pieces.at(-1)
      if (before && !('text' in before)) return 'Two placeholders touch: nothing says where one ends.'
      pieces.push(piece)
      i = end + 1
    } else if (level[i] === '}') return 'A brace is closed that was not opened.'
    else text += level[i++]
  }
  flush()
  return pieces
}

/** Levels of a pattern; braces hold no `/`, so that it is parted first. */
export function readPattern(text: string): Pattern | string {
  if (text === '') return 'The pattern is empty.'
  if (text.length > longestPattern) return 'The pattern is too long.'
  if (/[#+]/.test(text)) return '# and + stand for nothing in a pattern.'
  if (controls.test(text)) return 'A pattern holds no control characters.'
  const levels: Piece[][] = []
  for (const level of text.split('/')) {
    if (level === '') return 'A level is empty.'
    const read = readLevel(level)
    if (typeof read === 'string') return read
    levels.push(read)
  }
  const restAt = levels.findIndex((l) => l.some((p) => 'kind' in p && p.kind === 'rest'))
  if (restAt >= 0 && (restAt < levels.length - 1 || levels[restAt]?.length !== 1))
    return 'What takes the rest stands alone, in the last level.'
  return levels
}

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&')

/** The pattern as an expression, and the names of its groups in their order. */
function expressionOf(pattern: Pattern): { expression: RegExp; names: { name: string; int: boolean }[] } {
  const names: { name: string; int: boolean }[] = []
  const groupOf = (piece: Piece): string => {
    if ('text' in piece) return escaped(piece.text)
    const known = names.findIndex((n) => n.name === piece.name)
    if (known >= 0) return `(?:\\${known + 1})`
    names.push({ name: piece.name, int: piece.kind === 'int' })
    if (piece.kind === 'int') return '([0-9]+)'
    if (piece.kind === 'one-of') return `(${piece.of.map(escaped).join('|')})`
    return piece.kind === 'rest' ? '([^#+\\0]+)' : '([^/#+\\0]+?)'
  }
  const levels = pattern.map((level) => level.map(groupOf).join(''))
  return { expression: new RegExp(`^${levels.join('\\/')}$`, 's'), names }
}

/** Reads topics, or lines, by a pattern, many of them: null for another one. */
export function matcherOf(pattern: Pattern): (topic: string) => PatternVars | null {
  const { expression, names } = expressionOf(pattern)
  return (topic) => {
    const found = expression.exec(topic)
    if (!found) return null
    return Object.fromEntries(
      names.map(({ name, int }, i) => [name, int ? Number(found[i + 1]) : (found[i + 1] ?? '')]),
    )
  }
}

/** What a topic, or a line, says by a pattern; null when it is another one. */
export const matchPattern = (pattern: Pattern, topic: string): PatternVars | null => matcherOf(pattern)(topic)

type Refusal = { name: string; code: 'input' | 'range'; message: string }

function textOf(piece: Exclude<Piece, { text: string }>, vars: PatternVars): string | Refusal {
  const refused = (message: string): Refusal => ({ name: piece.name, code: 'input', message })
  const value = Object.hasOwn(vars, piece.name) ? vars[piece.name] : undefined
  if (value === undefined) return refused(`${piece.name} is not given.`)
  const text = String(value)
  if (text === '') return refused(`${piece.name} is empty.`)
  if (controls.test(text)) return refused(`${piece.name} holds control characters.`)
  if (/[#+]/.test(text) || (text.includes('/') && piece.kind !== 'rest'))
    return refused(`${piece.name} holds a sign that a topic cannot.`)
  if (piece.kind === 'int' && !/^[0-9]+$/.test(text)) return refused(`${piece.name} is a whole number from 0.`)
  if (piece.kind === 'one-of' && !piece.of.includes(text))
    return refused(`${piece.name} is one of ${piece.of.join(', ')}.`)
  return text
}

const isRefusal = (v: string | Refusal): v is Refusal => typeof v !== 'string'

function fill(level: readonly Piece[], vars: PatternVars): string | Refusal {
  let text = ''
  for (const piece of level) {
    const part = 'text' in piece ? piece.text : textOf(piece, vars)
    if (isRefusal(part)) return part
    text += part
  }
  return text
}

/** The topic of a pattern with its values in it; `roundTrip` tells whether parsing it gives them back. */
export function renderPattern(pattern: Pattern, vars: PatternVars): { topic: string; roundTrip: boolean } | Refusal {
  const levels: string[] = []
  for (const level of pattern) {
    const text = fill(level, vars)
    if (isRefusal(text)) return text
    levels.push(text)
  }
  const topic = levels.join('/')
  if (bytesOf(topic) > longestTopic)
    return { name: '', code: 'range', message: `A topic has at most ${longestTopic} bytes.` }
  const back = matchPattern(pattern, topic)
  const roundTrip = back !== null && Object.entries(back).every(([name, value]) => String(vars[name]) === String(value))
  return { topic, roundTrip }
}

/** The subscription: `+` where something is not known, `#` for the rest. */
export function filterOf(pattern: Pattern, vars: PatternVars): { filter: string } | Refusal {
  const levels: string[] = []
  for (const level of pattern) {
    const holes = level.filter((p) => !('text' in p)) as Exclude<Piece, { text: string }>[]
    for (const hole of holes) {
      const value = Object.hasOwn(vars, hole.name) ? textOf(hole, vars) : ''
      if (isRefusal(value)) return value
    }
    const known = holes.every((p) => Object.hasOwn(vars, p.name))
    levels.push(known ? (fill(level, vars) as string) : holes.some((p) => p.kind === 'rest') ? '#' : '+')
  }
  const filter = levels.join('/')
  if (bytesOf(filter) > longestTopic)
    return { name: '', code: 'range', message: `A topic has at most ${longestTopic} bytes.` }
  return { filter }
}

const PatternText = z.string().superRefine((text, context) => {
  const read = readPattern(text)
  if (typeof read === 'string') refuse(context, 'input', [], read)
})
const Vars = z.record(z.string(), z.union([z.string(), z.number()]))
const Request = z.discriminatedUnion('op', [
  z.object({
    op: z.literal('parse'),
    pattern: PatternText,
    topic: z
      .string()
      .min(1)
      .superRefine((topic, context) => {
        if (/[#+]/.test(topic)) refuse(context, 'input', [], 'A topic holds neither # nor +.')
      }),
  }),
  z.object({ op: z.literal('render'), pattern: PatternText, vars: Vars }),
  z.object({ op: z.literal('filter'), pattern: PatternText, vars: Vars.nullish() }),
])

export type PatternAnswer =
  | { match: boolean; vars: PatternVars | null }
  | { topic: string; roundTrip: boolean }
  | { filter: string }

const refusedBy = ({ name, code, message }: Refusal): Outcome<never> =>
  refusal(code, name === '' ? '/vars' : `/vars/${name}`, message)

/** `topics parse`: a topic by its pattern, a topic from values, a subscription. */
export function parseTopics(input: unknown): Outcome<PatternAnswer> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const request = parsed.value
  const pattern = readPattern(request.pattern) as Pattern
  if (request.op === 'parse') {
    const vars = matchPattern(pattern, request.topic)
    return { ok: true, value: { match: vars !== null, vars } }
  }
  const answer = request.op === 'render' ? renderPattern(pattern, request.vars) : filterOf(pattern, request.vars ?? {})
  return 'code' in answer ? refusedBy(answer) : { ok: true, value: answer }
}
