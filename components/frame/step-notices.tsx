import type { AssessedStep } from '@fresh-coat/core/unit/assess'
import type { StepRecord } from '@fresh-coat/core/unit/view'
import { type StepId, stepOf } from '@fresh-coat/core/unit/way'
import { buttonClass, Notice } from '@/components/paint/paint'
import type { Refusal } from '@/components/send'
import { Conflict } from './conflict'
import type { RecordHandle } from './use-record'

/** A record that this version cannot read: kept, offered as a file, and put aside only when a person says so. */
export function Unreadable({ record, href, beginAnew }: { record: StepRecord; href: string; beginAnew: () => void }) {
  const { unreadable } = record
  if (!unreadable) return null
  return (
    <Notice severity="error" title="What is stored of this step cannot be read by this version.">
      At {unreadable.where}: {unreadable.what}. It is kept as it is, and nothing is saved over it.
      <span className="mt-2 flex flex-wrap gap-2">
        <a className={buttonClass('main')} href={href} download>
          Save a copy of it
        </a>
        <button type="button" className={buttonClass('plain')} onClick={beginAnew}>
          Put it aside and begin this step anew
        </button>
      </span>
    </Notice>
  )
}

const Told = ({ refusal }: { refusal: Refusal }) => (
  <Notice severity="error" title={refusal.message}>
    {refusal.kept} {refusal.next}
  </Notice>
)

/** Fields of the other version are taken over, the rest stays as it is here; all of them is the other version. */
function settle(record: RecordHandle<StepId>, taken: readonly string[]): void {
  const { other } = record
  if (!other) return
  if (taken.length === other.fields.length) return record.takeOther()
  const theirs = other.data as Record<string, unknown>
  if (taken.length > 0) record.patch(Object.fromEntries(taken.map((f) => [f, theirs[f]])) as never)
  record.keepMine()
}

function Saving({ record }: { record: RecordHandle<StepId> }) {
  return (
    <>
      {record.state === 'conflict' && record.other && (
        <Conflict
          mine={record.data as Record<string, unknown>}
          theirs={record.other.data as Record<string, unknown>}
          fields={record.other.fields}
          choose={(taken) => settle(record, taken)}
        />
      )}
      {record.error && <Told refusal={record.error} />}
      {record.restored && record.state !== 'conflict' && (
        <Notice severity="ok" title="What you typed before is back.">
          It had not reached the server.
        </Notice>
      )}
    </>
  )
}

function Standing({ here }: { here: AssessedStep }) {
  const settled = here.state === 'done' || here.state === 'decided' || here.state === 'skipped'
  return (
    <>
      {here.state === 'stale' && (
        <Notice severity="watch" title={`Stale: ${here.because}`}>
          It was done before that. Look at it again and mark it done.
        </Notice>
      )}
      {here.state === 'skipped' && (
        <Notice severity="ok" title="This step is not on the unit’s route.">
          You may still write things down here.
        </Notice>
      )}
      {here.waitsFor.length > 0 && !settled && (
        <p className="text-ink-2">Usually after {here.waitsFor.map((id) => stepOf(id).title).join(' and ')}.</p>
      )}
    </>
  )
}

/** What has to be said above the work of a step: saving, refusals, how it stands. */
export function StepNotices({
  record,
  refusal,
  away,
  here,
}: {
  record: RecordHandle<StepId>
  refusal: Refusal | null
  away: boolean
  here: AssessedStep
}) {
  return (
    <>
      {(record.state === 'away' || away) && (
        <Notice severity="watch" title="The server does not answer.">
          What you typed is kept in this browser and sent as soon as it is back.
        </Notice>
      )}
      <Saving record={record} />
      {refusal && <Told refusal={refusal} />}
      <Standing here={here} />
    </>
  )
}
