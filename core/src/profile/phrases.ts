import { z } from 'zod'
import { type Fault, refuse } from '../edge/fault'

/**
 * A firmware's or a hub's own words as data: phrases with placeholders, as lines, as a tree, as a list to tick off (brief 03 §10).
 * No expressions, no loops, no code.
 */
export const forms = ['lines', 'yaml', 'checklist'] as const
export type Form = (typeof forms)[number]

export const Phrases = z.object({
  format: z.unknown().superRefine((format, context) => {
    if (format === undefined) refuse(context, 'shape', [], 'The field format is missing.')
    else if (format !== 'fresh-coat/phrases') refuse(context, 'format', [], 'These are no phrases of a profile')
  }),
  version: z.number().superRefine((version, context) => {
    if (version !== 1) refuse(context, 'version', [], `Version ${version} is newer than this app knows`)
  }),
  name: z.string(),
  form: z
    .string()
    .superRefine((form, context) => {
      if (!(forms as readonly string[]).includes(form)) refuse(context, 'form', [], 'Form is lines, yaml or checklist')
    })
    .transform((form) => form as Form),
  /** Characters that a line may have; 0 for any. */
  maxLine: z.number().int().min(0).nullish(),
  /** Between lines that are put on one. */
  join: z.string().max(20).nullish(),
  phrases: z.record(z.string(), z.union([z.string(), z.array(z.string())])),
})
export type Phrases = z.infer<typeof Phrases>

/** What a placeholder stands for: null where it was not given, a secret where only its place is shown. */
export type Value = string | number | null | { secret: true }
export type Values = Readonly<Record<string, Value>>
export const secret: Value = { secret: true }
export const covered = '•••'

/** One thing that is to be said: under which key, of what, and its values. */
export interface Item {
  key: string
  on: string
  values: Values
}
export interface NotExpressible {
  key: string
  on: string
  /** Placeholders of its phrase that nobody gave, in their order. */
  missing?: string[]
}
export interface Problem {
  line: number
  length: number
  max: number
}
export interface Rendered {
  text: string
  notExpressible: NotExpressible[]
  problems: Problem[]
  /** Keys whose phrase has a secret in it. */
  masked: string[]
}

export class PhraseFault extends Error {
  constructor(
    readonly code: 'placeholder' | 'value' | 'phrase' | 'clash',
    readonly key: string,
    message: string,
  ) {
    super(message)
  }
}
/** As a fault at the phrase. */
export const faultOfPhrase = ({ code, key, message }: PhraseFault): Fault => ({
  code,
  path: `/profile/phrases/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`,
  message,
})

const filters: Readonly<Record<string, (text: string) => string>> = {
  s: (text) => (/^-?[0-9]+(\.[0-9]+)?$/.test(text) ? String(Number(text) / 1000) : text),
  z2: (text) => text.padStart(2, '0'),
  up: (text) => text.toUpperCase(),
  low: (text) => text.toLowerCase(),
  '01': (text) => (text === 'high' || text === 'on' ? '1' : text === 'low' || text === 'off' ? '0' : text),
}
export const filterNames = Object.keys(filters)

type Piece = { text: string } | { name: string; filter: string | null }

const unknown = (key: string, what: string) =>
  new PhraseFault('placeholder', key, `Placeholder {${what}} isn't known here`)

/** Pieces of a phrase. @throws PhraseFault for a stray brace, or a filter that nobody knows */
export function readPhrase(key: string, phrase: string): Piece[] {
  const pieces: Piece[] = []
  let text = ''
  const flush = () => {
    if (text !== '') pieces.push({ text })
    text = ''
  }
  for (let i = 0; i < phrase.length; ) {
    const two = phrase.slice(i, i + 2)
    if (two === '{{' || two === '}}') {
      text += two[0]
      i += 2
      continue
    }
    const c = phrase[i] as string
    if (c === '}') throw new PhraseFault('placeholder', key, 'A brace is closed that was not opened')
    if (c !== '{') {
      text += c
      i++
      continue
    }
    const end = phrase.indexOf('}', i)
    const inner = end < 0 ? '' : phrase.slice(i + 1, end)
    if (end < 0 || inner.includes('{')) throw new PhraseFault('placeholder', key, 'A brace is opened and not closed')
    const [name = '', filter = null, ...more] = inner.split('|')
    if (!/^[A-Za-z][A-Za-z0-9]*$/.test(name) || more.length > 0 || (filter !== null && !Object.hasOwn(filters, filter)))
      throw unknown(key, inner)
    flush()
    pieces.push({ name, filter })
    i = end + 1
  }
  flush()
  return pieces
}

const longestValue = 64
// biome-ignore lint/suspicious/noControlCharactersInRegex: what a value must not hold
const controls = /[\u0000-\u001f\u007f-\u009f]/

function fill(key: string, pieces: readonly Piece[], values: Values): string {
  let out = ''
  for (const piece of pieces) {
    if ('text' in piece) {
      out += piece.text
      continue
    }
    const value = values[piece.name]
    if (value === null || value === undefined) continue
    if (typeof value === 'object') {
      out += covered
      continue
    }
    const filter = piece.filter === null ? (text: string) => text : (filters[piece.filter] as (text: string) => string)
    const text = filter(String(value))
    if ([...text].length > longestValue || controls.test(text))
      throw new PhraseFault('value', key, 'A value is too long or has control characters')
    out += text
  }
  return out
}

/** What a phrase has for one item: text, or a place in a tree with its value. */
interface Said {
  key: string
  path: string[]
  text: string
}

function sayOf(form: Form, key: string, phrase: string, values: Values): Said {
  if (form !== 'yaml') return { key, path: [], text: fill(key, readPhrase(key, phrase), values) }
  const at = phrase.indexOf(' = ')
  if (at < 0) throw new PhraseFault('phrase', key, "A YAML phrase needs ' = '")
  // Parted before filling: a value may hold dots.
  const path = phrase
    .slice(0, at)
    .split('.')
    .map((level) => fill(key, readPhrase(key, level), values))
  return { key, path, text: fill(key, readPhrase(key, phrase.slice(at + 3)), values) }
}

type Tree = Map<string, Tree | string>

function put(tree: Tree, { key, path, text }: Said): void {
  const clash = () => new PhraseFault('clash', key, 'Two phrases write to the same place')
  let here = tree
  for (const level of path.slice(0, -1)) {
    const next = here.get(level)
    if (typeof next === 'string') throw clash()
    if (next) here = next
    else {
      const made: Tree = new Map()
      here.set(level, made)
      here = made
    }
  }
  const leaf = path.at(-1) as string
  if (here.has(leaf)) throw clash()
  here.set(leaf, text)
}

const bare = /^[A-Za-z0-9_][A-Za-z0-9_./-]*$/
const words = new Set(['on', 'off', 'yes', 'no', 'y', 'n'])
const scalar = (text: string): string =>
  bare.test(text) && !words.has(text.toLowerCase()) ? text : JSON.stringify(text)

function treeLines(tree: Tree, level: number): string[] {
  const indent = '  '.repeat(level)
  return [...tree].flatMap(([key, value]) =>
    typeof value === 'string'
      ? [`${indent}${scalar(key)}: ${scalar(value)}`]
      : [`${indent}${scalar(key)}:`, ...treeLines(value, level + 1)],
  )
}

const lengthOf = (line: string): number => [...line].length

/** Lines put on one as long as they stay within the longest line that there may be. */
function joined(lines: readonly string[], separator: string, max: number): string[] {
  const out: string[] = []
  for (const line of lines) {
    const last = out.at(-1)
    const together = last === undefined ? line : last + separator + line
    if (last !== undefined && (max === 0 || lengthOf(together) <= max)) out[out.length - 1] = together
    else out.push(line)
  }
  return out
}

/** Lines of everything that was said. */
function linesOf({ form, join, maxLine }: Phrases, said: readonly Said[]): string[] {
  if (form === 'yaml') {
    const tree: Tree = new Map()
    for (const s of said) put(tree, s)
    return treeLines(tree, 0)
  }
  if (form === 'checklist') return said.map((s) => `[ ] ${s.text}`)
  const lines = said.map((s) => s.text)
  return join === null || join === undefined ? lines : joined(lines, join, maxLine ?? 0)
}

const namesIn = (key: string, phrase: string): string[] =>
  readPhrase(key, phrase).flatMap((p) => ('name' in p ? [p.name] : []))

/**
 * Everything that is to be said, in its order, in the words of the profile.
 * @throws PhraseFault where a phrase cannot be filled
 */
export function renderItems(profile: Phrases, items: readonly Item[]): Rendered {
  const said: Said[] = []
  const notExpressible: NotExpressible[] = []
  const masked = new Set<string>()
  for (const { key, on, values } of items) {
    const given = Object.hasOwn(profile.phrases, key) ? profile.phrases[key] : undefined
    const phrases = given === undefined ? [] : typeof given === 'string' ? [given] : given
    if (phrases.length === 0) {
      notExpressible.push({ key, on })
      continue
    }
    const names = [...new Set(phrases.flatMap((p) => namesIn(key, p)))]
    for (const name of names) if (!Object.hasOwn(values, name)) throw unknown(key, name)
    const missing = names.filter((name) => values[name] === null)
    if (missing.length > 0) {
      notExpressible.push({ key, on, missing })
      continue
    }
    if (names.some((name) => typeof values[name] === 'object')) masked.add(key)
    for (const phrase of phrases) said.push(sayOf(profile.form, key, phrase, values))
  }
  const lines = linesOf(profile, said)
  const max = profile.maxLine ?? 0
  const problems = lines.flatMap((line, i) =>
    max > 0 && lengthOf(line) > max ? [{ line: i + 1, length: lengthOf(line), max }] : [],
  )
  return { text: lines.join('\n'), notExpressible, problems, masked: [...masked] }
}
