import { z } from 'zod'
import arm968a from './arm968-a.json'
import arm968b from './arm968-b.json'
import cm3 from './cm3.json'
import lx6 from './lx6.json'
import lx7 from './lx7.json'
import lx106 from './lx106.json'
import rv32 from './rv32.json'

/** Processor classes, in table order. OTHER: no open firmware, or unknown. */
export const families = ['LX106', 'LX6', 'LX7', 'RV32', 'ARM968-A', 'ARM968-B', 'CM3', 'OTHER'] as const
export type Family = (typeof families)[number]
export const knownFamilies = ['LX106', 'LX6', 'LX7', 'RV32', 'ARM968-A', 'ARM968-B', 'CM3'] as const
export type KnownFamily = (typeof knownFamilies)[number]

export const isKnownFamily = (x: unknown): x is KnownFamily => (knownFamilies as readonly unknown[]).includes(x)
export const isArm968 = (family: string | null | undefined): boolean => family === 'ARM968-A' || family === 'ARM968-B'

/** Families whose chips hold a boot loader, a partition table and programs in partitions. */
export const hasPartitions = (family: string | null | undefined): boolean =>
  family === 'LX6' || family === 'LX7' || family === 'RV32'

/** How serial download is entered; which entries a family has is a fact of the family. */
export const entryMethods = ['button', 'jumper', 'autoreset', 'window', 'call'] as const
export type EntryMethod = (typeof entryMethods)[number]

export const FamilyFacts = z.strictObject({
  family: z.enum(knownFamilies),
  source: z.string().min(1),
  confidence: z.enum(['documented', 'check on the bench']),
  supplyVolts: z.tuple([z.number(), z.number()]),
  supplyMaxVolts: z.number(),
  /** Current to plan for, in mA: peak while the radio calibrates, running base, and in the serial loader. */
  peakMa: z.number().positive(),
  baseMa: z.number().positive(),
  loaderMa: z.number().positive(),
  crystalMegahertz: z.string(),
  bootBaud: z.number().int(),
  uart: z.strictObject({ tx: z.string(), rx: z.string() }),
  bootStrap: z.string(),
  strapPin: z.string().nullable(),
  resetPin: z.string(),
  flash: z.string(),
  entry: z.array(z.enum(entryMethods)).min(1),
  /** Pin id → words of the pin table (see pins/words.ts). */
  pins: z.record(z.string().regex(/^[A-Z]+[0-9]+$/), z.string()),
})
export type FamilyFacts = z.infer<typeof FamilyFacts>

const files: Record<KnownFamily, unknown> = {
  LX106: lx106,
  LX6: lx6,
  LX7: lx7,
  RV32: rv32,
  'ARM968-A': arm968a,
  'ARM968-B': arm968b,
  CM3: cm3,
}

/** The shipped facts of a family. The files are checked by families.test.ts, so they are not parsed again here. */
export const factsOf = (family: KnownFamily): FamilyFacts => files[family] as FamilyFacts

/** How a family without a boot strap enters serial download, by its facts; null where a strap is pulled, or nobody knows. */
export function straplessEntry(family: string | null | undefined): 'window' | 'call' | null {
  const first = isKnownFamily(family) ? factsOf(family).entry[0] : null
  return first === 'window' || first === 'call' ? first : null
}
