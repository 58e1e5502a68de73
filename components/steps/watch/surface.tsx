'use client'
import { TextField } from '@/components/forms/fields'
import Link from '@/components/link'
import { Fact, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { StepHeading } from '@/components/steps/heading'
import { Updates } from '@/components/steps/watch/updates'

export function WatchSurface(props: SurfaceProps<'watch'>) {
  const { view, assessment, record } = props
  const due = view.calibrations[0]?.due
  return (
    <>
      <StepHeading title={assessment.inService ? 'In service' : 'Not in service yet'}>
        {assessment.inService
          ? 'What went stale or falls due shows up here and on the Bench.'
          : 'Finish Prove, and this page begins to watch.'}
      </StepHeading>
      {assessment.waiting.length === 0 && assessment.inService && (
        <p className="flex gap-2.5">
          <Tag severity="ok" /> Nothing waits on you.
        </p>
      )}
      <ul className="grid gap-3">
        {assessment.waiting.map((w) => (
          <li key={w.step} className="flex gap-2.5">
            <Tag severity={w.severity} />
            <div>
              <p>{w.text}</p>
              <p className="text-ink-2">
                {w.next}{' '}
                <Link className="underline underline-offset-4" href={`/units/${view.number}/${w.step}`}>
                  Go there
                </Link>
              </p>
            </div>
          </li>
        ))}
      </ul>
      <dl>
        <Fact name="Power cut">
          {view.records.prove.data.powerCut
            ? `${view.records.prove.data.powerCut.seconds} s, came back ${view.records.prove.data.powerCut.cameBack}`
            : 'not tried'}
        </Fact>
        <Fact name="Meter">{due ? `re-check due ${due}` : 'no re-check due'}</Fact>
        <Fact name="Hub tests">{view.hubTests.length}</Fact>
      </dl>
      <Updates {...props} />
      <TextField label="Note" value={record.data.note} maxLength={2000} onChange={(note) => record.patch({ note })} />
    </>
  )
}
