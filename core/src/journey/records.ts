import { z } from 'zod'
import { entryMethods, families } from '../families/families'
import { isolationQuestions } from '../open/isolation'
import { fastenerKinds, hidingPlaces, restoreWays } from '../open/opening'
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
  .max(60)
  .transform((list) => {
    const done: typeof list = []
    for (const f of list) done.push(f.id === '' ? { ...f, id: freshId([...list, ...done]) } : f)
    return done
  })

export const markKinds = ['terminal', 'screw', 'pad', 'chip', 'trace'] as const
export type MarkKind = (typeof markKinds)[number]
const share = z.number().min(0).max(1)
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

export const openRecord = z.object({
  terminals: z
    .array(z.object({ place: text(200), legend: z.enum(terminalLegends) }))
    .max(40)
    .default([]),
  noTerminals: z.boolean().default(false),
  fasteners: Fasteners.default([]),
  /** Ids of fasteners that are out on this unit. */
  taken: z.array(z.string().max(20)).max(60).default([]),
  parts: z.array(z.string().max(200)).max(60).default([]),
  marks: z.array(PhotoMark).max(200).default([]),
  minutes: z.number().finite().min(0).max(10_000).nullable().default(null),
  forced: z.boolean().default(false),
  damage: text(1000),
  isolation: z.partialRecord(z.enum(isolationQuestions.map((q) => q.id)), answer).default({}),
  capacitorUf: number,
  bleederOhms: number,
})

export const identifyRecord = z.object({
  /** Text printed on the chip, as read. */
  printed: text(80),
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

const PadCell = z.object({
  cont_gnd: z.boolean().optional(),
  ohms_3v3: z.union([z.number().finite(), z.literal('open')]).optional(),
  button_gnd: z.boolean().optional(),
  square: z.boolean().optional(),
  label: z.string().max(40).optional(),
  volts: z.number().finite().optional(),
  volts_10k: z.number().finite().optional(),
  dip: z.boolean().optional(),
  text: z.boolean().optional(),
})
/** Kept as seen from the parts side, left to right, row by row. Readings may still be impossible: the solver says so. */
export const padsRecord = z.object({
  pads: z.array(z.enum(padRoles)).max(12).default([]),
  readings: z.array(PadCell).max(12).default([]),
  rows: z.number().int().min(1).max(4).default(1),
  pitchMm: number,
  /** The side the person has in front of them: what they see and enter is turned before it is kept. */
  seenFrom: z.enum(['top', 'bottom']).default('top'),
  /** Where the pads lie on a photo, in the order of the pads; null when they are drawn as a row. */
  onPhoto: z
    .object({ fileId: z.string().max(60), at: z.array(z.object({ x: share, y: share })).max(12) })
    .nullable()
    .default(null),
  /** 3.3 V enters at a proven point that is not one of these pads. */
  railKnown: z.boolean().default(false),
  /** How BOOT is reached: a pad in the row, a button on the strap, or not at all (families without a strap). */
  bootBy: z.enum(['pad', 'button', 'none']).nullable().default(null),
  regulator5v: z.boolean().default(false),
  note: text(1000),
})

/** What leads can be held by. */
export const holds = ['hand', 'jig', 'plug', 'solder'] as const
export const wireRecord = z.object({
  adapterId: z.string().nullable().default(null),
  power: z.enum(powerSources).default('adapter3v3'),
  benchV: z.number().finite().default(3.3),
  entry: z.enum(entryMethods).nullable().default(null),
  /** Resistors in front of the board's RX, when the adapter drives more than 3.3 V. */
  divider: z
    .object({ rTop: z.number().positive().max(1e9), rBottom: z.number().positive().max(1e9) })
    .nullable()
    .default(null),
  /** The side of the board that the plug or jig goes on to. */
  plugFace: z.enum(['top', 'bottom']).default('top'),
  adapterPitchMm: z.number().positive().max(50).default(2.54),
  /** Pads whose lead is on. */
  joined: z.array(z.enum(padRoles)).max(12).default([]),
  /** What holds the leads on the pads. */
  held: z.enum(holds).nullable().default(null),
  /** What came out of TX through the reset, and the rate it was read at. */
  log: z.string().max(1_000_000).default(''),
  logHex: z.string().max(400_000).default(''),
  logBaud: z.number().int().positive().max(10_000_000).nullable().default(null),
})

export const backupSkipCodes = ['read-protected', 'already-replaced', 'no-read-path', 'twin', 'owner'] as const
export const backupRecord = z.object({
  flashId: text(40),
  /** Reads stay on the person's disk: hash, length and what was found are kept, the bytes are not. */
  onDisk: z.boolean().default(false),
  /** When the copy was last tried by putting it back; null for never. */
  restoreTested: z.iso.date().nullable().default(null),
  restoreMonths: z.number().int().min(1).max(120).default(24),
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
  /** What the person wants of the build, against what a file name says. */
  variant: z.enum(['small', 'full', 'radio', 'sensors', 'display']).nullable().default(null),
  language: z.string().max(2).nullable().default(null),
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
  gluedAt: z.iso.datetime({ offset: true }).nullable().default(null),
  glueHours: z.number().finite().min(0).max(1000).nullable().default(null),
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
const Installed = z.object({
  firmware: z.string().max(60),
  version: z.string().max(40),
  build: z.string().max(60),
  /** How that is known: the last good write, what the unit reports, or a person. */
  how: z.enum(['written', 'reported', 'said']),
  at: z.iso.datetime({ offset: true }),
})
/** What a unit was once noted to run: nothing of it is lost when something newer is noted. */
const Ran = Installed.extend({
  target: z.enum(['main', 'radio']),
  /** Main firmware that ran beside a radio's program; empty when it was not known. */
  host: z.string().max(120).default(''),
})
/** Notes of what ran that a record holds; every one of them is an event as well. */
export const mostRan = 500
export const watchRecord = z.object({
  note: text(2000),
  ran: z.array(Ran).max(mostRan).default([]),
  /** The main program first; a radio co-processor is a target of its own. */
  installed: Installed.nullable().default(null),
  radio: Installed.nullable().default(null),
  /** Which of the two the person is bringing up to date. */
  target: z.enum(['main', 'radio']).default('main'),
  /** How it takes updates; null: as its layout and family say. */
  scheme: z.enum(['single', 'dual']).nullable().default(null),
  radioBytes: number,
  radioWanted: z
    .object({ version: z.string().max(40), build: z.string().max(60) })
    .nullable()
    .default(null),
  updateEnd: number,
  slotBytes: number,
  wanted: z
    .object({ version: z.string().max(40), build: z.string().max(60) })
    .nullable()
    .default(null),
  allowDowngrade: z.boolean().default(false),
  /** Steps of the way that were walked and checked. */
  walked: z.array(z.string().max(120)).max(20).default([]),
})

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
