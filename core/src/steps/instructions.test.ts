import { board, unit } from '../testing/a-unit'
import type { StepData } from '../unit/records'
import type { UnitView } from '../unit/view'
import * as close from './close/instructions'
import * as open from './open/instructions'

/** What busy hands are told, and that a tick by foot or key writes what a tick on the page writes. */
const fasteners = [
  { id: 'a', kind: 'screw', count: 2, place: 'corners of the face', head: 'cross 1', note: '', restore: 'none' },
  { id: 'b', kind: 'glue', count: 1, place: 'seam', head: '', note: '', restore: 'glue' },
] as unknown as StepData['open']['fasteners']
const opened = (more: Partial<StepData['open']> = {}, closed: Partial<StepData['close']> = {}): UnitView =>
  unit({ open: { fasteners, parts: ['button cap'], ...more }, close: closed }, { board: { ...board } })
const ids = (list: { id: string }[]) => list.map((i) => i.id)

describe('opening', () => {
  test('what is out is not asked again', () => {
    expect(ids(open.instructions(opened())).filter((i) => i.startsWith('out-'))).toEqual(['out-a', 'out-b'])
    expect(ids(open.instructions(opened({ taken: ['a'] }))).filter((i) => i.startsWith('out-'))).toEqual(['out-b'])
  })
  test('glue is a caution, and says what it costs later', () => {
    const glue = open.instructions(opened()).find((i) => i.id === 'out-b')
    expect(glue).toMatchObject({ caution: true, otherwise: 'This has to be glued again before any mains.' })
  })
  test('a tick takes out what it names, taken back it stands again, and a photo is no tick', () => {
    expect(open.tick?.(opened(), 'out-a', true)).toEqual({ taken: ['a'] })
    expect(open.tick?.(opened({ taken: ['a', 'b'] }), 'out-a', false)).toEqual({ taken: ['b'] })
    expect(open.tick?.(opened(), 'photo-board', true)).toBeNull()
  })
})

describe('closing', () => {
  test('the way back: wires first, then parts, then what came out last', () =>
    expect(ids(close.instructions(opened()))).toEqual(['wires-off', 'part-button cap', 'back-b', 'back-a']))
  test('half of two screws is not all of them', () => {
    expect(ids(close.instructions(opened({}, { restored: { a: 1, b: 1 } })))).toContain('back-a')
    expect(ids(close.instructions(opened({}, { restored: { a: 2, b: 1 } })))).not.toContain('back-a')
  })
  test('a tick puts all of it back; taken back none counts, the others stay', () => {
    expect(close.tick?.(opened(), 'back-a', true)).toEqual({ restored: { a: 2 } })
    expect(close.tick?.(opened({}, { restored: { a: 2, b: 1 } }), 'back-a', false)).toEqual({ restored: { b: 1 } })
    expect(close.tick?.(opened({}, { restored: { a: 3 } }), 'back-a', true)).toEqual({ restored: { a: 3 } })
  })
  test('a part by its name; what nobody took out, and the wires, are no tick', () => {
    expect(close.tick?.(opened(), 'part-button cap', true)).toEqual({ partsBack: ['button cap'] })
    expect(close.tick?.(opened(), 'back-z', true)).toBeNull()
    expect(close.tick?.(opened(), 'wires-off', true)).toBeNull()
  })
})

describe('a module that comes off and goes in', () => {
  const off = (more: Partial<StepData['open']> = {}, closed: Partial<StepData['close']> = {}): UnitView => ({
    ...opened(more, closed),
    route: 'module-off',
  })
  test('comes off after the fasteners, and is told until it is off', () => {
    const told = ids(open.instructions(off()))
    expect(told.indexOf('module-off')).toBeGreaterThan(told.indexOf('out-b'))
    expect(ids(open.instructions(off({ moduleOff: true })))).not.toContain('module-off')
    expect(ids(open.instructions(opened()))).not.toContain('module-off')
    expect(open.tick?.(off(), 'module-off', true)).toEqual({ moduleOff: true })
    expect(open.tick?.(off(), 'module-off', false)).toEqual({ moduleOff: false })
  })
  test('goes in before anything else of the way back', () => {
    expect(ids(close.instructions(off()))[0]).toBe('module-back')
    expect(ids(close.instructions(off({}, { moduleBack: true })))).not.toContain('module-back')
    expect(close.tick?.(off(), 'module-back', true)).toEqual({ moduleBack: true })
  })
  test('clips are started at the far end, and loose parts are put aside', () => {
    const clips = [{ ...fasteners[0], id: 'c', kind: 'clip' }] as unknown as StepData['open']['fasteners']
    const told = open.instructions(opened({ fasteners: clips }))
    expect(told.find((i) => i.id === 'out-c')?.otherwise).toMatch(/end opposite the socket/)
    expect(told.at(-1)).toMatchObject({ id: 'parts', say: 'Put these aside: button cap.' })
  })
})
