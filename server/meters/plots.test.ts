import type { Db } from '../db/client'
import { freshDatabase, runner } from '../db/testing'
import { viewByNumber } from '../units/load'
import { calibrationPlots } from './reads'
import { calibration } from './schema'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)
let number = 900
const arrive = async () => (await run('create-unit', { number: ++number, name: `Unit ${number}` })).id as string
const kept = (unitId: string, at: string, input: unknown, result: unknown) =>
  db.insert(calibration).values({ unitId, at: new Date(at), input, result })

test('of each unit the newest calibration, its points with what they said before and after; verify among them', async () => {
  const unitId = await arrive()
  const point = (id: string, reference: number, role = 'fit') => ({ id, indicated: reference * 0.96, reference, role })
  await kept(
    unitId,
    '2026-01-01T00:00:00Z',
    { points: [point('old', 50)] },
    { points: [{ id: 'old', errBeforePct: -9 }] },
  )
  await kept(
    unitId,
    '2026-05-12T00:00:00Z',
    { points: [point('p1', 60), point('v1', 700, 'verify'), point('gone', 5)] },
    {
      points: [{ id: 'p1', errBeforePct: -4, errAfterPct: 0.1 }],
      verify: [{ id: 'v1', errBeforePct: -4.1, errAfterPct: null }],
    },
  )
  expect(await calibrationPlots(db, [unitId])).toEqual([
    {
      unitId,
      points: [
        { x: 60, before: -4, after: 0.1, verify: false },
        { x: 700, before: -4.1, after: null, verify: true },
      ],
    },
  ])
})

test('where an offset was fitted, the gain that a unit without one was told is worked out from what was stored', async () => {
  const unitId = await arrive()
  const pairs = [
    [58.1, 60.2],
    [115.9, 120.4],
    [481, 500.9],
    [961.8, 1001.2],
    [1844.6, 1921],
    [58, 60.1],
  ]
  const points = pairs.map(([indicated, reference], i) => ({ id: `p${i}`, indicated, reference, role: 'fit' }))
  const input = {
    quantity: 'P',
    reference: { gainPct: 0.5, digits: 2, resolution: 0.1 },
    indicatedResolution: 0.1,
    points,
  }
  await kept(unitId, '2026-05-12T00:00:00Z', input, { model: 'gainOffset', gain: 1.04161, offset: -0.315 })
  await kept(unitId, '2026-05-11T00:00:00Z', input, { model: 'gain', gain: 1.02, offset: 0 })
  const [newest, older] = (await viewByNumber(db, number))?.calibrations ?? []
  expect(newest).toMatchObject({ quantity: 'P', gain: 1.04161 })
  expect(newest?.plainGain).toBeCloseTo(1.04, 5)
  expect(older?.plainGain).toBe(1.02)
})

test('one that an older version stored in another form has no points, and breaks nothing; no units are no question', async () => {
  const unitId = await arrive()
  await kept(unitId, '2026-05-12T00:00:00Z', { points: 'none' }, { gain: 1 })
  expect(await calibrationPlots(db, [unitId])).toEqual([{ unitId, points: [] }])
  expect(await calibrationPlots(db, [])).toEqual([])
})
