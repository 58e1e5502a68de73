import type { UnitView } from '../../unit/view'
import { type StepId, stepOf, steps } from '../../unit/way'
import { backupOf, restoreDue } from '../backup/facts'
import { standingTests } from '../hub/facts'
import { familyOf } from '../identify/facts'
import { howSays, installedName, installedOf } from './installed'

/** One thing that was proven of a unit, and when. */
export interface Proof {
  step: StepId
  title: string
  /** What was proven, in words. */
  what: string
  /** The day it was said to be done; null where the step was left out or is open. */
  day: string | null
}

const dayOf = (iso: string | null | undefined): string | null => iso?.slice(0, 10) ?? null

function words(view: UnitView, step: StepId): string {
  const { arrive, start, pins, behaviour, prove, join } = view.records
  const installed = installedOf(view)
  const [calibration] = view.calibrations
  switch (step) {
    case 'arrive':
      return arrive.data.triedAsSold === 'faulty' ? 'faulty as it was sold' : 'worked as it was sold'
    case 'identify':
      return familyOf(view)?.family ?? ''
    case 'backup': {
      const { state } = backupOf(view)
      return state === 'verified'
        ? 'stock firmware kept, two equal reads'
        : state === 'skipped'
          ? 'no backup, with a reason'
          : 'read once'
    }
    case 'write':
      return installed ? `${installed.firmware} ${installedName(installed)}, ${howSays(installed.how)}` : ''
    case 'start':
      return start.data.seenBy && start.data.seenBy !== 'boot text' ? `seen: ${start.data.seenBy}` : 'by its boot text'
    case 'join':
      return join.data.address
    case 'pins':
      return `${pins.data.template?.pins.length ?? 0} pins`
    case 'behaviour': {
      const tried = behaviour.data.channels.filter((c) => c.tried).length
      return `${tried} ${tried === 1 ? 'output' : 'outputs'} tried`
    }
    case 'meter':
      return calibration ? `true is shown times ${calibration.gain.toFixed(4)}` : 'no meter'
    case 'hub':
      return standingTests(view)
        .map((t) => t.direction)
        .filter((d, i, all) => all.indexOf(d) === i)
        .join(' and ')
    case 'prove':
      return prove.data.powerCut
        ? `${prove.data.powerCut.seconds} s without power, came back ${prove.data.powerCut.cameBack}`
        : ''
    case 'name':
      return view.topic ?? ''
    default:
      return ''
  }
}

const certified: readonly StepId[] = [
  'identify',
  'backup',
  'write',
  'start',
  'join',
  'pins',
  'behaviour',
  'meter',
  'name',
  'hub',
  'prove',
]

/** What was proven of a unit, step by step, in the order of the way; steps of its route only. */
export const proofsOf = (view: UnitView, skipped: ReadonlySet<StepId>): Proof[] =>
  steps
    .filter((s) => certified.includes(s.id) && !skipped.has(s.id))
    .map((s) => ({
      step: s.id,
      title: stepOf(s.id).short,
      what: words(view, s.id),
      day: dayOf(view.records[s.id].done?.at),
    }))

/** The next thing that falls due: what and on which day; null when nothing is dated. */
export function nextDue(view: UnitView): { what: string; day: string; step: StepId } | null {
  const [calibration] = view.calibrations
  const dates: { what: string; day: string; step: StepId }[] = []
  if (calibration?.due) dates.push({ what: 'Check the meter again', day: calibration.due, step: 'meter' })
  const restore = restoreDue(view)
  if (restore) dates.push({ what: 'Try whether the stock firmware goes back', day: restore, step: 'backup' })
  return dates.sort((a, b) => (a.day < b.day ? -1 : 1))[0] ?? null
}
