import fc from 'fast-check'
import { bytesOfLatin1 } from '../bytes/text'
import { buildChip, buildLx106, noise } from '../image/build'
import { compareDumps } from './compare'
import { inspectDump, mirrorPeriod } from './inspect'
import { classesOf, sectorEntropy, sectorMapper, sectorRuns } from './sectors'

const mib = 1048576
const image = buildLx106({
  mode: 'DIO',
  sizeCode: 2,
  entry: 0x40100004,
  segments: [
    { address: 0x40100000, data: Uint8Array.of(0, 1, 2, 3, 4, 5, 6, 7) },
    { address: 0x3ffe8000, data: bytesOfLatin1('ABCD') },
  ],
})
const stock = buildChip(mib, [
  [0, image],
  [0x60000, bytesOfLatin1('{"ssid":"Gallery","pass":"limelight-12"}')],
  [0xfd000, Uint8Array.from({ length: 64 }, (_, i) => i)],
])
const codes = (bytes: Uint8Array, options = {}) => inspectDump(bytes, options).findings.map((f) => f.code)

describe('what was read', () => {
  test('the worked dump', () => {
    const found = inspectDump(stock)
    expect(found.sha256).toMatch(/^279f2559fd60354b.*ab1e147a$/)
    expect(found.counts).toEqual({ blank: 253, zero: 0, constant: 0, text: 0, low: 3, mid: 0, high: 0 })
    expect(found.runs).toEqual([
      ['low', 1],
      ['blank', 95],
      ['low', 1],
      ['blank', 156],
      ['low', 1],
      ['blank', 2],
    ])
    expect(found.secrets).toEqual({
      count: 2,
      byKind: { named: 2, pem: 0, hex64: 0, urlAuth: 0 },
      sectors: [96],
      settingsSectors: [253],
    })
    expect(found.findings.map((f) => f.code)).toEqual(['secrets-found', 'settings-present'])
    expect(JSON.stringify(found)).not.toContain('limelight')
  })
  test('512 KiB twice: the chip wrapped round', () => {
    const half = noise(mib / 2, 7)
    const twice = buildChip(mib, [
      [0, half],
      [mib / 2, half],
    ])
    expect(inspectDump(twice).repeatsEvery).toBe(524288)
    twice[900_000] = (twice[900_000] as number) ^ 1
    expect(inspectDump(twice).repeatsEvery).toBeNull()
  })
  test('the smallest period wins', () => {
    const part = noise(65536, 11)
    expect(
      mirrorPeriod(
        buildChip(
          mib,
          Array.from({ length: 16 }, (_, i) => [i * 65536, part]),
        ),
      ),
    ).toBe(65536)
  })
  test.each<[string, Uint8Array, object, string[]]>([
    ['nothing', new Uint8Array(0), {}, ['empty-file']],
    ['all FF', new Uint8Array(mib).fill(0xff), {}, ['dump-all-ff']],
    ['all 00', new Uint8Array(mib), {}, ['dump-all-00']],
    ['all 55', new Uint8Array(mib).fill(0x55), {}, ['dump-constant']],
    [
      'cut in half',
      stock.subarray(0, 500_001),
      { flashBytes: mib },
      ['dump-not-whole-sectors', 'dump-size', 'secrets-found'],
    ],
    ['odd size', noise(12288, 3), {}, ['dump-size-odd', 'no-header']],
    ['another family', stock, { family: 'LX6' }, ['family-mismatch', 'secrets-found', 'settings-present']],
    ['over 16 MiB', new Uint8Array(16 * mib + 1), {}, ['too-large']],
  ])('%s', (_, bytes, options, expected) => expect(codes(bytes, options)).toEqual(expected))
  test('no header is fine on ARM968, worth a look elsewhere', () => {
    const find = (family: string | null) =>
      inspectDump(noise(65536, 3), { family }).findings.find((f) => f.code === 'no-header')?.severity
    expect([find('ARM968-B'), find(null)]).toEqual(['ok', 'watch'])
  })
  test('a map that grows with the bytes ends as the map of the whole', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 70_000 }), fc.array(fc.integer({ min: 1, max: 9000 })), (n, steps) => {
        const bytes = noise(n, 5)
        bytes.fill(0xff, 0, n >> 2)
        const map = sectorMapper(bytes)
        let to = 0
        for (const step of steps) {
          to = Math.min(n, to + step)
          map.advance(to)
          const whole = to === n ? Math.ceil(n / 4096) : Math.floor(to / 4096)
          expect(classesOf(map.runs)).toHaveLength(whole)
        }
        map.advance(n)
        expect(map.runs).toEqual(sectorRuns(bytes))
      }),
    ))
})

describe('entropy', () => {
  const filled = (f: (i: number) => number) => Uint8Array.from({ length: 4096 }, (_, i) => f(i))
  test.each<[string, Uint8Array, number]>([
    ['all values', filled((i) => i & 255), 8],
    ['sixteen values', filled((i) => i & 15), 4],
    ['half and half', filled((i) => (i & 1 ? 255 : 0)), 1],
    ['three quarters FF, the rest evenly', filled((i) => (i < 3072 ? 255 : i & 255)), 2.8005],
  ])('%s', (_, bytes, h) => expect(Math.abs(sectorEntropy(bytes) - h)).toBeLessThan(0.0001))
  test('runs cover every sector, a short last one too', () => {
    fc.assert(
      fc.property(fc.nat(20_000), (n) => {
        expect(classesOf(sectorRuns(noise(n, 5)))).toHaveLength(Math.ceil(n / 4096))
      }),
    )
  })
})

describe('two reads', () => {
  const changed = (...edits: [number, (b: number) => number][]) => {
    const copy = stock.slice()
    for (const [i, f] of edits) copy[i] = f(copy[i] as number)
    return copy
  }
  test('equal', () => expect(compareDumps(stock, stock.slice()).verdict).toBe('same'))
  test('the worked bad contact', () => {
    const result = compareDumps(stock, changed([0x3005, (b) => b ^ 0x81], [0x3fff, () => 0x7f], [0x90000, () => 0]))
    expect(result).toMatchObject({
      verdict: 'bad-contact',
      differingSectors: [3, 144],
      differingBytes: 3,
      bitsLost: 11,
      bitsGained: 0,
      ranges: [
        { offset: 12288, length: 4096 },
        { offset: 589824, length: 4096 },
      ],
    })
  })
  test('only settings differ: it ran between the reads', () =>
    expect(compareDumps(stock, changed([0xfe010, () => 0x55])).verdict).toBe('unit-ran-between'))
  test('other lengths are different', () =>
    expect(compareDumps(stock, stock.subarray(0, mib / 2))).toMatchObject({
      verdict: 'different',
      comparedBytes: mib / 2,
      differingSectors: [],
    }))
  test('more than a quarter: not the same chip', () =>
    expect(compareDumps(noise(mib, 1), noise(mib, 2)).verdict).toBe('different'))
  test('swapping the reads swaps lost and gained', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 1, maxLength: 9000 }),
        fc.uint8Array({ minLength: 1, maxLength: 9000 }),
        (a, b) => {
          const x = compareDumps(a, b)
          const y = compareDumps(b, a)
          expect([y.bitsLost, y.bitsGained, y.differingSectors]).toEqual([x.bitsGained, x.bitsLost, x.differingSectors])
        },
      ),
    )
  })
})
