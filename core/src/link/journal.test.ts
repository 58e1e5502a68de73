import { aJournal } from '../testing/a-journal'
import { inState, isOpen, wasFinished } from './journal'

const at = '2026-11-24T10:00:00.000Z'
const begun = aJournal(at)
const attempt = (more: object) => ({ action: 'write', outcome: 'done', at: '2026-11-24T10:05:00.000Z', ...more })

describe('an unfinished write', () => {
  test('is open in every state but done', () => {
    expect(isOpen(begun)).toBe(true)
    expect(isOpen(inState(begun, 'cancelled', at))).toBe(true)
    expect(isOpen(inState(begun, 'done', at))).toBe(false)
  })
  test('is over once a write was done since, whatever wrote it, and by nothing less', () => {
    expect(wasFinished(begun, [attempt({})])).toBe(true)
    expect(wasFinished(begun, [attempt({ action: undefined })])).toBe(true)
    for (const less of [{ outcome: 'lost-midway' }, { action: 'read' }, { at: '2026-11-24T09:59:00.000Z' }])
      expect(wasFinished(begun, [attempt(less)])).toBe(false)
  })
})
