import { z } from 'zod'
import { refuse } from '../edge/fault'
import { type KnownFamily, knownFamilies } from '../families/families'

export const pinFunctions = [
  'relay',
  'latch-set',
  'latch-reset',
  'button',
  'switch',
  'touch',
  'motion',
  'ac-sense',
  'led',
  'dim',
  'red',
  'green',
  'blue',
  'cool',
  'warm',
  'bright',
  'temp',
  'pulse-power',
  'pulse-volt-amp',
  'pulse-choice',
  'meter-tx',
  'meter-rx',
  'i2c-sda',
  'i2c-scl',
  'one-wire',
  'analog',
  'buzzer',
  'console',
  'spare',
  'unused',
  'forbidden',
] as const
export type PinFunction = (typeof pinFunctions)[number]

export const confidences = ['assumed', 'seen', 'confirmed'] as const
export type Confidence = (typeof confidences)[number]

const PinEvidence = z.strictObject({
  unit: z.string(),
  sitting: z.string(),
  agrees: z.boolean(),
  saw: z.string().optional(),
})

const TemplatePin = z.strictObject({
  pin: z.string().regex(/^[A-Z]+[0-9]+$/),
  fn: z
    .string()
    .superRefine((fn, context) => {
      if (!(pinFunctions as readonly string[]).includes(fn)) refuse(context, 'fn', [], `Unknown function '${fn}'`)
    })
    .transform((fn) => fn as PinFunction),
  ch: z.number().int().min(0).max(32).optional(),
  active: z.enum(['high', 'low']).optional(),
  pull: z.enum(['none', 'up', 'down']).optional(),
  extPull: z.boolean().optional(),
  start: z.enum(['off', 'on', 'last']).optional(),
  maxV: z.number().min(0).optional(),
  note: z.string().optional(),
  confidence: z.enum(confidences).optional(),
  evidence: z.array(PinEvidence).optional(),
})
export type TemplatePin = z.infer<typeof TemplatePin>

const Motor = z.strictObject({
  open: z.number().int(),
  close: z.number().int(),
  interlock: z.boolean().optional(),
  deadMs: z.number().int().min(0).optional(),
})

export const FamilyField = z
  .string()
  .superRefine((family, context) => {
    if (!(knownFamilies as readonly string[]).includes(family))
      refuse(context, 'family', [], `Unknown family '${family}'`)
  })
  .transform((family) => family as KnownFamily)

/** Which GPIO of a board does what: our own open format, docs/formats/pin-template.schema.json. */
export const PinTemplate = z.strictObject({
  format: z.unknown().superRefine((format, context) => {
    if (format !== undefined && format !== 'fresh-coat/pin-template')
      refuse(context, 'format', [], 'This is not a pin template')
    if (format === undefined) refuse(context, 'shape', [], 'The field format is missing.')
  }),
  version: z.number().superRefine((version, context) => {
    if (version !== 1) refuse(context, 'version', [], `Version ${version} is newer than this app knows`)
  }),
  board: z.string().min(1),
  family: FamilyField,
  flashLines: z.union([z.literal(2), z.literal(4)]).optional(),
  octal: z.boolean().optional(),
  note: z.string().optional(),
  pins: z.array(TemplatePin).max(200),
  motors: z.array(Motor).max(32).optional(),
})
export type PinTemplate = z.infer<typeof PinTemplate>

/** What functions were called before; what was stored or exported by then is read under the names of now. */
const earlierNames: Readonly<Record<string, PinFunction>> = {
  cf: 'pulse-power',
  cf1: 'pulse-volt-amp',
  sel: 'pulse-choice',
}

/** A stored or exported template with the names of now; anything that is none is left as it is. */
export function withCurrentNames(stored: unknown): unknown {
  if (typeof stored !== 'object' || stored === null || !('pins' in stored) || !Array.isArray(stored.pins)) return stored
  return {
    ...stored,
    pins: stored.pins.map((p: unknown) => {
      if (typeof p !== 'object' || p === null || !('fn' in p) || typeof p.fn !== 'string') return p
      return Object.hasOwn(earlierNames, p.fn) ? { ...p, fn: earlierNames[p.fn] } : p
    }),
  }
}
/** As it is read from what any version stored. */
export const StoredTemplate = z.preprocess(withCurrentNames, PinTemplate)

const activeLowByDefault: ReadonlySet<PinFunction> = new Set(['button', 'switch', 'ac-sense'])

/** The level that means "on" or "pressed", after the function's default. */
export const activeLevel = (pin: Pick<TemplatePin, 'fn' | 'active'>): 'high' | 'low' =>
  pin.active ?? (activeLowByDefault.has(pin.fn) ? 'low' : 'high')

/**
 * A pin with something said of it changed. What was seen holds for what the pin was said to be: of another function, channel or
 * level nobody has seen anything yet.
 */
export function changedPin(pin: TemplatePin, to: Partial<TemplatePin>): TemplatePin {
  const next = { ...pin, ...to }
  const same = next.fn === pin.fn && next.ch === pin.ch && activeLevel(next) === activeLevel(pin)
  if (same || to.evidence !== undefined) return next
  const { evidence: _, confidence: __, ...unseen } = next
  return unseen
}

const idleFunctions: ReadonlySet<PinFunction> = new Set(['console', 'spare', 'unused', 'forbidden'])
/** Console, spare, unused, forbidden: nothing there for the checks. */
export const isIdle = (fn: PinFunction): boolean => idleFunctions.has(fn)

export const pwmFunctions: ReadonlySet<PinFunction> = new Set([
  'dim',
  'red',
  'green',
  'blue',
  'cool',
  'warm',
  'bright',
  'temp',
])
const plainLoads: ReadonlySet<PinFunction> = new Set(['relay', 'latch-set', 'latch-reset', 'led', 'buzzer'])
/** Something the chip drives. */
export const isLoad = (fn: PinFunction): boolean => plainLoads.has(fn) || pwmFunctions.has(fn)

/**
 * Confidence that the evidence gives: any contradiction is `assumed`; else distinct (unit, sitting) pairs that agree
 * count: 0 assumed, 1 seen, 2 or more confirmed.
 */
export function confidenceOf(evidence: TemplatePin['evidence']): Confidence {
  const list = evidence ?? []
  if (list.some((e) => !e.agrees)) return 'assumed'
  const sittings = new Set(list.map((e) => JSON.stringify([e.unit, e.sitting])))
  return sittings.size === 0 ? 'assumed' : sittings.size === 1 ? 'seen' : 'confirmed'
}
