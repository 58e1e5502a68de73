import { ModuleMap } from '@fresh-coat/core/module/map'
import { z } from 'zod'

/** Kit as people enter it; the same schemas read what is stored. */

export const AdapterMeasured = z.object({
  latencyMs: z.number().min(0).max(60_000).nullable(),
  bestRate: z.number().int().min(300).max(4_000_000).nullable(),
  family: z.string().max(20),
  on: z.iso.date(),
})
const AdapterData = z.object({
  pins: z.array(z.string().trim().min(1).max(12)).min(1).max(20),
  logicV: z.number().min(1).max(24),
  max3v3Ma: z.number().positive().max(10_000).nullable(),
  labelledFrom: z.enum(['adapter', 'target']),
  /** What its line was worth when it was measured last. */
  measured: AdapterMeasured.nullish(),
})
const InstrumentData = z.object({
  gainPct: z.number().min(0).max(50),
  digits: z.number().min(0).max(1000),
  resolution: z.number().min(0).max(1000),
  /** When it was checked itself, and against what. */
  checks: z
    .array(z.object({ on: z.iso.date(), note: z.string().max(120).default('') }))
    .max(40)
    .default([]),
  everyMonths: z.number().int().min(1).max(120).nullable().default(null),
})
const LoadData = z.object({
  watts: z.number().positive().max(100_000),
  kind: z.enum(['resistive', 'charger', 'motor', 'other']),
  /** Measured cold, and when. */
  ohms: z.number().positive().max(1e6).nullable().default(null),
  checkedOn: z.iso.date().nullable().default(null),
})
/** A person's own line for a tool of theirs; none ships. Its words in braces are filled in at Write. */
const LineData = z.object({ text: z.string().trim().min(1).max(2000) })
export const kitSchemas = {
  adapter: AdapterData,
  instrument: InstrumentData,
  load: LoadData,
  line: LineData,
  module: ModuleMap,
}
export type KitKind = keyof typeof kitSchemas

/** Reads what any version stored, field by field: what does not fit is as if nobody had said it. */
const reader =
  <S extends z.ZodObject>(schema: S, unsaid: z.output<S>) =>
  (data: unknown): z.output<S> => {
    const whole = schema.safeParse(data)
    if (whole.success) return whole.data
    const given = (typeof data === 'object' && data !== null ? data : {}) as Record<string, unknown>
    return Object.fromEntries(
      Object.entries(schema.shape).map(([key, field]) => {
        const read = (field as z.ZodType).safeParse(given[key])
        return [key, read.success ? read.data : (unsaid as Record<string, unknown>)[key]]
      }),
    ) as z.output<S>
  }

export const adapterData = reader(AdapterData, {
  pins: ['?'],
  logicV: 5,
  max3v3Ma: null,
  labelledFrom: 'adapter',
  measured: null,
})
export const instrumentData = reader(InstrumentData, {
  gainPct: 0,
  digits: 0,
  resolution: 0,
  checks: [],
  everyMonths: null,
})
export const loadData = reader(LoadData, { watts: 1, kind: 'other', ohms: null, checkedOn: null })
/** A contact map is read whole or not at all: half of one would name contacts that are others. */
export const moduleData = (data: unknown): ModuleMap | null => {
  const parsed = ModuleMap.safeParse(data)
  return parsed.success ? parsed.data : null
}
export const lineData = reader(LineData, { text: '' })
