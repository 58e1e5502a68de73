import { z } from 'zod'
import { bytesOfHex } from '../bytes/text'
import { inputCodes, type Outcome, parseInput, refusal, refuse } from '../edge/fault'

/** Meters that give pulses, and meters that give frames (brief 04 §2.2). Constants are those of a person's own part. */

interface Constants {
  vref: number
  foscHz: number
  power: Part | null
  voltage: Part | null
  current: Part | null
  dividerTopOhm: number
  dividerBottomOhm: number
  shuntOhm: number
}
type Part = { k: number } | { gain: number; divisor: number }

const quantities = ['P', 'V', 'I'] as const
type Quantity = (typeof quantities)[number]
type Corrections = Record<Quantity, number>

const constantOf = (part: Part, foscHz: number, per: number): number =>
  'k' in part ? part.k : (part.gain * foscHz) / (part.divisor * per)

/** Watts, volts and amperes of one hertz, with the corrections that are set in the unit. */
export function perHertz(c: Constants, corrections: Corrections): Record<Quantity, number | null> {
  const ratio = c.dividerBottomOhm / (c.dividerTopOhm + c.dividerBottomOhm)
  const of = (part: Part | null, per: number) => (part ? constantOf(part, c.foscHz, per) : null)
  const [kp, kv, ki] = [of(c.power, c.vref ** 2), of(c.voltage, c.vref), of(c.current, c.vref)]
  return {
    P: kp === null ? null : corrections.P / (kp * ratio * c.shuntOhm),
    V: kv === null ? null : corrections.V / (kv * ratio),
    I: ki === null ? null : corrections.I / (ki * c.shuntOhm),
  }
}

export interface PulseResolution {
  W: number
  hz: number
  firstUpdateS: number
  timingStepPct: number
  countStepPct: number
  seenBeforeTimeout: boolean
}
/** How fast and how finely a power is seen: one pulse timed, or pulses counted for a window. */
export function resolutionAt(
  W: number,
  wattPerHz: number,
  { windowS, timeoutS, tickUs }: { windowS: number; timeoutS: number; tickUs: number },
): PulseResolution {
  const hz = W / wattPerHz
  return {
    W,
    hz,
    firstUpdateS: 1 / hz,
    timingStepPct: (100 * tickUs * hz) / 1e6,
    countStepPct: (100 * wattPerHz) / windowS / W,
    seenBeforeTimeout: 1 / hz <= timeoutS,
  }
}

export interface Measured {
  V: number | null
  I: number | null
  P: number | null
  VA: number | null
  pf: number | null
}
function measured(V: number | null, I: number | null, P: number | null): Measured {
  const VA = V === null || I === null ? null : V * I
  return { V, I, P, VA, pf: VA === null || VA === 0 || P === null ? null : P / VA }
}

export interface PulseMeter extends Measured {
  wattPerHz: number | null
  voltPerHz: number | null
  ampPerHz: number | null
  whPerPulse: number | null
  countStepW: number | null
  /** Below this it shows 0. */
  minW: number | null
  resolution: PulseResolution[]
  newCorrections: Partial<Corrections>
}
export interface FrameMeter extends Measured {
  /** Null where the layout has no checksum. */
  checksumOk: boolean | null
  fields: Record<string, number>
  /** A frame with a bad checksum is counted, and never used. */
  use: boolean
}

const above0 = z.number().superRefine((n, context) => {
  if (n <= 0) refuse(context, 'range', [], 'It must be above 0.')
})
const part = z.union([z.object({ k: above0 }), z.object({ gain: above0, divisor: above0 })])
const reading = z.union([
  z.object({ periodUs: above0 }),
  z.object({
    widthUs: above0,
    duty: z
      .number()
      .superRefine((d, context) => {
        if (d <= 0 || d > 1) refuse(context, 'range', [], 'A duty is above 0, and 1 at most.')
      })
      .nullish(),
  }),
  z.strictObject({}),
])
const three = z.object({ P: above0.nullish(), V: above0.nullish(), I: above0.nullish() })
const Pulse = z.object({
  mode: z.literal('pulse'),
  constants: z.object({
    vref: above0,
    foscHz: above0,
    power: part.nullish(),
    voltage: part.nullish(),
    current: part.nullish(),
    dividerTopOhm: z.number().min(0),
    dividerBottomOhm: above0,
    shuntOhm: above0,
  }),
  corrections: three.nullish(),
  readings: z.object({ power: reading.nullish(), voltage: reading.nullish(), current: reading.nullish() }).nullish(),
  windowS: above0.nullish(),
  timeoutS: above0.nullish(),
  tickUs: above0.nullish(),
  atW: z.array(above0).max(1000).nullish(),
  reference: z.object({ P: z.number().nullish(), V: z.number().nullish(), I: z.number().nullish() }).nullish(),
})

type Reading = z.output<typeof reading>
const usualDuty = 0.5
/** Pulses a second; 0 where none has come yet, null where nobody looked. */
function hertzOf(given: Reading | null | undefined): number | null {
  if (!given) return null
  if ('periodUs' in given) return 1e6 / given.periodUs
  return 'widthUs' in given ? (1e6 * (given.duty ?? usualDuty)) / given.widthUs : 0
}
const times = (hz: number | null, per: number | null): number | null => (hz === null || per === null ? null : hz * per)

function pulseMeter(input: unknown): Outcome<PulseMeter> {
  const parsed = parseInput(Pulse, input, inputCodes)
  if (!parsed.ok) return parsed
  const { constants, readings, reference, atW } = parsed.value
  const corrections: Corrections = {
    P: parsed.value.corrections?.P ?? 1,
    V: parsed.value.corrections?.V ?? 1,
    I: parsed.value.corrections?.I ?? 1,
  }
  const per = perHertz(
    {
      ...constants,
      power: constants.power ?? null,
      voltage: constants.voltage ?? null,
      current: constants.current ?? null,
    },
    corrections,
  )
  const { P } = per
  const timing = {
    windowS: parsed.value.windowS ?? 1,
    timeoutS: parsed.value.timeoutS ?? 10,
    tickUs: parsed.value.tickUs ?? 1,
  }
  const voltHz = hertzOf(readings?.voltage)
  // No pulse is no power and no current; a voltage is never nothing.
  const shown = measured(
    voltHz === 0 ? null : times(voltHz, per.V),
    times(hertzOf(readings?.current), per.I),
    times(hertzOf(readings?.power), P),
  )
  const newCorrections: Partial<Corrections> = {}
  for (const q of quantities) {
    const [is, should] = [shown[q], reference?.[q]]
    if (is !== null && is !== 0 && should != null) newCorrections[q] = (corrections[q] * should) / is
  }
  return {
    ok: true,
    value: {
      wattPerHz: P,
      voltPerHz: per.V,
      ampPerHz: per.I,
      whPerPulse: P === null ? null : P / 3600,
      ...shown,
      countStepW: P === null ? null : P / timing.windowS,
      minW: P === null ? null : P / timing.timeoutS,
      resolution: P === null ? [] : (atW ?? []).map((W) => resolutionAt(W, P, timing)),
      newCorrections,
    },
  }
}

const place = z.number().int().min(0)
const field = z.object({
  at: place,
  bytes: z.number().int().min(1).max(6),
  endian: z.enum(['big', 'little']).nullish(),
})
const fieldNames = ['coefV', 'periodV', 'coefI', 'periodI', 'coefP', 'periodP'] as const
const Serial = z.object({
  mode: z.literal('serial'),
  frameHex: z.string(),
  layout: z
    .object({
      length: z.number().int().min(1).max(4096),
      header: z.array(z.object({ at: place, value: z.number().int().min(0).max(255) })).nullish(),
      fields: z.object({
        coefV: field.nullish(),
        periodV: field.nullish(),
        coefI: field.nullish(),
        periodI: field.nullish(),
        coefP: field.nullish(),
        periodP: field.nullish(),
      }),
      checksum: z
        .object({ kind: z.enum(['sum8', 'sum8-inverted', 'xor8']), from: place, to: place, at: place })
        .nullish(),
    })
    .superRefine(({ length, fields, header, checksum }, context) => {
      for (const name of fieldNames) {
        const f = fields[name]
        if (f && f.at + f.bytes > length)
          refuse(context, 'input', ['fields', name], 'It reaches past the end of the frame.')
      }
      for (const [i, h] of (header ?? []).entries())
        if (h.at >= length) refuse(context, 'input', ['header', i, 'at'], 'It lies past the end of the frame.')
      if (checksum && (checksum.to > length || checksum.at >= length || checksum.from > checksum.to))
        refuse(context, 'input', ['checksum'], 'It reaches past the end of the frame.')
    }),
  scale: three.nullish(),
  corrections: three.nullish(),
})

function numberAt(bytes: Uint8Array, { at, bytes: count, endian }: z.output<typeof field>): number {
  const taken = [...bytes.subarray(at, at + count)]
  return (endian === 'little' ? taken.reverse() : taken).reduce((n, b) => n * 256 + b, 0)
}
function checksumOf(bytes: Uint8Array, kind: 'sum8' | 'sum8-inverted' | 'xor8'): number {
  let [sum, xor] = [0, 0]
  for (const b of bytes) {
    sum = (sum + b) & 0xff
    xor ^= b
  }
  return kind === 'xor8' ? xor : kind === 'sum8' ? sum : 255 - sum
}

function frameMeter(input: unknown): Outcome<FrameMeter> {
  const parsed = parseInput(Serial, input, inputCodes)
  if (!parsed.ok) return parsed
  const { frameHex, layout, scale, corrections } = parsed.value
  const bytes = bytesOfHex(frameHex.replaceAll(/\s/g, ''))
  if (!bytes) return refusal('input', '/frameHex', 'The frame is pairs of hex digits.')
  if (bytes.length !== layout.length)
    return refusal('input', '/frameHex', `The frame has ${bytes.length} bytes, its layout ${layout.length}.`)
  const wrong = (layout.header ?? []).find((h) => bytes[h.at] !== h.value)
  if (wrong) return refusal('input', '/frameHex', `Byte ${wrong.at} is not that of the header.`)
  const fields: Record<string, number> = {}
  for (const name of fieldNames) {
    const f = layout.fields[name]
    if (f) fields[name] = numberAt(bytes, f)
  }
  const of = (q: Quantity): number | null => {
    const [coef, period] = [fields[`coef${q}`], fields[`period${q}`]]
    if (coef === undefined || period === undefined) return null
    return period === 0 ? 0 : (coef / period) * (scale?.[q] ?? 1) * (corrections?.[q] ?? 1)
  }
  const { checksum } = layout
  const checksumOk = checksum
    ? checksumOf(bytes.subarray(checksum.from, checksum.to), checksum.kind) === bytes[checksum.at]
    : null
  return { ok: true, value: { checksumOk, fields, use: checksumOk !== false, ...measured(of('V'), of('I'), of('P')) } }
}

const Mode = z.object({ mode: z.enum(['pulse', 'serial']) })

/** `meter pulse`: what a pulse is worth and what it shows, or what a frame says. */
export function meterPulse(input: unknown): Outcome<PulseMeter | FrameMeter> {
  const mode = parseInput(Mode, input, inputCodes)
  if (!mode.ok) return mode
  return mode.value.mode === 'pulse' ? pulseMeter(input) : frameMeter(input)
}
