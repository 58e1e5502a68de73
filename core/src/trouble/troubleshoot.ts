import { z } from 'zod'
import { type Outcome, parseInput, refuse, strictCodes } from '../edge/fault'
import { nth } from '../edge/nth'
import { entropyBits, rankBy } from '../edge/order'
import bench from './causes.json'
import inUse from './causes-in-use.json'

/** From a symptom and answered questions to ranked causes, and the question that tells most per minute. */

const testsShown = 5

interface SymptomRow {
  symptom: string
  says: string
  /** Cause → prior. */
  causes: Record<string, number>
}
export interface TroubleTest {
  test: string
  minutes: number
  /** Needs 3.3 V on the board: stands behind the mains-off gate. */
  powered: boolean
  /** P(yes) for every cause that is not listed in `yes`. */
  usual: number
  yes: Record<string, number>
  ask: string
}
/** What shows while it is wired and written, and what shows after its first start. */
export const benchSymptoms = bench.symptoms as unknown as readonly SymptomRow[]
export const symptomsInUse = inUse.symptoms as unknown as readonly SymptomRow[]
export const symptoms: readonly SymptomRow[] = [...benchSymptoms, ...symptomsInUse]
const benchTests = bench.tests as unknown as readonly TroubleTest[]
const testsInUse = inUse.tests as unknown as readonly TroubleTest[]
export const troubleTests: readonly TroubleTest[] = [...benchTests, ...testsInUse]
/** Questions of the bench are not asked of a unit in use, nor the other way round. */
export const testsOf = (symptom: string): readonly TroubleTest[] =>
  symptomsInUse.some((s) => s.symptom === symptom) ? testsInUse : benchTests
const causeWords: Record<string, { says: string; remedy: string }> = { ...bench.causes, ...inUse.causes }
export const causeSays = (id: string): string => causeWords[id]?.says ?? id
export const causeRemedy = (id: string): string => causeWords[id]?.remedy ?? ''
export const testNamed = (test: string): TroubleTest | undefined => troubleTests.find((t) => t.test === test)
export const symptomNames: readonly string[] = symptoms.map((s) => s.symptom)

export const TroubleshootInput = z.object({
  symptom: z.string().superRefine((symptom, context) => {
    if (!symptomNames.includes(symptom))
      refuse(context, 'unknown-symptom', [], `There is no symptom called "${symptom}": ${symptomNames.join(', ')}.`)
  }),
  answers: z
    .array(
      z.object({
        test: z.string().superRefine((test, context) => {
          if (!testNamed(test)) refuse(context, 'unknown-test', [], `There is no test called "${test}".`)
        }),
        yes: z.boolean(),
      }),
    )
    .superRefine((answers, context) => {
      const seen = new Set<string>()
      answers.forEach(({ test }, i) => {
        if (seen.has(test)) refuse(context, 'duplicate', [i, 'test'], `${test} is answered twice: keep one.`)
        seen.add(test)
      })
    }),
})
export type TroubleAnswer = z.infer<typeof TroubleshootInput>['answers'][number]

export interface NextTest {
  test: string
  bits: number
  minutes: number
  bitsPerMinute: number
}
export interface Trouble {
  causes: { id: string; p: number }[]
  entropyBits: number
  next: NextTest[]
}

/** P′(yes | cause) = 0.98·P + 0.01: an answer given in a hurry rules nothing out. */
const chanceOfYes = (test: TroubleTest, cause: string): number => 0.98 * (test.yes[cause] ?? test.usual) + 0.01

function after(p: readonly number[], causes: readonly string[], test: TroubleTest, yes: boolean) {
  const joint = p.map((x, i) => {
    const chance = chanceOfYes(test, causes[i] as string)
    return x * (yes ? chance : 1 - chance)
  })
  const sum = joint.reduce((a, b) => a + b, 0)
  return { sum, p: joint.map((x) => x / sum) }
}

/** Bayes over the causes of a symptom. Refusals: `unknown-symptom`, `unknown-test`, `duplicate`, `missing`, `type`. */
export function troubleshoot(input: unknown): Outcome<Trouble> {
  const parsed = parseInput(TroubleshootInput, input, strictCodes)
  if (!parsed.ok) return parsed
  const { symptom, answers } = parsed.value
  const prior = (symptoms.find((s) => s.symptom === symptom) as SymptomRow).causes
  const causes = Object.keys(prior)
  const p = answers.reduce(
    (now, { test, yes }) => after(now, causes, testNamed(test) as TroubleTest, yes).p,
    Object.values(prior),
  )
  const answered = new Set(answers.map((a) => a.test))
  const entropy = entropyBits(p)
  const next = rankBy(
    testsOf(symptom)
      .filter((test) => !answered.has(test.test))
      .map((test): NextTest => {
        const expected = [true, false].reduce((sum, yes) => {
          const then = after(p, causes, test, yes)
          return sum + then.sum * entropyBits(then.p)
        }, 0)
        const bits = entropy - expected
        return { test: test.test, bits, minutes: test.minutes, bitsPerMinute: bits / test.minutes }
      }),
    (t) => t.bitsPerMinute,
  ).slice(0, testsShown)
  const ranked = rankBy(
    causes.map((id, i) => ({ id, p: nth(p, i) })),
    (c) => c.p,
  )
  return { ok: true, value: { causes: ranked, entropyBits: entropy, next } }
}
