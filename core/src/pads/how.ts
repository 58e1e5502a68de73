import { within } from '../edge/within'
import type { Measure, PadReading, ReadingName } from './readings'

/** How each reading is taken with a multimeter in one hand: setting, probes, what to write down. */

export interface HowTo {
  title: string
  setting: string
  black: string
  red: string
  /** What to enter. */
  enter: string
  powered: boolean
}

/** What a measure is called within a sentence. */
export const measureName = (measure: Measure): string => within(howTo[measure].title)

/** What is read next for a measure at a pad: a sag is known from two readings, and the idle one comes first. */
export const readNext = (measure: Measure, reading: PadReading): Measure =>
  measure === 'sag_10k' && reading.volts === undefined ? 'volts' : measure

export const howTo: Record<Measure, HowTo> = {
  cont_gnd: {
    title: 'Beeps to ground',
    setting: 'continuity',
    black:
      'a sure ground: shield can, USB shell, antenna ground, or the minus of a low-voltage capacitor (6 to 25 V, never the 400 V one)',
    red: 'the pad',
    enter: 'beeps or silent',
    powered: false,
  },
  ohms_3v3: {
    title: 'Ohms to 3.3 V',
    setting: 'ohms, 200 kΩ range or auto',
    black: 'a sure 3.3 V point: regulator output, or the supply pin of the flash chip',
    red: 'the pad',
    enter: 'the ohms, or open',
    powered: false,
  },
  button_gnd: {
    title: 'Beeps while the button is held',
    setting: 'continuity',
    black: 'a sure ground',
    red: 'the pad, first with the button free, then held',
    enter: 'yes when it beeps only while held',
    powered: false,
  },
  square: {
    title: 'Square pad',
    setting: 'eyes only',
    black: '–',
    red: '–',
    enter: 'yes when this pad is square and the others are round',
    powered: false,
  },
  label: {
    title: 'Print beside it',
    setting: 'eyes only',
    black: '–',
    red: '–',
    enter: 'what is printed, as it is printed; empty when there is nothing',
    powered: false,
  },
  volts: {
    title: 'Volts, idle',
    setting: 'DC volts, 20 V range',
    black: 'GND of the row',
    red: 'the pad',
    enter: 'the volts as shown; floats when it drifts towards 0',
    powered: true,
  },
  dip: {
    title: 'Dips at power-up',
    setting: 'DC volts, fastest reading, or a bar graph',
    black: 'GND of the row',
    red: 'the pad, through a power-up',
    enter: 'yes when the average drops for a moment: text is going out',
    powered: true,
  },
  sag_10k: {
    title: 'Volts with 10 kΩ to ground',
    setting: 'DC volts, 20 V range',
    black: 'GND of the row',
    red: 'the pad, with 10 kΩ from it to GND',
    enter: 'the volts under this load',
    powered: true,
  },
  text: {
    title: 'Text comes out',
    setting: 'adapter that only listens: its RX and GND, nothing else',
    black: 'adapter GND to GND',
    red: 'adapter RX to the pad, through a reset',
    enter: 'yes when text appears at the family’s rate',
    powered: true,
  },
}

/** The reading a person enters for a measure. */
export const readingOf = (measure: Measure): ReadingName => (measure === 'sag_10k' ? 'volts_10k' : measure)
