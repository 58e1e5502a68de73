import fc from 'fast-check'
import { pasteOutcomes } from './outcome'
import { longestPaste, pasteKinds, readPaste, readPasteOf } from './paste'

const example =
  'MAC address B8-3C-D0-77-1E-9A\nflash id 68 4014, 1MB\n921600 baud failed\nnow 230400 baud\nwrote 4096 bytes at 0x1000 in 1.4 s\ndigest does not match'
const values = (text: string, kind: string) =>
  readPasteOf(text)
    .facts.filter((f) => f.kind === kind)
    .map((f) => f.value)
const outcome = (text: string) => readPasteOf(text).outcome

test('the worked example', () =>
  expect(readPaste({ text: example })).toEqual({
    ok: true,
    value: {
      facts: [
        { kind: 'mac', value: 'b8:3c:d0:77:1e:9a', line: 1 },
        { kind: 'flashId', value: '68 40 14', line: 2 },
        { kind: 'flashBytes', value: 1048576, line: 2 },
        { kind: 'rate', value: 230400, line: 4 },
        { kind: 'offset', value: 4096, line: 5 },
        { kind: 'bytes', value: 4096, line: 5 },
        { kind: 'seconds', value: 1.4, line: 5 },
      ],
      outcome: 'bad-bytes',
      outcomeLine: 6,
      conflict: false,
    },
  }))

test('lines end in three ways, and colours are cut before anything is read', () => {
  const text = 'a\r\nb\rc\n\u001b[1;32mMAC\u001b[0m: b8:3c:d0:77:1e:9a'
  expect(readPasteOf(text).facts).toEqual([{ kind: 'mac', value: 'b8:3c:d0:77:1e:9a', line: 4 }])
})

describe('a MAC address', () => {
  test.each([
    ['MAC:b8:3c:d0:77:1e:9a', ['b8:3c:d0:77:1e:9a']],
    ['address b8-3c-d0-77-1e-9a.', ['b8:3c:d0:77:1e:9a']],
    ['mac b83c.d077.1e9a', ['b8:3c:d0:77:1e:9a']],
    ['MAC=b83cd0771e9a', ['b8:3c:d0:77:1e:9a']],
    ['mac 8:0:2b:1:2:3', ['08:00:2b:01:02:03']],
    ['MAC b8:3c:d0:77:1e:9a, then b8:3c:d0:77:1e:9b', ['b8:3c:d0:77:1e:9a', 'b8:3c:d0:77:1e:9b']],
    ['MAC b8:3c:d0:77:1e:9a:00:01', []],
    ['MAC 01:00:5e:00:00:01', []],
    ['MAC 00:00:00:00:00:00', []],
    ['b8:3c:d0:77:1e:9a', []],
    ['machine b8:3c:d0:77:1e:9a', []],
    ['address 6e400001-b5a3-f393-e0a9-e50e24dcca9e', []],
  ])('%p', (line, found) => expect(values(line, 'mac')).toEqual(found))
})

describe('a flash id', () => {
  test.each([
    ['flash id 684014', ['68 40 14']],
    ['Flash ID: 0x68, 0x4014', ['68 40 14']],
    ['JEDEC 68:40:14', ['68 40 14']],
    ['jedec id = C8-40-16', ['c8 40 16']],
    ['chip id 684014', []],
    ['flash 684014', []],
    ['flash id 68401', []],
    ['flash id x684014', []],
  ])('%p', (line, found) => expect(values(line, 'flashId')).toEqual(found))
})

describe('a flash size', () => {
  test.each([
    ['flash size: 4MB', [4194304]],
    ['size 512K', [524288]],
    ['flash 0.5 MiB', [524288]],
    ['flash 8Mb', []],
    ['flash 4mb', []],
    ['flash sector 4K, 1 M', [1048576]],
    ['flash holds 430K', []],
    ['size 512 MB', []],
    ['1MB', []],
    ['flash 1,048 K', []],
  ])('%p', (line, found) => expect(values(line, 'flashBytes')).toEqual(found))
})

describe('a crystal, a rate, a place', () => {
  test.each([
    ['Crystal is 26MHz', [26]],
    ['xtal 40 MHz', [40]],
    ['clock 24 mhz', [24]],
    ['flash clock 40MHz', []],
    ['cpu clock 40 MHz', []],
    ['crystal 80 MHz', []],
  ])('%p', (line, found) => expect(values(line, 'crystalMHz')).toEqual(found))
  test.each([
    ['115200 baud', [115200]],
    ['115200baud', [115200]],
    ['Baud rate: 74880', [74880]],
    ['baudrate=460800, once more', [460800]],
    ['8 baud 9600', [9600]],
    ['115200 baud\n230400 baud error', [115200]],
    ['115200 baud\n230400 baud', [230400]],
    ['baud 115,200', []],
    ['299 baud', []],
    ['115200.5 baud', []],
    ['subaud 115200', []],
  ])('%p', (text, found) => expect(values(text, 'rate')).toEqual(found))
  test.each([
    ['wrote at 0x1000 and at 0x8000', [0x1000, 0x8000]],
    ['verified at offset 0x10000', [0x10000]],
    ['writing at 0x1000', []],
    ['read 0x1000', []],
  ])('%p', (line, found) => expect(values(line, 'offset')).toEqual(found))
  test.each([
    ['read 1048576 bytes', [1048576]],
    ['Read 0x100000 bytes', [1048576]],
    ['wrote 430,080 bytes', []],
    ['wrote 1.5 bytes', []],
    ['4096 bytes', []],
  ])('%p', (line, found) => expect(values(line, 'bytes')).toEqual(found))
  test('of percent and seconds the last that fits', () => {
    const text = '12 %\n55.5%\n140 %\nin 2 s\ntook 9 s\nin 3.5 seconds, in 4 minutes'
    expect(values(text, 'percent')).toEqual([55.5])
    expect(values(text, 'seconds')).toEqual([3.5])
  })
  test('each different value once, at its first line', () =>
    expect(readPasteOf('read 16 bytes\nread 16 bytes\nread 32 bytes').facts.map((f) => [f.value, f.line])).toEqual([
      [16, 1],
      [32, 3],
    ]))
})

describe('a marking that this workshop knows', () => {
  const markings = [
    { text: 'P24-A', family: 'LX106' },
    { text: 'P24-B', family: 'RV32' },
    { text: 'Q7 (new)', family: 'LX106' },
  ]
  const read = (text: string) => {
    const out = readPaste({ text, markings })
    return out.ok ? [out.value.facts.find((f) => f.kind === 'family'), out.value.conflict] : out
  }
  test('tells the family', () =>
    expect(read('Chip is\nP24-a rev 2')).toEqual([{ kind: 'family', value: 'LX106', line: 2 }, false]))
  test('is a word, and taken as it stands', () => {
    expect(read('P24-Axx')).toEqual([undefined, false])
    expect(read('Q7 (new) it says')).toEqual([{ kind: 'family', value: 'LX106', line: 1 }, false])
  })
  test('two that agree are one', () =>
    expect(read('P24-A\nQ7 (new)')).toEqual([expect.objectContaining({ line: 1 }), false]))
  test('two that disagree are a conflict, at the line that disagrees', () =>
    expect(read('P24-A\nnothing\nP24-B')).toEqual([{ kind: 'family', value: null, line: 3 }, true]))
})

describe('how it ended', () => {
  test.each([
    ['Hash of data verified.', 'verified'],
    ['md5 ok', 'verified'],
    ['digests differ\ndigest matches', 'verified'],
    ["hash doesn't match", 'bad-bytes'],
    ['digest ok\nhash of data is not ok', 'bad-bytes'],
    ['could not open port: access denied', 'port'],
    ['COM7 busy', 'port'],
    ['/dev/ttyUSB0: no such file', 'port'],
    ['comb busy', null],
    ['Timed out waiting for the chip', 'no-answer'],
    ['failed to connect', 'no-answer'],
    ['no  sync', 'no-answer'],
    ['invalid head of packet', 'bad-bytes'],
    ['connection lost', 'lost'],
    ['input/output error', 'lost'],
    ['write complete', 'done'],
    ['100 %', 'done'],
    ['1100 %', null],
    ['not done', null],
    ['done\nfatal', null],
    ['digest ok\ncancelled', null],
    ['digest ok\nbye', 'verified'],
    ['hello', null],
  ])('%p is %p', (text, expected) => expect(outcome(text)).toBe(expected))
})

test.each<[string, unknown, string, string]>([
  ['nothing', { text: ' \n\t' }, 'empty', '/text'],
  ['no text', {}, 'input', '/text'],
  ['a number', { text: 7 }, 'input', '/text'],
  ['one byte too many', { text: `${'é'.repeat(longestPaste / 2)}x` }, 'range', '/text'],
  ['a family of no kind', { text: 'x', markings: [{ text: 'P24', family: 'LX107' }] }, 'input', '/markings/0/family'],
  ['a marking without a text', { text: 'x', markings: [{ text: '', family: 'LX106' }] }, 'input', '/markings/0/text'],
])('%s is refused', (_, input, code, path) =>
  expect(readPaste(input)).toMatchObject({ ok: false, faults: [{ code, path }] }),
)

test('256 KiB without a fact is read, and says that there is none', () => {
  for (const unit of ['baud ', 'written at ', 'flash id ', 'in 1', 'é'])
    expect(readPaste({ text: unit.repeat(Math.floor(longestPaste / 2 / unit.length)) })).toMatchObject({
      ok: true,
      value: { facts: expect.any(Array) },
    })
  expect(readPaste({ text: 'x'.repeat(longestPaste) })).toMatchObject({ ok: true, value: { facts: [], outcome: null } })
})

const pieces = [
  'MAC',
  'address',
  'b8:3c:d0:77:1e:9a',
  'flash',
  'id',
  '684014',
  '1MB',
  'baud',
  '9600',
  'wrote',
  'at',
  '0x10',
  'bytes',
  '12',
  '%',
  'in',
  '3',
  's',
  'hash',
  'ok',
  'not',
  'failed',
  '\n',
  '\r\n',
  ',',
  ':',
]
test('facts stand in the table’s order, then by line, each on a line that is there', () =>
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...pieces), { minLength: 1, maxLength: 40 }), (words) => {
      const { facts, outcome } = readPasteOf(words.join(' '))
      const order = facts.map((f) => [pasteKinds.indexOf(f.kind), f.line] as const)
      expect(order).toEqual([...order].sort((a, b) => a[0] - b[0] || a[1] - b[1]))
      const lines = words.join(' ').split(/\r\n|\n|\r/).length
      expect(facts.every((f) => f.line >= 1 && f.line <= lines)).toBe(true)
      expect(outcome === null || pasteOutcomes.includes(outcome)).toBe(true)
    }),
  ))

test('a line without a fact put in front moves every line by one and changes nothing else', () =>
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...pieces), { minLength: 1, maxLength: 30 }), (words) => {
      const [plain, moved] = [readPasteOf(words.join(' ')), readPasteOf(`hello\n${words.join(' ')}`)]
      expect(moved.facts).toEqual(plain.facts.map((f) => ({ ...f, line: f.line + 1 })))
      expect(moved.outcome).toBe(plain.outcome)
    }),
  ))
