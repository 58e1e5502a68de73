/** @jest-environment jsdom */

import type { Rule } from '@fresh-coat/core/behaviour/definition'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { RuleWords } from './rule-words'

afterEach(cleanup)

const names = { inputs: ['button', 'motion'], channels: [1, 2], timers: ['after'] }
const rule: Rule = { id: 'r', when: { input: 'button', event: 'short' }, do: [{ set: 'toggle', ch: 1 }] }

function shown(given: Rule = rule, tried = false) {
  const heard = { change: jest.fn(), remove: jest.fn(), tried: jest.fn() }
  render(
    <ul>
      <RuleWords
        rule={given}
        names={names}
        tried={tried}
        onChange={heard.change}
        onRemove={heard.remove}
        onTried={heard.tried}
      />
    </ul>,
  )
  return heard
}
/** Opens words; what is in them comes with its code. */
const word = async (name: string) => {
  fireEvent.click(screen.getByRole('button', { name: `${name}: change` }))
  await screen.findByRole('dialog')
}

test('a rule reads as a sentence', () => {
  shown({
    ...rule,
    if: [{ ch: 2, is: 'off' }, { net: 'up' }],
    do: [{ set: 'on', ch: 2 }, { timer: 'after', ms: 45_000 }, { publish: 'a/b', value: '1' }, { cancel: 'after' }],
  })
  expect(screen.getByRole('listitem').textContent).toMatch(
    /^When button is pressed shortly, channel 2 is off and the network is there: turn on channel 2, then let “after” run for 45 s, anew, then tell a\/b, then stop “after”/,
  )
})

test('its event is chosen by what a person does', async () => {
  const { change } = shown()
  await word('r: event')
  fireEvent.change(screen.getByLabelText('What it does'), { target: { value: 'hold' } })
  expect(change).toHaveBeenCalledWith({ ...rule, when: { input: 'button', event: 'hold' } })
})

test('a condition is taken and given up by one press', async () => {
  const { change } = shown()
  await word('r: only while')
  fireEvent.click(screen.getByRole('button', { name: 'the network is away' }))
  expect(change).toHaveBeenCalledWith({ ...rule, if: [{ net: 'down' }] })
})

test('what is done is added to, and a rule is taken out', async () => {
  const { change, remove } = shown()
  await word('r: more')
  fireEvent.click(screen.getByRole('button', { name: 'Also let a time run' }))
  expect(change.mock.calls[0][0].do).toHaveLength(2)
  fireEvent.click(screen.getByRole('button', { name: 'Take this rule out' }))
  expect(remove).toHaveBeenCalled()
})

test('that it was tried on the unit is said by hand', () => {
  const { tried } = shown()
  fireEvent.click(screen.getByRole('checkbox'))
  expect(tried).toHaveBeenCalledWith(true)
})
