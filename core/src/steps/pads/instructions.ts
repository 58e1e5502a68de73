import { type Instruction, instruction } from '../../boot/entry'
import { howTo, measureName, readNext } from '../../pads/how'
import type { NextReading } from '../../pads/solve'
import type { UnitView } from '../../unit/view'
import { padStateOf } from './facts'
import { padCalled } from './row'

/** "Pad 3 (TX)", "Contact 9": its place, with its print where it has one. */
export const padName = (view: UnitView, index: number): string => {
  const { readings, contacts } = view.records.pads.data
  const label = readings[index]?.label
  const name = padCalled(contacts, index)
  return `${name.charAt(0).toUpperCase()}${name.slice(1)}${label ? ` (${label})` : ''}`
}

/** Where to put which probe for a reading. */
export function readingInstruction(view: UnitView, next: NextReading): Instruction {
  const how = howTo[next.measure]
  return instruction(`pad-${next.pad}-${next.measure}`, `${padName(view, next.pad)}: ${measureName(next.measure)}.`, {
    look:
      how.black === '–'
        ? `${how.setting}. Enter ${how.enter}.`
        : `Meter on ${how.setting}. Black on ${how.black}. Red on ${how.red}. Enter ${how.enter}.`,
    otherwise: how.powered
      ? '3.3 V from the bench supply or adapter only, the unit off the mains.'
      : 'Nothing powers the board while you do this.',
    caution: how.powered,
  })
}

export const instructions = (view: UnitView): Instruction[] =>
  (padStateOf(view).solution?.next ?? [])
    .map((next) => ({ ...next, measure: readNext(next.measure, view.records.pads.data.readings[next.pad] ?? {}) }))
    .filter((next, i, all) => all.findIndex((n) => n.pad === next.pad && n.measure === next.measure) === i)
    .map((next) => readingInstruction(view, next))
