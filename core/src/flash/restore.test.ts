import fc from 'fast-check'
import { flashBytesOfCapacity, flashIdAnswered, flashIdFindings, parseFlashId } from './flash-id'
import { backupName, manifestLine, planRestore, type RestoreFacts } from './restore'
import { compareVersions, readVersion } from './version'

const whole: RestoreFacts = {
  family: 'LX106',
  unsplit: false,
  flashBytes: 1_048_576,
  backup: { state: 'verified', bytes: 1_048_576, sha256: 'ab' },
  fromUnit: null,
}
const codes = (facts: Partial<RestoreFacts>) => planRestore({ ...whole, ...facts }).findings.map((f) => f.code)

describe('putting the stock firmware back', () => {
  test('a verified copy of the whole chip goes back from 0', () =>
    expect(planRestore(whole)).toEqual({ allowed: true, offset: 0, bytes: 1_048_576, sha256: 'ab', findings: [] }))
  test.each<[string, Partial<RestoreFacts>, string[], boolean]>([
    ['nothing kept', { backup: { state: 'none', bytes: null, sha256: null } }, ['no-backup'], false],
    ['skipped', { backup: { state: 'skipped', bytes: null, sha256: null } }, ['no-backup'], false],
    ['two reads that differ', { backup: { ...whole.backup, state: 'differ' } }, ['dumps-different'], false],
    ['one read', { backup: { ...whole.backup, state: 'single' } }, ['backup-single'], true],
    ['a copy of half the chip', { backup: { ...whole.backup, bytes: 524_288 } }, ['backup-size'], false],
    ['a chip of unknown size', { flashBytes: null }, [], true],
    ['a twin of another family', { fromUnit: 5, fromFamily: 'LX6' }, ['family-mismatch', 'clones-address'], false],
    ['a twin of the same family', { fromUnit: 5, fromFamily: 'LX106' }, ['clones-address'], true],
    ['a twin whose family nobody knows', { fromUnit: 5, fromFamily: null }, ['clones-address'], true],
  ])('%s', (_, facts, expected, allowed) => {
    expect(codes(facts)).toEqual(expected)
    expect(planRestore({ ...whole, ...facts }).allowed).toBe(allowed)
  })
  test.each<[RestoreFacts['family'], boolean, number]>([
    ['ARM968-A', false, 0x11000],
    ['ARM968-B', true, 0x11000],
    ['ARM968-B', false, 0],
    ['LX106', true, 0],
  ])('%s, unsplit %s: from 0x%x, the boot loader of a variant A is never written', (family, unsplit, offset) => {
    const plan = planRestore({ ...whole, family, unsplit })
    expect([plan.offset, plan.bytes]).toEqual([offset, 1_048_576 - offset])
  })
})

describe('a manifest that sha256sum reads', () => {
  test('one line a file', () => expect(manifestLine('unit007_stock.bin', 'ab')).toBe('ab  unit007_stock.bin\n'))
  test.each(['', '-rf', 'a/b', 'a\\b', 'a\nb'])('%j would be read otherwise: no line', (name) =>
    expect(manifestLine(name, 'ab')).toBe(null),
  )
  test('names sort by unit', () => {
    expect(backupName(7, '2031-01-06')).toBe('unit007_stock_20310106.bin')
    expect([backupName(10, '2031-01-06'), backupName(9, '2031-01-06')].sort()[0]).toContain('unit009')
  })
})

describe('versions', () => {
  test.each([
    ['9.4.1', '9.5.0', -1],
    ['9.10', '9.9', 1],
    ['2.3', '2.3.0.0', 0],
    ['9.4.1-beta', '9.4.1', -1],
    ['9.4.1-a', '9.4.1-b', -1],
    ['v1.2', '1.2', 0],
    ['nightly', '0.0.1', -1],
  ])('%s against %s', (a, b, sign) => {
    expect(Math.sign(compareVersions(a, b))).toBe(sign)
    expect(Math.sign(compareVersions(b, a))).toBe(0 - sign)
  })
  test.each(['', '1.2.3.4.5', 'one', '1..2', '9999999999'])('%j is no version', (text) =>
    expect(readVersion(text)).toBe(null),
  )
  test('sort in one order whatever they are', () =>
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.string(), fc.constantFrom('1.0', '1.0-b', '1.0.1', 'x')), { minLength: 3, maxLength: 3 }),
        (list) => {
          const [a, b, c] = list as [string, string, string]
          if (compareVersions(a, b) <= 0 && compareVersions(b, c) <= 0)
            expect(compareVersions(a, c)).toBeLessThanOrEqual(0)
        },
      ),
    ))
})

describe('flash chip ids', () => {
  test.each(['68 40 14', '684014', '0x684014', '68:40:14', '68-40-14', ' 684014 '])('%j is read', (text) =>
    expect(parseFlashId(text)).toEqual({ manufacturer: 0x68, type: 0x40, capacity: 0x14, flashBytes: 1_048_576 }),
  )
  test.each(['', '6840', '68 40 14 00', '68 40 1g'])('%j is none', (text) => expect(parseFlashId(text)).toBe(null))
  test.each([
    [0x12, 262_144],
    [0x18, 16_777_216],
    [0x20, 67_108_864],
    [0x22, 268_435_456],
    [0x34, 1_048_576],
    [0x11, null],
    [0x1d, null],
    [0xff, null],
  ])('size byte 0x%x', (byte, bytes) => expect(flashBytesOfCapacity(byte)).toBe(bytes))
  test('all zeros or all ones is a chip that did not answer', () => {
    for (const text of ['000000', 'ffffff']) {
      const id = parseFlashId(text)
      expect(id && [flashIdAnswered(id), flashIdFindings(id).map((f) => f.code)]).toEqual([
        false,
        ['flash-id-no-answer'],
      ])
    }
  })
  test('a packed number with the bytes reversed is suspected', () => {
    const id = parseFlashId('14 40 68')
    expect(id && flashIdFindings(id)[0]?.next).toMatch(/reverse order/)
  })
})
