import fc from 'fast-check'
import { passwordFindings, ssidFindings } from './wifi'

const codes = (found: readonly { code: string }[]) => found.map((f) => f.code)

describe('the name of a network', () => {
  test.each<[string, string, string[]]>([
    ['plain', 'lantern-yard', []],
    ['none meant', '', []],
    ['32 bytes', 'x'.repeat(32), []],
    ['33 bytes', 'x'.repeat(33), ['range']],
    ['16 letters of two bytes', 'ж'.repeat(16), ['ssid-letters']],
    ['17 letters of two bytes', 'ж'.repeat(17), ['range', 'ssid-letters']],
    ['a space at its end', 'yard ', ['ssid-space']],
    ['a quotation mark', 'Ada’s "yard"', ['ssid-quote', 'ssid-letters']],
  ])('%s', (_, name, expected) => expect(codes(ssidFindings(name))).toEqual(expected))
})

describe('the password of a network', () => {
  test.each<[string, string, string[]]>([
    ['8 characters', 'paper-27', []],
    ['7 characters', 'paper27', ['range']],
    ['63 characters', 'x'.repeat(63), []],
    ['64 hex digits, a raw key', 'aF'.repeat(32), []],
    ['64 characters that are no hex', 'xy'.repeat(32), ['range']],
    ['a letter beyond ASCII', 'papiermâché', ['range']],
    ['a space in front', ' paper moon', ['password-space']],
    ['marks that mean something', 'paper&moon', ['password-marks']],
  ])('%s', (_, password, expected) => expect(codes(passwordFindings(password))).toEqual(expected))
  test('where nothing is escaped marks are no matter, and the escaped form is said where it is', () => {
    expect(passwordFindings('paper&moon', false)).toEqual([])
    expect(passwordFindings('paper&moon')[0]?.next).toContain('paper%26moon')
  })
  test('no password is ever both refused and only warned of', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (password) => {
        const found = codes(passwordFindings(password))
        if (found.includes('range')) expect(found).toEqual(['range'])
        else expect(password.length === 64 || (password.length >= 8 && password.length <= 63)).toBe(true)
      }),
    )
  })
})
