import { type Records, unit, unmet } from '../../testing/a-unit'
import { lookRests } from '../../unit/look'
import type { StepData } from '../../unit/records'
import type { UnitView } from '../../unit/view'
import { powerCutOf, withCut } from './cut'

type Cut = NonNullable<StepData['prove']['powerCut']>
/** What is missing of the proof, its gate aside. */
const missing = (view: UnitView) => unmet(view, 'prove').filter((text) => !text.startsWith('Not confirmed'))
const cut = (more: Partial<Cut> = {}): Cut => ({
  seconds: 12,
  cameBack: 'as wanted',
  rejoinSeconds: 9,
  on: null,
  ...more,
})
const proven = (powerCut: Cut | null, onPower: 'off' | 'on' = 'off', done = false): UnitView => {
  const records = (power: 'off' | 'on'): Records => ({
    arrive: { load: 'lamp' },
    behaviour: { channels: [{ ch: 1, onPower: power, tried: true }] },
    prove: { powerCut },
  })
  const view = unit(records('off'), {}, done ? ['prove'] : [])
  return onPower === 'off'
    ? view
    : { ...view, records: { ...view.records, behaviour: unit(records('on')).records.behaviour } }
}

describe('a power cut', () => {
  test('counts for the unit as it was cut: set otherwise since, it is cut again', () => {
    const on = lookRests(proven(null), 'prove')
    expect(powerCutOf(proven(cut({ on })))).toEqual(cut({ on }))
    expect(powerCutOf(proven(cut({ on }), 'on'))).toBeNull()
    expect(missing(proven(cut({ on })))).toEqual([])
    expect(missing(proven(cut({ on }), 'on'))).toEqual(['Its power was cut before it was changed, not since.'])
  })
  test('how long it was off says nothing of how it came back', () => {
    const view = proven(null)
    const said = withCut(view, { seconds: 20 })
    expect(said).toMatchObject({ seconds: 20, cameBack: null, rejoinSeconds: null })
    expect(missing(proven(said))).toEqual(['Nobody has said how it came back.'])
  })
  test('more that is said of it stands beside what was said', () => {
    const view = proven(withCut(proven(null), { cameBack: 'as wanted' }))
    expect(withCut(view, { rejoinSeconds: 7 })).toMatchObject({ seconds: 10, cameBack: 'as wanted', rejoinSeconds: 7 })
  })
  test('of one before the change nothing is taken along', () => {
    const on = lookRests(proven(null), 'prove')
    expect(withCut(proven(cut({ on }), 'on'), { rejoinSeconds: 7 })).toMatchObject({ cameBack: null, seconds: 10 })
  })
  test('an older record, which does not say, counts until the step is stale', () => {
    expect(powerCutOf(proven(cut(), 'off', true))).not.toBeNull()
    expect(powerCutOf(proven(cut(), 'on', true))).toBeNull()
    expect(powerCutOf(proven(cut(), 'on'))).not.toBeNull()
  })
})
