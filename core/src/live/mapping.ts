import { z } from 'zod'
import { refuse } from '../edge/fault'
import { filterOf, matcherOf, type PatternVars, readPattern } from '../topics/pattern'
import { pointed } from './payload'

/** Which topic fills which field of a unit: data of the site's own tree, or of a firmware whose tree differs (brief 05 §5). */

export type Scalar = string | number | boolean
const scalar = z.union([z.string().max(200), z.number(), z.boolean()])

const FieldRule = z.object({
  /** "fw", "rssi", "power", "channel/{channel}/on": placeholders of the pattern may stand in it. */
  to: z
    .string()
    .min(1)
    .max(80)
    .regex(/^[a-zA-Z{][a-zA-Z0-9/{}_-]*$/),
  /** JSON Pointer into the payload; empty: all of it. */
  ptr: z
    .string()
    .max(200)
    .regex(/^(\/.*)?$/),
  true: z.array(scalar).max(20).optional(),
  false: z.array(scalar).max(20).optional(),
  min: z.number().optional(),
  max: z.number().optional(),
  scale: z.number().optional(),
  /** It happens, and is not a state: a press. */
  event: z.boolean().optional(),
})
export type FieldRule = z.infer<typeof FieldRule>

const TopicRule = z.object({
  pattern: z
    .string()
    .min(1)
    .max(400)
    .superRefine((text, context) => {
      const read = readPattern(text)
      if (typeof read === 'string') refuse(context, 'input', [], read)
      else if (!/\{unit(:[^}]*)?\}/.test(text)) refuse(context, 'input', [], 'It says with {unit} whose topic it is.')
    }),
  /** The payload is text and no JSON. */
  text: z.boolean().optional(),
  /** It comes again and again by itself: its silence says something. */
  periodic: z.boolean().optional(),
  /** Somebody says it to the unit: it tells what was asked of it, and nothing of its being there. */
  asked: z.boolean().optional(),
  fields: z.array(FieldRule).min(1).max(40),
})

export const Mapping = z.object({
  rules: z.array(TopicRule).min(1).max(40),
  /** A unit that leaves is told of by its broker. */
  will: z.boolean().default(true),
  /** Seconds between two periodic messages, until five were heard. */
  usualS: z.number().min(1).max(86_400).default(60),
})
export type Mapping = z.infer<typeof Mapping>

const onOff = { true: [true, 1, 'on', 'true', '1'], false: [false, 0, 'off', 'false', '0'] }

/** The site's own tree (brief 05 §4). */
export const ownMapping: Mapping = {
  will: true,
  usualS: 60,
  rules: [
    {
      pattern: '{base}/{site}/{unit}/online',
      fields: [{ to: 'online', ptr: '', ...onOff }],
    },
    {
      pattern: '{base}/{site}/{unit}/health',
      periodic: true,
      fields: [
        { to: 'fw', ptr: '/fw' },
        { to: 'upS', ptr: '/upS', min: 0, max: 4e9 },
        { to: 'rssi', ptr: '/rssi', min: -120, max: 0 },
        { to: 'ip', ptr: '/ip' },
        { to: 'at', ptr: '/at' },
      ],
    },
    {
      pattern: '{base}/{site}/{unit}/meter',
      periodic: true,
      fields: [
        { to: 'V', ptr: '/V', min: 0, max: 500 },
        { to: 'I', ptr: '/I', min: 0, max: 200 },
        { to: 'P', ptr: '/P', min: -50_000, max: 50_000 },
        { to: 'E', ptr: '/E', min: 0, max: 1e9 },
      ],
    },
    {
      pattern: '{base}/{site}/{unit}/power',
      periodic: true,
      fields: [{ to: 'P', ptr: '', min: -50_000, max: 50_000 }],
    },
    {
      pattern: '{base}/{site}/{unit}/{channel}/state',
      fields: [{ to: 'channel/{channel}/on', ptr: '', ...onOff }],
    },
    {
      pattern: '{base}/{site}/{unit}/{channel}/set',
      asked: true,
      fields: [{ to: 'channel/{channel}/on', ptr: '', ...onOff }],
    },
    {
      pattern: '{base}/{site}/{unit}/{channel}/event',
      fields: [{ to: 'channel/{channel}/event', ptr: '', event: true }],
    },
  ],
}

/** A rule whose pattern was read once, and what it finds in a topic. */
interface ReadRule {
  match: (topic: string) => PatternVars | null
  periodic: boolean
  asked: boolean
  text: boolean
  fields: readonly FieldRule[]
}
export interface ReadMapping extends Pick<Mapping, 'will' | 'usualS'> {
  rules: readonly ReadRule[]
}

export const readMapping = (mapping: Mapping): ReadMapping => ({
  will: mapping.will,
  usualS: mapping.usualS,
  rules: mapping.rules.flatMap(({ pattern, periodic = false, asked = false, text = false, fields }) => {
    const read = readPattern(pattern)
    return typeof read === 'string' ? [] : [{ match: matcherOf(read), periodic, asked, text, fields }]
  }),
})

/** What is subscribed to: filters of the patterns with what is known of the site, each once, and never everything. */
export function filtersOf(mappings: readonly Mapping[], known: PatternVars): string[] {
  const filters = new Set<string>()
  for (const { rules } of mappings)
    for (const { pattern } of rules) {
      const read = readPattern(pattern)
      if (typeof read === 'string') continue
      const made = filterOf(read, known)
      // A filter of nothing but signs for anything would bring what is none of ours.
      if ('filter' in made && /[^/+#]/.test(made.filter)) filters.add(made.filter)
    }
  return [...filters].sort()
}

export interface Filled {
  field: string
  value: Scalar
  event: boolean
}

const placeholder = /\{([a-z][A-Za-z0-9]*)\}/g
const shortened = (text: string): string => (text.length > 200 ? `${text.slice(0, 199)}…` : text)

/** The value of a field by its rule; undefined where the payload holds none there, null where it fits no rule. */
function readValue(rule: FieldRule, payload: unknown): Scalar | null | undefined {
  const found = pointed(payload, rule.ptr)
  if (found === undefined || found === null) return undefined
  if (rule.true || rule.false) {
    if (rule.true?.some((t) => t === found)) return true
    return rule.false?.some((f) => f === found) ? false : null
  }
  if (rule.min !== undefined || rule.max !== undefined || rule.scale !== undefined) {
    if (typeof found !== 'number' || !Number.isFinite(found)) return null
    const value = found * (rule.scale ?? 1)
    return value < (rule.min ?? Number.NEGATIVE_INFINITY) || value > (rule.max ?? Number.POSITIVE_INFINITY)
      ? null
      : value
  }
  if (typeof found === 'string') return shortened(found)
  return typeof found === 'boolean' || (typeof found === 'number' && Number.isFinite(found)) ? found : null
}

/** The fields that a payload fills, and how many of its values fit no rule: none is guessed. */
export function fill(
  fields: readonly FieldRule[],
  vars: PatternVars,
  payload: unknown,
): { filled: Filled[]; unmapped: number } {
  const filled: Filled[] = []
  let unmapped = 0
  for (const rule of fields) {
    const value = readValue(rule, payload)
    if (value === undefined) continue
    if (value === null) unmapped++
    else {
      const field = rule.to.replace(placeholder, (all, name: string) => String(vars[name] ?? all))
      filled.push({ field, value, event: rule.event === true })
    }
  }
  return { filled, unmapped }
}
