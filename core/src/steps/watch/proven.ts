import { dayOf } from '../../edge/day'
import { isIdle } from '../../pins/template'
import type { AssessedStep } from '../../unit/assess'
import type { UnitView } from '../../unit/view'
import { type StepId, stepOf, steps } from '../../unit/way'
import { type BackupFact, backupOf, restoreDue } from '../backup/facts'
import { isTried } from '../behaviour/facts'
import { standingTests } from '../hub/facts'
import { familyOf } from '../identify/facts'
import { calibrationDue } from '../meter/quantity'
import { templateOf } from '../pins/facts'
import { howSays, installedName, installedOf } from './installed'

/** One thing that was proven of a unit, and when. */
export interface Proof {
  step: StepId
  title: string
  /** Whether it stands: proven, decided by a person instead, stale since something changed, or open. */
  standing: 'proven' | 'decided' | 'stale' | 'open'
  /** What was proven, in words; of a stale one why it no longer holds. */
  what: string
  /** The day it was said to be done; null while it is open. */
  day: string | null
}

const backupWords: Record<BackupFact['state'], string> = {
  verified: 'stock firmware kept, two equal reads',
  single: 'read once',
  differ: 'two reads that differ',
  skipped: 'no backup, with a reason',
  none: 'no backup',
}

function words(view: UnitView, step: StepId): string {
  const { start, behaviour, prove, join } = view.records
  const installed = installedOf(view)
  const calibration = view.calibrations.find((c) => c.quantity === 'P') ?? view.calibrations[0]
  switch (step) {
    case 'identify':
      return familyOf(view)?.family ?? ''
    case 'backup':
      return backupWords[backupOf(view).state]
    case 'write':
      return installed ? `${installed.firmware} ${installedName(installed)}, ${howSays(installed.how)}` : ''
    case 'start':
      return start.data.seenBy && start.data.seenBy !== 'boot text' ? `seen: ${start.data.seenBy}` : 'by its boot text'
    case 'join':
      return join.data.address
    case 'pins': {
      const used = (templateOf(view)?.pins ?? []).filter((p) => !isIdle(p.fn)).length
      return `${used} ${used === 1 ? 'pin' : 'pins'} in use`
    }
    case 'behaviour': {
      const tried = behaviour.data.channels.filter((c) => isTried(view, c)).length
      return `${tried} ${tried === 1 ? 'output' : 'outputs'} tried`
    }
    case 'meter':
      return calibration
        ? `true is shown times ${calibration.gain.toFixed(4)}`
        : view.board?.hasMeter === false
          ? 'no meter'
          : 'not calibrated'
    case 'hub':
      return standingTests(view)
        .map((t) => t.direction)
        .filter((d, i, all) => all.indexOf(d) === i)
        .join(' and ')
    case 'prove':
      return prove.data.powerCut
        ? `${prove.data.powerCut.seconds} s without power, came back ${prove.data.powerCut.cameBack ?? 'nobody said how'}`
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

const standingOf: { [S in AssessedStep['state']]?: Proof['standing'] } = {
  done: 'proven',
  decided: 'decided',
  stale: 'stale',
}

/** What was proven of a unit and whether it still stands, in the order of the way; steps of its route only. */
export const proofsOf = (view: UnitView, assessed: readonly AssessedStep[]): Proof[] =>
  steps.flatMap(({ id }) => {
    const now = assessed.find((s) => s.id === id)
    if (!now || now.state === 'skipped' || !certified.includes(id)) return []
    const standing = standingOf[now.state] ?? 'open'
    const done = view.records[id].done
    const what = standing === 'stale' ? now.because : standing === 'open' ? '' : words(view, id)
    return [
      {
        step: id,
        title: stepOf(id).short,
        standing,
        what,
        day: standing === 'open' || !done ? null : dayOf(done.at, view.zone),
      },
    ]
  })

/** The next thing that falls due: what and on which day; null when nothing is dated. */
export function nextDue(view: UnitView): { what: string; day: string; step: StepId } | null {
  const meterDue = calibrationDue(view)
  const dates: { what: string; day: string; step: StepId }[] = []
  if (meterDue) dates.push({ what: 'Check the meter again', day: meterDue, step: 'meter' })
  const restore = restoreDue(view)
  if (restore) dates.push({ what: 'Try whether the stock firmware goes back', day: restore, step: 'backup' })
  return dates.sort((a, b) => (a.day < b.day ? -1 : 1))[0] ?? null
}
