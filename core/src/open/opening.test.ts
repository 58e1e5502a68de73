import {
  blankItem,
  closingFindings,
  itemSentence,
  legendFindings,
  type OpeningItem,
  openingHelp,
  orderConflicts,
} from './opening'

const item = (id: string, more: Partial<OpeningItem> = {}): OpeningItem => ({ ...blankItem(id), ...more })
const messages = (list: { message: string }[]) => list.map((f) => f.message)
const now = '2026-11-25T12:00:00.000Z'
const closing = { restored: {}, partsBack: [], clipsBroken: 0, gluedAt: null, glueHours: null }

describe('the order of opening', () => {
  test('what needs an earlier step stands after it', () =>
    expect(orderConflicts([item('a'), item('b', { requires: ['a'] })])).toEqual([]))
  test('step 4 needs step 2 first', () =>
    expect(messages(orderConflicts([item('w'), item('x'), item('y'), item('z', { requires: ['x'] })], ['z']))).toEqual([
      'Step 4 needs step 2 first.',
    ]))
  test('a list that is in the wrong order', () =>
    expect(messages(orderConflicts([item('a', { requires: ['b'] }), item('b')]))).toEqual([
      'Step 1 needs step 2 first.',
    ]))
  test('a requirement that was removed does not count', () =>
    expect(orderConflicts([item('a', { requires: ['gone'] })], ['a'])).toEqual([]))
  test('in words', () =>
    expect(itemSentence(item('a', { count: 2, place: 'corners', hiddenUnder: 'foot', driver: 'cross 1' }))).toBe(
      '2 screws, corners, under the foot, cross 1',
    ))
  test('help for a case that does not come apart', () => expect(openingHelp.length).toBeGreaterThanOrEqual(6))
})

describe('legends before the cover comes off', () => {
  const state = { taken: ['a'], noTerminals: false, terminals: [], photoTags: [], boardKnown: false }
  const typed = [
    { place: 'L', legend: 'line' },
    { place: 'N', legend: 'neutral' },
  ]
  test('nothing is out yet: nothing to say', () => expect(legendFindings({ ...state, taken: [] })).toEqual([]))
  test('out, and nobody wrote them down', () =>
    expect(legendFindings(state)[0]).toMatchObject({
      code: 'legend-not-recorded',
      message: 'Record which terminal is line and which is neutral before taking the cover off.',
    }))
  test('typed in, but no photo', () =>
    expect(legendFindings({ ...state, terminals: typed })[0]?.because).toBe('There is no photo of the legend.'))
  test('typed in and photographed, here or on another unit of the board', () => {
    expect(legendFindings({ ...state, terminals: typed, photoTags: ['terminals_with_legend'] })).toEqual([])
    expect(legendFindings({ ...state, terminals: typed, boardKnown: true })).toEqual([])
  })
})

describe('the way back', () => {
  const items = [item('s', { count: 3 }), item('c', { kind: 'clip', count: 4 })]
  test('everything back: closed', () =>
    expect(closingFindings(items, ['cap'], { ...closing, restored: { s: 3, c: 4 }, partsBack: ['cap'] }, now)).toEqual(
      [],
    ))
  test('2 screws and the button cap', () =>
    expect(messages(closingFindings(items, ['button cap'], { ...closing, restored: { s: 1, c: 4 } }, now))).toEqual([
      '2 screws and the button cap are not back: the case is not closed.',
    ]))
  test('one screw too many is the same error', () =>
    expect(closingFindings(items, [], { ...closing, restored: { s: 4, c: 4 } }, now)[0]?.code).toBe('not-closed'))
  test('more than a third of the clips broken', () => {
    const back = { s: 3, c: 4 }
    expect(closingFindings(items, [], { ...closing, restored: back, clipsBroken: 1 }, now)).toEqual([])
    expect(closingFindings(items, [], { ...closing, restored: back, clipsBroken: 2 }, now)[0]?.code).toBe(
      'clips-broken',
    )
  })
  test('glue has to set before any mains', () => {
    const glued = [item('g', { kind: 'glue', restore: 'glue' })]
    const with_ = (gluedAt: string | null, glueHours: number | null) =>
      messages(closingFindings(glued, [], { ...closing, restored: { g: 1 }, gluedAt, glueHours }, now))
    expect(with_(null, null)).toEqual(['The glue is not timed.'])
    expect(with_('2026-11-25T10:00:00.000Z', 24)).toEqual(['The glue sets for another 22.0 h.'])
    expect(with_('2026-11-24T11:00:00.000Z', 24)).toEqual([])
  })
})
