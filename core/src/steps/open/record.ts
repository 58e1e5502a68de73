import { z } from 'zod'
import { hazardKinds } from '../../open/hazards'
import { isolationQuestions } from '../../open/isolation'
import { fastenerKinds, hidingPlaces, restoreWays } from '../../open/opening'
import { answer, number, share, text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** As many as a record holds of each. */
export const mostTerminals = 40
export const mostFasteners = 60
export const mostParts = 60

export const terminalLegends = ['line', 'neutral', 'load', 'earth', 'switch_input', 'unknown'] as const

const Fastener = z.object({
  id: z.string().max(20).default(''),
  kind: z.enum(fastenerKinds),
  count: z.number().int().min(1).max(200),
  driver: text(60),
  place: text(200),
  hiddenUnder: z.enum(hidingPlaces).default('none'),
  note: text(300),
  restore: z.enum(restoreWays).default('same'),
  requires: z.array(z.string().max(20)).max(60).default([]),
})

/** An id that no item of the list has. */
export function freshId(taken: readonly { id: string }[]): string {
  let n = taken.length + 1
  while (taken.some((t) => t.id === `f${n}`)) n++
  return `f${n}`
}

/** Items written down before they had ids get one by their place in the list. */
const Fasteners = z
  .array(Fastener)
  .max(mostFasteners)
  .transform((list) => {
    const done: typeof list = []
    for (const f of list) done.push(f.id === '' ? { ...f, id: freshId([...list, ...done]) } : f)
    return done
  })

export const markKinds = ['terminal', 'screw', 'pad', 'chip', 'trace', 'hazard'] as const

export type MarkKind = (typeof markKinds)[number]

/** A mark on a photo; its place is a share of width and height, so that it survives every size. */
const PhotoMark = z.object({
  id: z.string().max(40),
  fileId: z.string().max(60),
  kind: z.enum(markKinds),
  x: share,
  y: share,
  label: text(80),
})
export type PhotoMark = z.infer<typeof PhotoMark>

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const openRecord = z.object({
  terminals: z
    .array(z.object({ place: text(200), legend: z.enum(terminalLegends) }))
    .max(mostTerminals)
    .default([]),
  noTerminals: z.boolean().default(false),
  fasteners: Fasteners.default([]),
  /** Ids of fasteners that are out on this unit. */
  taken: z.array(z.string().max(20)).max(mostFasteners).default([]),
  parts: z.array(z.string().max(200)).max(mostParts).default([]),
  marks: z.array(PhotoMark).max(200).default([]),
  minutes: z.number().finite().min(0).max(10_000).nullable().default(null),
  forced: z.boolean().default(false),
  damage: text(1000),
  isolation: z.partialRecord(z.enum(isolationQuestions.map((q) => q.id)), answer).default({}),
  /** What in it can hurt a hand; a list counts only once somebody has looked. */
  hazards: z
    .array(z.object({ kind: z.enum(hazardKinds), place: text(120) }))
    .max(20)
    .default([]),
  hazardsLooked: z.boolean().default(false),
  /** The module is off its board, on the routes that take it off. */
  moduleOff: z.boolean().default(false),
  capacitorUf: number,
  bleederOhms: number,
})

export const openFields = openRecord.shape

export type Fastener = z.infer<typeof Fastener>
export type Terminal = z.infer<typeof openFields.terminals>[number]

export const record = recordKind(openRecord)
