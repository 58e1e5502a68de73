import {
  FamilyFacts,
  factsOf,
  hasPartitions,
  headerless,
  keptBelow,
  knownFamilies,
  placedByProfile,
  settingsSectorsAtEnd,
  straplessEntry,
} from './families'

test.each(knownFamilies)('%s is a family we can read', (family) => {
  const facts = FamilyFacts.parse(factsOf(family))
  expect(facts.family).toBe(family)
  for (const pin of [facts.uart.tx, facts.uart.rx]) expect(Object.keys(facts.pins)).toContain(pin)
  if (facts.strapPin) expect(facts.pins[facts.strapPin]).toMatch(/\bboot\b/)
  expect(facts.baseMa).toBeLessThan(facts.peakMa)
})

test('a family is entered by its strap or without one, never both', () => {
  for (const family of knownFamilies)
    expect({ family, strapless: straplessEntry(family) !== null }).toEqual({
      family,
      strapless: factsOf(family).strapPin === null,
    })
  expect([straplessEntry('OTHER'), straplessEntry(null), straplessEntry('toString')]).toEqual([null, null, null])
})

describe('what the files of a family are like', () => {
  test.each([
    ['LX106', false, false, false, 5],
    ['LX6', false, true, false, 0],
    ['LX7', false, true, false, 0],
    ['RV32', false, true, false, 0],
    ['ARM968-A', true, false, false, 0],
    ['ARM968-B', true, false, false, 0],
    ['CM3', true, false, true, 0],
    ['OTHER', false, false, false, 0],
    [null, false, false, false, 0],
  ])(
    '%s: headerless %p, partitions %p, placed by profile %p, settings in the last %p',
    (family, none, table, profile, n) =>
      expect([
        headerless(family),
        hasPartitions(family),
        placedByProfile(family),
        settingsSectorsAtEnd(family),
      ]).toEqual([none, table, profile, n]),
  )
  test('below 0x11000 an ARM968-A is kept, and so is one of which nobody knows the variant', () => {
    expect([keptBelow('ARM968-A', false), keptBelow('ARM968-B', false)]).toEqual([0x11000, 0])
    expect([keptBelow('ARM968-A', true), keptBelow('ARM968-B', true)]).toEqual([0x11000, 0x11000])
    expect([keptBelow('LX106', true), keptBelow('OTHER', true), keptBelow(null, true)]).toEqual([0, 0, 0])
  })
})
