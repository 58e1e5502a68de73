import { z } from 'zod'
import { refuse } from '../edge/fault'
import table from './measures.json'

/** What people read at a pad with a multimeter and their eyes, and how a raw reading is coded for the table. */

export const measureNames = [
  'cont_gnd',
  'ohms_3v3',
  'button_gnd',
  'square',
  'label',
  'volts',
  'dip',
  'sag_10k',
  'text',
] as const
export type Measure = (typeof measureNames)[number]

export interface MeasureRow {
  measure: Measure
  minutes: number
  /** Made with 3.3 V on the board, from a bench supply or adapter; never on mains. */
  powered: boolean
  /** Code of the reading → likelihood per role, in role order. */
  values: Record<string, number[]>
}

/** The measures in table order. */
export const measures = table.measures as unknown as readonly MeasureRow[]
export const measureOf = (name: Measure): MeasureRow => measures[measureNames.indexOf(name)] as MeasureRow

/** Fields of a pad as people enter them; `volts_10k` is read as a sag, so it has another name than its measure. */
export const readingNames = [
  'cont_gnd',
  'ohms_3v3',
  'button_gnd',
  'square',
  'label',
  'volts',
  'volts_10k',
  'dip',
  'text',
] as const
export type ReadingName = (typeof readingNames)[number]

/** Above this nothing on the 3.3 V part of a board may be: the reading is refused, and the person is told to stop. */
export const stopVolts = 6
export const stopSentence = `Above ${stopVolts} V: switch off, this is not a 3.3 V part of the board.`

const volts = z.unknown().superRefine((v, context) => {
  if (typeof v !== 'number' || !Number.isFinite(v)) refuse(context, 'range', [], 'A voltage must be a number of volts.')
  else if (v < 0)
    refuse(context, 'range', [], `${v} V: stop, the probes are the wrong way round or this is no ground. At least 0 V.`)
  else if (v > stopVolts) refuse(context, 'range', [], stopSentence)
})
const ohms = z.unknown().superRefine((v, context) => {
  if (v === 'open') return
  if (typeof v !== 'number' || !Number.isFinite(v) || v < 0)
    refuse(context, 'range', [], 'A resistance must be a number of ohms of 0 or more, or "open".')
})

/** The readings of one pad. What is absent was not looked at. */
export const PadReadings = z
  .looseObject({
    name: z.string().max(40).optional(),
    cont_gnd: z.boolean().optional(),
    ohms_3v3: ohms.optional(),
    button_gnd: z.boolean().optional(),
    square: z.boolean().optional(),
    label: z.string().max(40).optional(),
    volts: volts.optional(),
    volts_10k: volts.optional(),
    dip: z.boolean().optional(),
    text: z.boolean().optional(),
  })
  .superRefine((pad, context) => {
    for (const key of Object.keys(pad))
      if (key !== 'name' && !(readingNames as readonly string[]).includes(key))
        refuse(context, 'unknown-measure', [key], `There is no measure called "${key}": ${readingNames.join(', ')}.`)
    if (pad.volts_10k !== undefined && pad.volts === undefined)
      refuse(context, 'missing', ['volts'], 'The voltage under load needs the voltage without load beside it.')
  })
export interface PadReading {
  name?: string
  cont_gnd?: boolean
  ohms_3v3?: number | 'open'
  button_gnd?: boolean
  square?: boolean
  label?: string
  volts?: number
  volts_10k?: number
  dip?: boolean
  text?: boolean
}

const labelWords: Record<string, string> = {}
for (const [code, words] of Object.entries({
  G: 'G GND 0V',
  V: 'V VCC VDD 3V3 33V 3V',
  T: 'T TX TXD TX0 TXD0 TX1 TXD1 U0TXD',
  R: 'R RX RXD RX0 RXD0 RX1 RXD1 U0RXD',
  B: 'B BOOT IO0 GPIO0 0 IO9 GPIO9',
  E: 'E EN RST RESET CEN CHPD',
  '5': '5V VIN VUSB',
}))
  for (const word of words.split(' ')) labelWords[word] = code

/** Code of a printed label; "none" for text that says nothing, or for no print at all. */
export const labelCode = (text: string): string => labelWords[text.toUpperCase().replaceAll(/[^A-Z0-9]/g, '')] ?? 'none'

function ohmsCode(ohms: number | 'open'): string {
  if (ohms === 'open' || ohms > 60000) return 'high'
  if (ohms < 2) return 'same'
  return ohms < 2000 ? 'low' : 'pull'
}

function voltsCode(v: number): string {
  if (v <= 0.3) return 'zero'
  if (v < 2.4) return 'mid'
  if (v < 3.15) return 'high'
  return v <= 3.5 ? 'rail' : 'over'
}

/** How far the pad sags under 10 kΩ to ground. */
function sagCode(v: number, loaded: number): string {
  if (v < 0.5) return 'na'
  const r = loaded / v
  if (r >= 0.95) return 'stiff'
  return r >= 0.3 ? 'half' : 'weak'
}

/** R of the pull-up behind a pad from its sag under 10 kΩ: R = 10 kΩ·(V/V_loaded − 1); null where it cannot be told. */
export function pullUpOhms(v: number, loaded: number): number | null {
  return loaded > 0 && v >= loaded ? 10_000 * (v / loaded - 1) : null
}

const yesNo = (x: boolean) => (x ? 'yes' : 'no')

/** The readings of a pad as codes of the table, in table order. */
export function codedReadings(pad: PadReading): [Measure, string][] {
  const coded: [Measure, string | undefined][] = [
    ['cont_gnd', pad.cont_gnd === undefined ? undefined : yesNo(pad.cont_gnd)],
    ['ohms_3v3', pad.ohms_3v3 === undefined ? undefined : ohmsCode(pad.ohms_3v3)],
    ['button_gnd', pad.button_gnd === undefined ? undefined : yesNo(pad.button_gnd)],
    ['square', pad.square === undefined ? undefined : yesNo(pad.square)],
    ['label', pad.label === undefined ? undefined : labelCode(pad.label)],
    ['volts', pad.volts === undefined ? undefined : voltsCode(pad.volts)],
    ['dip', pad.dip === undefined ? undefined : yesNo(pad.dip)],
    ['sag_10k', pad.volts_10k === undefined || pad.volts === undefined ? undefined : sagCode(pad.volts, pad.volts_10k)],
    ['text', pad.text === undefined ? undefined : yesNo(pad.text)],
  ]
  return coded.filter((entry): entry is [Measure, string] => entry[1] !== undefined)
}

/** Reads ohms as people type them: "0,4", "10k", "4k7", "1.2M", "o" or "open"; null when it is none. */
export function readOhms(text: string): number | 'open' | null {
  const plain = text
    .trim()
    .replaceAll(/[\s\u2009\u00a0Ω]/g, '')
    .replace(',', '.')
  if (/^(o|ol|open|inf|∞)$/i.test(plain)) return 'open'
  const infix = /^(\d+)([kKmM])(\d+)$/.exec(plain)
  if (infix) return Number(`${infix[1]}.${infix[3]}`) * (/k/i.test(infix[2] as string) ? 1e3 : 1e6)
  const found = /^([+-]?(?:\d+\.?\d*|\.\d+))([kKmM]?)$/.exec(plain)
  if (!found) return null
  return Number(found[1]) * (found[2] === '' ? 1 : /k/i.test(found[2] as string) ? 1e3 : 1e6)
}

/** Reads volts: "3,27", "580m", or "f" for a pad that floats: a meter of 10 MΩ pulls it to about 0 V. Null when it is none. */
export function readVolts(text: string): number | null {
  const plain = text
    .trim()
    .replaceAll(/[\s\u2009\u00a0Vv]/g, '')
    .replace(',', '.')
  if (/^f(loats?)?$/i.test(plain)) return 0
  const found = /^([+-]?(?:\d+\.?\d*|\.\d+))(m?)$/.exec(plain)
  return found ? Number(found[1]) / (found[2] === 'm' ? 1000 : 1) : null
}
