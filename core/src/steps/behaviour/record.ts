import { z } from 'zod'
import { Rule } from '../../behaviour/definition'
import { EntryShape } from '../../behaviour/run'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

export const powerOnStates = ['off', 'on', 'last'] as const
export const contacts = ['NO', 'NC', 'CO-NO', 'CO-NC'] as const
export const loadKinds = [
  'lamp',
  'heater',
  'motor',
  'latch-unlocks',
  'latch-locks',
  'modem',
  'pump',
  'fan',
  'other',
] as const

const ms = z.number().int().min(0).max(86_400_000)

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const behaviourRecord = z.object({
  channels: z
    .array(
      z.object({
        ch: z.number().int().min(0),
        onPower: z.enum(powerOnStates),
        tried: z.boolean(),
        /** With which pins it was tried (`pinsOfChannel`); older records do not say, and count until the step is stale. */
        triedOn: z.string().max(400).optional(),
        /** It goes off again after so long; 0 for never. */
        pulseMs: ms.optional(),
        /** What hangs on it, and on which contact; null while nobody has said. */
        load: z
          .object({
            contact: z.enum(contacts),
            kind: z.enum(loadKinds),
            wayOut: z.boolean().default(false),
            attended: z.boolean().default(false),
          })
          .nullish(),
      }),
    )
    .max(32)
    .default([]),
  inputs: z
    .array(z.object({ id: z.string().max(60), debounceMs: ms, holdMs: ms, react: z.enum(['instant', 'release']) }))
    .max(64)
    .default([]),
  /** Null while the usual ones are meant: nobody has changed them. */
  rules: z.array(Rule).max(100).nullable().default(null),
  /** Rules that were tried on the unit and did what was worked out. */
  triedRules: z.array(z.string().max(120)).max(100).default([]),
  travels: z
    .array(
      z.object({
        open: z.number().int(),
        openMs: ms,
        closeMs: ms,
        marginMs: ms,
        runs: z
          .array(z.object({ dir: z.enum(['open', 'close']), ms }))
          .max(40)
          .default([]),
      }),
    )
    .max(16)
    .default([]),
  timeline: z.array(EntryShape).max(400).default([]),
  untilMs: ms.default(0),
  /** Where it takes a modem’s supply away when the line is gone. */
  watchdog: z
    .object({ checkMs: ms, retryMs: ms, failMs: ms, offMs: ms, bootMs: ms, coolMs: ms, startMs: ms })
    .nullable()
    .default(null),
  /** What the unit did otherwise than was worked out. */
  differs: text(2000),
  /** Unsafe states that somebody decided to live with, by name. */
  decided: z
    .array(
      z.object({
        code: z.string().max(60),
        at: z.string().max(20),
        by: z.string().trim().min(1).max(120),
        why: z.string().trim().min(1).max(500),
      }),
    )
    .max(60)
    .default([]),
  note: text(2000),
})

export const record = recordKind(behaviourRecord)
