import { z } from 'zod'
import { entryMethods, families } from '../families/families'
import { PrintedRating } from '../load/of-unit'
import { KeptRawMap } from '../metering/raw-of-unit'
import { StoredTemplate } from '../pins/template'
import { openFields } from '../steps/open/record'
import { padsFields } from '../steps/pads/record'
import { routeIds } from './way'

/** Facts of a board that one unit can teach; the unit is their evidence. Each is read by its schema: one that does not fit counts as not known. */
export const boardFacts = {
  ratedAmps: z.number().finite(),
  /** Markings as they are printed on its units. */
  ratings: z.array(PrintedRating).max(12),
  /** 3V3 to GND of a good unit, in ohms; the newest. */
  railOhms: z.number().positive(),
  /** Which of its raw values is what, by the firmware it runs. */
  rawMap: KeptRawMap,
  /** The way its units usually go, and the adapter they are usually wired with. */
  route: z.enum(routeIds),
  adapterId: z.string().max(60),
  terminals: openFields.terminals,
  fasteners: openFields.fasteners,
  parts: openFields.parts,
  isolation: openFields.isolation,
  hazards: openFields.hazards,
  capacitor: z.object({ microfarads: z.number(), ohms: z.number().nullable() }),
  family: z.enum(families),
  pads: z.object({
    pads: padsFields.pads,
    pitchMm: padsFields.pitchMm,
    bootBy: padsFields.bootBy,
    regulator5v: padsFields.regulator5v,
    rows: padsFields.rows,
    onPhoto: padsFields.onPhoto,
    readings: padsFields.readings,
    moduleId: padsFields.moduleId,
    contacts: padsFields.contacts,
    rowGap: padsFields.rowGap,
  }),
  entry: z.enum(entryMethods),
  flashBytes: z.number().int().positive(),
  provenModes: z.array(z.string().max(20)).max(20),
  template: StoredTemplate,
}

export type BoardFactKey = keyof typeof boardFacts
export const boardFactKeys = Object.keys(boardFacts) as BoardFactKey[]
export type BoardFacts = { [K in BoardFactKey]: z.output<(typeof boardFacts)[K]> | null }

/** A stored fact, or null when it is not one that this version can read. */
export function readBoardFact<K extends BoardFactKey>(key: K, value: unknown): BoardFacts[K] | null {
  const parsed = boardFacts[key].safeParse(value)
  return parsed.success ? (parsed.data as BoardFacts[K]) : null
}
