import { knownFamilies } from '@fresh-coat/core/families/families'
import { z } from 'zod'

/** A virtual chip as a file describes it, and the faults of its line, planned (brief 06 §7). */

const count = z.number().int().min(1)
const side = z.enum(['chip', 'host'])
/** The byte at this place, or every so many of them, so many times. */
const bytewise = { to: side, at: count.optional(), every: count.optional(), count: count.optional() }
const place = z.number().int().min(0)
const byteMask = z.number().int().min(1).max(255)

/** What goes wrong, and when; answers and requests are counted from 1, syncs not at all. */
export const Fault = z.discriminatedUnion('fault', [
  z.object({ fault: z.literal('flip'), ...bytewise }),
  z.object({ fault: z.literal('drop'), ...bytewise }),
  z.object({ fault: z.literal('duplicate'), ...bytewise }),
  /** Bytes that come before the first answer. */
  z.object({ fault: z.literal('garbage'), bytes: z.number().int().min(1).max(4096) }),
  /** Only our own bytes come back. */
  z.object({ fault: z.literal('echo') }),
  /** Text in front of an answer, as when the unit restarts. */
  z.object({ fault: z.literal('text'), answer: count, text: z.string().max(1000) }),
  z.object({ fault: z.literal('mute'), request: count, count }),
  /** An answer, or that of a block, that does not come. */
  z.object({ fault: z.literal('lose'), answer: count.optional(), block: count.optional() }),
  z.object({ fault: z.literal('late'), answer: count, ms: z.number().min(0).max(60_000) }),
  /** The plug is pulled after so many bytes from the chip. */
  z.object({ fault: z.literal('unplug'), after: count }),
  /** The supply gives way while this block is programmed, and it restarts: into its loader with the strap held, else not. */
  z.object({ fault: z.literal('brownout'), block: count, strap: z.enum(['held', 'free']) }),
  /** Bits of a cell that do not take, so many times. */
  z.object({ fault: z.literal('weak'), address: place, mask: byteMask, times: count }),
  /** Bits of a cell that read otherwise every other time. */
  z.object({ fault: z.literal('unstable'), address: place, mask: byteMask }),
])
export type Fault = z.output<typeof Fault>

/** `{ flip: { … } }` is the same as `{ fault: 'flip', … }`. */
const named = (given: unknown): unknown => {
  if (typeof given !== 'object' || given === null || 'fault' in given) return given
  const [[fault, what] = ['', null], more] = Object.entries(given)
  return more === undefined && typeof what === 'object' ? { ...what, fault } : given
}

const linked = knownFamilies.filter((f) => !f.startsWith('ARM968') && f !== 'CM3') as ['LX106', 'LX6', 'LX7', 'RV32']

export const ChipSpec = z.object({
  family: z.enum(linked),
  flashBytes: z
    .number()
    .int()
    .min(65_536)
    .max(2 ** 25),
  seed: z.number().int().default(1),
  mac: z
    .string()
    .regex(/^([0-9a-f]{2}:){5}[0-9a-f]{2}$/i)
    .default('02:4c:59:10:20:30'),
  flashId: z
    .string()
    .regex(/^[0-9a-f]{6}$/i)
    .default('684014'),
  /** Is BOOT held at its reset? */
  strap: z.enum(['held', 'free']).default('held'),
  lines: z.enum(['circuit', 'direct', 'none']).default('none'),
  crystalMhz: z.union([z.literal(26), z.literal(40)]).default(40),
  /** Does the ROM append each accepted block at its own pointer, or does it check the numbers? */
  sequence: z.enum(['pointer', 'strict']).default('pointer'),
  /** What the adapter waits before it hands an answer on. */
  latencyMs: z.number().min(0).max(1000).default(1),
  /** Real seconds per virtual one; 0 waits for nothing. */
  factor: z.number().min(0).max(10).default(0),
  /** What stands in its flash, in a file beside this one; without it, something made from the seed. */
  flashFile: z.string().min(1).optional(),
  /** What was written stays in that file. */
  persist: z.boolean().default(false),
  /** Says that its flash is encrypted. */
  locked: z.boolean().default(false),
  faults: z.array(z.preprocess(named, Fault)).max(40).default([]),
})
export type ChipSpec = z.output<typeof ChipSpec>
