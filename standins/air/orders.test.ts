import { readOrder } from './orders'

const order = (value: unknown) => readOrder('stand-in/order', JSON.stringify(value))

test('a press and a unit that appears are orders, with what is usual filled in', () => {
  expect(order({ act: 'press', topic: 'yard/lantern/lamp' })).toEqual({
    act: 'press',
    topic: 'yard/lantern/lamp',
    channel: '1',
  })
  expect(order({ act: 'appear', topic: 'yard/lantern/lamp', ip: '192.168.71.9' })).toMatchObject({ channels: ['1'] })
})
test.each<[string, unknown]>([
  ['another act', { act: 'explode', topic: 'a' }],
  ['a topic of signs for anything', { act: 'press', topic: 'yard/#' }],
  ['no topic', { act: 'press' }],
  ['an address that is none', { act: 'appear', topic: 'a', ip: '999.1.1.1' }],
  ['no channel at all', { act: 'appear', topic: 'a', channels: [] }],
  ['more than is known', { act: 'press', topic: 'a', more: 1 }],
])('%s is no order', (_, value) => expect(order(value)).toBeNull())
test('neither is what is no JSON, nor what comes on another topic', () => {
  expect(readOrder('stand-in/order', '{')).toBeNull()
  expect(readOrder('yard/lantern/lamp/1/set', '{"act":"press","topic":"a"}')).toBeNull()
})
