import { type BootLog, readBootLog } from '../../boot/boot-log'
import { mainsIsOff } from '../../unit/gates'
import type { UnitView } from '../../unit/view'
import { checkDivider, type DividerCheck } from '../../wiring/divider'
import { type JigPlan, planJig } from '../../wiring/jig'
import { planWiring, type WiringPlan } from '../../wiring/wiring'
import { familyOf } from '../identify/facts'
import { padsOf } from '../pads/facts'

/** The divider in front of RX at the rate that was chosen for writing; null when none is fitted or none is needed. */
export function dividerOf(view: UnitView): DividerCheck | null {
  const { divider } = view.records.wire.data
  if (!divider || !view.adapter) return null
  return checkDivider(view.adapter.logicV, divider.rTop, divider.rBottom, view.records.check.data.baud)
}

/** Straight plug or jig for the chosen adapter; null when the row is not known, not one row, or lacks what is needed. */
export function jigOf(view: UnitView): JigPlan | null {
  const pads = padsOf(view)
  const { adapter } = view
  const { plugFace, power, adapterPitchMm } = view.records.wire.data
  if (!adapter || (pads.rows ?? 1) > 1 || power === 'adapter5v') return null
  const outcome = planJig({
    adapter: adapter.pins,
    pads: pads.pads,
    pitchAdapter: adapterPitchMm,
    ...(pads.pitchMm && pads.pitchMm > 0 ? { pitchPads: pads.pitchMm } : {}),
    padsSeenFrom: 'top',
    plugFace,
    labelledFrom: adapter.labelledFrom,
    power,
  })
  return outcome.ok ? outcome.value : null
}

/** What the tool's RX saw through the reset: pasted text, or bytes saved by a console. */
export function entryLogOf(view: UnitView): BootLog | null {
  const { log, logHex, logBaud } = view.records.wire.data
  if (log.trim() === '' && logHex.trim() === '') return view.boots?.wire ?? null
  const outcome = readBootLog(
    logHex.trim() === ''
      ? { text: log, ...(logBaud ? { baud: logBaud } : {}) }
      : { bytesHex: logHex, ...(logBaud ? { baud: logBaud } : {}) },
  )
  return outcome.ok ? outcome.value : null
}

export function wiringOf(view: UnitView): WiringPlan | null {
  const { power, benchV, entry } = view.records.wire.data
  const family = familyOf(view)?.family
  const pads = padsOf(view)
  const way = entry ?? view.board?.entry ?? null
  if (!view.adapter || !family || way === null) return null
  const outcome = planWiring({
    // The level that reaches the board's RX: after the divider, where one is fitted.
    adapter: { ...view.adapter, logicV: dividerOf(view)?.vout ?? view.adapter.logicV },
    board: {
      family,
      pads: pads.pads,
      pitchMm: pads.pitchMm && pads.pitchMm > 0 ? pads.pitchMm : null,
      regulator5v: pads.regulator5v,
    },
    power,
    benchV,
    entry: way,
    mainsOff: mainsIsOff(view),
  })
  return outcome.ok ? outcome.value : null
}
