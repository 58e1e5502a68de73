import type { Finding } from '../../edge/finding'
import { closingFindings } from '../../open/opening'
import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'

/** What keeps the case from being closed. */
export const closeFindings = (view: UnitView): Finding[] =>
  closingFindings(view.records.open.data.fasteners, view.records.open.data.parts, view.records.close.data, view.now)

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const findings = closeFindings(view)
  return findings.length === 0
    ? [must(true, 'Parts left over: 0.', '', '')]
    : findings.map((f) => must(false, '', f.message, f.next))
}
