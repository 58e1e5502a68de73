import { attempt } from '../testing/an-attempt'
import type { Attempt } from '../unit/view'
import {
  attemptAdvice,
  failureStory,
  linkOverhead,
  medianOf,
  methodOf,
  ratesBy,
  rateWords,
  triesPerUnit,
  wilsonLower,
} from './attempts'
import { backupName, manifestLine, planRestore, type RestoreFacts } from './restore'

describe('what attempts teach', () => {
  test.each([
    [14, 15, 0.702],
    [3, 3, 0.438],
    [2, 2, 0.342],
    [6, 9, 0.354],
    [0, 4, 0],
  ])('%d of %d', (k, n, lower) => expect(wilsonLower(k, n)).toBeCloseTo(lower, 3))
  test('many of many rank above few of few', () => {
    const list = [
      ...Array.from({ length: 15 }, (_, i) => attempt({ adapter: 'A', outcome: i === 0 ? 'no-answer' : 'done' })),
      ...Array.from({ length: 3 }, () => attempt({ adapter: 'B' })),
    ]
    expect(ratesBy(list, (a) => a.adapter).map((r) => [r.key, rateWords(r)])).toEqual([
      ['A', '14 of 15, 93 %'],
      ['B', '3 of 3, 100 %'],
    ])
    expect(rateWords({ done: 2, tries: 2 })).toBe('2 of 2')
  })
  test('k of an adapter: 512 000 bytes at 115 200 in 51.5 s', () => {
    const good = attempt({ seconds: 51.5, bytes: 512_000 })
    expect(linkOverhead([good], 'Adapter 2')).toBeCloseTo(1.159, 3)
    expect(linkOverhead([attempt({}), attempt({ outcome: 'no-answer', seconds: 5, bytes: 9 })], 'Adapter 2')).toBe(null)
  })
  test('after a failure', () => {
    expect(attemptAdvice([attempt({})], 'DIO')).toBe('')
    expect(attemptAdvice([attempt({ outcome: 'no-start' })], 'DIO')).toMatch(/Patch the image to DOUT/)
    expect(attemptAdvice([attempt({ outcome: 'no-start' })], 'DOUT')).toMatch(/is BOOT free/)
    const silent = attempt({ outcome: 'no-start', verified: true })
    expect(attemptAdvice([silent, silent], 'DOUT')).toMatch(/test image that only blinks/)
    // Once not compared, or once written before: the bytes themselves are in doubt first.
    expect(attemptAdvice([silent, { ...silent, verified: false }], 'DOUT')).not.toMatch(/test image/)
    expect(attemptAdvice([attempt({ outcome: 'no-answer' }), attempt({ outcome: 'no-answer' })], null)).toMatch(
      /exchange TX and RX/,
    )
    expect(attemptAdvice([attempt({ outcome: 'lost-midway' })], null)).toMatch(/57.600 baud/)
  })
  test('a read that broke off is read again, never patched together', () => {
    const advice = attemptAdvice([attempt({ outcome: 'lost-midway', action: 'read' })], null)
    expect(advice).toMatch(/57.600 baud/)
    expect(advice).toMatch(/never put together/)
    expect(advice).not.toMatch(/write again/)
  })
  test('a method is adapter, way in and what holds the leads', () => {
    expect(methodOf(attempt({ entry: 'button', held: 'jig' }))).toBe('Adapter 2, button, in a jig')
    expect(methodOf(attempt({ adapter: '' }))).toBe('adapter not said, way not said')
  })
  test('tries until the first good one, per unit; the later ones do not count', () => {
    const list = [
      attempt({ unitNumber: 1 }),
      attempt({ unitNumber: 1 }),
      attempt({ unitNumber: 2, outcome: 'no-answer' }),
      attempt({ unitNumber: 1, outcome: 'no-answer' }),
      attempt({ unitNumber: 3 }),
    ]
    expect(triesPerUnit(list).sort()).toEqual([1, 2])
  })
  test('what was done before the next success', () => {
    const failed = (more: Partial<Attempt>) => attempt({ outcome: 'no-answer', entry: 'button', held: 'hand', ...more })
    const list = [
      attempt({ unitNumber: 2, entry: 'button', held: 'hand' }),
      failed({ unitNumber: 2 }),
      attempt({ unitNumber: 1, baud: 57600, entry: 'button', held: 'jig' }),
      failed({ unitNumber: 1 }),
      failed({ unitNumber: 1 }),
      failed({ unitNumber: 3 }),
      attempt({ unitNumber: 3, outcome: 'lost-midway' }),
    ]
    expect(failureStory(list)).toEqual({
      outcome: 'no-answer',
      times: 4,
      helped: [
        { what: '57\u2009600 baud', times: 2 },
        { what: 'leads held otherwise', times: 2 },
        { what: 'nothing', times: 1 },
      ],
    })
    expect(failureStory([attempt({})])).toBeNull()
  })
  test('a patched copy is told by its mode, not as another file', () => {
    const list = [attempt({ mode: 'DOUT', sha256: 'b' }), attempt({ outcome: 'no-start', mode: 'DIO', sha256: 'a' })]
    expect(failureStory(list)?.helped).toEqual([{ what: 'another mode', times: 1 }])
  })
  test('medians', () => {
    expect(medianOf([])).toBe(null)
    expect(medianOf([3, 1, 2])).toBe(2)
    expect(medianOf([4, 1])).toBe(2.5)
  })
})

describe('putting the stock firmware back', () => {
  const facts: RestoreFacts = {
    family: 'LX106',
    unsplit: false,
    flashBytes: 1048576,
    backup: { state: 'verified', bytes: 1048576, sha256: 'ab' },
    fromUnit: null,
  }
  const codes = (more: Partial<RestoreFacts>) => planRestore({ ...facts, ...more }).findings.map((f) => f.code)
  test('a verified whole copy goes back at 0', () =>
    expect(planRestore(facts)).toEqual({ allowed: true, offset: 0, bytes: 1048576, sha256: 'ab', findings: [] }))
  test('what speaks against it', () => {
    expect(codes({ backup: { state: 'none', bytes: null, sha256: null } })).toEqual(['no-backup'])
    expect(codes({ backup: { ...facts.backup, state: 'single' } })).toEqual(['backup-single'])
    expect(codes({ flashBytes: 2097152 })).toEqual(['backup-size'])
    expect(codes({ fromUnit: 7 })).toEqual(['clones-address'])
  })
  test('variant A, and unsplit: from 0x11000 up only', () => {
    expect(planRestore({ ...facts, family: 'ARM968-A' })).toMatchObject({
      allowed: true,
      offset: 0x11000,
      bytes: 1048576 - 0x11000,
    })
    expect(planRestore({ ...facts, family: 'ARM968-B', unsplit: true }).offset).toBe(0x11000)
    expect(planRestore({ ...facts, family: 'ARM968-B' }).offset).toBe(0)
  })
  test('a line of the manifest, and names it cannot hold', () => {
    expect(manifestLine('unit007_stock_20310106.bin', 'ab')).toBe('ab  unit007_stock_20310106.bin\n')
    for (const name of ['a/b', 'a\\b', 'a\nb', '-x', '']) expect(manifestLine(name, 'ab')).toBe(null)
    expect(backupName(7, '2031-01-06')).toBe('unit007_stock_20310106.bin')
  })
})
