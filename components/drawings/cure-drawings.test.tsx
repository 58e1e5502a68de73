/** @jest-environment jsdom */

import { spansOf } from '@fresh-coat/core/behaviour/of-template'
import type { Entry, RunEvent } from '@fresh-coat/core/behaviour/run'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { BehaviourLine } from './behaviour-line'
import { TrialRoll } from './trial-roll'

afterEach(cleanup)

const noNumber = (container: HTMLElement) =>
  [...container.querySelectorAll('*')].filter((e) =>
    [...e.attributes].some((a) => /NaN|undefined|Infinity/.test(a.value)),
  )

describe('the trial roll', () => {
  const signs = [
    { id: 'click', name: 'click', kind: 'edge' as const },
    { id: 'led', name: 'light', kind: 'level' as const },
  ]
  const pins = [
    { pin: 'GPIO12', does: 'click', shares: [0.99, 0.01], suspect: false },
    { pin: 'GPIO2', does: '', shares: [0, 0.2], suspect: true },
  ]
  const trial = (on: string[], saw: string[], reset = false) => ({ on, saw, reset })

  test('says in words what was driven last, what was seen, and what is found', () => {
    render(
      <TrialRoll signs={signs} trials={[trial([], []), trial(['GPIO12'], ['click', 'led'])]} now={null} pins={pins} />,
    )
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
      '2 trials. The last: GPIO12, click and light. Found: GPIO12 click.',
    )
  })
  test('a restart is no answer, and many trials leave the last ones with their own numbers', () => {
    const trials = Array.from({ length: 30 }, (_, i) => trial(i % 2 ? ['GPIO2'] : [], []))
    render(<TrialRoll signs={signs} trials={[...trials, trial(['GPIO2'], [], true)]} now={['GPIO12']} pins={pins} />)
    expect(screen.getByRole('img').getAttribute('aria-label')).toMatch(/^31 trials\. The last: GPIO2, it restarted\./)
    expect(screen.getByText('16')).toBeTruthy()
    expect(screen.getByText('now')).toBeTruthy()
    expect(screen.getByText('restart')).toBeTruthy()
  })
  test('with nothing tried and nothing looked for every place is a number', () => {
    const { container } = render(<TrialRoll signs={[]} trials={[]} now={null} pins={[]} />)
    expect(noNumber(container)).toEqual([])
  })
})

describe('inputs over time', () => {
  const timeline: Entry[] = [
    { t: 2000, input: 'button', level: 1 },
    { t: 2200, input: 'button', level: 0 },
    { t: 9000, mains: 0 },
  ]
  const events: RunEvent[] = [
    { t: 2030, ch: 1, to: 'on', why: 'flip' },
    { t: 4000, publish: 'x', value: '1', why: 'tell', lost: true },
    { t: 9000, ch: 1, to: 'off', why: 'mains-lost' },
  ]
  const drawn = (more: Partial<Parameters<typeof BehaviourLine>[0]> = {}) => {
    const heard = { move: jest.fn(), press: jest.fn(), drop: jest.fn() }
    const { container } = render(
      <BehaviourLine
        lanes={[
          { id: 'button', name: 'Button', rests: 0 },
          { id: 'mains', name: 'Mains', rests: 1 },
        ]}
        timeline={timeline}
        until={30_000}
        spans={spansOf(events, 30_000)}
        outputs={[{ ch: 1, name: 'Channel 1' }]}
        events={events}
        say={(why) => why}
        onMove={heard.move}
        onPress={heard.press}
        onDrop={heard.drop}
        {...more}
      />,
    )
    return { ...heard, container }
  }
  test('an edge is moved by the arrows, further with shift, and never out of the time there is', () => {
    const { move, drop } = drawn()
    const edge = screen.getByRole('slider', { name: 'button on at 2 s' })
    fireEvent.keyDown(edge, { key: 'ArrowRight' })
    fireEvent.keyDown(edge, { key: 'ArrowLeft', shiftKey: true })
    expect(move.mock.calls).toEqual([
      [0, 2100],
      [0, 1000],
    ])
    fireEvent.keyDown(edge, { key: 'Delete' })
    expect(drop).toHaveBeenCalledWith(0)
    cleanup()
    const first = { ...timeline[0], t: 50 } as Entry
    drawn({ timeline: [first], onMove: move })
    fireEvent.keyDown(screen.getByRole('slider', { name: 'button on at 0.05 s' }), { key: 'ArrowLeft' })
    expect(move).toHaveBeenLastCalledWith(0, 0)
  })
  test('other keys of an edge are the page’s', () => {
    const { move, drop } = drawn()
    fireEvent.keyDown(screen.getByRole('slider', { name: 'mains off at 9 s' }), { key: 'x' })
    expect([move.mock.calls.length, drop.mock.calls.length]).toEqual([0, 0])
  })
  test('what is on, by what, and what was lost can be read', () => {
    const { container } = drawn()
    expect(screen.getByText('on at 2.03 s by flip, off at 9 s by mains-lost')).toBeTruthy()
    expect(screen.getByText(/^x: 1, lost/)).toBeTruthy()
    expect(noNumber(container)).toEqual([])
  })
})
