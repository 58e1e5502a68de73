/**
 * @jest-environment jsdom
 */
import type { OnAirRow } from '@fresh-coat/core/live/on-air'
import { act, renderHook } from '@testing-library/react'
import { useAir } from './use-air'

/** A server’s line that a test speaks on. */
class Line {
  static all: Line[] = []
  readonly hears = new Map<string, (e: { data: string }) => void>()
  open = true
  constructor(readonly url: string) {
    Line.all.push(this)
  }
  addEventListener(name: string, hear: (e: { data: string }) => void) {
    this.hears.set(name, hear)
  }
  close() {
    this.open = false
  }
  say(name: string, data: unknown = {}) {
    act(() => this.hears.get(name)?.({ data: JSON.stringify(data) }))
  }
}
beforeEach(() => {
  Line.all = []
  Object.defineProperty(globalThis, 'EventSource', { value: Line, configurable: true })
})

const row = (number: number, more: Partial<OnAirRow> = {}): OnAirRow => ({
  unitId: `u${number}`,
  number,
  name: `Unit ${number}`,
  place: '',
  presence: 'online',
  flapping: false,
  staleAt: null,
  usualS: 60,
  heardAt: 1000,
  fields: {},
  restarts: 0,
  skewS: null,
  beats: [1000],
  changes: [],
  ...more,
})
const news = (r: OnAirRow) => {
  const { beats: _, ...rest } = r
  return rest
}
const line = () => Line.all.at(-1) as Line
const see = (rows: OnAirRow[], after = 0) => renderHook(() => useAir({ rows, link: null }, after))

test('what changed takes the place of what was known, its message beside those that were drawn', () => {
  const { result } = see([row(1), row(7)])
  line().say('news', { rows: [news(row(7, { heardAt: 61_000, presence: 'stale' }))], link: null })
  expect(result.current.rows.map((r) => [r.number, r.presence, r.beats])).toEqual([
    [1, 'online', [1000]],
    [7, 'stale', [1000, 61_000]],
  ])
  // Told once more without a new message: one stroke stays one.
  line().say('news', { rows: [news(row(7, { heardAt: 61_000 }))], link: null })
  expect(result.current.rows[1]?.beats).toEqual([1000, 61_000])
})

test('a stroke older than the picture goes', () => {
  const { result } = see([row(7)])
  line().say('news', { rows: [news(row(7, { heardAt: 1000 + 16 * 60_000 }))], link: null })
  expect(result.current.rows[0]?.beats).toEqual([1000 + 16 * 60_000])
})

test('units of another page change nothing on this one', () => {
  const { result } = see([row(60)], 50)
  line().say('news', { rows: [news(row(3))], link: null })
  expect(result.current.rows.map((r) => r.number)).toEqual([60])
  expect(line().url).toBe('/api/live?after=50')
})

test('a lost line is said, and everything is there again when it is back', () => {
  const { result } = see([row(7)])
  line().say('error')
  expect(result.current.line).toBe('lost')
  line().say('all', { rows: [row(7, { presence: 'offline' }), row(8)], link: null })
  expect(result.current).toMatchObject({ line: 'open', rows: [{ number: 7, presence: 'offline' }, { number: 8 }] })
})

test('while nobody sees the page it holds no line', () => {
  const { unmount } = see([])
  const hidden = jest.spyOn(document, 'hidden', 'get')
  hidden.mockReturnValue(true)
  act(() => document.dispatchEvent(new Event('visibilitychange')))
  expect(line().open).toBe(false)
  hidden.mockReturnValue(false)
  act(() => document.dispatchEvent(new Event('visibilitychange')))
  expect(Line.all).toHaveLength(2)
  unmount()
  expect(line().open).toBe(false)
  hidden.mockRestore()
})
