import { knownFamilies } from '@fresh-coat/core/families/families'
import { z } from 'zod'

/** A virtual chip as a file describes it, and the faults of its line, planned (brief 06 §7). */

const count = z.number().int().min(1)
const side = z.enum(['chip', 'host'])

/** What goes wrong, and when; answers and requests are counted from 1, syncs not at all. */
export const Fault = z.discriminatedUnion('fault', [
  z.object({ fault: z.literal('flip'), to: side, at: count }),
  z.object({ fault: z.literal('drop'), to: side, at: count }),
  z.object({ fault: z.literal('duplicate'), to: side, at: count }),
  /** Bytes that come before the first answer. */
  z.object({ fault: z.literal('garbage'), bytes: z.number().int().min(1).max(4096) }),
  /** Only our own bytes come back. */
  z.object({ fault: z.literal('echo') }),
  /** Text in front of an answer, as when the unit restarts. */
  z.object({ fault: z.literal('text'), answer: count, text: z.string().max(1000) }),
  z.object({ fault: z.literal('mute'), request: count, count }),
  z.object({ fault: z.literal('lose'), answer: count }),
  z.object({ fault: z.literal('late'), answer: count, ms: z.number().min(0).max(60_000) }),
  /** The plug is pulled after so many bytes from the chip. */
  z.object({ fault: z.literal('unplug'), after: count }),
])
export type Fault = z.output<typeof Fault>

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
  /** Says that its flash is encrypted. */
  locked: z.boolean().default(false),
  faults: z.array(Fault).max(40).default([]),
})
export type ChipSpec = z.output<typeof ChipSpec>
