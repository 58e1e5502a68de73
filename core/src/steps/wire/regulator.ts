import { type Finding, finding } from '../../edge/finding'
import { factsOf, isKnownFamily } from '../../families/families'
import { checkRegulator, type RegulatorCheck } from '../../load/regulator'
import type { UnitView } from '../../unit/view'
import { familyOf } from '../identify/facts'

/** Volts of an adapter's 5 V pin, and of the rail. */
const adapterV = 5
const railV = 3.3
/** A bench in summer; a plug's inside is no place for a regulator of one's own. */
const benchC = 35
/** Share of the time in which the radio is at its peak, as the wiring plan takes it. */
const radioDuty = 0.1

/** Is the regulator good for this family, with the family's figures? Null where it is not the supply, or its figures are not said. */
export function regulatorOf(view: UnitView): RegulatorCheck | null {
  const { power, regulator } = view.records.wire.data
  const family = familyOf(view)?.family
  if (power !== 'regulator' || !regulator || !isKnownFamily(family)) return null
  const { baseMa, peakMa } = factsOf(family)
  const outcome = checkRegulator({
    ...regulator,
    vin: adapterV,
    vout: railV,
    ambientC: benchC,
    loads: [{ id: 'module', avgMA: baseMa + radioDuty * (peakMa - baseMa), peakMA: peakMa }],
  })
  return outcome.ok ? outcome.value : null
}

/** What speaks against it; figures nobody gave are no good figures. */
export function regulatorFindings(view: UnitView): Finding[] {
  const { power, regulator } = view.records.wire.data
  if (power !== 'regulator') return []
  const adapterHas5v = view.adapter === null || view.adapter.pins.includes('5V')
  return [
    ...(adapterHas5v
      ? []
      : [
          finding(
            'pin-missing-5V',
            'error',
            'The adapter has no 5V pin.',
            'The regulator is fed from it.',
            'Choose another adapter, or another supply.',
          ),
        ]),
    ...(regulator === null
      ? [
          finding(
            'regulator-unknown',
            'error',
            'Nobody has said what the regulator can do.',
            'Drop-out, most current and heat decide whether it holds through a burst of the radio.',
            'Enter the three figures of its data sheet.',
          ),
        ]
      : (regulatorOf(view)?.findings ?? [])),
  ]
}
