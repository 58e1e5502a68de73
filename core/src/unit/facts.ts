import { isIdle } from '../pins/template'
import { flashBytesOf } from '../steps/backup/facts'
import { familyOf } from '../steps/identify/facts'
import { padsOf } from '../steps/pads/facts'
import { templateOf } from '../steps/pins/facts'
import { firmwareOf, lastWrite } from '../steps/write/facts'
import type { UnitView } from './view'
import type { FactId } from './way'

/** Facts as short texts, so that a step can remember what it rested on. */
export function factsOfUnit(view: UnitView): Record<FactId, string> {
  const pads = padsOf(view)
  const template = templateOf(view)
  return {
    // Which one, not what it is called: a board may be renamed.
    board: view.board?.id ?? '',
    family: familyOf(view)?.family ?? '',
    flashBytes: String(flashBytesOf(view) ?? ''),
    pads: pads.pads.length ? `${pads.pads.join(' ')}${pads.pitchMm ? ` at ${pads.pitchMm} mm` : ''}` : '',
    adapter: view.adapter?.name ?? '',
    image: view.image?.sha256.slice(0, 12) ?? '',
    written: lastWrite(view)?.sha256.slice(0, 12) ?? '',
    firmware: firmwareOf(view),
    template: template
      ? template.pins
          .filter((p) => !isIdle(p.fn))
          .map((p) => `${p.pin} ${p.fn}${p.ch ?? ''}${p.active ?? ''}`)
          .join(', ')
      : '',
    address: view.records.join.data.address,
    topic: view.topic ?? '',
    powerOn: view.records.behaviour.data.channels.map((c) => `${c.ch} ${c.onPower}`).join(', '),
    hub: view.records.hub.data.hubId ?? '',
    label: [view.number, view.name, view.place].join(' · '),
    // Which ones were told, not what they are.
    secrets: [view.records.join.data.brokerSecret, view.records.hub.data.local?.keySecret ?? ''].join(' ').trim(),
  }
}
