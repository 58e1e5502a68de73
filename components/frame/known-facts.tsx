import { sizeWords } from '@fresh-coat/core/bytes/text'
import type { Pace } from '@fresh-coat/core/fleet/bench-time'
import { isIdle } from '@fresh-coat/core/pins/template'
import { backupOf, flashBytesOf } from '@fresh-coat/core/steps/backup/facts'
import { familyOf, identificationOf } from '@fresh-coat/core/steps/identify/facts'
import { isolationOf } from '@fresh-coat/core/steps/open/facts'
import { padStateOf, padsOf } from '@fresh-coat/core/steps/pads/facts'
import { templateOf } from '@fresh-coat/core/steps/pins/facts'
import { firmwareOf } from '@fresh-coat/core/steps/write/facts'
import { troubleSentence } from '@fresh-coat/core/trouble/statistics'
import { fromOthers, looksOf } from '@fresh-coat/core/unit/own-look'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { Fact, percentOf, shortMoment, twoDigits } from '@/components/paint/paint'
import type { Choices } from '@/components/steps/context'
import { AnotherUnit } from '@/components/units/another-unit'
import { type LogEntry, LogList } from './log-list'

const nothing = <span className="text-ink-3">–</span>

/** "04 122, 01 99": hands-on minutes of the finished units of a board, as they came. */
function paceWords(pace: Pace): string {
  const done = pace.units.filter((u) => u.done)
  if (done.length === 0) return ''
  const list = done.map((u) => `${twoDigits(u.number)} ${Math.round(u.minutes)}`).join(', ')
  const share =
    pace.share !== null && pace.share < 0.98
      ? ` The last ones took ${Math.round(pace.share * 100)} % of the first.`
      : ''
  return `Minutes at the bench until in service: ${list}.${share}`
}

/** What is known so far: each fact with the evidence it rests on. */
export function KnownFacts({ view, log, choices }: { view: UnitView; log: LogEntry[]; choices: Choices }) {
  const family = familyOf(view)
  const found = view.records.identify.data.evidence.length > 0 ? identificationOf(view) : null
  const share = family && found ? found.posterior[family.family] : null
  const kinds = view.records.identify.data.evidence.map((e) => e.kind.replace('_', ' ')).join(', ')
  const pads = padsOf(view)
  const solved = padStateOf(view)
  const isolation = isolationOf(view)
  const backup = backupOf(view)
  const flash = flashBytesOf(view)
  const used = (templateOf(view)?.pins ?? []).filter((p) => !isIdle(p.fn))
  const { join } = view.records
  const others = (view.board?.unitNumbers ?? []).filter((n) => n !== view.number)
  return (
    <>
      <h2 className="text-[1.1rem]">What’s known so far</h2>
      <dl>
        <Fact
          name="Family"
          evidence={
            family?.how === 'board'
              ? `${fromOthers(view)}, nobody looked here yet`
              : family?.how === 'decided'
                ? 'decided by a person'
                : kinds
          }
        >
          {family
            ? `${family.family}${share !== null && family.how === 'evidence' ? `, ${percentOf(share)}` : ''}`
            : nothing}
        </Fact>
        <Fact
          name="Flash"
          evidence={
            flash && view.records.backup.data.flashId
              ? `chip id ${view.records.backup.data.flashId}`
              : flash
                ? `${fromOthers(view)}${looksOf(view).pads ? '' : ', nobody looked here yet'}`
                : ''
          }
        >
          {flash ? sizeWords(flash) : nothing}
        </Fact>
        <Fact
          name="Pads"
          evidence={[
            solved.readings > 0
              ? `from ${solved.readings} readings${solved.solution ? `, runner-up ${percentOf(solved.solution.runnerUp.p)}` : ''}`
              : pads.pads.length > 0 && view.board?.pads
                ? `${fromOthers(view)}${looksOf(view).pads ? '' : ', nobody looked here yet'}`
                : '',
            pads.pitchMm ? `${pads.pitchMm} mm apart, parts side` : '',
          ]
            .filter(Boolean)
            .join('; ')}
        >
          {pads.pads.some((r) => r !== 'UNKNOWN') ? (
            <span className="pin">{pads.pads.map((r) => (r === 'UNKNOWN' ? '?' : r)).join(' · ')}</span>
          ) : pads.pads.length > 0 ? (
            `${pads.pads.length} pads, not taken yet`
          ) : (
            nothing
          )}
        </Fact>
        <Fact name="Isolated" evidence={view.board?.mains === false ? '' : isolation.reasons[0]}>
          {view.board?.mains === false
            ? 'Low voltage only'
            : isolation.verdict === 'isolated'
              ? 'Yes'
              : isolation.verdict === 'non-isolated'
                ? 'No'
                : 'Unknown: treated as No'}
        </Fact>
        <Fact
          name="Rating"
          evidence={view.board?.ratedAmps && !view.records.arrive.data.ratedAmps ? 'known for this board' : ''}
        >
          {(view.records.arrive.data.ratedAmps ?? view.board?.ratedAmps)
            ? `${view.records.arrive.data.ratedAmps ?? view.board?.ratedAmps} A`
            : nothing}
        </Fact>
        <Fact name="Backup" evidence={backup.first ? shortMoment(backup.first.createdAt) : ''}>
          {
            {
              verified: 'Verified, two equal reads',
              single: 'Read once',
              skipped: 'Skipped, with a reason',
              differ: 'Two reads differ',
              none: nothing,
            }[backup.state]
          }
        </Fact>
        <Fact
          name="Firmware"
          evidence={view.attempts[0] ? `last attempt: ${view.attempts[0].outcome.replace('-', ' ')}` : ''}
        >
          {firmwareOf(view) || nothing}
        </Fact>
        <Fact
          name="Pins"
          evidence={used.length > 0 && !looksOf(view).pins ? `${fromOthers(view)}, nobody looked here yet` : ''}
        >
          {used.length > 0 ? `${used.length} in use` : nothing}
        </Fact>
        <Fact name="Address" evidence={join.data.mac ? <span className="pin">{join.data.mac}</span> : ''}>
          {join.data.address ? <span className="pin">{join.data.address}</span> : nothing}
        </Fact>
        <Fact name="Topic">{view.topic ? <span className="pin break-all">{view.topic}</span> : nothing}</Fact>
      </dl>
      {view.board && (
        <>
          <h2 className="mt-4 text-[1.1rem]">Same board</h2>
          <p className="mt-1">
            {others.length > 0
              ? `${others.length === 1 ? 'Unit' : 'Units'} ${others.map(twoDigits).join(', ')} ${others.length === 1 ? 'is a' : 'are'} ${view.board.name} too. What ${others.length === 1 ? 'it' : 'they'} taught is filled in here.`
              : `The first ${view.board.name}. What is learned on it is kept for the next.`}
          </p>
          {choices.pace && paceWords(choices.pace) !== '' && (
            <p className="mt-1 text-ink-2">{paceWords(choices.pace)}</p>
          )}
          {troubleSentence(view.board.causes) && (
            <p className="mt-1 text-ink-2">{troubleSentence(view.board.causes)}</p>
          )}
          <div className="no-print mt-2">
            <AnotherUnit
              unitId={view.id}
              number={view.number}
              free={choices.next.number}
              name={choices.next.name}
              place={view.place}
            />
          </div>
        </>
      )}
      <h2 className="mt-4 text-[1.1rem]">Lately</h2>
      <LogList log={log} />
    </>
  )
}
