import { z } from 'zod'
import { entryMethods, families } from '../families/families'
import { isolationQuestions } from '../open/isolation'
import { PinTemplate } from '../pins/template'
import { padRoles, powerSources } from '../wiring/wiring'
import { routeIds, type StepId } from './steps'

/** What a person records at each step. Everything has a default, so that an empty record is a valid one. */
const text = (max = 500) => z.string().max(max).default('')
const number = z.number().finite().nullable().default(null)
const answer = z.enum(['yes', 'no', 'unknown'])

export const arriveRecord = z.object({
  route: z.enum(routeIds).nullable().default(null),
  triedAsSold: z.enum(['works', 'faulty']).nullable().default(null),
  ratedAmps: number,
  mainsVolts: number,
  loadWatts: number,
  note: text(2000),
})

export const fastenerKinds = [
  'screw',
  'clip',
  'glue',
  'heat_seal',
  'press_fit',
  'terminal_wire',
  'solder_joint',
] as const
export const terminalLegends = ['line', 'neutral', 'load', 'earth', 'switch_input', 'unknown'] as const
const Fastener = z.object({
  kind: z.enum(fastenerKinds),
  count: z.number().int().min(1).max(200),
  place: text(200),
  hiddenUnder: z.enum(['none', 'sticker', 'foot', 'label', 'cap']).default('none'),
  restore: z.enum(['same', 'glue', 'new_part']).default('same'),
})
export const openRecord = z.object({
  terminals: z
    .array(z.object({ place: text(200), legend: z.enum(terminalLegends) }))
    .max(40)
    .default([]),
  noTerminals: z.boolean().default(false),
  fasteners: z.array(Fastener).max(60).default([]),
  parts: z.array(z.string().max(200)).max(60).default([]),
  isolation: z.partialRecord(z.enum(isolationQuestions.map((q) => q.id)), answer).default({}),
  capacitorUf: number,
  bleederOhms: number,
})

export const identifyRecord = z.object({
  evidence: z
    .array(
      z.object({
        kind: z.string(),
        value: z.string().optional(),
        counts: z.record(z.string(), z.number()).optional(),
        sure: z.number().min(0).max(1).optional(),
      }),
    )
    .max(20)
    .default([]),
  decision: z
    .object({ family: z.enum(families), reason: z.string().max(500) })
    .nullable()
    .default(null),
})

export const padsRecord = z.object({
  pads: z.array(z.enum(padRoles)).max(12).default([]),
  pitchMm: number,
  /** How BOOT is reached: a pad in the row, a button on the strap, or not at all (families without a strap). */
  bootBy: z.enum(['pad', 'button', 'none']).nullable().default(null),
  regulator5v: z.boolean().default(false),
  note: text(1000),
})

export const wireRecord = z.object({
  adapterId: z.string().nullable().default(null),
  power: z.enum(powerSources).default('adapter3v3'),
  benchV: z.number().finite().default(3.3),
  entry: z.enum(entryMethods).nullable().default(null),
})

export const backupSkipCodes = ['read-protected', 'already-replaced', 'no-read-path', 'twin', 'owner'] as const
export const backupRecord = z.object({
  flashId: text(40),
  skip: z
    .object({ code: z.enum(backupSkipCodes), reason: z.string().max(1000) })
    .nullable()
    .default(null),
})

export const checkRecord = z.object({
  fileId: z.string().nullable().default(null),
  offset: z.number().int().min(0).max(0xffffffff).nullable().default(null),
  eraseAll: z.boolean().default(true),
  baud: z.number().int().min(300).max(4_000_000).default(115200),
  verify: z.enum(['digest', 'readback', 'none']).default('digest'),
  firmware: text(60),
  firmwareVersion: text(40),
  dataLines: z
    .union([z.literal(2), z.literal(4)])
    .nullable()
    .default(null),
  /** Codes of warnings that the person has answered. */
  answered: z.array(z.string()).max(50).default([]),
})

export const writeRecord = z.object({ note: text(1000) })

export const startRecord = z.object({
  log: z.string().max(1_000_000).default(''),
  /** Seen some other way than in the boot text. */
  seenBy: z.enum(['boot text', 'access point', 'light or click']).nullable().default(null),
  strapFree: z.boolean().default(false),
})

export const joinRecord = z.object({
  apMac: text(40),
  nameSuffix: text(40),
  before: z.string().max(1_048_576).default(''),
  after: z.string().max(1_048_576).default(''),
  address: text(60),
  mac: text(40),
  confirmedBy: z.enum(['match', 'blink', 'by hand']).nullable().default(null),
})

export const pinsRecord = z.object({
  template: PinTemplate.nullable().default(null),
  sitting: z.number().int().min(1).max(1000).default(1),
})

export const closeRecord = z.object({
  restored: z.record(z.string(), z.number().int().min(0)).default({}),
  partsBack: z.array(z.string()).max(60).default([]),
  clipsBroken: z.number().int().min(0).max(500).default(0),
})

export const powerOnStates = ['off', 'on', 'last'] as const
export const behaviourRecord = z.object({
  channels: z
    .array(z.object({ ch: z.number().int().min(0), onPower: z.enum(powerOnStates), tried: z.boolean() }))
    .max(32)
    .default([]),
  note: text(2000),
})

const Point = z.object({
  id: z.string().max(40),
  indicated: number,
  reference: number,
  role: z.enum(['fit', 'verify']).default('fit'),
})
export const meterRecord = z.object({
  noMeter: z.boolean().default(false),
  quantity: z.enum(['P', 'I', 'V']).default('P'),
  instrumentId: z.string().nullable().default(null),
  indicatedResolution: z.number().finite().min(0).default(0.1),
  loadKind: z.enum(['resistive', 'charger', 'motor', 'other']).default('resistive'),
  warm: z.boolean().default(false),
  limitPct: z.number().finite().min(0).default(2),
  limitAbs: z.number().finite().min(0).default(0.5),
  model: z.enum(['auto', 'gain', 'gainOffset']).default('auto'),
  recheckMonths: z.number().int().min(1).max(120).default(12),
  points: z.array(Point).max(60).default([]),
  zeros: z.array(z.number().finite()).max(60).default([]),
})

export const nameRecord = z.object({
  spoken: text(200),
  pinned: z.string().max(63).default(''),
  reserved: z.boolean().default(false),
})
export const hubRecord = z.object({ hubId: z.string().nullable().default(null), note: text(1000) })
export const proveRecord = z.object({
  powerCut: z
    .object({
      seconds: z.number().finite().min(0),
      cameBack: z.enum(['as wanted', 'otherwise']),
      rejoinSeconds: z.number().finite().min(0).nullable(),
    })
    .nullable()
    .default(null),
  note: text(1000),
})
export const watchRecord = z.object({ note: text(2000) })

export const recordSchemas = {
  arrive: arriveRecord,
  open: openRecord,
  identify: identifyRecord,
  pads: padsRecord,
  wire: wireRecord,
  backup: backupRecord,
  check: checkRecord,
  write: writeRecord,
  start: startRecord,
  join: joinRecord,
  pins: pinsRecord,
  close: closeRecord,
  behaviour: behaviourRecord,
  meter: meterRecord,
  name: nameRecord,
  hub: hubRecord,
  prove: proveRecord,
  watch: watchRecord,
} satisfies Record<StepId, z.ZodType>

export type StepData = { [S in StepId]: z.output<(typeof recordSchemas)[S]> }

/** The record of a step with nothing entered. */
export const emptyRecord = <S extends StepId>(step: S): StepData[S] => recordSchemas[step].parse({}) as StepData[S]

/** Reads a stored record; what an older version did not know gets its default. */
export function readRecord<S extends StepId>(step: S, data: unknown): StepData[S] {
  const parsed = recordSchemas[step].safeParse(data ?? {})
  return parsed.success ? (parsed.data as StepData[S]) : emptyRecord(step)
}
