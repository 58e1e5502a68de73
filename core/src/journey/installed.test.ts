import { Release } from '../flash/release'
import { installedOf, releasesFor, updateOf } from './installed'
import { emptyRecord } from './records'
import { stepIds } from './steps'
import type { UnitView } from './view'

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
  test('the radio is a target of its own, behind the main firmware', () => {
    const radio = { firmware: 'Plainsong', version: '7.3', build: 'radio', how: 'reported', at }
    const view = unit({ target: 'radio', radio, radioBytes: 262_144 }, [written])
    expect(releasesFor(view, releases).map((r) => r.version)).toEqual(['7.4', '7.5'])
    expect(names(updateOf(view, releases, { version: '7.4', build: 'radio' }).path)).toEqual(['7.4/radio'])
    expect(updateOf(view, releases, { version: '7.5', build: 'radio' }).path?.direct.codes).toEqual(['host-too-old'])
    expect(releasesFor(unit({}), releases).every((r) => r.build !== 'radio')).toBe(true)
  })
})
