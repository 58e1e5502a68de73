import fc from 'fast-check'
import { computed, expectLike, refusalOf } from '../testing/like'
import {
  causeRemedy,
  causeSays,
  symptomNames,
  symptoms,
  symptomsInUse,
  testNamed,
  troubleshoot,
  troubleTests,
} from './troubleshoot'
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

describe('the tables', () => {
  test('every symptom shares out its chances, every cause has words and a remedy, every question is asked in words', () => {
    for (const { symptom, causes } of symptoms) {
      const sum = Object.values(causes).reduce((a, b) => a + b, 0)
      expect([symptom, sum]).toEqual([symptom, expect.closeTo(1, 9)])
      for (const cause of Object.keys(causes))
        expect([cause, causeSays(cause) === cause, causeRemedy(cause)]).toEqual([
          cause,
          false,
          expect.stringMatching(/.{8}/),
        ])
    }
    for (const { test, ask, yes, usual } of troubleTests) {
      expect([test, ask]).toEqual([test, expect.stringMatching(/\?$/)])
      for (const p of [usual, ...Object.values(yes)]) expect(p > 0 && p < 1).toBe(true)
      for (const cause of Object.keys(yes)) expect(causeSays(cause)).not.toBe(cause)
    }
  })
  test('names are there once', () => {
    for (const names of [symptomNames, troubleTests.map((t) => t.test)]) expect(new Set(names).size).toBe(names.length)
  })
  test.each(
    symptomsInUse.flatMap(({ symptom, causes }) => Object.keys(causes).map((cause) => [symptom, cause] as const)),
  )('%s: whoever answers as it is with %s finds it within six questions', (symptom, cause) => {
    const answers: { test: string; yes: boolean }[] = []
    for (let i = 0; i < 6; i++) {
      const found = troubleshoot({ symptom, answers })
      const next = found.ok ? found.value.next[0] : undefined
      const asked = next && testNamed(next.test)
      if (!asked) break
      answers.push({ test: asked.test, yes: (asked.yes[cause] ?? asked.usual) > 0.5 })
    }
    const found = troubleshoot({ symptom, answers })
    expect(found.ok && found.value.causes[0]?.id).toBe(cause)
  })
})
