import { FamilyFacts, factsOf, knownFamilies } from './families'

test.each(knownFamilies)('%s is a family we can read', (family) => {
  const facts = FamilyFacts.parse(factsOf(family))
  expect(facts.family).toBe(family)
  for (const pin of [facts.uart.tx, facts.uart.rx]) expect(Object.keys(facts.pins)).toContain(pin)
  if (facts.strapPin) expect(facts.pins[facts.strapPin]).toMatch(/\bboot\b/)
  expect(facts.baseMa).toBeLessThan(facts.peakMa)
})
