import { FamilyFacts, factsOf, knownFamilies, straplessEntry } from './families'

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
