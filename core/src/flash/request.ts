import { z } from 'zod'
import { type Outcome, parseInput, refuse, strictCodes } from '../edge/fault'
import { families } from '../families/families'
import type { FileFinding } from '../image/image'
import type { ImageInspection } from '../image/inspect'
import type { PartitionTable } from '../image/partitions'
import { parseFlashId } from './flash-id'
import { preflight } from './preflight/preflight'
import type { Preflight, PreflightUnit, WriteWish } from './preflight/question'

/** A preflight as a file asks for it: plain facts, with files named by their paths. */

const offset = z.number().int().min(0).max(0xffffffff)

export const PreflightRequest = z.object({
  unit: z.object({
    family: z.enum(families),
    familyVerdict: z.enum(['identified', 'likely', 'arm968_unsplit', 'undecided', 'conflict']).nullish(),
    flashBytes: z.number().int().positive().nullish(),
    flashId: z
      .string()
      .superRefine((text, context) => {
        if (!parseFlashId(text))
          refuse(context, 'range', [], 'The chip id is three bytes in hex, manufacturer first: 684014.')
      })
      .nullish(),
    dataLines: z.union([z.literal(2), z.literal(4)]).nullish(),
    inPackageFlash: z.boolean().nullish(),
    provenModes: z.array(z.string()).nullish(),
    backup: z
      .object({
        state: z.enum(['verified', 'single', 'skipped', 'none']),
        bytes: z.number().int().min(0).nullish(),
        reason: z.string().nullish(),
      })
      .nullish(),
    layoutFile: z.string().nullish(),
  }),
  write: z.object({
    file: z.string().min(1),
    offset: offset.nullish(),
    eraseAll: z.boolean().nullish(),
    baud: z.number().int().min(300).max(4_000_000),
    verify: z.enum(['digest', 'readback', 'none']),
  }),
  chosen: z.object({ variant: z.string().nullish(), language: z.string().nullish() }).nullish(),
  profile: z.object({ offset: offset.nullish() }).nullish(),
})
/** The same, and what a write over the link asks besides. */
export const WriteRequest = PreflightRequest.extend({
  unit: PreflightRequest.shape.unit.extend({
    mac: z
      .string()
      .regex(/^([0-9a-f]{2}:){5}[0-9a-f]{2}$/i)
      .nullish(),
  }),
  write: PreflightRequest.shape.write.extend({
    kind: z.enum(['image', 'restore']).nullish(),
    verify: z.enum(['digest', 'readback', 'sample', 'none']),
  }),
})
export type WriteRequest = z.infer<typeof WriteRequest>
export const readWriteRequest = (input: unknown): Outcome<WriteRequest> => parseInput(WriteRequest, input, strictCodes)

/** As the preflight knows ways of verifying: a sample takes a part of a read-back. */
export const asPreflight = (request: WriteRequest): PreflightRequest => ({
  ...request,
  write: { ...request.write, verify: request.write.verify === 'sample' ? 'readback' : request.write.verify },
})

export type PreflightRequest = z.infer<typeof PreflightRequest>

/** Reads a request; refusals `missing`, `type`, `range`, `empty`. */
export const readPreflightRequest = (input: unknown): Outcome<PreflightRequest> =>
  parseInput(PreflightRequest, input, strictCodes)

/** Judges a request whose files have been read. */
export function preflightOfRequest(
  request: PreflightRequest,
  file: { name: string; inspection: ImageInspection },
  layout: { table: PartitionTable | null; findings: readonly FileFinding[] } | null,
): Preflight {
  const { unit, write, chosen, profile } = request
  const facts: PreflightUnit = {
    family: unit.family,
    familyVerdict: unit.familyVerdict ?? null,
    flashBytes: unit.flashBytes ?? null,
    flashId: unit.flashId ?? null,
    dataLines: unit.dataLines ?? null,
    inPackageFlash: unit.inPackageFlash ?? false,
    provenModes: unit.provenModes ?? [],
    backup: {
      state: unit.backup?.state ?? 'none',
      bytes: unit.backup?.bytes ?? null,
      reason: unit.backup?.reason ?? null,
    },
    layout: layout?.table ?? null,
    layoutFindings: layout?.findings ?? [],
  }
  const wish: WriteWish = {
    fileName: file.name,
    offset: write.offset ?? null,
    eraseAll: write.eraseAll ?? false,
    baud: write.baud,
    verify: write.verify,
    variant: chosen?.variant ?? null,
    language: chosen?.language ?? null,
    profileOffset: profile?.offset ?? null,
  }
  return preflight(facts, file.inspection, wish)
}
