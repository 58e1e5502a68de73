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

/** What changed since a step was done: "the address was …44, it is now …45". */
function changedFact(view: UnitView, basis: Partial<Record<FactId, string>>): string {
  const now = factsOfUnit(view)
  for (const [fact, was] of Object.entries(basis) as [FactId, string][]) {
    if (was === now[fact]) continue
    if (fact === 'board') return now.board ? 'It is another board now.' : 'Its board is not named any more.'
    const short = (text: string) => (text.length > 40 ? `${text.slice(0, 39)}…` : text || 'not set')
    return `${(factNames[fact][0] as string).toUpperCase()}${factNames[fact].slice(1)} changed: it was ${short(was)}, it is now ${short(now[fact])}.`
  }
  return ''
}

const settled = (state: StepState) => state === 'done' || state === 'decided' || state === 'skipped'

/** Where a unit stands: the state of every what is stale and why, and the one next thing to do. */
export function assess(view: UnitView): Assessment {
  const skips: readonly StepId[] = view.route ? routes[view.route].skips : []
  const states = new Map<StepId, { state: StepState; because: string }>()
  for (const step of steps) {
    const record = view.records[step.id]
    if (skips.includes(step.id)) states.set(step.id, { state: 'skipped', because: 'Not on this route.' })
    else if (record.done) {
      const changed = changedFact(view, record.done.basis)
      const broken = lastingConditions(view, step.id).find((c) => !c.met)
      if (changed) states.set(step.id, { state: 'stale', because: changed })
      else if (broken) states.set(step.id, { state: 'stale', because: broken.text })
      else states.set(step.id, { state: record.done.how, because: '' })
    } else states.set(step.id, { state: record.version > 0 ? 'in hand' : 'todo', because: '' })
  }
  const stateOf = (id: StepId) => (states.get(id) as { state: StepState }).state
  const order = stepIds.filter((id) => id !== 'watch')
  // A step that was never done comes before one that went stale; waiting work is shown separately.
  const next =
    order.find((id) => !settled(stateOf(id)) && stateOf(id) !== 'stale') ??
    order.find((id) => stateOf(id) === 'stale') ??
    'watch'
  const inService = view.inService && view.ended === null && view.records.prove.done !== null

  const assessed = steps.map((step): AssessedStep => {
    const { state, because } = states.get(step.id) as { state: StepState; because: string }
    const conditions = conditionsOf(view, step.id)
    const waitsFor = step.needs.filter((id) => !settled(stateOf(id)))
    return {
      id: step.id,
      state: state === 'todo' && step.id === next ? 'in hand' : state,
      because,
      conditions,
      ready: conditions.every((c) => c.met),
      waitsFor,
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
    waiting: view.ended ? [] : waitingOn(view, assessed),
  }
}

/** Stale steps and backups that disagree: what a person has to come back to. */
function waitingOn(view: UnitView, assessed: readonly AssessedStep[]): Assessment['waiting'] {
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
    const missing = lastingConditions(view, step.id).find((c) => !c.met)
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
