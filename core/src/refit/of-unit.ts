import { type Instruction, instruction } from '../boot/entry'
import { type Finding, finding } from '../edge/finding'
import { refitContactsOf } from '../module/map'
import { readOhms } from '../pads/readings'
import { padsOf } from '../steps/pads/facts'
import { type Condition, must } from '../unit/condition'
import type { UnitView } from '../unit/view'
import type { RefitRecord } from './record'
import { judgeRefitOf, type RefitCheck, type RefitContact, type RefitJudgement, railRange, wantedOf } from './refit'

/** When a unit has to be measured before any power, on which contacts, and what the measuring says (brief 07 §2). */
export type RefitStep = 'wire' | 'close'

const putBack = new Set(['module-off', 'module-replaced'])

/** Why it is measured at this step; null where nothing was soldered or forced. */
export function refitReason(view: UnitView, step: RefitStep): string | null {
  const { wire, open, close } = view.records
  if (step === 'wire') return wire.data.held === 'solder' ? 'Leads were soldered on.' : null
  if (view.route !== null && putBack.has(view.route)) return 'The module was soldered back.'
  if (view.route === 'built') return 'The module went into its new place.'
  if (wire.data.held === 'solder') return 'Leads were soldered off again.'
  if (open.data.forced || close.data.unharmed === 'no') return 'The case was opened by force.'
  return null
}

/** The contacts as the meter finds them: the module's where one is named, else the pads in their order, two rows as two edges. */
export function refitContacts(view: UnitView): RefitContact[] {
  if (view.module) return refitContactsOf(view.module)
  const { pads, rows = 1 } = padsOf(view)
  const half = rows === 2 ? Math.ceil(pads.length / 2) : pads.length
  return pads.map((role, i) => ({ n: i + 1, role, edge: i < half ? 'left' : 'right' }))
}

/** 3V3 to GND of other good units of this board, in ohms. */
export const railsKnown = (view: UnitView): number[] =>
  (view.board?.rails ?? []).filter((r) => r.unit !== view.number).map((r) => r.ohms)

/** The judgement at a step; null where nothing is due, or nobody knows the contacts. */
export function refitOf(view: UnitView, step: RefitStep): RefitJudgement | null {
  const contacts = refitContacts(view)
  // Where nobody knows the rail, its resistance cannot be measured: that is not the same as good.
  const rail = ['GND', '3V3'].every((role) => contacts.some((c) => c.role === role))
  if (refitReason(view, step) === null || !rail) return null
  return judgeRefitOf(contacts, railsKnown(view), view.records[step].data.refit.readings)
}

const thousand = 1000

/**
 * What a reading may have meant that was typed in the other unit, kΩ for Ω or the other way round: bad as it stands, and
 * as it should be a thousand times larger or smaller. Null where that is not so.
 */
export function thousandOff(check: RefitCheck, reading: number | null): number | null {
  if (reading === null || reading === 0) return null
  const fits = (ohms: number) => {
    if (check.expected === 'open') return ohms >= check.minOhm
    if (check.expected === 'joined') return ohms <= check.maxOhm
    return ohms >= check.low && (check.high === null || ohms <= check.high)
  }
  if (fits(reading)) return null
  return [reading * thousand, reading / thousand].find(fits) ?? null
}

/** Asked before its power: what is missing or bad, as a condition of the step. */
export function refitConditions(view: UnitView, step: RefitStep): Condition[] {
  const reason = refitReason(view, step)
  if (reason === null) return []
  const judged = refitOf(view, step)
  if (!judged)
    return [
      must(
        false,
        '',
        'Nobody knows which contacts are 3V3 and GND: they cannot be measured before power.',
        'Find both at Find the pads first.',
      ),
    ]
  const against = judged.findings.find((f) => f.severity === 'error') ?? judged.findings[0]
  const left = judged.results.filter((r) => r.verdict === 'missing').length
  return [
    must(
      judged.verdict === 'go',
      'Measured before power: no bridge, every contact joined.',
      judged.verdict === 'stop'
        ? (against?.message ?? '')
        : `${reason} ${left} of ${judged.checks.length} contacts are not measured yet.`,
      judged.verdict === 'stop'
        ? (against?.next ?? '')
        : 'Measure them before any power: three minutes with the meter.',
    ),
  ]
}

/** A reading that forbids power now; null where there is none. The way to the unit's power gates is closed by it. */
export function refitStop(view: UnitView): Finding | null {
  for (const step of ['close', 'wire'] as const) {
    const judged = refitOf(view, step)
    const bad = judged?.findings.find((f) => f.severity === 'error')
    if (bad) return bad
  }
  return null
}

/** The rail as it was measured on this unit, whatever came of it; null while nobody has. */
export const railOf = (view: UnitView): number | null =>
  view.records.close.data.refit.readings.rail ?? view.records.wire.data.refit.readings.rail ?? null

/** A rail unlike that of the board's other units is evidence at Identify: of another revision, or of a fault. */
export function railFindings(view: UnitView): Finding[] {
  const rail = railOf(view)
  const { low, high } = railRange(railsKnown(view))
  if (rail === null || high === null || (rail >= low && rail <= high)) return []
  return [
    finding(
      'rail-unlike-board',
      'watch',
      `3V3 to GND shows ${rail} Ω; other units of this board show ${Math.round(low)} to ${Math.round(high)} Ω.`,
      'It may be another revision under the same name.',
      'Compare the boards before its template is trusted.',
    ),
  ]
}

/** The check in words: "3V3 to GND", "2 (GND) and 3 (TX)", "contact 3 (TX) to its pad". */
export function checkName(check: RefitCheck, contacts: readonly RefitContact[]): string {
  const name = (n: number) => {
    const role = contacts.find((c) => c.n === n)?.role ?? 'UNKNOWN'
    return role === 'UNKNOWN' ? String(n) : `${n} (${role})`
  }
  if (check.expected === 'range') return '3V3 to GND'
  return check.expected === 'open' ? `${name(check.a)} and ${name(check.b)}` : `contact ${name(check.a)} to its pad`
}

/** What a good unit teaches its board: its rail, once every check has passed. */
export const railLearned = (view: UnitView, step: RefitStep): number | null =>
  refitOf(view, step)?.verdict === 'go' ? (view.records[step].data.refit.readings.rail ?? null) : null

const prefix = 'refit-'

/** What is still to be measured, each as one thing to do: after it was mended a bad one is measured again. */
export function refitInstructions(view: UnitView, step: RefitStep): Instruction[] {
  const judged = refitOf(view, step)
  if (!judged) return []
  const contacts = refitContacts(view)
  return judged.checks
    .filter((_, i) => judged.results[i]?.verdict !== 'ok')
    .map((check) => {
      const name = checkName(check, contacts)
      return instruction(`${prefix}${check.id}`, `Measure ${name}.`, {
        look: `Due: ${wantedOf(check)}. Write it down once it stands still; “o” is over range.`,
        otherwise: 'Mend it, and measure again; nothing is powered before.',
        reading: 'ohms',
      })
    })
}

/** A reading that was typed for one of these: ohms, "o" for over range; null where it is none, or nothing was typed. */
export function refitTick(
  view: UnitView,
  step: RefitStep,
  id: string,
  done: boolean,
  typed = '',
): { refit: RefitRecord } | null {
  if (!id.startsWith(prefix)) return null
  const check = id.slice(prefix.length)
  const { refit } = view.records[step].data
  const { [check]: _, ...others } = refit.readings
  const sure = refit.sure.filter((s) => s !== check)
  if (!done) return { refit: { readings: others, sure } }
  const ohms = readOhms(typed)
  if (ohms === null || (ohms !== 'open' && ohms < 0)) return null
  return { refit: { readings: { ...others, [check]: ohms === 'open' ? null : ohms }, sure } }
}
