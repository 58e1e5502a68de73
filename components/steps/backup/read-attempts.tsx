import { readsTried } from '@fresh-coat/core/flash/tried'
import { wordsNotLogged } from '@fresh-coat/core/paste/offer'
import type { AttemptOutcome } from '@fresh-coat/core/unit/view'
import { Choice, NumberField } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { AttemptFields, AttemptTable, outcomeWords, WhatWorked } from '@/components/steps/write/attempts'

const readFailures = ['no-answer', 'lost-midway', 'cancelled'] as const

/** A read that did not work is logged as quickly as one that did is dropped; both count for the next time. */
export function LogRead({ view, act, open }: Pick<SurfaceProps<'backup'>, 'view' | 'act'> & { open: boolean }) {
  const words = wordsNotLogged(view)
  const told = words?.attempt.outcome ?? null
  const [form, setForm] = useKept(`read attempt ${words?.id ?? ''}`, {
    outcome: ((readFailures as readonly unknown[]).includes(told) ? told : 'no-answer') as AttemptOutcome,
    message: words?.attempt.message ?? '',
    minutes: null as number | null,
    baud: words?.attempt.baud ?? null,
    tool: words?.tool ?? '',
    system: words?.system ?? '',
  })
  const log = async () => {
    const ok = await act('log-attempt', {
      unitId: view.id,
      action: 'read',
      outcome: form.outcome,
      minutes: form.minutes ?? 0,
      ...(form.baud === null ? {} : { baud: form.baud }),
      verify: 'none',
      verified: false,
      message: form.message,
      tool: form.tool,
      system: form.system,
      wordsId: words?.id ?? null,
    })
    if (ok) setForm({ ...form, outcome: 'no-answer', message: '', minutes: null })
  }
  return (
    <>
      <Choice
        label="What happened"
        value={form.outcome}
        options={readFailures.map((o) => ({ value: o, label: outcomeWords[o] }))}
        onChange={(outcome) => setForm({ ...form, outcome })}
      />
      <NumberField
        label="Rate"
        unit="baud"
        min={300}
        max={4000000}
        whole
        value={form.baud}
        onChange={(baud) => setForm({ ...form, baud })}
      />
      <AttemptFields {...form} onChange={(change) => setForm({ ...form, ...change })} />
      <button
        type="button"
        className={`${buttonClass('plain')} justify-self-start`}
        disabled={open}
        onClick={() => void log()}
      >
        Log this read
      </button>
      {open && <p className="text-ink-2">The gate on the card comes first, before every attempt.</p>}
    </>
  )
}

/** How reads went so far, on this unit and on its board. */
export function ReadHistory({ view, act }: Pick<SurfaceProps<'backup'>, 'view' | 'act'>) {
  return (
    <>
      <WhatWorked tried={readsTried(view)} what="read" />
      {view.reads.length > 0 && (
        <AttemptTable
          attempts={view.reads}
          annotate={(attemptId, text) => act('annotate-attempt', { attemptId, text })}
        />
      )}
    </>
  )
}
