import fc from 'fast-check'
import { applied, deltaOf, type Json, mergeFields, reverted } from '../edge/patch'
import { unit } from '../testing/a-unit'
import { anyRecord } from '../testing/any-record'
import { assess } from './assess'
import { readBoardFact } from './board'
import { factsOfUnit } from './facts'
import { putTogether, type Stored, takeApart } from './record'
import { emptyRecord, newestShape, readRecord, records, type StepData } from './records'
import { stateOf } from './state'
import { conditionsOf, instructionsOf, learnedFrom } from './steps'
import { type StepId, stepIds } from './way'

/** What people can write down is far more than what tests think of: the rules stand up to all of it. */
const json = (x: unknown) => JSON.parse(JSON.stringify(x)) as Json
/** As text to compare: in which order somebody answered is no difference. */
const plain = (x: unknown): string =>
  JSON.stringify(x, (_, value) =>
    value !== null && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  )
const runs = { numRuns: 40 }
/** Typed generics end here: a step and its record by name. */
const unitWith = (step: StepId, record: unknown, more = {}) => unit({ [step]: record }, more)

describe.each(stepIds)('any record of %s', (step) => {
  const any = anyRecord(step) as fc.Arbitrary<StepData[StepId]>

  test('is stored in pieces and read back as it was', () =>
    fc.assert(
      fc.property(any, (record) => {
        const parts = json(takeApart(records[step], record as Stored)) as never
        expect(readRecord(step, newestShape(step), putTogether(records[step], parts))).toEqual({
          ok: true,
          data: json(record),
        })
      }),
      runs,
    ))
  test('a change of it is kept as a patch that goes both ways', () =>
    fc.assert(
      fc.property(any, any, (a, b) => {
        const [before, after] = [json(a), json(b)]
        const patch = deltaOf(before, after)
        expect(applied(before, patch)).toEqual(after)
        expect(reverted(after, patch)).toEqual(before)
      }),
      runs,
    ))
  test('of two people’s changes none is lost: what only one of them changed is kept, what both changed is asked', () =>
    fc.assert(
      fc.property(any, any, (mine, theirs) => {
        const base = emptyRecord(step) as Stored
        const merged = mergeFields(base, mine as Stored, theirs as Stored)
        for (const [field, value] of Object.entries(merged.data)) {
          const [b, m, t] = [base[field], (mine as Stored)[field], (theirs as Stored)[field]].map(plain)
          if (m === b) expect(plain(value)).toBe(t)
          else if (t === b || t === m) expect(plain(value)).toBe(m)
          else expect(merged.conflicts).toContain(field)
        }
      }),
      runs,
    ))
  test('is judged: no rule falls over it, and whatever is missing comes with a way out', () =>
    fc.assert(
      fc.property(any, (record) => {
        const view = unitWith(step, record)
        const { steps, next } = assess(view)
        expect(steps.map((s) => s.id)).toEqual([...stepIds])
        expect(stepIds).toContain(next)
        for (const other of stepIds) {
          for (const c of conditionsOf(view, other)) if (!c.met) expect(c.next).not.toBe('')
          for (const i of instructionsOf(view, other)) expect(i.say).not.toBe('')
        }
        expect(Object.values(factsOfUnit(view)).every((fact) => typeof fact === 'string')).toBe(true)
        expect(stateOf(view).next).toBe(next)
      }),
      runs,
    ))
  test('teaches its board only what the board can read again', () =>
    fc.assert(
      fc.property(any, (record) => {
        for (const { key, value } of learnedFrom(unitWith(step, record), step))
          expect(readBoardFact(key, json(value))).not.toBe(null)
      }),
      runs,
    ))
  test('never opens a gate or puts a unit in service by itself', () =>
    fc.assert(
      fc.property(any, (record) => {
        const view = unitWith(step, record)
        const { steps } = assess(view)
        expect(steps.some((s) => s.state === 'done')).toBe(false)
        for (const s of ['wire', 'backup', 'write'] as const)
          expect(conditionsOf(view, s).some((c) => !c.met)).toBe(true)
      }),
      runs,
    ))
})
