import { board, dump, lx106, unit } from '../testing/a-unit'
import { isolationFact, knownFacts } from './known'
import type { UnitView } from './view'

const fact = (view: UnitView, name: string) => knownFacts(view).find((f) => f.name === name)

test('of a unit that nobody has looked at nothing is known, and it is not called isolated', () => {
  const view = unit()
  for (const name of ['Family', 'Flash', 'Pads', 'Rating', 'Backup', 'Firmware', 'Pins', 'Address'])
    expect(fact(view, name)).toMatchObject({ value: null })
  expect(isolationFact(view).value).toBe('Unknown: treated as No')
})

test('every name is there once', () => {
  const names = knownFacts(unit()).map((f) => f.name)
  expect(new Set(names).size).toBe(names.length)
})

test('low voltage is no question of isolation', () =>
  expect(isolationFact(unit({}, { board: { ...board, mains: false } })).value).toBe('Low voltage only'))

test('a family found here says by what; one that its board taught says that nobody looked', () => {
  const own = fact(unit({ identify: lx106 as never }), 'Family')
  expect(own?.value).toMatch(/^LX106, /)
  expect(own?.evidence).toBe('crystal, boot text, sync reply')
  const taught = fact(unit({}, { board: { ...board, family: 'LX106', unitNumbers: [1, 5] } }), 'Family')
  expect(taught?.value).toBe('LX106')
  expect(taught?.evidence).toContain('nobody looked here yet')
})

test('a share that rounds to a hundred is not called a hundred', () =>
  expect(fact(unit({ identify: lx106 as never }), 'Family')?.value).not.toContain('100.0 %'))

test('the rating of the unit counts before that of its board, which is named as such', () => {
  const rated = { ...board, ratedAmps: 10 }
  expect(fact(unit({}, { board: rated }), 'Rating')).toEqual({
    name: 'Rating',
    value: '10 A',
    evidence: 'known for this board',
  })
  expect(fact(unit({ arrive: { ratedAmps: 6 } }, { board: rated }), 'Rating')).toEqual({
    name: 'Rating',
    value: '6 A',
    evidence: '',
  })
})

test('one read is not two', () => {
  const bytes = new Uint8Array(1024 * 1024).map((_, i) => (i * 11) & 0xff)
  expect(fact(unit({}, { files: [dump(bytes, 1)] }), 'Backup')?.value).toBe('Read once')
})
