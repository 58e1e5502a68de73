import fc from 'fast-check'
import { computed, expectLike, refusalOf } from '../testing/like'
import table from './causes.json'
import { causeRemedy, causeSays, symptomNames, symptoms, troubleshoot, troubleTests } from './troubleshoot'
import examples from './troubleshoot.examples.json'

describe('from a symptom to a cause', () => {
  test.each(examples)('worked example %#', ({ in: input, out }) => expectLike(computed(troubleshoot(input)), out))

  test('answers in another order give the same', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(...symptomNames),
        fc.shuffledSubarray([...troubleTests], { maxLength: 6 }),
        fc.infiniteStream(fc.boolean()),
        (symptom, tests, coin) => {
          const answers = tests.map(({ test }) => ({ test, yes: coin.next().value as boolean }))
          const one = computed(troubleshoot({ symptom, answers }))
          const other = computed(troubleshoot({ symptom, answers: [...answers].reverse() }))
          expect(other.causes[0]?.p).toBeCloseTo(one.causes[0]?.p as number, 9)
          expect(one.causes.reduce((a, c) => a + c.p, 0)).toBeCloseTo(1, 9)
          for (const n of one.next) {
            expect(n.bits).toBeGreaterThan(-1e-12)
            expect(answers.map((a) => a.test)).not.toContain(n.test)
          }
        },
      ),
    ))
  test('every prior sums to 1, and every cause has its words', () => {
    for (const s of symptoms) {
      expect(Object.values(s.causes).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9)
      for (const cause of Object.keys(s.causes)) {
        expect(causeSays(cause)).not.toBe(cause)
        expect(causeRemedy(cause)).not.toBe('')
      }
    }
    for (const t of troubleTests) for (const cause of Object.keys(t.yes)) expect(table.causes).toHaveProperty(cause)
  })
})

describe('bad input', () => {
  test.each([
    [{ symptom: 'smoke', answers: [] }, 'unknown-symptom', '/symptom'],
    [{ symptom: 'garbled', answers: [{ test: 'pray', yes: true }] }, 'unknown-test', '/answers/0/test'],
    [
      {
        symptom: 'garbled',
        answers: [
          { test: 'wiggle', yes: true },
          { test: 'wiggle', yes: false },
        ],
      },
      'duplicate',
      '/answers/1/test',
    ],
    [{ symptom: 'garbled' }, 'missing', '/answers'],
    [{ symptom: 'garbled', answers: [{ test: 'wiggle', yes: 'no' }] }, 'type', '/answers/0/yes'],
  ])('%#', (input, code, path) => expect(refusalOf(troubleshoot(input))).toEqual([code, path]))
})
