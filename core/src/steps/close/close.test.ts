import { board, unit } from '../../testing/a-unit'
import type { UnitView } from '../../unit/view'
import { closeFindings } from './conditions'
import { closingQuestions } from './questions'

type Records = Parameters<typeof unit>[0]
const codes = (records: Records, more: Partial<UnitView> = {}) =>
  closeFindings(unit(records, { route: records?.arrive?.route ?? null, ...more })).map((f) => f.code)
const asked = (records: Records, more: Partial<UnitView> = {}) =>
  closingQuestions(unit(records, { route: records?.arrive?.route ?? null, ...more })).map((q) => q.id)
const counted = { fastenersOut: 4, fastenersBack: 4, looseParts: 0, unharmed: 'yes' } as const
const screw = {
  id: 'a',
  kind: 'screw' as const,
  count: 2,
  driver: '',
  place: '',
  hiddenUnder: 'none' as const,
  note: '',
  restore: 'same' as const,
  requires: [],
}

describe('a case of which nothing was written down at Open', () => {
  test('is not closed before somebody has counted', () => {
    expect(codes({})).toEqual(['not-closed', 'not-closed', 'not-closed'])
    expect(codes({ close: counted })).toEqual([])
  })
  test('is not closed with a count that does not agree, or a part left over', () => {
    expect(codes({ close: { ...counted, fastenersBack: 3 } })).toEqual(['not-closed'])
    expect(codes({ close: { ...counted, looseParts: 1 } })).toEqual(['not-closed'])
  })
  test('none came out is an answer', () =>
    expect(codes({ close: { ...counted, fastenersOut: 0, fastenersBack: 0 } })).toEqual([]))
  test('opened by force leads to the questions about the case', () =>
    expect(asked({ close: { ...counted, unharmed: 'no' } })).toEqual([
      'holds-tug',
      'finger-reaches',
      'crack-near-mains',
    ]))
})

describe('what leads to a question', () => {
  const open = { fasteners: [screw] }
  const close = { restored: { a: 2 } }
  test('nothing but screws: none', () => expect(asked({ open, close })).toEqual([]))
  test.each<[string, object, object, string[]]>([
    ['force', { forced: true }, {}, ['holds-tug', 'finger-reaches', 'crack-near-mains']],
    ['damage', { damage: 'a corner broke off' }, {}, ['holds-tug', 'finger-reaches', 'crack-near-mains']],
    ['a heat seal', { fasteners: [{ ...screw, kind: 'heat_seal' }] }, {}, ['holds-tug', 'finger-reaches']],
    ['glue', { fasteners: [{ ...screw, restore: 'glue' }] }, {}, ['holds-tug', 'finger-reaches']],
    ['a broken clip', {}, { clipsBroken: 1 }, ['holds-tug']],
  ])('%s', (_, more, closing, ids) =>
    expect(asked({ open: { ...open, ...more }, close: { ...close, ...closing } })).toEqual(ids),
  )
  test('only the safe answer lets it on the mains, and no answer does not', () => {
    const forced = { open: { ...open, forced: true } }
    const answers = (given: Record<string, 'yes' | 'no'>) => codes({ ...forced, close: { ...close, answers: given } })
    expect(answers({})).toEqual(['not-asked', 'not-asked', 'not-asked'])
    expect(answers({ 'holds-tug': 'yes', 'finger-reaches': 'no', 'crack-near-mains': 'no' })).toEqual([])
    expect(answers({ 'holds-tug': 'no', 'finger-reaches': 'yes', 'crack-near-mains': 'yes' })).toEqual([
      'case-unsafe',
      'case-unsafe',
      'case-unsafe',
    ])
  })
  test('a low-voltage unit is not asked about the mains', () =>
    expect(asked({ open: { ...open, forced: true } }, { board: { ...board, mains: false } })).toEqual([]))
})

describe('a unit built from parts', () => {
  const built = { arrive: { route: 'built' as const } }
  const safe = Object.fromEntries(closingQuestions(unit(built, { route: 'built' })).map((q) => [q.id, q.safe]))
  test('answers every question before it counts as closed', () => {
    expect(codes(built)).toEqual(Array(6).fill('not-asked'))
    expect(codes({ ...built, close: { answers: safe } })).toEqual([])
  })
  test('is not asked for fasteners of the case its board is sold in', () => {
    const sold = { ...built, open: { fasteners: [screw], parts: ['diffuser'] } }
    expect(codes({ ...sold, close: { answers: safe } })).toEqual([])
  })
  test('a bare end is never confirmed away', () =>
    expect(codes({ ...built, close: { answers: { ...safe, 'bare-ends': 'yes' } } })).toEqual(['case-unsafe']))
})

test('a case that its route never opens has nothing to close', () =>
  expect(codes({ arrive: { route: 'ready-flashed' } })).toEqual([]))
