import { z } from 'zod'
import { refuse } from '../edge/fault'
import type { Finding } from '../edge/finding'
import { type MacRelation, parseMac } from './mac'
import { type SkipReason, type TableEntry, type TableFormat, tableFormats } from './tables'

/** What is asked of the network, and what is answered (brief 05 §2). */

const macField = z
  .string()
  .transform((text, context) => {
    const mac = parseMac(text.trim())
    if (mac === null)
      context.addIssue({ code: 'custom', message: `“${text}” is no MAC address.`, params: { code: 'input' } })
    return mac as string
  })
  .nullish()

export const MatchInput = z.object({
  tables: z.array(
    z.object({
      text: z.string().max(1_048_576),
      format: z.enum(['auto', ...tableFormats]).default('auto'),
      phase: z.enum(['before', 'after']).default('after'),
    }),
  ),
  units: z
    .array(
      z
        .object({
          id: z.string().min(1),
          apMac: macField,
          staMac: macField,
          family: z.string().nullish(),
          firmware: z.string().nullish(),
          nameSuffix: z.string().nullish(),
          hostname: z.string().nullish(),
        })
        .superRefine((unit, context) => {
          if (!unit.apMac && !unit.staMac && !unit.nameSuffix && !unit.hostname)
            refuse(context, 'empty', [], 'A unit needs a MAC, a name suffix or a host name to be found by.')
        }),
    )
    .max(500),
})
export type MatchInput = z.output<typeof MatchInput>
export type MatchUnit = MatchInput['units'][number]

export type MatchVerdict = 'sure' | 'likely' | 'unsure' | 'none'

export interface Candidate {
  mac: string | null
  ip: string | null
  hostname: string | null
  probability: number
  relation: MacRelation | null
  reasons: string[]
}

export interface NetworkEntry extends TableEntry {
  /** Not in the list from before; null when there was none. */
  new: boolean | null
  /** The locally administered bit is set; null without a MAC. */
  local: boolean | null
}

export interface UnitMatch {
  unit: string
  candidates: Candidate[]
  noneProbability: number
  verdict: MatchVerdict
}

export interface NetworkMatch {
  formats: TableFormat[]
  entries: NetworkEntry[]
  matches: UnitMatch[]
  batches: {
    family: string | null
    firmware: string | null
    units: string[]
    relation: Record<Exclude<MacRelation, 'other'> | 'mixed', number>
  }[]
  conflicts: { mac: string | null; units: string[] }[]
  newcomers: string[]
  gone: string[]
  skipped: { table: number; line: number; reason: SkipReason }[]
  findings: (Finding & { mac: string | null; units: string[] })[]
}
