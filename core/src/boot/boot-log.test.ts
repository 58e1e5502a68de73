import fc from 'fast-check'
import { bytesOfLatin1, hexOf } from '../bytes/text'
import { computed, expectLike, refusalOf } from '../testing/like'
import { bootAdvice, readBootLog, receiveAt } from './boot-log'
import examples from './boot-log.examples.json'

const verdict = (text: string) => computed(readBootLog({ text })).verdict
const lx106 = (cause: number, mode: number) => `\r\n ets Jan  8 2013,rst cause:${cause}, boot mode:(${mode},6)\r\n`

describe('what the boot text says', () => {
  test.each(examples)('worked example %#', (example) => {
    expectLike(computed(readBootLog(example.in)), example.out)
  })
  test.each([
    ['', 'silent'],
    [lx106(2, 1), 'serial_download'],
    [lx106(2, 5), 'sdio_wait'],
    [lx106(2, 2), 'bad_strap'],
    [lx106(4, 3).repeat(3), 'boot_loop'],
    [lx106(2, 3), 'flash_boot'],
    [`${lx106(1, 3)}csum err\r\n`, 'flash_unreadable'],
    ['rst:0xf (BROWNOUT_RST),boot:0x8 (SPI_FAST_FLASH_BOOT)', 'brown_out'],
    ['hello\r\nBrownout detector was triggered\r\n', 'brown_out'],
    ['rst:0x1 (POWERON),boot:0x8 (SPI_FAST_FLASH_BOOT)\r\ninvalid header: 0xffffffff\r\n', 'flash_blank'],
    ['rst:0x1 (POWERON),boot:0x8 (SPI_FAST_FLASH_BOOT)\r\ninvalid header: 0x12345678\r\n', 'flash_unreadable'],
    ['Plainsong 9.4 ready', 'app_text'],
    ['\u0001\u0002\u0003\u0004', 'unreadable'],
  ])('%j is %s', (text, expected) => {
    expect(verdict(text)).toBe(expected)
    expect(bootAdvice[verdict(text)]).not.toBe('')
  })
  test('the last boot line decides', () => expect(verdict(lx106(2, 3) + lx106(2, 1))).toBe('serial_download'))
})

describe('the rate of a garbled capture', () => {
  test('read at the right rate, text stays as it is', () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 1, maxLength: 40 }), (bytes) => {
        expect(hexOf(receiveAt(bytes, 115200, 115200))).toBe(hexOf(bytes))
      }),
    )
  })
  test.each([
    [74880, 115200],
    [115200, 74880],
    [115200, 9600],
  ])('sent at %i and read at %i is recognised', (sent, read) => {
    const text =
      'ets Jan  8 2013,rst cause:1, boot mode:(3,7)\r\nload 0x40100000, len 2408, room 16\r\ntail 8\r\n'.repeat(
        read === 9600 ? 12 : 2,
      )
    const result = computed(readBootLog({ bytesHex: hexOf(receiveAt(bytesOfLatin1(text), sent, read)), baud: read }))
    expect([result.verdict, result.likelyBaud]).toEqual(['wrong_rate', sent])
  })
})

test.each([
  [{}, 'missing', '/text'],
  [{ bytesHex: 'zz' }, 'range', '/bytesHex'],
  [{ text: 5 }, 'type', '/text'],
])('bad input %j', (input, code, path) => {
  expect(refusalOf(readBootLog(input))).toEqual([code, path])
})

test('any text gets a verdict and never throws', () => {
  fc.assert(fc.property(fc.string(), (text) => expect(bootAdvice[verdict(text)]).toBeTruthy()))
})
