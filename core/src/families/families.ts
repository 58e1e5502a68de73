import { z } from 'zod'
import { linkCommands } from '../link/codes'
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

/** How serial download is entered; which entries a family has is a fact of the family. */
export const entryMethods = ['button', 'jumper', 'autoreset', 'window', 'call'] as const
export type EntryMethod = (typeof entryMethods)[number]

const hexWord = z.string().regex(/^0x[0-9A-F]{8}$/)
/** Where one die of a family keeps what tells it apart, by register addresses and their offsets (brief 06 §3). */
export const LinkDie = z.strictObject({
  name: z.string().min(1),
  /** Words at 0x40001000. */
  magic: z.array(hexWord).min(1),
  /** What security-info says; null where it says none. */
  chipId: z.number().int().nullable(),
  spi: z.strictObject({
    base: hexWord,
    user: z.number().int(),
    user1: z.number().int(),
    user2: z.number().int(),
    /** Register of the bits that come in; null where they stand in USER1. */
    inLength: z.number().int().nullable(),
    w0: z.number().int(),
  }),
  /** Two words, or three on the die that keeps the first three bytes apart. */
  mac: z.array(hexWord).min(2).max(3),
  /** What the crystal is worked out from; null where it is always 40 MHz. */
  uartDivider: hexWord.nullable(),
  crystalHalved: z.boolean(),
  /** Where an odd count of bits 20 to 26 says that the flash is encrypted; null where security-info says it. */
  cipherWord: hexWord.nullable(),
  confidence: z.enum(['documented', 'check on the bench']),
})
export type LinkDie = z.infer<typeof LinkDie>

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
  /**
   * What its image files are like: the header that tells them, the first byte that may be erased or written, who says where a
   * file goes, and how many sectors at the chip's end the firmware keeps its settings in.
   */
  image: z.strictObject({
    header: z.enum(['lx106', 'extended', 'none']),
    keepBelow: z.number().int().nonnegative(),
    placedBy: z.enum(['image', 'profile']),
    settingsAtEnd: z.number().int().nonnegative(),
  }),
  /**
   * What the loader in its ROM speaks, where it is one that we can talk to: bytes of status behind an answer, words of
   * flash-begin, what it erases for what it is told, and the commands that it lacks. Null: not yet.
   */
  link: z
    .strictObject({
      statusBytes: z.union([z.literal(2), z.literal(4)]),
      beginWords: z.union([z.literal(4), z.literal(5)]),
      erase: z.enum(['as-told', 'in-pairs']),
      lacks: z.array(z.enum(linkCommands)),
      dies: z.array(LinkDie).min(1),
    })
    .nullable(),
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

const imageFacts = (family: string | null | undefined): FamilyFacts['image'] | null =>
  isKnownFamily(family) ? factsOf(family).image : null

/** Families whose chips hold a boot loader, a partition table and programs in partitions. */
export const hasPartitions = (family: string | null | undefined): boolean => imageFacts(family)?.header === 'extended'

/** Families whose files have no header that can be trusted. */
export const headerless = (family: string | null | undefined): boolean => imageFacts(family)?.header === 'none'

/** Families whose files go where the firmware's profile says, and nowhere by themselves. */
export const placedByProfile = (family: string | null | undefined): boolean =>
  imageFacts(family)?.placedBy === 'profile'

/** Sectors at the end of the chip where firmware of this family keeps its settings, whatever the file says. */
export const settingsSectorsAtEnd = (family: string | null | undefined): number =>
  imageFacts(family)?.settingsAtEnd ?? 0

/**
 * The first byte that may be erased or written: what lies below is the only way back in. While two variants cannot be told
 * apart, the more careful one's counts.
 */
export function keptBelow(family: string | null | undefined, unsplit: boolean): number {
  if (unsplit && isArm968(family)) return factsOf('ARM968-A').image.keepBelow
  return imageFacts(family)?.keepBelow ?? 0
}

/** How a family without a boot strap enters serial download, by its facts; null where a strap is pulled, or nobody knows. */
export function straplessEntry(family: string | null | undefined): 'window' | 'call' | null {
  const first = isKnownFamily(family) ? factsOf(family).entry[0] : null
  return first === 'window' || first === 'call' ? first : null
}
