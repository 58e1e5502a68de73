import { dump, lx106, unit } from '../../testing/a-unit'
import { assess } from '../../unit/assess'
import type { UnitView } from '../../unit/view'
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
