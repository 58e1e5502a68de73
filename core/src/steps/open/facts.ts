import { dischargeOf, type Isolation, judgeIsolation } from '../../open/isolation'
import type { UnitView } from '../../unit/view'

export const isolationOf = (view: UnitView): Isolation =>
  judgeIsolation({ ...(view.board?.isolation ?? {}), ...view.records.open.data.isolation })

/** Seconds to wait before touching an opened mains unit. */
export function dischargeWait(view: UnitView): number {
  const { capacitorUf, bleederOhms } = view.records.open.data
  const known = view.board?.capacitor
  const result = dischargeOf(
    capacitorUf ?? known?.microfarads ?? 10,
    capacitorUf === null ? (known?.ohms ?? null) : bleederOhms,
    view.mainsVolts,
  )
  return 'waitSeconds' in result ? result.waitSeconds : 300
}
