import { dayWords } from '../edge/day'
import { backupOf, restoreDue } from '../steps/backup/facts'
import type { CoatProgress } from './coats'
import type { Condition } from './condition'
import { factsOfUnit } from './facts'
import { conditionsOf, lastingConditions } from './steps'
import type { UnitView } from './view'
import { type CoatId, coats, type FactId, routes, type StepId, stepIds, steps } from './way'

export type StepState = 'skipped' | 'todo' | 'in hand' | 'done' | 'decided' | 'stale'

export interface AssessedStep {
  id: StepId
  state: StepState
  /** Why it is stale, or what is missing before it can begin. */
  because: string
  conditions: Condition[]
  /** Every condition holds: it can be marked done. */
  ready: boolean
  /** Steps that come first and are not done. */
  waitsFor: StepId[]
}

export interface Assessment {
  steps: AssessedStep[]
  coats: CoatProgress[]
  /** The one step to go on with. */
  next: StepId
  lane: CoatId
  inService: boolean
  /** What waits on a person, with the way out. */
  waiting: { step: StepId; severity: 'error' | 'watch'; text: string; next: string }[]
}

export const factNames: Record<FactId, string> = {
  board: 'the board',
  family: 'the family',
  flashBytes: 'the flash size',
  pads: 'the pads',
  adapter: 'the adapter',
  image: 'the chosen image',
  written: 'what was written',
  firmware: 'the firmware',
  template: 'the pin template',
  address: 'the address',
  topic: 'the topic',
  powerOn: 'the power-on setting',
  hub: 'the hub',
  label: 'its name, number or place',
  secrets: 'a password or key',
}

type Facts = Record<FactId, string>

/** What changed since a step was done: "the address was …44, it is now …45". */
function changedFact(now: Facts, basis: Partial<Facts>): string {
  for (const [fact, was] of Object.entries(basis) as [FactId, string][]) {
    if (was === now[fact]) continue
    if (fact === 'board') return now.board ? 'It is another board now.' : 'Its board is not named any more.'
    const short = (text: string) => (text.length > 40 ? `${text.slice(0, 39)}…` : text || 'not set')
    return `${(factNames[fact][0] as string).toUpperCase()}${factNames[fact].slice(1)} changed: it was ${short(was)}, it is now ${short(now[fact])}.`
  }
  return ''
}

const settled = (state: StepState) => state === 'done' || state === 'decided' || state === 'skipped'

interface Standing {
  state: StepState
  because: string
}
/** What all steps are judged by: made once for a unit, since each costs as much as a step. */
interface Judged {
  lasting: ReadonlyMap<StepId, readonly Condition[]>
  standing: ReadonlyMap<StepId, Standing>
}

const firstOpen = (conditions: readonly Condition[] | undefined) => conditions?.find((c) => !c.met)

function standingOf(view: UnitView, step: StepId, facts: Facts, lasting: readonly Condition[]): Standing {
  const record = view.records[step]
  if (view.route && routes[view.route].skips.includes(step)) return { state: 'skipped', because: 'Not on this route.' }
  if (!record.done) return { state: record.version > 0 ? 'in hand' : 'todo', because: '' }
  const because = changedFact(facts, record.done.basis) || firstOpen(lasting)?.text || ''
  return because ? { state: 'stale', because } : { state: record.done.how, because }
}

function judged(view: UnitView): Judged {
  const facts = factsOfUnit(view)
  const lasting = new Map(stepIds.map((id) => [id, lastingConditions(view, id)]))
  return {
    lasting,
    standing: new Map(stepIds.map((id) => [id, standingOf(view, id, facts, lasting.get(id) ?? [])])),
  }
}

/** A step that was never done comes before one that went stale; waiting work is shown separately. */
function nextOf(stateOf: (id: StepId) => StepState): StepId {
  const order = stepIds.filter((id) => id !== 'watch')
  return (
    order.find((id) => !settled(stateOf(id)) && stateOf(id) !== 'stale') ??
    order.find((id) => stateOf(id) === 'stale') ??
    'watch'
  )
}

/** Where a unit stands: the state of every step, what is stale and why, and the one next thing to do. */
export function assess(view: UnitView): Assessment {
  const { lasting, standing } = judged(view)
  const of = (id: StepId) => standing.get(id) as Standing
  const stateOf = (id: StepId) => of(id).state
  const next = nextOf(stateOf)
  const inService = view.inService && view.ended === null && view.records.prove.done !== null
  const assessed = steps.map(({ id, needs }): AssessedStep => {
    const { state, because } = of(id)
    const conditions = conditionsOf(view, id, lasting.get(id))
    return {
      id,
      state: state === 'todo' && id === next ? 'in hand' : state,
      because,
      conditions,
      ready: conditions.every((c) => c.met),
      waitsFor: needs.filter((n) => !settled(stateOf(n))),
    }
  })
  const lane = (steps.find((s) => s.id === next) as (typeof steps)[number]).coat
  return {
    steps: assessed,
    coats: coats.map((coat) => {
      const members = steps.filter((s) => s.coat === coat.id && s.id !== 'watch' && stateOf(s.id) !== 'skipped')
      return {
        id: coat.id,
        name: coat.name,
        done: members.filter((s) => settled(stateOf(s.id))).length,
        of: members.length,
        active: coat.id === lane && !inService && view.ended === null,
      }
    }),
    next,
    lane: inService ? 'hang' : lane,
    inService,
    // Whatever is open about it waits for nobody any more.
    waiting: view.ended ? [] : waitingOn(view, assessed, lasting),
  }
}

/** Stale steps and backups that disagree: what a person has to come back to. */
function waitingOn(
  view: UnitView,
  assessed: readonly AssessedStep[],
  lasting: Judged['lasting'],
): Assessment['waiting'] {
  const out: Assessment['waiting'] = []
  const due = restoreDue(view)
  if (due !== null && due < view.today)
    out.push({
      step: 'backup',
      severity: 'watch',
      text: `A restore test of the stock firmware was due ${dayWords(due)}.`,
      next: 'Put it back once and see it start, or set another date.',
    })
  for (const step of assessed) {
    // An open gate is part of the work, not something that waits.
    const missing = firstOpen(lasting.get(step.id))
    if (step.state === 'stale')
      out.push({
        step: step.id,
        severity: 'watch',
        text: step.because,
        next: missing?.next || 'Look at it again and mark it done.',
      })
    else if (step.state === 'in hand' && step.id === 'backup' && missing && backupOf(view).state === 'differ')
      out.push({ step: step.id, severity: 'error', text: missing.text, next: missing.next })
    else if (step.state === 'in hand' && step.id === 'check' && view.image && missing)
      out.push({ step: step.id, severity: 'error', text: missing.text, next: missing.next })
    else if (step.state === 'in hand' && step.id === 'write' && (view.attempts[0]?.outcome ?? 'done') !== 'done')
      out.push({ step: step.id, severity: 'error', text: missing?.text ?? '', next: missing?.next ?? '' })
  }
  return out
}
