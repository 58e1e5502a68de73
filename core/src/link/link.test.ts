import fc from 'fast-check'
import { bytesOfHex, hexOf } from '../bytes/text'
import { isKnownFamily, knownFamilies } from '../families/families'
import { linkCommands } from './codes'
import { eraseOf } from './erase'
import { linkFrame } from './frame'
import type { BuiltFrame } from './packet'
import { decodeHex, encodeHex, slipEncode, slipPieces, slipUnescape } from './slip'
import { linkTime } from './time'

const plain = (hex: string) => hex.replaceAll(' ', '').toLowerCase()
function built(build: object): BuiltFrame {
  const out = linkFrame({ build })
  if (!out.ok) throw new Error(JSON.stringify(out.faults))
  return out.value as BuiltFrame
}
// biome-ignore lint/suspicious/noExplicitAny: read as the command line prints it
function parsed(family: string, hex: string): any {
  const out = linkFrame({ parse: { family, hex } })
  if (!out.ok) throw new Error(JSON.stringify(out.faults))
  return out.value
}
const time = (input: object) => {
  const out = linkTime(input)
  if (!out.ok) throw new Error(JSON.stringify(out.faults))
  return out.value
}

describe('worked frames: requests', () => {
  test.each<[string, object, string, object?]>([
    [
      'sync, any family',
      { family: 'RV32', command: 'sync' },
      `C0 00 08 24 00 00 00 00 00 07 07 12 20 ${'55 '.repeat(32)} C0`,
    ],
    [
      'read-register',
      { family: 'LX6', command: 'read-register', address: 0x40001000 },
      'C0 00 0A 04 00 00 00 00 00 00 10 00 40 C0',
    ],
    [
      'write-register, mask all ones and no delay',
      { family: 'LX106', command: 'write-register', address: 0x6000021c, value: 0xd0000000 },
      'C0 00 09 10 00 00 00 00 00 1C 02 00 60 00 00 00 D0 FF FF FF FF 00 00 00 00 C0',
    ],
    [
      'flash-begin on the ROM that erases in pairs: told three sectors, six are gone',
      { family: 'LX106', command: 'flash-begin', offset: 0, bytes: 20_000 },
      'C0 00 02 10 00 00 00 00 00 00 30 00 00 14 00 00 00 00 04 00 00 00 00 00 00 C0',
      { sizeField: 0x3000, blocks: 20, erasedBytes: 6 * 4096 },
    ],
    [
      'flash-begin whose size is escaped',
      { family: 'LX106', command: 'flash-begin', offset: 0x1000, bytes: 499_984 },
      'C0 00 02 10 00 00 00 00 00 00 DB DC 06 00 E9 01 00 00 00 04 00 00 00 10 00 00 C0',
      { sizeField: 108 * 4096, blocks: 489, erasedBytes: 123 * 4096 },
    ],
    [
      'flash-begin of a later ROM',
      { family: 'LX6', command: 'flash-begin', offset: 0x10000, bytes: 20_000 },
      'C0 00 02 10 00 00 00 00 00 00 50 00 00 14 00 00 00 00 04 00 00 00 00 01 00 C0',
      { sizeField: 20_480, blocks: 20, erasedBytes: 20_480 },
    ],
    [
      'flash-begin with its fifth word',
      { family: 'RV32', command: 'flash-begin', offset: 0, bytes: 262_144 },
      'C0 00 02 14 00 00 00 00 00 00 00 04 00 00 01 00 00 00 04 00 00 00 00 00 00 00 00 00 00 C0',
    ],
    [
      'flash-data, padded, with two escapes',
      { family: 'LX6', command: 'flash-data', sequence: 0, data: 'E9 01 03 20 C0 DB 40 10', blockBytes: 16 },
      'C0 00 03 20 00 6F 00 00 00 10 00 00 00 00 00 00 00 00 00 00 00 00 00 00 00 E9 01 03 20 DB DC DB DD 40 10 FF FF FF FF FF FF FF FF C0',
      { checksum: 0x6f },
    ],
    [
      'flash-digest',
      { family: 'RV32', command: 'flash-digest', offset: 0x10000, bytes: 336 },
      'C0 00 13 10 00 00 00 00 00 00 00 01 00 50 01 00 00 00 00 00 00 00 00 00 00 C0',
    ],
    [
      'flash-read whose offset is escaped',
      { family: 'LX6', command: 'flash-read', offset: 0xc000, bytes: 64 },
      'C0 00 0E 08 00 00 00 00 00 00 DB DC 00 00 40 00 00 00 C0',
    ],
  ])('%s', (_, build, hex, more = {}) => expect(built(build)).toMatchObject({ hex: plain(hex), ...more }))
  test('sync is 46 bytes on the line', () => expect(built({ family: 'LX106', command: 'sync' }).hex).toHaveLength(92))
  test('attaching by flash-begin erases nothing: all sizes are 0', () =>
    expect(built({ family: 'LX106', command: 'flash-begin', offset: 0, bytes: 0 })).toMatchObject({
      hex: `c000021000${'0'.repeat(40)}c0`,
      sizeField: 0,
      blocks: 0,
      erasedBytes: 0,
    }))
  test.each<[string, object, string]>([
    ['memory-end that stays', { command: 'memory-end', entry: 0 }, '0100000000000000'],
    ['memory-end that jumps', { command: 'memory-end', entry: 0x40100000 }, '0000000000001040'],
    ['flash-end by reboot', { command: 'flash-end', reboot: true }, '00000000'],
    ['flash-end by running the program', { command: 'flash-end', reboot: false }, '01000000'],
    [
      'memory-begin',
      { command: 'memory-begin', address: 0x40100000, bytes: 0x1801 },
      '01180000020000000018000000001040',
    ],
    ['set-rate', { command: 'set-rate', rate: 460_800 }, '0008070000000000'],
    [
      'spi-parameters',
      { command: 'spi-parameters', flashBytes: 0x400000 },
      '000000000000400000000100001000000001' + '0000ffff0000',
    ],
  ])('%s: its words', (_, build, data) => expect(built({ family: 'LX6', ...build }).packet.slice(16)).toBe(data))
})

describe('worked frames: answers', () => {
  test('sync, with two status bytes and with four', () => {
    expect(parsed('LX106', 'C0 01 08 02 00 07 07 12 20 00 00 C0').answers).toEqual([
      { command: 'sync', code: 8, value: 0x20120707, data: '', status: { failed: false, code: 0, name: null } },
    ])
    expect(parsed('LX6', 'C0 01 08 04 00 07 07 12 20 00 00 00 00 C0').answers[0].value).toBe(0x20120707)
  })
  test('register values, with both escapes in them', () => {
    expect(parsed('LX6', 'C0 01 0A 04 00 83 1D F0 00 00 00 00 00 C0').answers[0].value).toBe(0x00f01d83)
    expect(parsed('LX106', 'C0 01 0A 02 00 10 40 DB DD DB DC 00 00 C0').answers[0].value).toBe(0xc0db4010)
  })
  test('a digest is text', () => {
    const hex =
      'C0 01 13 24 00 00 00 00 00 35 61 39 35 39 34 36 61 32 37 66 63 65 65 30 64 30 36 64 64 63 66 37 39 37 38 38 37 64 32 65 31 00 00 00 00 C0'
    expect(parsed('RV32', hex).answers[0]).toMatchObject({
      command: 'flash-digest',
      digest: '5a95946a27fcee0d06ddcf797887d2e1',
    })
  })
  test.each([
    ['LX106', 'C0 01 03 02 00 00 00 00 00 01 07 C0', { failed: true, code: 7, name: 'checksum' }],
    ['RV32', 'C0 01 02 04 00 00 00 00 00 01 05 00 00 C0', { failed: true, code: 5, name: 'invalid-message' }],
    ['RV32', 'C0 01 02 04 00 00 00 00 00 01 63 00 00 C0', { failed: true, code: 0x63, name: 'other' }],
  ])('%s refuses', (family, hex, status) => {
    const out = parsed(family, hex)
    expect(out.answers[0].status).toEqual(status)
    expect(out.findings.map((f: { code: string }) => f.code)).toEqual(['rom-refused'])
  })
})

describe('streams', () => {
  test('are cut at their ENDs', () => {
    expect(decodeHex({ hex: '0D 0A C0 01 02 C0 41 42 C0 C0 03' })).toEqual({
      ok: true,
      value: { head: '0d0a', frames: ['0102', '4142'], bad: [], tail: '03' },
    })
    expect(decodeHex({ hex: 'C0 01 DB 02 C0 C0 DB C0 C0 0A 0B C0' })).toEqual({
      ok: true,
      value: { head: '', frames: ['0a0b'], bad: [{ hex: '01db02' }, { hex: 'db' }], tail: '' },
    })
    expect(decodeHex({ hex: '4142' })).toMatchObject({ value: { head: '4142', frames: [], tail: '' } })
  })
  const answer = 'C0 01 08 04 00 07 07 12 20 00 00 00 00 C0'
  const text = hexOf(Uint8Array.from('waiting for download\r\n', (c) => c.charCodeAt(0)))
  test('text before an answer is noise, and the answer is taken', () => {
    const out = parsed('LX6', `${text}${answer}`)
    expect([out.answers.length, out.noise, out.findings.map((f: { code: string }) => f.code)]).toEqual([
      1,
      [{ hex: text, reason: 'head' }],
      ['frame-head'],
    ])
  })
  test('an answer with too few status bytes is none', () => {
    const out = parsed('LX6', 'C0 01 08 02 00 07 07 12 20 00 00 C0')
    expect(out.answers).toEqual([])
    expect(out.findings.map((f: { code: string; severity: string }) => [f.code, f.severity])).toEqual([
      ['frame-size', 'watch'],
      ['frame-none', 'error'],
    ])
  })
  test.each([
    ['short', 'C0 01 08 02 C0', '010802'],
    ['echo', built({ family: 'LX6', command: 'sync' }).hex, built({ family: 'LX6', command: 'sync' }).packet],
    ['direction', 'C0 07 08 02 00 07 07 12 20 00 00 C0', '070802000707122000' + '00'],
    ['size', 'C0 01 08 09 00 07 07 12 20 00 00 C0', '010809000707122000' + '00'],
    ['escape', 'C0 01 DB 02 C0', '01db02'],
  ])('the first reason that fits is said: %s', (reason, hex, kept) =>
    expect(parsed('LX106', hex).noise).toEqual([{ hex: kept, reason }]),
  )
  test('what an END cuts off behind the last frame is no noise: it may be a beginning', () =>
    expect(parsed('LX6', `${answer}C00108`)).toMatchObject({ noise: [], tail: '0108' }))
})

const someBytes = fc.uint8Array({ maxLength: 300 })
test('whatever the bytes: framed and unframed they are the same, and hold no END inside', () =>
  fc.assert(
    fc.property(someBytes, (bytes) => {
      const frame = slipEncode(bytes)
      expect(frame.subarray(1, -1).includes(0xc0)).toBe(false)
      expect(slipUnescape(frame.subarray(1, -1))).toEqual(bytes)
      const out = encodeHex({ hex: hexOf(bytes) })
      expect(out.ok && bytesOfHex(out.value.hex)).toEqual(frame)
    }),
  ))
test('nothing of a stream is lost: head, pieces and tail with their ENDs are the stream', () =>
  fc.assert(
    fc.property(fc.array(fc.constantFrom(0xc0, 0xdb, 0x01, 0x41), { maxLength: 60 }), (list) => {
      const stream = Uint8Array.from(list)
      const { head, pieces, tail } = slipPieces(stream)
      const kept = head.length + tail.length + pieces.reduce((n, p) => n + p.length, 0)
      expect(kept + list.filter((b) => b === 0xc0).length).toBe(stream.length)
    }),
  ))
test('answers between any noise are found again, whatever stands before and behind', () =>
  fc.assert(
    fc.property(someBytes, fc.nat(0xffffffff), (noise, value) => {
      const frame = new Uint8Array(12)
      const view = new DataView(frame.buffer)
      view.setUint8(0, 1)
      view.setUint8(1, 0x0a)
      view.setUint16(2, 4, true)
      view.setUint32(4, value, true)
      const stream = hexOf(noise.filter((b) => b !== 0xc0)) + hexOf(slipEncode(frame))
      expect(parsed('LX6', stream).answers).toMatchObject([{ command: 'read-register', value }])
    }),
  ))

describe('what is erased', () => {
  test.each([
    [0, 5, 3, 6],
    [15, 1, 1, 2],
    [1, 123, 108, 123],
    [16, 49, 33, 49],
    [0, 256, 240, 256],
  ])('from sector %i, %i wanted: told %i, %i are gone', (sector, wanted, told, erased) =>
    expect(eraseOf('in-pairs', sector, wanted)).toEqual({ told, erased }),
  )
  test('never less than wanted, at most one sector more, and one sector more makes it exact', () =>
    fc.assert(
      fc.property(fc.nat(1000), fc.integer({ min: 1, max: 300 }), (sector, wanted) => {
        const { erased } = eraseOf('in-pairs', sector, wanted)
        expect(erased - wanted === 0 || erased - wanted === 1).toBe(true)
        if (erased > wanted) expect(eraseOf('in-pairs', sector, wanted + 1).erased).toBe(wanted + 1)
      }),
    ))
})

describe('time over the line', () => {
  const registers = { family: 'LX106', action: 'read-registers', bytes: 1_048_576, latencyMs: 1, rate: 115_200 }
  test('a MiB by registers is 294 915 exchanges', () => expect(time(registers).exchanges).toBe(294_915))
  test.each([
    [115_200, 1, 0.971, 0.149],
    [115_200, 16, 5.291, 0.389],
    [460_800, 4, 1.323, 0.097],
    [921_600, 1, 0.373, 0.033],
  ])('at %i and %i ms: seconds per KiB by registers and by the ROM', (rate, latencyMs, slow, quick) => {
    expect(time({ ...registers, rate, latencyMs }).secondsPerKiB).toBeCloseTo(slow, 3)
    expect(time({ ...registers, family: 'LX6', action: 'read-rom', rate, latencyMs }).secondsPerKiB).toBeCloseTo(
      quick,
      3,
    )
  })
  test.each([
    [1, 53.6],
    [4, 55.1],
    [16, 61.1],
  ])('512 000 bytes written to LX106 at %i ms', (latencyMs, seconds) =>
    expect(time({ family: 'LX106', action: 'write', bytes: 512_000, rate: 115_200, latencyMs }).seconds).toBeCloseTo(
      seconds,
      1,
    ),
  )
  test('the last piece reads only the words that it needs; a later ROM’s begin is four bytes longer', () => {
    expect(time({ ...registers, bytes: 65 }).exchanges).toBe(3 + 2 * 2 + 17)
    const bytesOut = (family: string) =>
      time({ family, action: 'write', bytes: 1, rate: 115_200, latencyMs: 0 }).bytesOut
    expect(bytesOut('RV32') - bytesOut('LX6')).toBe(4)
  })
})

describe('bad input', () => {
  test.each<[string, object, string, string]>([
    ['neither', {}, 'missing', '/build'],
    ['a list for a request', { build: [] }, 'type', '/build'],
    ['no family', { build: { command: 'sync' } }, 'missing', '/build/family'],
    [
      'an unknown family before an unknown command',
      { build: { family: 'LX9', command: 'x' } },
      'unknown-family',
      '/build/family',
    ],
    [
      'an unknown command before the ROM',
      { build: { family: 'CM3', command: 'packed-begin' } },
      'unknown-command',
      '/build/command',
    ],
    [
      'a family that we do not speak to',
      { build: { family: 'ARM968-B', command: 'sync' } },
      'not-in-rom',
      '/build/command',
    ],
    [
      'a command that this ROM lacks, before its fields',
      { build: { family: 'LX106', command: 'flash-read' } },
      'not-in-rom',
      '/build/command',
    ],
    ['no address', { build: { family: 'LX6', command: 'read-register' } }, 'missing', '/build/address'],
    [
      'an address in words',
      { build: { family: 'LX6', command: 'read-register', address: '0x40' } },
      'type',
      '/build/address',
    ],
    [
      'half an address',
      { build: { family: 'LX6', command: 'read-register', address: 1.5 } },
      'range',
      '/build/address',
    ],
    [
      'an address above 32 bits',
      { build: { family: 'LX6', command: 'read-register', address: 2 ** 32 } },
      'range',
      '/build/address',
    ],
    [
      'an offset inside a sector',
      { build: { family: 'LX6', command: 'flash-begin', offset: 100, bytes: 1 } },
      'range',
      '/build/offset',
    ],
    [
      '65 bytes of flash-read',
      { build: { family: 'LX6', command: 'flash-read', offset: 0, bytes: 65 } },
      'range',
      '/build/bytes',
    ],
    ['none at all', { build: { family: 'LX6', command: 'flash-read', offset: 0, bytes: 0 } }, 'range', '/build/bytes'],
    [
      'a block that is too long',
      { build: { family: 'LX6', command: 'flash-data', sequence: 0, data: '0102', blockBytes: 1 } },
      'range',
      '/build/data',
    ],
    [
      'hex that is none',
      { build: { family: 'LX6', command: 'flash-data', sequence: 0, data: '0g' } },
      'range',
      '/build/data',
    ],
    ['a rate of 299', { build: { family: 'LX6', command: 'set-rate', rate: 299 } }, 'range', '/build/rate'],
    ['reboot as a number', { build: { family: 'LX6', command: 'flash-end', reboot: 1 } }, 'type', '/build/reboot'],
    ['an answer without bytes', { parse: { family: 'LX6' } }, 'missing', '/parse/hex'],
    ['half a byte', { parse: { family: 'LX6', hex: 'c' } }, 'range', '/parse/hex'],
    ['an answer of a family that we do not read', { parse: { family: 'CM3', hex: '' } }, 'not-in-rom', '/parse/family'],
  ])('%s', (_, input, code, path) => expect(linkFrame(input)).toMatchObject({ ok: false, faults: [{ code, path }] }))
  test.each<[string, object, string, string]>([
    ['no action', { family: 'LX6' }, 'missing', '/action'],
    ['an unknown action', { family: 'LX6', action: 'erase' }, 'unknown-command', '/action'],
    ['reading by a ROM that cannot', { family: 'LX106', action: 'read-rom' }, 'not-in-rom', '/action'],
    [
      'nothing to read',
      { family: 'LX6', action: 'read-rom', bytes: 0, rate: 115_200, latencyMs: 1 },
      'range',
      '/bytes',
    ],
    ['no rate', { family: 'LX6', action: 'read-rom', bytes: 1, latencyMs: 1 }, 'missing', '/rate'],
    [
      'a latency below 0',
      { family: 'LX6', action: 'read-rom', bytes: 1, rate: 300, latencyMs: -1 },
      'range',
      '/latencyMs',
    ],
    [
      'writing inside a sector',
      { family: 'LX6', action: 'write', bytes: 1, rate: 300, latencyMs: 1, offset: 7 },
      'range',
      '/offset',
    ],
  ])('time: %s', (_, input, code, path) =>
    expect(linkTime(input)).toMatchObject({ ok: false, faults: [{ code, path }] }),
  )
  test.each([
    [{}, 'missing'],
    [{ hex: 5 }, 'type'],
    [{ hex: 'abc' }, 'range'],
  ])('slip: %j', (input, code) => {
    expect(encodeHex(input)).toMatchObject({ ok: false, faults: [{ code, path: '/hex' }] })
    expect(decodeHex(input)).toMatchObject({ ok: false, faults: [{ code, path: '/hex' }] })
  })
})

test('every command of every ROM is built or refused by its name, and its length field is that of its data', () => {
  const fields = {
    address: 0,
    value: 1,
    bytes: 64,
    sequence: 3,
    data: 'ff',
    entry: 0,
    offset: 4096,
    reboot: true,
    flashBytes: 1 << 20,
    rate: 115_200,
  }
  for (const family of knownFamilies.filter(isKnownFamily))
    for (const command of linkCommands) {
      const out = linkFrame({ build: { family, command, ...fields } })
      if (!out.ok) expect(out.faults[0]?.code).toBe('not-in-rom')
      else {
        const packet = bytesOfHex((out.value as BuiltFrame).packet) as Uint8Array
        expect(new DataView(packet.buffer).getUint16(2, true)).toBe(packet.length - 8)
      }
    }
})
