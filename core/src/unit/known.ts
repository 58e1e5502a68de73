import { sizeWords } from '../bytes/text'
import { isIdle } from '../pins/template'
import { type BackupFact, backupOf, flashBytesOf } from '../steps/backup/facts'
import { familyOf, identificationOf } from '../steps/identify/facts'
import { isolationOf } from '../steps/open/facts'
import { padStateOf, padsOf } from '../steps/pads/facts'
import { templateOf } from '../steps/pins/facts'
import { firmwareOf } from '../steps/write/facts'
import { fromOthers, looksOf } from './own-look'
import type { UnitView } from './view'

/** Something known of a unit, in words. */
export interface KnownFact {
  name: string
  /** Null while nobody knows. */
  value: string | null
  /** What it rests on; empty when that goes without saying. */
  evidence: string
  /** A pin, an address or bytes: set as such. */
  technical?: boolean
}

const percent = (p: number) => (p < 1 && p >= 0.9995 ? '> 99.9 %' : `${(p * 100).toFixed(1)} %`)
const unseen = (view: UnitView, looked: boolean) => `${fromOthers(view)}${looked ? '' : ', nobody looked here yet'}`

function familyFact(view: UnitView): KnownFact {
  const family = familyOf(view)
  const { evidence } = view.records.identify.data
  const found = evidence.length > 0 ? identificationOf(view) : null
  const share = family && found && family.how === 'evidence' ? found.posterior[family.family] : null
  const rests = {
    board: unseen(view, false),
    decided: 'decided by a person',
    evidence: evidence.map((e) => e.kind.replaceAll('_', ' ')).join(', '),
  }
  return {
    name: 'Family',
    value: family ? `${family.family}${share ? `, ${percent(share)}` : ''}` : null,
    evidence: family ? (rests[family.how as keyof typeof rests] ?? '') : rests.evidence,
  }
}

function flashFact(view: UnitView): KnownFact {
  const flash = flashBytesOf(view)
  const { flashId } = view.records.backup.data
  const evidence = !flash ? '' : flashId ? `chip id ${flashId}` : unseen(view, looksOf(view).pads)
  return { name: 'Flash', value: flash ? sizeWords(flash) : null, evidence }
}

function padsFact(view: UnitView): KnownFact {
  const pads = padsOf(view)
  const { readings, solution } = padStateOf(view)
  const known = pads.pads.some((role) => role !== 'UNKNOWN')
  const runnerUp = solution ? `, runner-up ${percent(solution.runnerUp.p)}` : ''
  const rests =
    readings > 0
      ? `from ${readings} ${readings === 1 ? 'reading' : 'readings'}${runnerUp}`
      : pads.pads.length > 0 && view.board?.pads
        ? unseen(view, looksOf(view).pads)
        : ''
  return {
    name: 'Pads',
    technical: known,
    value: known
      ? pads.pads.map((role) => (role === 'UNKNOWN' ? '?' : role)).join(' · ')
      : pads.pads.length > 0
        ? `${pads.pads.length} pads, not taken yet`
        : null,
    evidence: [rests, pads.pitchMm ? `${pads.pitchMm} mm apart, parts side` : ''].filter(Boolean).join('; '),
  }
}

/** Only where one is named: most units have their pads on the board. */
const moduleFact = ({ module }: UnitView): KnownFact[] =>
  module
    ? [{ name: 'Module', value: module.name, evidence: `${module.family}, its contacts as they stand under Kit` }]
    : []

const isolationWords = { isolated: 'Yes', 'non-isolated': 'No', unknown: 'Unknown: treated as No' }

/** Is the low-voltage side isolated from the mains, and why. */
export function isolationFact(view: UnitView): KnownFact {
  if (view.board?.mains === false) return { name: 'Isolated', value: 'Low voltage only', evidence: '' }
  const { verdict, reasons } = isolationOf(view)
  return { name: 'Isolated', value: isolationWords[verdict], evidence: reasons[0] ?? '' }
}

function ratingFact(view: UnitView): KnownFact {
  const own = view.records.arrive.data.ratedAmps
  const amps = own ?? view.board?.ratedAmps ?? null
  return {
    name: 'Rating',
    value: amps ? `${amps} A` : null,
    evidence: amps && own === null ? 'known for this board' : '',
  }
}

const backupWords: Record<BackupFact['state'], string | null> = {
  verified: 'Verified, two equal reads',
  single: 'Read once',
  skipped: 'Skipped, with a reason',
  differ: 'Two reads differ',
  none: null,
}

function pinsFact(view: UnitView): KnownFact {
  const used = (templateOf(view)?.pins ?? []).filter((p) => !isIdle(p.fn)).length
  return {
    name: 'Pins',
    value: used > 0 ? `${used} in use` : null,
    evidence: used > 0 && !looksOf(view).pins ? unseen(view, false) : '',
  }
}

/** What is known of a unit, each fact with the evidence it rests on; what nobody knows has no value. */
export function knownFacts(view: UnitView): KnownFact[] {
  const { join } = view.records
  const last = view.attempts[0]
  return [
    familyFact(view),
    flashFact(view),
    padsFact(view),
    ...moduleFact(view),
    isolationFact(view),
    ratingFact(view),
    { name: 'Backup', value: backupWords[backupOf(view).state] ?? null, evidence: '' },
    {
      name: 'Firmware',
      value: firmwareOf(view) || null,
      evidence: last ? `last attempt: ${last.outcome.replaceAll('-', ' ')}` : '',
    },
    pinsFact(view),
    { name: 'Address', technical: true, value: join.data.address || null, evidence: join.data.mac },
    { name: 'Topic', technical: true, value: view.topic, evidence: '' },
  ]
}
