import { howTo, readingOf } from '@fresh-coat/core/pads/how'
import {
  type Measure,
  measureNames,
  type PadReading,
  pullUpOhms,
  type ReadingName,
} from '@fresh-coat/core/pads/readings'
import { amount } from '@/components/paint/paint'

const volts = (v: number) => `${v.toFixed(2)} V`

const said: { [R in ReadingName]: (value: never) => string } = {
  label: () => '',
  square: () => '',
  cont_gnd: (beeps: boolean) => (beeps ? 'beeps to ground' : 'silent to ground'),
  ohms_3v3: (ohms: number | 'open') =>
    ohms === 'open' ? 'open to 3.3 V' : `${amount(ohms, ohms < 10 ? 1 : 0)} Ω to 3.3 V`,
  button_gnd: (beeps: boolean) => (beeps ? 'beeps while held' : 'silent while held'),
  volts: (v: number) => `${volts(v)} idle`,
  volts_10k: (v: number) => `${volts(v)} with 10 kΩ`,
  dip: (dips: boolean) => (dips ? 'dips at power-up' : 'steady at power-up'),
  text: (out: boolean) => (out ? 'text comes out' : 'no text'),
}

/** What was read at a pad, in a few words each. */
export function notesOf(reading: PadReading): string[] {
  const notes = (Object.keys(said) as ReadingName[]).flatMap((name) => {
    const value = reading[name]
    return value === undefined ? [] : [said[name](value as never)]
  })
  const pullUp =
    reading.volts !== undefined && reading.volts_10k !== undefined ? pullUpOhms(reading.volts, reading.volts_10k) : null
  const sags = pullUp !== null && (reading.volts_10k ?? 0) / (reading.volts || 1) < 0.95
  return [...notes, ...(sags ? [`pull-up ${amount((pullUp as number) / 1000, 1)} kΩ`] : [])].filter((n) => n !== '')
}

/** Measures of a pad that nobody has taken; those under power only where power is allowed. */
export const openMeasures = (reading: PadReading, powered: boolean): Measure[] =>
  measureNames.filter((m) => reading[readingOf(m)] === undefined && (powered || !howTo[m].powered))
