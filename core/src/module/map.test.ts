import fc from 'fast-check'
import { mostPads } from '../pads/solve'
import {
  contactOfPin,
  contactRoles,
  contactsOf,
  edgeWords,
  facingRows,
  readEdge,
  readModuleMap,
  refitContactsOf,
  serialRow,
} from './map'

const map = {
  family: 'LX106' as const,
  pitchMm: 2,
  edges: [
    { side: 'left' as const, contacts: readEdge('RST, 2 NC, 3 EN, 4 NC GPIO16, 8 3V3', 1) },
    { side: 'right' as const, contacts: readEdge('GND, GPIO15, BOOT GPIO0, ?, RX GPIO3, TX GPIO1', 9) },
  ],
}

test('an edge is read as it is written down: numbers count on, roles and pins in any order', () => {
  expect(readEdge('1 3V3, EN; GPIO0 boot,\n7 ?', 1)).toEqual([
    { n: 1, role: '3V3', pin: null },
    { n: 2, role: 'EN', pin: null },
    { n: 3, role: 'BOOT', pin: 'GPIO0' },
    { n: 7, role: 'UNKNOWN', pin: null },
  ])
  expect(readEdge(' , ', 4)).toEqual([])
})

test('what is written out reads back the same', () =>
  fc.assert(
    fc.property(
      fc.uniqueArray(
        fc.record({
          n: fc.integer({ min: 1, max: 99 }),
          role: fc.constantFrom(...contactRoles),
          pin: fc.constantFrom(null, 'GPIO0', 'GPIO15', 'P10'),
        }),
        { minLength: 1, maxLength: 20, selector: (c) => c.n },
      ),
      (contacts) => {
        expect(readEdge(edgeWords(contacts), 1)).toEqual(contacts)
      },
    ),
  ))

test('leads go to one contact of each role; the others stay out of the row', () => {
  expect(serialRow(map, mostPads)).toEqual({
    pads: ['RST', '3V3', 'GND', 'BOOT', 'UNKNOWN', 'RX', 'TX'],
    contacts: [1, 8, 9, 11, 12, 13, 14],
  })
})

test('enable stands for reset only where the module has no reset', () => {
  const without = { edges: [{ side: 'left' as const, contacts: readEdge('EN, GND, 3V3, TX, RX', 1) }] }
  expect(serialRow(without, mostPads).pads).toEqual(['RST', 'GND', '3V3', 'TX', 'RX'])
  expect(serialRow(map, mostPads).contacts).not.toContain(3)
})

test('of more contacts than a row takes, those that leads need come first', () => {
  const many = {
    edges: [
      { side: 'left' as const, contacts: readEdge(Array(30).fill('?').join(','), 1) },
      { side: 'right' as const, contacts: readEdge('GND, 3V3, TX, RX', 31) },
    ],
  }
  const row = serialRow(many, mostPads)
  expect(row.pads).toHaveLength(mostPads)
  expect(row.contacts.slice(-4)).toEqual([31, 32, 33, 34])
})

test('a module with contacts left and right lies down with its right edge on top, so that nothing is mirrored', () => {
  expect(facingRows(map)).toEqual([
    ['GND', 'UNKNOWN', 'BOOT', 'UNKNOWN', 'RX', 'TX'],
    ['RST', 'UNKNOWN', 'UNKNOWN', 'UNKNOWN', '3V3'],
  ])
  expect(facingRows({ edges: map.edges.slice(0, 1) })).toBeNull()
})

test('a tie finds its contact by the pin, and the enable by its role', () => {
  expect(contactOfPin(map, 'GPIO15', false)).toBe(10)
  expect(contactOfPin(map, 'EN', true)).toBe(3)
  expect(contactOfPin(map, 'GPIO2', false)).toBeNull()
})

test('the meter meets every contact, those that go nowhere too', () =>
  expect(refitContactsOf(map)).toHaveLength(contactsOf(map).length))

const edge = (contacts: object[], side = 'left') => ({ side, contacts })
test.each<[string, object, string, string]>([
  ['no edge', { edges: [] }, 'empty', '/edges'],
  ['no contact', { edges: [edge([])] }, 'empty', '/edges/0/contacts'],
  [
    'a contact used twice',
    {
      edges: [
        edge([
          { n: 1, role: 'GND' },
          { n: 1, role: '3V3' },
        ]),
      ],
    },
    'conflict',
    '/edges/0/contacts/1/n',
  ],
  [
    'one used on two edges',
    { edges: [edge([{ n: 1, role: 'GND' }]), edge([{ n: 1, role: 'TX' }], 'right')] },
    'conflict',
    '/edges/1/contacts/0/n',
  ],
  [
    'an edge twice',
    { edges: [edge([{ n: 1, role: 'GND' }]), edge([{ n: 2, role: 'TX' }])] },
    'conflict',
    '/edges/1/side',
  ],
  ['contact 0', { edges: [edge([{ n: 0, role: 'GND' }])] }, 'range', '/edges/0/contacts/0/n'],
  ['an unknown role', { edges: [edge([{ n: 1, role: 'VCC' }])] }, 'input', '/edges/0/contacts/0/role'],
  ['an unknown family', { family: 'LX9' }, 'input', '/family'],
  ['no pitch', { pitchMm: undefined }, 'input', '/pitchMm'],
  ['a pitch of 0', { pitchMm: 0 }, 'range', '/pitchMm'],
  [
    '41 contacts',
    { edges: [edge(Array.from({ length: 41 }, (_, i) => ({ n: i + 1, role: 'NC' })))] },
    'range',
    '/edges',
  ],
])('%s is refused', (_, more, code, path) =>
  expect(readModuleMap({ ...map, ...more })).toMatchObject({ ok: false, faults: [{ code, path }] }),
)
