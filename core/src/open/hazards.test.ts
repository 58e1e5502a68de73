import { board, unit, unmet } from '../testing/a-unit'
import { learnedFrom } from '../unit/steps'
import { hazardKinds, hazardList, hazardsOf, hazardWords } from './hazards'

const seen = [
  { kind: 'capacitor', place: ' beside the relay ' },
  { kind: 'bare', place: '' },
] as const
const looked = { hazards: [...seen], hazardsLooked: true }

test('a list counts only once somebody says that it is all; until then nobody knows', () => {
  expect(hazardsOf(unit({ open: { hazards: [...seen] } }))).toBeNull()
  expect(hazardsOf(unit({ open: looked }))).toEqual(seen)
  expect(hazardsOf(unit({ open: { hazardsLooked: true } }))).toEqual([])
})

test('what its board is known for counts until somebody looks at this one', () => {
  const known = { board: { ...board, hazards: [{ kind: 'hot' as const, place: '' }] } }
  expect(hazardsOf(unit({}, known))).toEqual([{ kind: 'hot', place: '' }])
  expect(hazardsOf(unit({ open: looked }, known))).toEqual(seen)
})

test('a mains unit is not done opening before somebody looked; a low-voltage one is not asked', () => {
  const asked = 'Nobody has looked for what in it can hurt a hand.'
  expect(unmet(unit(), 'open')).toContain(asked)
  expect(unmet(unit({ open: looked }), 'open')).not.toContain(asked)
  expect(unmet(unit({}, { board: { ...board, mains: false } }), 'open')).not.toContain(asked)
})

test('it is said in words with its place, and teaches the board', () => {
  expect(hazardList(seen)).toBe('a large capacitor (beside the relay), bare mains parts within reach')
  expect(learnedFrom(unit({ open: looked }), 'open')).toContainEqual({ key: 'hazards', value: [...seen] })
  expect(learnedFrom(unit({ open: { hazards: [...seen] } }), 'open').some((f) => f.key === 'hazards')).toBe(false)
  for (const kind of hazardKinds) expect(hazardWords[kind].care).not.toBe('')
})

describe('the module of a route that takes it off', () => {
  test.each(['module-off', 'module-replaced'] as const)(
    '%s: off at Open, in its place before it is measured at Close',
    (route) => {
      expect(unmet(unit({}, { route }), 'open')).toContain('The module is still on its board.')
      expect(unmet(unit({ open: { moduleOff: true } }, { route }), 'open')).not.toContain(
        'The module is still on its board.',
      )
      const close = unmet(unit({}, { route }), 'close')
      const [at, measured] = [
        close.indexOf('The module is not in its place yet.'),
        close.findIndex((t) => /cannot be measured/.test(t)),
      ]
      expect(at).toBeGreaterThanOrEqual(0)
      expect(measured).toBeGreaterThan(at)
    },
  )
  test('in place it is never asked for', () => {
    const view = unit({}, { route: 'wires-in-place' })
    expect([...unmet(view, 'open'), ...unmet(view, 'close')].filter((t) => /module/.test(t))).toEqual([])
  })
})
