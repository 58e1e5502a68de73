'use client'
import { hexNumber } from '@fresh-coat/core/bytes/text'
import { gateHolds, gatesFor } from '@fresh-coat/core/journey/conditions'
import { preflightOf } from '@fresh-coat/core/journey/facts'
import { type AttemptOutcome, attemptOutcomes } from '@fresh-coat/core/journey/view'
import { useState } from 'react'
import { Choice, NumberField, TextField } from '../fields'
import { buttonClass, Fact, shortMoment, Tag } from '../paint'
import type { SurfaceProps } from './context'
import { Block, StepHeading } from './heading'

const outcomeWords: Record<AttemptOutcome, string> = {
  done: 'Done',
  'no-answer': 'No answer',
  'lost-midway': 'Lost midway',
  'verify-failed': 'Verify failed',
  'no-start': 'No start',
  cancelled: 'Cancelled',
}
const advice: Partial<Record<AttemptOutcome, string>> = {
  'no-answer': 'Enter download mode again. The second time: exchange TX and RX, then look at contact and supply.',
  'lost-midway': 'Half the rate, then look at contact and supply. A half-written chip is not a dead one: write again.',
  'verify-failed': 'Half the rate, then look at contact and supply. Write again.',
  'no-start': 'Wrote and checked, but silent: the flash mode is the first suspect. Use a DOUT build.',
}

export function WriteSurface({ view, act, gates }: SurfaceProps<'write'>) {
  const plan = preflightOf(view)?.plan ?? null
  const check = view.records.check.data
  const [form, setForm] = useState({
    outcome: 'done' as AttemptOutcome,
    minutes: null as number | null,
    verified: true,
    message: '',
  })
  const open = gatesFor(view, 'write').some((g) => !gateHolds(view, g))
  const log = async () => {
    const ok = await act('log-attempt', {
      unitId: view.id,
      outcome: form.outcome,
      minutes: form.minutes ?? 0,
      verify: check.verify,
      verified: form.outcome === 'done' && check.verify !== 'none' && form.verified,
      message: form.message,
    })
    if (ok) setForm({ outcome: 'done', minutes: null, verified: true, message: '' })
  }
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
            <span className="pin select-all">{hexNumber(check.offset ?? 0)}</span>
          </Fact>
          <Fact name="Length">
            <span className="pin select-all">{view.image.bytes}</span> bytes
          </Fact>
          <Fact name="Erase">{check.eraseAll ? 'the whole chip' : 'only the written sectors'}</Fact>
          <Fact name="Rate">
            <span className="pin select-all">{check.baud}</span> baud
          </Fact>
          <Fact name="Time">{plan ? `about ${plan.seconds.total} s` : 'not planned: the check stops it'}</Fact>
        </dl>
      ) : (
        <p className="rounded-[10px] border border-dashed border-rule p-4 text-ink-2">
          Choose an image at Check the image first.
        </p>
      )}
      <Block title="How did it go">
        <Choice
          label="Outcome"
          value={form.outcome}
          options={attemptOutcomes.map((o) => ({ value: o, label: outcomeWords[o] }))}
          onChange={(outcome) => setForm({ ...form, outcome })}
        />
        <div className="grid gap-3 sm:grid-cols-[10rem_1fr]">
          <NumberField
            label="Minutes at the bench"
            unit="min"
            min={0}
            max={10000}
            value={form.minutes}
            onChange={(minutes) => setForm({ ...form, minutes })}
          />
          <TextField
            label="The message as it was printed"
            value={form.message}
            maxLength={4000}
            onChange={(message) => setForm({ ...form, message })}
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
        {advice[form.outcome] && <p className="text-ink-2">{advice[form.outcome]}</p>}
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
      {view.attempts.length > 0 && (
        <Block title="Attempts">
          <div className="overflow-x-auto">
            <table className="plain">
              <thead>
                <tr>
                  <th>When</th>
                  <th>Outcome</th>
                  <th>File</th>
                  <th>Minutes</th>
                  <th>Message</th>
                </tr>
              </thead>
              <tbody>
                {view.attempts.map((a) => (
                  <tr key={a.id}>
                    <td className="whitespace-nowrap">{shortMoment(a.at)}</td>
                    <td>
                      <Tag severity={a.outcome === 'done' ? (a.verified ? 'ok' : 'watch') : 'error'}>
                        {a.outcome === 'done'
                          ? a.verified
                            ? `equal by ${a.verify}`
                            : 'not checked'
                          : outcomeWords[a.outcome].toLowerCase()}
                      </Tag>
                    </td>
                    <td className="break-all">{a.fileName}</td>
                    <td className="pin">{a.minutes}</td>
                    <td dir="auto">{a.message}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </Block>
      )}
    </>
  )
}
