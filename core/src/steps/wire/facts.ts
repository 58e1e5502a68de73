import { type BootLog, readBootLog } from '../../boot/boot-log'
import { hasError } from '../../edge/finding'
import { facingRows } from '../../module/map'
import { mainsIsOff } from '../../unit/gates'
import type { UnitView } from '../../unit/view'
import { checkDivider, type DividerCheck } from '../../wiring/divider'
import { type JigPlan, planJig } from '../../wiring/jig'
import { planTwoRows, type TwoRowsPlan } from '../../wiring/two-rows'
import { type PadRole, planWiring, type WiringPlan } from '../../wiring/wiring'
import { familyOf } from '../identify/facts'
import { padsOf } from '../pads/facts'
import { regulatorFindings } from './regulator'

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
  // A module's contacts stand on its edges: they are no row.
  if (!adapter || view.module || (pads.rows ?? 1) > 1 || power === 'adapter5v') return null
  const outcome = planJig({
    adapter: adapter.pins,
    pads: pads.pads,
    pitchAdapter: adapterPitchMm,
    ...(pads.pitchMm && pads.pitchMm > 0 ? { pitchPads: pads.pitchMm } : {}),
    padsSeenFrom: 'top',
    plugFace,
    labelledFrom: adapter.labelledFrom,
    power: power === 'regulator' ? 'bench' : power,
  })
  return outcome.ok ? outcome.value : null
}

export interface TwoRows {
  plan: TwoRowsPlan
  /** Both rows as seen from the face that the plug goes on to. */
  rows: readonly [readonly PadRole[], readonly PadRole[]]
}

/** The two rows as the plug meets them, of the module's edges where one is named, both as long as the longer; null where there are not two. */
export function rowsOf(view: UnitView): TwoRows['rows'] | null {
  const { pads, rows = 1 } = padsOf(view)
  const facing = view.module && facingRows(view.module)
  if (!facing && (rows !== 2 || pads.length < 2)) return null
  const half = Math.ceil(pads.length / 2)
  const [upper, lower] = facing ?? [pads.slice(0, half), pads.slice(half)]
  const length = Math.max(upper.length, lower.length)
  const filled = (row: readonly PadRole[]) => [...row, ...Array(length - row.length).fill('UNKNOWN')] as PadRole[]
  const seen = [filled(upper), filled(lower)] as const
  return view.records.wire.data.plugFace === 'top' ? seen : [[...seen[0]].reverse(), [...seen[1]].reverse()]
}

/** Plug or jig for two rows; null where they are not two, nobody knows how far apart they are, or a role is missing. */
export function twoRowsOf(view: UnitView): TwoRows | null {
  const { power } = view.records.wire.data
  const rows = rowsOf(view)
  const gap = padsOf(view).rowGap ?? null
  if (!view.adapter || rows === null || gap === null || power === 'adapter5v') return null
  const needed: PadRole[] = ['GND', 'TX', 'RX', ...(power === 'adapter3v3' ? (['3V3'] as const) : [])]
  const outcome = planTwoRows({ adapter: view.adapter, rows, gap, needed })
  return outcome.ok ? { plan: outcome.value, rows } : null
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

/** The plan of the leads; one's own regulator counts as a bench supply at 3.3 V, and is judged by its own figures. */
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
    power: power === 'regulator' ? 'bench' : power,
    benchV: power === 'regulator' ? 3.3 : benchV,
    entry: way,
    mainsOff: mainsIsOff(view),
  })
  if (!outcome.ok) return null
  const findings = [...outcome.value.findings, ...regulatorFindings(view)]
  return { ...outcome.value, findings, allowed: !hasError(findings) }
}
