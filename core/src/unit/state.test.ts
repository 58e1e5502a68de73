import { inspectDump } from '../dump/inspect'
import { noise } from '../image/build'
import { aCalibration } from '../testing/a-calibration'
import { board, dump, lx106, unit } from '../testing/a-unit'
import { endedSentence } from './ended'
import { readEnded } from './ended-shape'
import { nameOf, stateOf } from './state'

const calibration = (due: string | null) => aCalibration({ gain: 1, worstAfterPct: null, due })

describe('what lists show of a unit', () => {
  test('a new one: where it goes on, and nothing that waits', () =>
    expect(stateOf(unit())).toMatchObject({
      number: 7,
      next: 'arrive',
      lane: 'strip',
      waiting: [],
      waitRank: null,
      due: null,
      holdsUntil: null,
      backup: 'none',
      metering: true,
      search: expect.stringContaining('yard/lantern/glue-pot'),
    }))
  test('the same view gives the same state', () => {
    const view = unit({ join: { address: ' 192.168.71.4 ' } })
    expect(stateOf(view)).toEqual(stateOf(structuredClone(view)))
    expect(stateOf(view).address).toBe('192.168.71.4')
  })
  test('what is wrong ranks before what is stale', () => {
    const reads = [dump(noise(65536, 1), 1, 'a'), dump(noise(65536, 2), 2, 'b')]
    expect(stateOf(unit({ arrive: { route: 'wires-in-place' }, backup: {} }, { files: reads })).waitRank).toBe(1)
    const overdue = unit({ meter: {} }, { calibrations: [calibration('2026-10-01')] }, ['meter'])
    expect(stateOf(overdue)).toMatchObject({ waitRank: 2, due: '2026-10-01' })
  })
  test('it holds until the day after the next due one, because that day it is overdue', () => {
    const view = unit({ meter: {} }, { calibrations: [calibration('2026-12-31')] }, ['meter'])
    expect(stateOf(view)).toMatchObject({ due: '2026-12-31', dueWhat: 'Meter re-check', holdsUntil: '2027-01-01' })
    const then = stateOf({ ...view, today: '2027-01-01' })
    expect([then.waitRank, then.holdsUntil]).toEqual([2, null])
    expect(stateOf({ ...view, today: '2026-12-31' }).waitRank).toBe(null)
  })
  test('a unit without a meter has none to look after, and none due', () => {
    const view = unit({ meter: { noMeter: true } }, { calibrations: [calibration('2026-10-01')] })
    expect(stateOf(view)).toMatchObject({ metering: false, due: null })
  })
  test('a family counts as established only when Identify is done', () => {
    const view = unit({ identify: lx106 })
    expect([stateOf(view).family, stateOf(view).established]).toEqual(['LX106', null])
    view.records.identify.done = { at: '', by: '', how: 'done', basis: {}, family: 'LX106' }
    expect(stateOf(view).established).toBe('LX106')
  })
  test('a read that was made although there was a reason for none is a read', () => {
    const skip = { code: 'owner' as const, reason: 'the owner wants it gone' }
    expect(stateOf(unit({ backup: { skip } })).backup).toBe('skipped')
    const bytes = noise(65536, 3)
    const read = { ...dump(bytes, 1), inspection: inspectDump(bytes) }
    expect(stateOf(unit({ backup: { skip } }, { files: [read] })).backup).toBe('single')
  })
  test('a marking is found however it was typed', () =>
    expect(stateOf(unit({ identify: { printed: ' pw-106 a7 ' } }))).toMatchObject({
      printed: 'pw-106 a7',
      printedKey: 'PW106A7',
    }))
  test('it is found by name, place, board, address and topic, in lower case', () => {
    const { search } = stateOf(
      unit({ join: { address: '192.168.71.9', mac: 'AA:BB' } }, { name: 'Moon Lamp', place: 'Attic' }),
    )
    for (const word of ['moon lamp', 'attic', 'pellworth p1 rev c', '192.168.71.9', 'aa:bb'])
      expect(search).toContain(word)
  })
  test('a board without a name of its own is none', () => expect(stateOf(unit({}, { board: null })).boardId).toBe(null))
  test('open searches for a cause are counted', () => {
    const trouble = {
      id: 't',
      step: 'write' as const,
      symptom: 'no_answer',
      answers: [],
      cause: null,
      note: '',
      openedAt: '',
      closedAt: null,
      attemptId: null,
      version: 1,
    }
    expect(
      stateOf(unit({}, { troubles: [trouble, { ...trouble, id: 'u', closedAt: 'x', cause: 'other' }] })).troubles,
    ).toBe(1)
  })
})

describe('how a unit is called in topics by itself', () => {
  test.each([
    [
      { number: 7, name: 'Glue pot', pinned: '', spoken: '' },
      { ownSlug: 'glue-pot', pinned: false, spoken: 'glue pot' },
    ],
    [
      { number: 8, name: 'Glue pot', pinned: 'left', spoken: 'the pot' },
      { ownSlug: 'left', pinned: true, spoken: 'the pot' },
    ],
    [
      { number: 30, name: '大道具', pinned: '', spoken: '' },
      { ownSlug: 'unit-30', pinned: false, spoken: '大道具' },
    ],
    [
      { number: 9, name: 'A lamp with a name that is far too long for a topic', pinned: '', spoken: '' },
      {
        ownSlug: 'a-lamp-with-a-name-that',
        pinned: false,
        spoken: 'a lamp with a name that is far too long for a topic',
      },
    ],
  ])('%j', (given, expected) => expect(nameOf(given)).toEqual(expected))
})

test('the board of a unit lends its name to the search', () =>
  expect(stateOf(unit({}, { board: { ...board, name: 'Quoinsby Q4 12 V' } })).search).toContain('quoinsby q4 12 v'))

describe('a unit that is given up', () => {
  const ended = { how: 'died' as const, on: '2026-11-12', why: 'the regulator shorted' }
  test('waits for nobody and is due for nothing, whatever was open', () => {
    const reads = [dump(noise(65536, 1), 1, 'a'), dump(noise(65536, 2), 2, 'b')]
    const open = unit({ arrive: { route: 'wires-in-place' }, backup: {} }, { files: reads })
    expect(stateOf(open)).toMatchObject({ waitRank: 1, metering: true })
    expect(stateOf({ ...open, ended })).toMatchObject({
      lane: 'ended',
      inService: false,
      waiting: [],
      waitRank: null,
      due: null,
      troubles: 0,
      metering: false,
    })
  })
  test('says how and when, in one sentence with one full stop', () => {
    expect(endedSentence({ ...ended, why: 'the regulator shorted. ' })).toBe(
      'Died on 2026-11-12: the regulator shorted.',
    )
    expect(endedSentence({ ...ended, how: 'put-away', why: '' })).toBe('Put away on 2026-11-12.')
  })
  test('what is stored of its end and cannot be read counts as none', () => {
    expect(readEnded({ how: 'sold', on: '2026-11-12', why: '' })).toBeNull()
    expect(readEnded(ended)).toEqual(ended)
    expect(readEnded(null)).toBeNull()
  })
})
