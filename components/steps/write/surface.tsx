'use client'
import { hexNumber } from '@fresh-coat/core/bytes/text'
import { attemptAdvice, linkOverhead } from '@fresh-coat/core/flash/attempts'
import type { WritePlan } from '@fresh-coat/core/flash/preflight/question'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import { preflightOf, writeOffsetOf } from '@fresh-coat/core/steps/check/facts'
import { gateHolds, gatesFor } from '@fresh-coat/core/unit/gates'
import { type AttemptOutcome, attemptOutcomes } from '@fresh-coat/core/unit/view'
import { useState } from 'react'
import { Choice, NumberField } from '@/components/forms/fields'
import { buttonClass, Fact, Key, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'
import { Armed } from './armed'
import { AttemptFields, AttemptTable, outcomeWords, WhatWorked } from './attempts'

function plannedTime(plan: WritePlan | null): string {
  if (!plan) return 'not planned: the check stops it'
  return plan.seconds.total === null
    ? 'not known: nobody has recorded how large the chip is'
    : `about ${plan.seconds.total} s`
}

export function WriteSurface({ view, act, gates }: SurfaceProps<'write'>) {
  const plan = preflightOf(view)?.plan ?? null
  const check = view.records.check.data
  const offset = writeOffsetOf(view)
  const [form, setForm] = useState({
    outcome: 'done' as AttemptOutcome,
    minutes: null as number | null,
    verified: true,
    message: '',
    seconds: null as number | null,
  })
  const [armed, setArmed] = useState(false)
  const open = gatesFor(view, 'write').some((g) => !gateHolds(view, g))
  const log = async () => {
    const ok = await act('log-attempt', {
      unitId: view.id,
      outcome: form.outcome,
      minutes: form.minutes ?? 0,
      verify: check.verify,
      verified: form.outcome === 'done' && check.verify !== 'none' && form.verified,
      message: form.message,
      seconds: form.seconds,
    })
    if (ok) setForm({ outcome: 'done', minutes: null, verified: true, message: '', seconds: null })
  }
  const mode = (view.image?.inspection as ImageInspection | null)?.images[0]?.mode ?? null
  const advice = attemptAdvice(view.attempts, mode)
  const onBoard = view.board?.attempts ?? view.attempts
  const k = view.adapter ? linkOverhead(onBoard, view.adapter.name) : null
  return (
    <>
      <StepHeading title="Write it">
        With any tool you like; the facts it needs are here. Have its command ready before the hands are busy, and log
        how it went, also when it failed.
      </StepHeading>
      {gates}
      {view.image ? (
        <dl className="rounded-[10px] border border-rule bg-sheet-2 px-4 py-1 text-[1.1rem]">
          <Fact name="File" evidence={<span className="pin break-all select-all">{view.image.sha256}</span>}>
            {view.image.name}
          </Fact>
          <Fact name="Offset">
            {offset === null ? 'not known: see the check' : <span className="pin select-all">{hexNumber(offset)}</span>}
          </Fact>
          <Fact name="Length">
            <span className="pin select-all">{view.image.bytes}</span> bytes
          </Fact>
          {mode && (
            <Fact name="Mode" evidence="as the file carries it; writing does not change it">
              <span className="pin select-all">{mode}</span>
            </Fact>
          )}
          <Fact name="Erase">{check.eraseAll ? 'the whole chip' : 'only the written sectors'}</Fact>
          <Fact name="Rate">
            <span className="pin select-all">{check.baud}</span> baud
          </Fact>
          <Fact name="Time">{plannedTime(plan)}</Fact>
        </dl>
      ) : (
        <p className="rounded-[10px] border border-dashed border-rule p-4 text-ink-2">
          Choose an image at Check the image first.
        </p>
      )}
      {advice && (
        <p className="flex gap-2.5" aria-live="polite">
          <Tag severity="watch" /> {advice}
        </p>
      )}
      {view.image && plan && (
        <div className="flex flex-wrap items-center gap-3">
          <button
            type="button"
            data-key="b"
            className={buttonClass('main')}
            disabled={open}
            onClick={() => setArmed(true)}
          >
            Both hands full
            <Key>b</Key>
          </button>
          <span className="text-ink-2">Everything is set: one key starts the count, one digit logs it.</span>
          <Armed
            open={armed}
            onOpenChange={setArmed}
            plannedSeconds={plan.seconds.total}
            facts={[
              ['File', view.image.name],
              ['Offset', hexNumber(plan.regions[0]?.offset ?? 0)],
              ['Rate', `${check.baud} baud`],
              ['Erase', plan.erase === 'chip' ? 'whole chip' : `${plan.eraseSectors} sectors`],
            ]}
            log={(outcome, seconds) =>
              act('log-attempt', {
                unitId: view.id,
                outcome,
                minutes: Math.max(1, Math.ceil(seconds / 60)),
                verify: check.verify,
                verified: outcome === 'done' && check.verify !== 'none',
                message: '',
                // What the link itself took: erasing and verifying are planned apart.
                seconds:
                  plan.seconds.erase === null
                    ? null
                    : Math.max(0, Math.round((seconds - plan.seconds.erase - plan.seconds.verify) * 10) / 10),
              })
            }
          />
        </div>
      )}
      <Block title="How did it go">
        <Choice
          label="Outcome"
          value={form.outcome}
          options={attemptOutcomes.map((o) => ({ value: o, label: outcomeWords[o] }))}
          onChange={(outcome) => setForm({ ...form, outcome })}
        />
        <div className="grid gap-3 sm:grid-cols-[10rem_10rem_1fr]">
          <NumberField
            label="Writing took"
            unit="s"
            min={0}
            max={100000}
            value={form.seconds}
            onChange={(seconds) => setForm({ ...form, seconds })}
            hint={
              k === null
                ? 'As the tool says; it teaches the plan.'
                : `Overhead of this adapter so far: ${k.toFixed(2)}.`
            }
          />
          <AttemptFields
            minutes={form.minutes}
            message={form.message}
            onChange={(change) => setForm({ ...form, ...change })}
          />
        </div>
        {form.outcome === 'done' && check.verify !== 'none' && (
          <Choice
            label={`Checked by ${check.verify}`}
            value={form.verified ? 'yes' : 'no'}
            options={[
              { value: 'yes', label: 'Equal' },
              { value: 'no', label: 'Not checked' },
            ]}
            onChange={(v) => setForm({ ...form, verified: v === 'yes' })}
          />
        )}
        <button
          type="button"
          className={`${buttonClass('plain')} justify-self-start`}
          disabled={open || !view.image}
          onClick={() => void log()}
        >
          Log this attempt
        </button>
        {open && <p className="text-ink-2">The gate above comes first, before every attempt.</p>}
      </Block>
      {onBoard.length > 0 && (
        <Block title={view.board ? `On ${view.board.name}` : 'So far'}>
          <WhatWorked attempts={onBoard} what="write" />
        </Block>
      )}
      {view.attempts.length > 0 && (
        <Block title="Attempts on this unit">
          <AttemptTable
            attempts={view.attempts}
            annotate={(attemptId, text) => act('annotate-attempt', { attemptId, text })}
          />
        </Block>
      )}
    </>
  )
}
