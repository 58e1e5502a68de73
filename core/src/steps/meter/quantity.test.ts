import fc from 'fast-check'
import { aCalibration } from '../../testing/a-calibration'
import { unit } from '../../testing/a-unit'
import { emptyRecord, type StepData } from '../../unit/records'
import { stateOf } from '../../unit/state'
import { conditionsOf, lastingConditions } from '../../unit/steps'
import {
  calibrateAgain,
  calibrationDue,
  newestCalibrations,
  type Quantity,
  savedFrom,
  takenKey,
  toQuantity,
} from './quantity'

const quantity = fc.constantFrom<Quantity>('P', 'I', 'V')
const put = (data: StepData['meter'], to: Quantity): StepData['meter'] => ({ ...data, ...toQuantity(data, to) })

test('whatever is taken of which quantity, each keeps its own, and nothing is lost on the way', () =>
  fc.assert(
    fc.property(
      fc.array(fc.record({ to: quantity, shown: fc.integer({ min: 1, max: 900 }) }), { maxLength: 12 }),
      (acts) => {
        const taken: Record<Quantity, number[]> = { P: [], I: [], V: [] }
        let data = emptyRecord('meter')
        for (const { to, shown } of acts) {
          data = put(data, to)
          taken[to].push(shown)
          data = {
            ...data,
            zeros: [...data.zeros, shown],
            points: [...data.points, { id: `p${data.points.length}`, indicated: shown, reference: shown, role: 'fit' }],
          }
        }
        for (const q of ['P', 'I', 'V'] as const) {
          data = put(data, q)
          expect(data.points.map((p) => p.indicated)).toEqual(taken[q])
          expect(data.zeros).toEqual(taken[q])
        }
      },
    ),
  ))

test('a quantity begins with steps and limits of its own, and finds those again that a person set', () => {
  const watts = { ...emptyRecord('meter'), limitPct: 1, factor: 1.2 }
  const amps = put(watts, 'I')
  expect([amps.indicatedResolution, amps.limitAbs, amps.factor]).toEqual([0.001, 0.01, null])
  expect(put(amps, 'P')).toMatchObject({ quantity: 'P', limitPct: 1, factor: 1.2 })
  expect(toQuantity(watts, 'P')).toEqual({})
})

describe('what lies on the bench', () => {
  const points = [
    { id: 'p1', indicated: 57.6, reference: 60, role: 'fit' as const },
    { id: 'p2', indicated: 960, reference: 1000, role: 'verify' as const },
  ]
  const bench = { ...emptyRecord('meter'), points, zeros: [0.1], factor: 1.2, warm: true }
  const made = aCalibration({ taken: takenKey(bench) })
  test('is that of the newest calibration while nothing was changed since, by whatever name its points go', () => {
    expect(savedFrom({ calibrations: [made] }, bench)).toBe(made)
    const renamed = { ...bench, points: points.map((p) => ({ ...p, id: `x${p.id}` })) }
    expect(savedFrom({ calibrations: [made] }, renamed)).toBe(made)
  })
  test('is no saved one once a point moves, is kept out, or a zero is taken; nor of another quantity or an older one', () => {
    const [first, second] = points as [(typeof points)[0], (typeof points)[1]]
    for (const other of [
      { ...bench, points: [{ ...first, indicated: 57.7 }, second] },
      { ...bench, points: [{ ...first, role: 'verify' as const }, second] },
      { ...bench, points: [first] },
      { ...bench, zeros: [0.1, 0.1] },
      { ...bench, quantity: 'I' as const },
    ])
      expect(savedFrom({ calibrations: [made] }, other)).toBeNull()
    const newer = aCalibration({ id: 'n', taken: takenKey({ points: [], zeros: [] }) })
    expect(savedFrom({ calibrations: [newer, made] }, bench)).toBeNull()
    expect(savedFrom({ calibrations: [newer] }, { ...bench, points: [], zeros: [] })).toBeNull()
  })
  test('begins empty for another calibration, with its steps and limits as they were; the factor is looked up anew', () => {
    expect({ ...bench, ...calibrateAgain() }).toMatchObject({
      points: [],
      zeros: [],
      factor: null,
      warm: false,
      limitPct: bench.limitPct,
      instrumentId: bench.instrumentId,
    })
  })
})

describe('calibrations of several quantities', () => {
  const power = aCalibration({ id: 'p', at: '2026-05-12T10:00:00Z', due: '2027-05-12' })
  const before = aCalibration({ id: 'p0', at: '2025-05-12T10:00:00Z', due: '2026-05-12', passed: false })
  const current = aCalibration({ id: 'i', quantity: 'I', at: '2026-05-01T10:00:00Z', due: '2026-11-01' })
  const view = unit({}, { calibrations: [power, current, before] })
  test('the newest of each holds, and the first that falls due is the one that is asked for', () => {
    expect(newestCalibrations(view).map((c) => c.id)).toEqual(['p', 'i'])
    expect([calibrationDue(view), stateOf(view).due]).toEqual(['2026-11-01', '2026-11-01'])
    expect(calibrationDue({ calibrations: [] })).toBeNull()
  })
  test('one that is outside its limits keeps the step open, and is named', () => {
    const bad = unit({}, { calibrations: [power, { ...current, passed: false, due: null }] })
    expect(
      conditionsOf(bad, 'meter')
        .filter((c) => !c.met)
        .map((c) => c.text),
    ).toContain('The verify point of current is outside the limits.')
  })
})

test('while an older calibration holds, one that was begun is saved before the step is done; what is done stays done', () => {
  const bench = {
    ...emptyRecord('meter'),
    points: [{ id: 'p1', indicated: 57.6, reference: 60, role: 'fit' as const }],
  }
  const open = (taken: string) =>
    conditionsOf(unit({ meter: bench }, { calibrations: [aCalibration({ taken })] }), 'meter')
      .filter((c) => !c.met && c.text.startsWith('What was taken'))
      .map((c) => c.text)
  expect(open(takenKey(bench))).toEqual([])
  expect(open(takenKey({ points: [], zeros: [] }))).toEqual(['What was taken since the last calibration is not saved.'])
  const lasting = lastingConditions(unit({ meter: bench }, { calibrations: [aCalibration({ taken: '' })] }), 'meter')
  expect(lasting.every((c) => c.met)).toBe(true)
})
