import { board, dump, lx106, unit } from '../../testing/a-unit'
import { assess } from '../../unit/assess'
import { factsOfUnit } from '../../unit/facts'
import type { UnitView } from '../../unit/view'
import type { StepId } from '../../unit/way'
import { nextDue, proofsOf } from './proven'

const proofs = (view: UnitView) => proofsOf(view, assess(view).steps)
const of = (view: UnitView, step: string) => proofs(view).find((p) => p.step === step)

test('of a unit that nobody has begun everything is open, and nothing is said of it', () => {
  const all = proofs(unit())
  expect(all.length).toBeGreaterThan(5)
  expect(all.every((p) => p.standing === 'open' && p.what === '' && p.day === null)).toBe(true)
})

test('a step that was never done proves nothing, whatever was written down', () =>
  expect(of(unit({ join: { address: '192.168.71.27' } }), 'join')).toMatchObject({
    standing: 'open',
    what: '',
    day: null,
  }))

test('a done step says what, and on which day', () => {
  const view = unit({ identify: lx106 as never }, {}, ['identify'])
  expect(of(view, 'identify')).toMatchObject({ standing: 'proven', what: 'LX106', day: '2026-11-20' })
})

test('what changed since then is said in its place, and it no longer counts as proven', () => {
  const view = unit({ identify: lx106 as never }, {}, ['identify'])
  view.records.identify.data.evidence = []
  const proof = of(view, 'identify')
  expect(proof?.standing).toBe('stale')
  expect(proof?.what).toBe(assess(view).steps.find((s) => s.id === 'identify')?.because)
  expect(proof?.what).not.toBe('')
})

test('what a person decided is told from what was proven', () => {
  const view = unit({ identify: lx106 as never }, {}, ['identify'])
  view.records.identify.done = { ...(view.records.identify.done as never as object), how: 'decided' } as never
  expect(of(view, 'identify')?.standing).toBe('decided')
})

test('two equal reads and one read are told apart', () => {
  const bytes = new Uint8Array(1024 * 1024).map((_, i) => (i * 7) & 0xff)
  const files = (...reads: (1 | 2)[]) => reads.map((r) => dump(bytes, r))
  const backed = (view: UnitView) => {
    view.records.backup.done = { at: '2026-11-20T10:00:00Z', by: 'bench', how: 'done', basis: {} } as never
    return proofsOf(view, [{ id: 'backup', state: 'done' } as never])[0]?.what
  }
  expect(backed(unit({}, { files: files(1) }))).toBe('read once')
  expect(backed(unit({}))).toBe('no backup')
  expect(backed(unit({ backup: { skip: { reason: 'blank', at: '2026-11-20' } } as never }))).toMatch(
    /^no backup, with a reason/,
  )
})

test('a step that is not on the route is no part of it', () =>
  expect(proofsOf(unit(), [{ id: 'meter', state: 'skipped' } as never])).toEqual([]))

test('nothing dated is due; a calibration is, on its day', () => {
  expect(nextDue(unit())).toBeNull()
  expect(nextDue(unit({}, { calibrations: [{ due: '2027-05-12' }] as never }))).toEqual({
    what: 'Check the meter again',
    day: '2027-05-12',
    step: 'meter',
  })
})

describe('what each step proved, in words', () => {
  const said = (view: UnitView, step: StepId) => proofsOf(view, [{ id: step, state: 'done' } as never])[0]?.what
  const calibration = {
    id: 'c',
    at: '2026-11-01T10:00:00Z',
    quantity: 'P',
    model: 'gain',
    gain: 1.04161,
    offset: 0,
  } as never
  const standing = (direction: string) =>
    ({
      id: direction,
      at: '2026-11-01',
      by: 'bench',
      hub: 'Mantel',
      direction,
      ok: true,
      seen: 'it went on',
      basis: factsOfUnit(unit()),
    }) as never
  const cut = { seconds: 12, cameBack: 'as before', at: '2026-11-01' }
  test.each<[StepId, () => UnitView, string]>([
    ['start', () => unit({ start: { seenBy: 'its access point' } as never }), 'seen: its access point'],
    ['start', () => unit({ start: { seenBy: 'boot text' } as never }), 'by its boot text'],
    ['join', () => unit({ join: { address: '192.168.71.27' } }), '192.168.71.27'],
    ['name', () => unit(), 'yard/lantern/glue-pot'],
    ['pins', () => unit(), '0 pins in use'],
    [
      'behaviour',
      () =>
        unit({
          behaviour: {
            channels: [
              { ch: 1, tried: true },
              { ch: 2, tried: false },
            ],
          } as never,
        }),
      '1 output tried',
    ],
    ['meter', () => unit({}, { calibrations: [calibration] }), 'true is shown times 1.0416'],
    ['meter', () => unit({}, { board: { ...board, hasMeter: false } }), 'no meter'],
    ['meter', () => unit(), 'not calibrated'],
    ['prove', () => unit({ prove: { powerCut: cut } as never }), '12 s without power, came back as before'],
    ['prove', () => unit(), ''],
    ['write', () => unit(), ''],
  ])('%s', (step, view, what) => expect(said(view(), step)).toBe(what))
  test('a test that was made on other facts proves nothing any more', () =>
    expect(said(unit({ join: { address: '10.0.0.9' } }, { hubTests: [standing('hub to unit')] }), 'hub')).toBe(''))
  test('a direction that was tried twice is said once', () =>
    expect(
      said(
        unit({}, { hubTests: [standing('hub to unit'), standing('hub to unit'), standing('button to hub')] }),
        'hub',
      ),
    ).toBe('hub to unit and button to hub'))
})
