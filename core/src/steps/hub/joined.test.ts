import fc from 'fast-check'
import { readJoined } from './joined'

const hex = fc.constantFrom(...'0123456789abcdef')
const address = fc.array(hex, { minLength: 16, maxLength: 16 }).map((a) => a.join(''))

describe('devices joined to a bridge', () => {
  test('a list as hubs show it: the address is found wherever it stands', () => {
    const text = [
      '0x00158d0004a1b2c3  Door, stage left  stage  2026-11-27 18:02  -71',
      'Window;workshop;00:15:8d:00:04:a1:b2:c4;-88 dBm',
      'Address, Name, Room',
    ].join('\n')
    expect(readJoined(text)).toEqual({
      joined: [
        { address: '00158d0004a1b2c3', name: 'Door', room: 'stage left', heard: '2026-11-27 18:02', signal: -71 },
        { address: '00158d0004a1b2c4', name: 'Window', room: 'workshop', heard: '', signal: -88 },
      ],
      unread: ['Address, Name, Room'],
    })
  })
  test('whatever order its cells have and however the address is written, it is the same device', () => {
    fc.assert(
      fc.property(address, fc.integer({ min: -99, max: -1 }), fc.boolean(), fc.boolean(), (a, db, colons, first) => {
        const written = colons ? (a.match(/../g) as string[]).join(':') : `0x${a.toUpperCase()}`
        const cells = ['Lamp', 'foyer', `${db}`]
        const line = (first ? [written, ...cells] : [...cells, written]).join('\t')
        expect(readJoined(line).joined).toEqual([{ address: a, name: 'Lamp', room: 'foyer', heard: '', signal: db }])
      }),
    )
  })
  test('of two lines with one address the later counts; a line without one is named, none is dropped', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(address, fc.constant('nothing here'))), (lines) => {
        const { joined, unread } = readJoined(lines.join('\n'))
        expect(joined.map((d) => d.address)).toEqual([...new Set(lines.filter((l) => l.length === 16))].sort())
        expect(unread).toEqual(lines.filter((l) => l.length !== 16))
      }),
    )
  })
})
