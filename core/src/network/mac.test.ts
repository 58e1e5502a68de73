import fc from 'fast-check'
import {
  addressNumber,
  findAddress,
  findMac,
  isLocalMac,
  isMulticastMac,
  macRelation,
  parseAddress,
  parseMac,
} from './mac'

const octet = fc.integer({ min: 0, max: 255 })
const mac = fc.array(octet, { minLength: 6, maxLength: 6 })
const colons = (m: readonly number[]) => m.map((o) => o.toString(16).padStart(2, '0')).join(':')

describe('a MAC, however it is printed', () => {
  test('survives every form', () =>
    fc.assert(
      fc.property(mac, (m) => {
        const wanted = colons(m)
        const bare = wanted.replaceAll(':', '')
        const forms = [
          wanted,
          wanted.toUpperCase(),
          wanted.replaceAll(':', '-'),
          bare,
          bare.replace(/(....)(....)(....)/, '$1.$2.$3'),
          m.map((o) => o.toString(16)).join(':'),
        ]
        for (const form of forms) expect(parseMac(form)).toBe(wanted)
        for (const form of forms.slice(0, 3)) expect(findMac(`dev br0 lladdr ${form} STALE`)).toBe(wanted)
      }),
    ))
  test.each(['', '44:b7:d0:31:0a', '44:b7:d0:31:0a:0f:99', '44:b7:d0:31:0a:gg', '44b7d0310a0'])('%j is none', (text) =>
    expect(parseMac(text)).toBe(null),
  )
  test('none is found inside a longer run of groups', () => expect(findMac('fe80:44:b7:d0:31:0a:0f:11:22')).toBe(null))
  test('group and local addresses are told apart', () => {
    expect([
      isMulticastMac('01:00:5e:00:00:01'),
      isMulticastMac('00:00:00:00:00:00'),
      isMulticastMac('44:b7:d0:00:00:01'),
    ]).toEqual([true, true, false])
    expect([isLocalMac('46:b7:d0:00:00:01'), isLocalMac('44:b7:d0:00:00:01')]).toEqual([true, false])
  })
})

describe('what one MAC is to another', () => {
  test.each([
    ['44:b7:d0:31:0a:0f', '44:b7:d0:31:0a:0f', 'same'],
    ['46:b7:d0:31:0a:0f', '44:b7:d0:31:0a:0f', 'local-bit'],
    ['44:b7:d0:31:0a:0f', '44:b7:d0:31:0a:10', 'minus-one'],
    ['44:b7:d0:31:0a:10', '44:b7:d0:31:0a:0f', 'plus-one'],
    ['44:b7:d0:31:0a:ff', '44:b7:d0:31:0a:00', 'minus-one'],
    ['44:b7:d0:31:0b:00', '44:b7:d0:31:0a:ff', 'other'],
  ])('%s to %s: %s', (entry, known, relation) => expect(macRelation(entry, known)).toBe(relation))
  test('minus one and plus one are each other’s mirror', () =>
    fc.assert(
      fc.property(mac, mac, (a, b) => {
        const mirror = {
          same: 'same',
          'local-bit': 'local-bit',
          'minus-one': 'plus-one',
          'plus-one': 'minus-one',
          other: 'other',
        }
        expect(macRelation(colons(b), colons(a))).toBe(mirror[macRelation(colons(a), colons(b))])
      }),
    ))
})

describe('an address', () => {
  test.each(['192.168.71.5', '10.0.0.1', '223.255.255.254'])('%s is one', (text) =>
    expect(parseAddress(text)).toBe(text),
  )
  test.each(['0.0.0.0', '127.0.0.1', '224.0.0.1', '255.255.255.0', '192.168.71.256', '192.168.71', '1.2.3.4.5', ''])(
    '%j is none',
    (text) => expect(parseAddress(text)).toBe(null),
  )
  test('is found in a line, past a mask', () =>
    expect(findAddress('mask 255.255.255.0 host 192.168.71.9, lease 3600')).toBe('192.168.71.9'))
  test('numbers sort as addresses do', () =>
    fc.assert(
      fc.property(
        fc.array(octet, { minLength: 4, maxLength: 4 }),
        fc.array(octet, { minLength: 4, maxLength: 4 }),
        (a, b) => {
          const first = a.findIndex((o, i) => o !== b[i])
          const sign = first < 0 ? 0 : Math.sign((a[first] as number) - (b[first] as number))
          expect(Math.sign(addressNumber(a.join('.')) - addressNumber(b.join('.')))).toBe(sign)
        },
      ),
    ))
})
