import { buildExtended, buildLx106, noise } from '../../image/build'
import { inspectImage } from '../../image/inspect'
import { flashIdAnswered, parseFlashId } from '../flash-id'
import { linkSeconds } from './plan'
import { preflight } from './preflight'
import type { PreflightUnit, WriteWish } from './question'

const image = buildLx106({
  mode: 'DIO',
  sizeCode: 2,
  entry: 0x40100010,
  segments: [{ address: 0x40100000, data: new Uint8Array(499_976) }],
})
const unit: PreflightUnit = {
  family: 'LX106',
  familyVerdict: 'identified',
  flashBytes: 1048576,
  flashId: '684014',
  dataLines: 2,
  inPackageFlash: false,
  provenModes: [],
  backup: { state: 'verified', bytes: 1048576, reason: null },
  layout: null,
}
const wish: WriteWish = {
  fileName: 'plainsong.bin',
  offset: 0,
  eraseAll: true,
  baud: 115200,
  verify: 'digest',
  variant: null,
  language: null,
  profileOffset: null,
}
const check = (u: Partial<PreflightUnit>, w: Partial<WriteWish> = {}, bytes = image) => {
  const merged = { ...unit, ...u }
  // The stored inspection knows no unit; preflight brings the two together.
  return preflight(merged, inspectImage(bytes), { ...wish, ...w })
}
const codes = (...args: Parameters<typeof check>) =>
  check(...args)
    .findings.filter((f) => f.severity !== 'ok')
    .map((f) => f.code)

describe('may this file go into this unit', () => {
  test('the worked plan', () => {
    const result = check({})
    expect(result.verdict).toBe('warn')
    expect(result.findings.map((f) => f.code)).toEqual(['mode-unproven'])
    expect(result.plan).toMatchObject({
      erase: 'chip',
      eraseSectors: 256,
      payloadBytes: 500_000,
      regions: [{ offset: 0, length: 500_000, eraseBytes: 503_808 }],
      seconds: { erase: 2.4, write: 48.6, verify: 0.5, total: 51.5 },
    })
    expect(check({ provenModes: ['DIO'] }).verdict).toBe('go')
  })
  test('no plan where an error stops it', () =>
    expect(check({ backup: { state: 'none', bytes: null, reason: null } }).plan).toBeNull())
  test.each<[string, Partial<PreflightUnit>, Partial<WriteWish>, string[]]>([
    ['another family', { family: 'LX6', provenModes: ['DIO'] }, {}, ['family-mismatch']],
    [
      'a smaller chip',
      {
        flashBytes: 524288,
        flashId: null,
        provenModes: ['DIO'],
        backup: { state: 'verified', bytes: 524288, reason: null },
      },
      {},
      ['header-size-too-large'],
    ],
    ['conflict', { familyVerdict: 'conflict', provenModes: ['DIO'] }, {}, ['family-unproven']],
    ['likely', { familyVerdict: 'likely', provenModes: ['DIO'] }, {}, ['family-likely']],
    ['in-package flash', { inPackageFlash: true }, {}, ['mode-not-possible']],
    ['wrong place', { provenModes: ['DIO'] }, { offset: 0x1000 }, ['offset-wrong']],
    ['odd place', { provenModes: ['DIO'] }, { offset: 5 }, ['offset-wrong', 'offset-unaligned']],
    [
      'skipped without a sentence',
      { provenModes: ['DIO'], backup: { state: 'skipped', bytes: null, reason: 'no' } },
      {},
      ['skip-reason'],
    ],
    [
      'read once',
      { provenModes: ['DIO'], backup: { state: 'single', bytes: 1048576, reason: null } },
      {},
      ['backup-single'],
    ],
    ['chip id says 2 MiB', { provenModes: ['DIO'], flashId: '68 40 15' }, {}, ['flash-id-mismatch']],
    [
      'name says 2 MiB and another family',
      { provenModes: ['DIO'] },
      { fileName: 'plainsong-lx6-2M.bin' },
      ['name-size', 'name-family'],
    ],
    [
      'name says Ukrainian',
      { provenModes: ['DIO'] },
      { fileName: 'plainsong_uk.bin', language: 'en' },
      ['name-language'],
    ],
  ])('%s', (_, u, w, expected) => expect(codes(u, w)).toEqual([...expected].sort()))

  test('an app alone needs a layout, and erasing everything removes its boot loader', () => {
    const app = buildExtended({
      mode: 'DIO',
      sizeCode: 2,
      entry: 0x400d0020,
      chipId: 0,
      segments: [{ address: 0x3f400020, data: noise(70_000, 3) }],
    })
    expect(
      codes(
        {
          family: 'LX6',
          flashId: null,
          flashBytes: 4 * 1048576,
          backup: { state: 'verified', bytes: 4 * 1048576, reason: null },
        },
        {},
        app,
      ),
    ).toEqual(['erase-removes-boot', 'layout-missing', 'no-descriptor'])
  })
  test('an unsplit ARM968 is worked as A: nothing below 0x11000', () => {
    const arm = {
      family: 'ARM968-B' as const,
      familyVerdict: 'arm968_unsplit' as const,
      flashId: null,
      flashBytes: 2 * 1048576,
      backup: { state: 'verified' as const, bytes: 2 * 1048576, reason: null },
    }
    expect(codes(arm, { eraseAll: false }, noise(9000, 5))).toEqual(
      ['variant-unproven', 'unknown-format', 'keeps-boot-loader'].sort(),
    )
    expect(codes(arm, { eraseAll: false, offset: 0x11000 }, noise(9000, 5))).toEqual(
      ['variant-unproven', 'unknown-format'].sort(),
    )
  })
})

test('seconds on the link for 1 MiB', () =>
  expect([57600, 115200, 230400, 460800].map((b) => Math.round(linkSeconds(1048576, b) * 10) / 10)).toEqual([
    203.9, 101.9, 51.0, 25.5,
  ]))

describe('flash chip id', () => {
  test.each(['68 40 14', '684014', '0x684014', '68:40:14'])('%s is 1 MiB', (text) =>
    expect(parseFlashId(text)?.flashBytes).toBe(1048576),
  )
  test.each([
    ['13', 524288],
    ['22', 268435456],
    ['34', 1048576],
    ['38', 16777216],
    ['ff', null],
  ] as const)('capacity %s', (c, n) => expect(parseFlashId(`6840${c}`)?.flashBytes ?? null).toBe(n))
  test('FF FF FF did not answer', () => expect(flashIdAnswered(parseFlashId('ffffff') as never)).toBe(false))
  test('what is no id', () => expect(parseFlashId('hello')).toBeNull())
})
