import fc from 'fast-check'
import { type HeardRestart, releaseRecords, survivalOf, withoutHouseCuts } from './heard-releases'

const at = (unit: string, s: number, version = '1.5'): HeardRestart => ({ unit, version, at: s * 1000 })

describe('restarts that were heard', () => {
  test('three units within a minute are a power cut of the house, two are not', () => {
    expect(withoutHouseCuts([at('a', 0), at('b', 20), at('c', 59)])).toEqual([])
    expect(withoutHouseCuts([at('a', 0), at('b', 20)])).toHaveLength(2)
    expect(withoutHouseCuts([at('a', 0), at('b', 20), at('c', 61)])).toHaveLength(3)
    // One unit that starts again and again is no house.
    expect(withoutHouseCuts([at('a', 0), at('a', 10), at('a', 20)])).toHaveLength(3)
  })
  test('a restart is left out exactly if some minute around it holds three units', () => {
    const any = fc.array(fc.record({ unit: fc.constantFrom('a', 'b', 'c', 'd'), s: fc.nat(400) }), { maxLength: 24 })
    fc.assert(
      fc.property(any, (list) => {
        const all = list.map(({ unit, s }) => at(unit, s))
        const kept = new Set(withoutHouseCuts(all))
        for (const r of all) {
          const inHouse = all.some((from) => {
            const minute = all.filter((x) => x.at >= from.at && x.at <= from.at + 60_000)
            return minute.includes(r) && new Set(minute.map((x) => x.unit)).size >= 3
          })
          expect(kept.has(r)).toBe(!inHouse)
        }
      }),
    )
  })
})

describe('how a release fares', () => {
  const heard = [
    { unit: 'a', version: '1.4', hours: 210 * 24 },
    { unit: 'b', version: '1.4', hours: 190 * 24 },
    { unit: 'a', version: '1.5', hours: 52.5 * 24 },
    { unit: 'b', version: '1.5', hours: 38 * 24 },
  ]
  const restarts = [at('a', 0, '1.4'), at('b', 900, '1.4'), at('b', 1800, '1.4'), at('b', 2700, '1.4'), at('a', 9000)]
  test('is the worked example when that is what was heard: wait, 21 more unit-days', () => {
    const found = survivalOf(releaseRecords(heard, restarts), '1.5')
    expect(found).toMatchObject({ verdict: 'wait', moreDays: 21, of: '1.5' })
    expect(found?.releases[0]?.rate).toBeCloseTo(0.01, 9)
    expect(found?.releases[1]?.upper).toBeCloseTo(0.0615651, 6)
  })
  test('is not said of a release that nobody was heard with; newer ones say nothing of it', () => {
    expect(survivalOf(releaseRecords(heard, restarts), '1.6')).toBeNull()
    expect(survivalOf(releaseRecords(heard, restarts), '1.4')?.releases.map((r) => r.version)).toEqual(['1.4'])
    expect(survivalOf([], '1.5')).toBeNull()
  })
  test('versions stand in their order, whatever order they were heard in', () =>
    expect(
      releaseRecords(
        ['1.10', '1.9', 'v1.2'].map((version) => ({ unit: 'a', version, hours: 24 })),
        [],
      ).map((r) => r.version),
    ).toEqual(['v1.2', '1.9', '1.10']))
})
