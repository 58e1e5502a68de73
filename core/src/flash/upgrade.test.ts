import fc from 'fast-check'
import { computed, refusalOf } from '../testing/like'
import { planUpgrade } from './upgrade'
import { compareVersions, readVersion } from './version'

const E = 1_028_096
const b = (version: string, build: string, bytes: number, more: object = {}) => ({
  version,
  build,
  family: 'LX106',
  bytes,
  ...more,
})
const releases = [
  b('3.1.0', 'small', 330_000),
  b('6.0.0', 'small', 338_000, { stop: true }),
  b('6.0.0', 'full', 580_000, { stop: true }),
  b('9.4.1', 'small', 351_000, { minFrom: '6.0.0' }),
  b('9.4.1', 'full', 612_000, { minFrom: '6.0.0' }),
]
const unit = { family: 'LX106', scheme: 'single', updateEnd: E, current: b('3.1.0', 'full', 545_000) }
const plan = (more: object = {}, unitMore: object = {}) =>
  computed(
    planUpgrade({ unit: { ...unit, ...unitMore }, target: { version: '9.4.1', build: 'full' }, releases, ...more }),
  )

describe('the way to the wanted version', () => {
  test('worked example: through the small build of the stop', () => {
    const found = plan()
    expect(found).toMatchObject({
      found: true,
      uploadBytes: 950_000,
      direct: { allowed: false, codes: ['min-from', 'stop-skipped', 'too-large'] },
      steps: [
        { from: '3.1.0/full', to: '6.0.0/small', upload: 'raw', stageStart: 688_128, freeBytes: 139_264 },
        { from: '6.0.0/small', to: '9.4.1/full', upload: 'raw', stageStart: 413_696, freeBytes: 73_728 },
      ],
    })
    expect(found.findings.map((f) => f.code)).toEqual(['path-found', 'more-than-one-step'])
  })
  test('without the small builds there is no safe path, and it says why', () => {
    const found = plan({ releases: releases.filter((r) => r.build === 'full') })
    expect(found).toMatchObject({ found: false, steps: [], reachable: [] })
    expect(found.findings[0]).toMatchObject({ code: 'no-safe-path', severity: 'error' })
  })
  test.each([
    [560_000, 430_000, {}, 598_016, 36_864, 'raw'],
    [600_000, 340_000, {}, 684_032, 81_920, 'raw'],
    [600_000, 610_000, { gzBytes: 395_000 }, 630_784, 28_672, 'gzip'],
  ])('running %d, new %d: staged from %#', (current, next, more, stageStart, freeBytes, upload) => {
    const found = computed(
      planUpgrade({
        unit: { ...unit, current: b('1.0', 'full', current, { acceptsGzip: true }) },
        target: { version: '1.1', build: 'full' },
        releases: [b('1.1', 'full', next, more)],
      }),
    )
    expect(found.steps[0]).toMatchObject({ stageStart, freeBytes, upload })
  })
  test('packed only when the running firmware accepts it', () =>
    expect(
      computed(
        planUpgrade({
          unit: { ...unit, current: b('1.0', 'full', 600_000) },
          target: { version: '1.1', build: 'full' },
          releases: [b('1.1', 'full', 610_000, { gzBytes: 395_000 })],
        }),
      ).direct.codes,
    ).toEqual(['too-large']))
  test('dual slots: into the other slot, or not at all', () => {
    const dual = (bytes: number) =>
      plan(
        { target: { version: '2.0', build: 'app' }, releases: [b('2.0', 'app', bytes, { family: 'LX6' })] },
        { family: 'LX6', scheme: 'dual', slotBytes: 1_572_864, current: b('1.0', 'app', 900_000, { family: 'LX6' }) },
      )
    expect(dual(1_600_000).direct.codes).toEqual(['too-large'])
    expect(dual(1_500_000).steps[0]).toMatchObject({ stageStart: null, freeBytes: 72_864 })
  })
  test('a radio needs a main firmware that can pass it on', () => {
    const radio = { version: '7.4', build: 'radio', family: 'LX106', bytes: 200_000, minHost: '9.0' }
    const ask = (hostVersion: string | null) =>
      plan({ target: radio, releases: [radio] }, { scheme: 'external', slotBytes: 262_144, hostVersion }).direct.codes
    expect(ask('8.9')).toEqual(['host-too-old'])
    expect(ask(null)).toEqual(['host-too-old'])
    expect(ask('9.0')).toEqual([])
  })
  test('older only when that is allowed; another family never', () => {
    const back = { target: { version: '3.1.0', build: 'small' } }
    const from = { current: b('9.4.1', 'small', 351_000) }
    expect(plan(back, from).direct.codes).toEqual(['downgrade'])
    expect(plan({ ...back, allowDowngrade: true }, from).found).toBe(true)
    expect(plan({ releases: releases.map((r) => ({ ...r, family: 'LX6' })) }).direct.codes).toContain('family')
  })
  test('already there', () =>
    expect(plan({ target: { version: '3.1.0', build: 'full' } })).toMatchObject({
      found: true,
      steps: [],
      findings: [{ code: 'already-there' }],
    }))

  test('every step of a found way is one that would be allowed by itself', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            version: fc.constantFrom('1.0', '2.0', '3.0', '3.1-beta', '4.0'),
            build: fc.constantFrom('small', 'full'),
            family: fc.constant('LX106'),
            bytes: fc.integer({ min: 100_000, max: 700_000 }),
            stop: fc.boolean(),
            minFrom: fc.option(fc.constantFrom('1.0', '2.0')),
          }),
          { minLength: 1, maxLength: 8 },
        ),
        (list) => {
          const seen = new Set<string>()
          const unique = list.filter((r) => !seen.has(`${r.version}/${r.build}`) && seen.add(`${r.version}/${r.build}`))
          const current = b('1.0', 'running', 500_000)
          const target = unique.at(-1) as (typeof unique)[number]
          const found = computed(planUpgrade({ unit: { ...unit, current }, target, releases: unique }))
          let from: object = current
          for (const step of found.steps) {
            const to = unique.find((r) => `${r.version}/${r.build}` === step.to) as (typeof unique)[number]
            const single = computed(planUpgrade({ unit: { ...unit, current: from }, target: to, releases: unique }))
            expect(single.direct).toEqual({ allowed: true, codes: [] })
            from = to
          }
          if (found.steps.length > 0) expect(found.steps.at(-1)?.to).toBe(`${target.version}/${target.build}`)
          expect(found.found).toBe(found.steps.length > 0)
        },
      ),
    ))
})

describe('versions', () => {
  test.each([
    ['9.4.1', '9.4', 1],
    ['9.4.0', '9.4', 0],
    ['9.10', '9.9', 1],
    ['9.4.1-beta', '9.4.1', -1],
    ['9.4.1-beta', '9.4.1-alpha', 1],
    ['v2', '2.0.0.0', 0],
  ])('%s against %s', (x, y, sign) => expect(Math.sign(compareVersions(x, y))).toBe(sign))
  test.each(['', 'nine', '1.2.3.4.5', '1..2'])('"%s" is none', (text) => expect(readVersion(text)).toBe(null))
})

describe('bad input', () => {
  const good = { unit, target: { version: '9.4.1', build: 'full' }, releases }
  test.each([
    [{ ...good, target: { version: '9.9.9', build: 'full' } }, 'unknown-target', '/target'],
    [{ ...good, unit: { ...unit, updateEnd: null } }, 'missing', '/unit/updateEnd'],
    [{ ...good, unit: { ...unit, scheme: 'dual' } }, 'missing', '/unit/slotBytes'],
    [{ ...good, releases: [b('x', 'full', 1)] }, 'range', '/releases/0/version'],
    [{ ...good, unit: { ...unit, scheme: 'triple' } }, 'type', '/unit/scheme'],
  ])('%#', (input, code, path) => expect(refusalOf(planUpgrade(input))).toEqual([code, path]))
})
