import { type Records, unit, unmet } from '../../testing/a-unit'
import type { StepData } from '../../unit/records'
import type { Attempt, UnitView } from '../../unit/view'
import { afterLook, bootOf, startLooks } from './facts'

const fromFlash =
  '\r\n ets Jan  8 2013,rst cause:2, boot mode:(3,6)\r\nload 0x40100000, len 2408, room 16\r\ntail 8\r\n'
const write = (sha256: string): Attempt =>
  ({ outcome: 'done', at: '2026-11-24T10:00:00Z', sha256, firmware: 'Plainsong' }) as never
const started = (start: Partial<StepData['start']>, written: string, done = false): UnitView => {
  const view = unit(
    { identify: { decision: { family: 'LX106', reason: 'read' } }, start } as Records,
    { attempts: [write('first-image-0')] },
    done ? ['start'] : [],
  )
  return { ...view, attempts: [write(written)] }
}
const seen = { log: fromFlash, strapFree: true }

describe('what was seen of a start', () => {
  test('counts while what was started stands on the chip', () => {
    const view = started({ ...seen, on: 'first-image-' }, 'first-image-0')
    expect(bootOf(view)?.mode).toBe('flash')
    expect(startLooks(view)).toBe(view.records.start.data)
    expect(unmet(view, 'start')).not.toContain('It has not been seen starting.')
  })
  test('after another write it was the start of something else: strap, text and light are asked anew', () => {
    const view = started({ ...seen, on: 'first-image-', seenBy: 'light or click' }, 'other-image-0')
    expect(bootOf(view)).toBeNull()
    expect(startLooks(view)).toMatchObject({ log: '', seenBy: null, strapFree: false })
    expect(unmet(view, 'start')).toEqual(
      expect.arrayContaining(['It has not been seen starting.', 'The jumper or button may still hold BOOT.']),
    )
  })
  test('a new look takes nothing of the old one along, and says what it was a look at', () => {
    const view = started({ ...seen, on: 'first-image-', apName: 'yard-7' }, 'other-image-0')
    expect(afterLook(view, { strapFree: true })).toEqual({
      log: '',
      seenBy: null,
      answers: [],
      strapFree: true,
      on: 'other-image-',
    })
  })
  test('a look beside one that holds adds to it', () => {
    const view = started({ ...seen, on: 'first-image-' }, 'first-image-0')
    expect(afterLook(view, { seenBy: 'access point' })).toEqual({ seenBy: 'access point', on: 'first-image-' })
  })
  test('an older record, which does not say, counts until the step is stale', () => {
    expect(bootOf(started(seen, 'first-image-0', true))?.mode).toBe('flash')
    expect(bootOf(started(seen, 'other-image-0', true))).toBeNull()
    expect(bootOf(started(seen, 'other-image-0'))?.mode).toBe('flash')
  })
})
