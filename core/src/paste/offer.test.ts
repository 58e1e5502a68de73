import fc from 'fast-check'
import { unit } from '../testing/a-unit'
import { attemptFrom, offersOf, recordsWith, sureMarkings, takenAtOnce, valueWords } from './offer'
import { pasteKinds, readPasteOf } from './paste'

/** The worked example of the paste reader. */
const text =
  'MAC address B8-3C-D0-77-1E-9A\nflash id 68 4014, 1MB\n921600 baud failed\nnow 230400 baud\nwrote 4096 bytes at 0x1000 in 1.4 s\ndigest does not match'
const states = (view: ReturnType<typeof unit>, words = text) =>
  Object.fromEntries(offersOf(view, readPasteOf(words)).map((o) => [o.kind, `${o.at} ${o.state}`]))

test('a unit of which nothing is known lacks what the text has; the rest goes to the attempt', () => {
  const view = unit({}, { board: null })
  expect(states(view)).toEqual({
    mac: 'join new',
    flashId: 'backup new',
    flashBytes: 'backup told',
    rate: 'attempt new',
    offset: 'attempt new',
    bytes: 'attempt new',
    seconds: 'attempt new',
  })
})

test('what the record has already is the same, whatever way it was written; what it has otherwise differs', () => {
  const same = unit({ join: { mac: 'B83C.D077.1E9A' }, backup: { flashId: '0x684014' } })
  expect(states(same)).toMatchObject({ mac: 'join same', flashId: 'backup same', flashBytes: 'backup same' })
  const other = unit({ join: { mac: 'b8:3c:d0:77:1e:9b' }, backup: { flashId: '68 40 16' } })
  expect(states(other)).toMatchObject({
    mac: 'join differs',
    flashId: 'backup differs',
    flashBytes: 'backup differs',
  })
  expect(offersOf(other, readPasteOf(text)).some(takenAtOnce)).toBe(false)
})

test('two tools in one paste: neither of two values is taken by itself', () => {
  const two = `${text}\nMAC address b8:3c:d0:77:1e:9b`
  const macs = offersOf(unit(), readPasteOf(two)).filter((o) => o.kind === 'mac')
  expect(macs.map((o) => [o.several, takenAtOnce(o)])).toEqual([
    [true, false],
    [true, false],
  ])
})

test('taken facts stand where their step keeps them, beside what was there', () => {
  const view = unit({
    identify: {
      evidence: [
        { kind: 'ble_seen', value: 'yes' },
        { kind: 'crystal', value: '40' },
      ],
    },
  })
  const reading = readPasteOf('crystal is 26 MHz\nMAC b8:3c:d0:77:1e:9a\nQT 106-B', [
    { text: 'QT 106', family: 'LX106' },
  ])
  expect(recordsWith(view, reading.facts)).toEqual({
    join: { mac: 'b8:3c:d0:77:1e:9a' },
    identify: {
      evidence: [
        { kind: 'ble_seen', value: 'yes' },
        { kind: 'crystal', value: '26' },
        { kind: 'marking', counts: { LX106: 1 } },
      ],
    },
  })
  expect(recordsWith(view, [])).toEqual({})
})

test('a crystal that Identify has no answer for is told, not taken', () => {
  const [offer] = offersOf(unit(), readPasteOf('crystal is 32 MHz'))
  expect(offer).toMatchObject({ kind: 'crystalMHz', state: 'told' })
})

test('the row of the attempt: how it ended, in the tool’s own line, with rate and seconds', () => {
  expect(attemptFrom(readPasteOf(text), text)).toEqual({
    outcome: 'verify-failed',
    verified: false,
    seconds: 1.4,
    baud: 230400,
    message: 'digest does not match',
  })
  const good = 'wrote 4096 bytes at 0x0 in 2 s\nhash verified\r\n'
  expect(attemptFrom(readPasteOf(good), good)).toMatchObject({
    outcome: 'done',
    verified: true,
    message: 'hash verified',
  })
  const done = 'finished'
  expect(attemptFrom(readPasteOf(done), done)).toMatchObject({ outcome: 'done', verified: false })
  const nothing = 'it rained all day'
  expect(attemptFrom(readPasteOf(nothing), nothing)).toEqual({
    outcome: null,
    verified: false,
    seconds: null,
    baud: null,
    message: '',
  })
})

test('only markings whose units are all of one family say a family, and nobody is their own evidence', () => {
  const marking = (text: string, units: [number, 'LX106' | 'LX6'][]) => ({
    key: text,
    text,
    units: units.map(([number, family]) => ({ number, family })),
    own: {},
  })
  const all = [
    marking('A', [
      [1, 'LX106'],
      [2, 'LX106'],
    ]),
    marking('B', [
      [1, 'LX106'],
      [2, 'LX6'],
    ]),
    marking('C', [[7, 'LX6']]),
  ]
  expect(sureMarkings(all, null)).toEqual([
    { text: 'A', family: 'LX106' },
    { text: 'C', family: 'LX6' },
  ])
  expect(sureMarkings(all, 7)).toEqual([{ text: 'A', family: 'LX106' }])
})

test('what was taken is the same when it is offered again', () => {
  const line = fc.constantFrom(...text.split('\n'), 'crystal 40 MHz', 'flash id c8 40 16')
  fc.assert(
    fc.property(fc.array(line, { minLength: 1, maxLength: 8 }), (lines) => {
      const reading = readPasteOf(lines.join('\n'))
      const view = unit()
      const taken = offersOf(view, reading).filter(takenAtOnce)
      const changed = recordsWith(view, taken)
      const after = offersOf(unit(changed), reading)
      for (const offer of taken)
        expect(after.find((o) => o.kind === offer.kind && o.value === offer.value)?.state).toBe('same')
    }),
  )
})

test('every kind of fact has words', () => {
  for (const kind of pasteKinds) expect(valueWords({ kind, value: 0x44 })).toMatch(/44|68/)
  expect(valueWords({ kind: 'family', value: null })).toBe('two that disagree')
})
