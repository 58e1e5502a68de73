import { describedRelease, Release } from '../../flash/release'
import type { ImageInspection } from '../../image/inspect'
import { emptyRecord } from '../../unit/records'
import type { UnitView } from '../../unit/view'
import { stepIds } from '../../unit/way'
import { installedName, installedOf, noteInstalled, ranOf, releasesFor, updateOf, updateSchemeOf } from './installed'

const release = (version: string, build: string, bytes: number, more: object = {}) =>
  Release.parse({ version, build, family: 'LX106', bytes, ...more })
const releases = [
  release('9.4.1', 'full', 438_304),
  release('9.5.0', 'small', 356_000),
  release('9.5.0', 'full', 641_000),
  release('7.4', 'radio', 214_000, { minHost: '9.0' }),
  release('7.5', 'radio', 219_000, { minHost: '9.5.0' }),
]
const at = '2026-11-20T10:00:00.000Z'
const unit = (watch: object, attempts: object[] = []) =>
  ({
    route: null,
    prior: null,
    board: null,
    files: [],
    attempts,
    records: Object.fromEntries(
      stepIds.map((s) => [
        s,
        {
          data: {
            ...emptyRecord(s),
            ...(s === 'watch'
              ? watch
              : s === 'identify'
                ? { decision: { family: 'LX106', reason: 'as it is known' } }
                : s === 'backup'
                  ? { flashId: '684014' }
                  : {}),
          },
          done: null,
          version: 1,
          updatedAt: null,
        },
      ]),
    ),
  }) as unknown as UnitView
const written = { outcome: 'done', firmware: 'Plainsong 9.4.1', at, bytes: 438_304 }
const names = (path: ReturnType<typeof updateOf>['path']) => path?.steps.map((s) => s.to)

describe('what runs on a unit', () => {
  test('the last good write, until something newer is noted', () => {
    expect(installedOf(unit({}, [written]))).toMatchObject({ version: '9.4.1', how: 'written' })
    const noted = {
      firmware: 'Plainsong',
      version: '9.5.0',
      build: 'full',
      how: 'reported',
      at: '2026-11-22T10:00:00.000Z',
    }
    expect(installedOf(unit({ installed: noted }, [written]))).toMatchObject({ version: '9.5.0', how: 'reported' })
    expect(installedOf(unit({ installed: { ...noted, at: '2026-11-01T10:00:00.000Z' } }, [written]))?.version).toBe(
      '9.4.1',
    )
    expect(installedOf(unit({}))).toBe(null)
  })
})

describe('the way to what should run', () => {
  const wish = { version: '9.5.0', build: 'full' }
  test('of a 1 MiB chip without files the usual end is taken; too large at once goes through the small build', () =>
    expect(names(updateOf(unit({}, [written]), releases, wish).path)).toEqual(['9.5.0/small', '9.5.0/full']))
  test('what is missing is said', () => {
    expect(updateOf(unit({}), releases, wish).why).toBe('What is installed is not known yet.')
    expect(updateOf(unit({}, [written]), releases, null).why).toMatch(/Choose the release/)
    expect(updateOf(unit({ scheme: 'dual' }, [written]), releases, wish).why).toMatch(/other slot/)
  })
  test('the build is known by the description of the file, else by its size, else when there is only one', () => {
    const from = (attempt: object, list = releases) =>
      updateOf(unit({}, [{ ...written, ...attempt }]), list, { version: '9.5.0', build: 'small' }).path?.steps[0]?.from
    expect(from({ build: 'full' })).toBe('9.4.1/full')
    expect(from({})).toBe('9.4.1/full')
    const two = [...releases, release('9.4.1', 'small', 351_000)]
    expect(from({ bytes: 351_000 }, two)).toBe('9.4.1/small')
    expect(from({ bytes: 777 }, two)).toBe('9.4.1/written')
    expect(from({ bytes: 777 })).toBe('9.4.1/full')
  })
  test('what was written says nothing about the size of something else that is reported', () => {
    const reported = {
      firmware: 'Plainsong',
      version: '8.8',
      build: 'full',
      how: 'reported',
      at: '2026-11-24T10:00:00.000Z',
    }
    expect(updateOf(unit({ installed: reported }, [written]), releases, wish).why).toMatch(/8\.8\/full is not among/)
    const dual = unit({ installed: reported, scheme: 'dual', slotBytes: 700_000 }, [written])
    expect(names(updateOf(dual, releases, wish).path)).toEqual(['9.5.0/full'])
  })
  test('a release that needs another layout is no way over the air', () => {
    const list = [...releases, release('9.6.0', 'full', 300_000, { layout: 'wide' })]
    expect(updateOf(unit({}, [written]), list, { version: '9.6.0', build: 'full' }).path?.direct.codes).toEqual([
      'layout',
    ])
  })
  test('how it takes updates: said, else by layout, else as its family does', () => {
    expect(updateSchemeOf(unit({}))).toMatchObject({ scheme: 'single', how: 'family', room: 0xfb000, why: '' })
    expect(updateSchemeOf(unit({ scheme: 'dual', slotBytes: 5 }))).toMatchObject({
      scheme: 'dual',
      how: 'said',
      room: 5,
    })
    const lx6 = unit({})
    lx6.records.identify.data = { ...lx6.records.identify.data, decision: { family: 'LX6', reason: 'as it is known' } }
    expect(updateSchemeOf(lx6)).toMatchObject({ scheme: 'dual', how: 'family', room: null })
  })
  test('the radio is a target of its own, behind the main firmware', () => {
    const radio = { firmware: 'Plainsong', version: '7.3', build: 'radio', how: 'reported', at }
    const view = unit({ target: 'radio', radio, radioBytes: 262_144 }, [written])
    expect(releasesFor(view, releases).map((r) => r.version)).toEqual(['7.4', '7.5'])
    expect(names(updateOf(view, releases, { version: '7.4', build: 'radio' }).path)).toEqual(['7.4/radio'])
    expect(updateOf(view, releases, { version: '7.5', build: 'radio' }).path?.direct.codes).toEqual(['host-too-old'])
    expect(releasesFor(unit({}), releases).every((r) => r.build !== 'radio')).toBe(true)
  })
})

describe('what a unit ran', () => {
  const note = (version: string, at: string) => ({
    firmware: 'Plainsong',
    version,
    build: 'full',
    how: 'reported' as const,
    at,
  })
  test('nothing that was noted is lost, on either processor, and the radio remembers what ran beside it', () => {
    const first = unit({}, [{ ...written, build: 'full' }])
    const main = noteInstalled(first, 'main', note('9.5.0', '2026-11-21T10:00:00.000Z'))
    const second = unit(main, first.attempts)
    const radio = noteInstalled(second, 'radio', note('7.5', '2026-11-22T10:00:00.000Z'))
    const third = unit({ ...main, ...radio }, first.attempts)
    expect(ranOf(third).map((r) => `${r.target} ${installedName(r)} ${r.how} ${r.host}`)).toEqual([
      'radio 7.5/full reported Plainsong 9.5.0/full',
      'main 9.5.0/full reported ',
      'main 9.4.1/full written ',
    ])
    expect(installedOf(third)?.version).toBe('9.5.0')
  })
  test('a record of before the list was kept still shows what it holds, once', () => {
    const old = unit({ installed: note('9.5.0', at), radio: note('7.4', at) })
    expect(ranOf(old).map((r) => r.version)).toEqual(['9.5.0', '7.4'])
  })
})

test.each([
  ['9.4.1/full', 'LX106', { version: '9.4.1', build: 'full' }],
  [' 9.4.1 / full ', 'LX106', { version: '9.4.1', build: 'full' }],
  ['9.4.1', 'LX106', null],
  ['nine/full', 'LX106', null],
  ['9.4.1/full/more', 'LX106', null],
  ['9.4.1/full', null, null],
])('a file described as %s of %s', (text, family, expected) => {
  const found = { kind: 'app', family, bytes: 1000, gzip: null, images: [] } as unknown as ImageInspection
  const read = describedRelease(text, found)
  if (expected === null) expect(read).toBeNull()
  else expect(read).toMatchObject({ ...expected, bytes: 1000, family })
})
test('of a whole-chip file with a table only the program goes over the air; of a packed one, what is inside', () => {
  const of = (more: object) =>
    describedRelease('2.3.0/full', {
      kind: 'app',
      family: 'LX6',
      bytes: 9000,
      gzip: null,
      images: [],
      ...more,
    } as never)?.bytes
  const images = [
    { format: 'extended', bytes: 400 },
    { format: 'extended', bytes: 5000 },
  ]
  expect(of({ kind: 'merged', images })).toBe(5000)
  expect(
    of({
      kind: 'merged',
      images: [
        { format: 'lx106-1', bytes: 400 },
        { format: 'lx106-1', bytes: 5000 },
      ],
    }),
  ).toBe(9000)
  expect(of({ gzip: { bytes: 12_000, sha256: '' } })).toBe(12_000)
})
