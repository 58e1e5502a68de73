import { attemptAdvice } from '@fresh-coat/core/flash/attempts'
import type { AttemptOutcome } from '@fresh-coat/core/unit/view'
import { useState } from 'react'
import { Choice, NumberField } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { buttonClass, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { AttemptFields, AttemptTable, outcomeWords, WhatWorked } from '@/components/steps/write/attempts'

const readFailures = ['no-answer', 'lost-midway', 'cancelled'] as const

/** A read that did not work is logged as quickly as one that did is dropped; both count for the next time. */
export function ReadAttempts({ view, act, open }: Pick<SurfaceProps<'backup'>, 'view' | 'act'> & { open: boolean }) {
  const [form, setForm] = useState({
    outcome: 'no-answer' as AttemptOutcome,
    message: '',
    minutes: null as number | null,
    baud: null as number | null,
  })
  const advice = attemptAdvice(view.reads, null)
  const onBoard = view.board?.reads ?? view.reads
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
    })
    if (ok) setForm({ ...form, outcome: 'no-answer', message: '', minutes: null })
  }
  return (
    <>
      {advice && (
        <p className="flex gap-2.5" aria-live="polite">
          <Tag severity="watch" /> {advice}
        </p>
      )}
      <Fold summary="A read that did not work">
        <Choice
          label="What happened"
          value={form.outcome}
          options={readFailures.map((o) => ({ value: o, label: outcomeWords[o] }))}
          onChange={(outcome) => setForm({ ...form, outcome })}
        />
        <div className="grid gap-3 sm:grid-cols-[10rem_10rem_1fr]">
          <NumberField
            label="Rate"
            unit="baud"
            min={300}
            max={4000000}
            whole
            value={form.baud}
            onChange={(baud) => setForm({ ...form, baud })}
          />
          <AttemptFields
            minutes={form.minutes}
            message={form.message}
            onChange={(change) => setForm({ ...form, ...change })}
          />
        </div>
        <button
          type="button"
          className={`${buttonClass('plain')} justify-self-start`}
          disabled={open}
          onClick={() => void log()}
        >
          Log this read
        </button>
        {open && <p className="text-ink-2">The gate above comes first, before every attempt.</p>}
      </Fold>
      {onBoard.length > 0 && (
        <Fold summary={`Reads so far${view.board ? ` on ${view.board.name}` : ''}: ${onBoard.length}`}>
          <WhatWorked attempts={onBoard} what="read" />
          {view.reads.length > 0 && (
            <AttemptTable
              attempts={view.reads}
              annotate={(attemptId, text) => act('annotate-attempt', { attemptId, text })}
            />
          )}
        </Fold>
      )}
    </>
  )
}
