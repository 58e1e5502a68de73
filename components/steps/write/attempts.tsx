'use client'
import { within } from '@fresh-coat/core/edge/within'
import { heldWords, rateWords, type SuccessRate } from '@fresh-coat/core/flash/attempts'
import type { Tried } from '@fresh-coat/core/flash/tried'
import type { Attempt, AttemptOutcome } from '@fresh-coat/core/unit/view'
import { useState } from 'react'
import { NumberField, TextField } from '@/components/forms/fields'
import { buttonClass, shortMoment, Tag } from '@/components/paint/paint'
import { Scrolls } from '@/components/tables/scrolls'

export const outcomeWords: Record<AttemptOutcome, string> = {
  done: 'Done',
  'no-answer': 'No answer',
  'lost-midway': 'Lost midway',
  'verify-failed': 'Verify failed',
  'no-start': 'No start',
  cancelled: 'Cancelled',
}

interface AttemptForm {
  minutes: number | null
  message: string
  tool: string
  system: string
}

/** Minutes at the bench, the tool and its message: what every attempt is asked for. */
export function AttemptFields({
  minutes,
  message,
  tool,
  system,
  onChange,
}: AttemptForm & { onChange: (change: Partial<AttemptForm>) => void }) {
  return (
    <>
      <NumberField
        label="Minutes at the bench"
        unit="min"
        min={0}
        max={10000}
        value={minutes}
        onChange={(next) => onChange({ minutes: next })}
      />
      <TextField
        label="The message as it was printed"
        value={message}
        maxLength={4000}
        onChange={(next) => onChange({ message: next })}
      />
      <div className="grid grid-cols-2 gap-3">
        <TextField label="Tool" value={tool} maxLength={80} onChange={(next) => onChange({ tool: next })} />
        <TextField label="It ran on" value={system} maxLength={80} onChange={(next) => onChange({ system: next })} />
      </div>
    </>
  )
}

/** Success per way, best first by the lower bound that the number of tries allows. */
function Rates({ title, rates }: { title: string; rates: readonly SuccessRate[] }) {
  return (
    <div>
      <h4 className="font-semibold text-ink-2">{title}</h4>
      <ul className="grid gap-1">
        {rates.map((r) => (
          <li key={r.key} className="grid grid-cols-[1fr_8rem] items-center gap-3">
            <span>
              {r.key}
              <span className="mt-0.5 block h-2 overflow-hidden rounded-[3px] bg-unpainted" aria-hidden="true">
                <span className="block h-full bg-verdigris" style={{ width: `${r.lower * 100}%` }} />
              </span>
            </span>
            <span className="pin text-right">{rateWords(r)}</span>
          </li>
        ))}
      </ul>
    </div>
  )
}

const times = (n: number) => (n === 1 ? 'once' : `${n} times`)

/** What the attempts on a board teach for the next one. */
export function WhatWorked({ tried, what }: { tried: Tried; what: 'write' | 'read' }) {
  const { minutes, tries, last, story } = tried
  return (
    <>
      <Rates title="Adapter and way in together" rates={tried.methods} />
      <div className="grid gap-4 md:grid-cols-2">
        <Rates title="By adapter" rates={tried.adapters} />
        <Rates title="By way in" rates={tried.ways} />
        {tried.tools.length > 0 && <Rates title="By tool" rates={tried.tools} />}
      </div>
      <p className="text-ink-2">
        {'A bar is as long as that many tries prove at least. '}
        {minutes !== null && `Median ${minutes} min a good ${what}. `}
        {tries !== null && `Median ${tries} ${tries === 1 ? 'try' : 'tries'} per unit. `}
        {last &&
          `The last failure: ${within(outcomeWords[last.outcome])}${last.unitNumber ? `, unit ${last.unitNumber}` : ''}, ${shortMoment(last.at)}${last.message ? `, “${last.message}”` : ''}. `}
        {story &&
          story.helped.length > 0 &&
          `Most often it was ${within(outcomeWords[story.outcome])}, ${times(story.times)}; it then worked with ${story.helped
            .map((h) => `${h.what === 'nothing' ? 'nothing changed' : h.what} (${times(h.times)})`)
            .join(', ')}.`}
      </p>
    </>
  )
}

/** Every attempt as it was logged. Nothing in it is edited; notes are added. */
export function AttemptTable({
  attempts,
  annotate,
}: {
  attempts: readonly Attempt[]
  annotate: (attemptId: string, text: string) => Promise<boolean>
}) {
  return (
    <Scrolls label="Attempts">
      <table className="plain">
        <thead>
          <tr>
            <th>When</th>
            <th>Outcome</th>
            <th>How</th>
            <th>File</th>
            <th>Minutes</th>
            <th>Message and notes</th>
          </tr>
        </thead>
        <tbody>
          {attempts.map((a) => (
            <tr key={a.id}>
              <td className="whitespace-nowrap">{shortMoment(a.at)}</td>
              <td>
                <Tag severity={a.outcome !== 'done' ? 'error' : a.verified || a.action === 'read' ? 'ok' : 'watch'}>
                  {a.outcome !== 'done'
                    ? within(outcomeWords[a.outcome])
                    : a.action === 'read'
                      ? 'read'
                      : a.verified
                        ? `equal by ${a.verify}`
                        : 'not checked'}
                </Tag>
              </td>
              <td className="min-w-[11rem] text-[0.9rem]">
                {[
                  a.adapter,
                  a.entry,
                  a.held ? heldWords[a.held] : '',
                  a.baud > 0 ? `${a.baud} baud` : '',
                  a.real === null ? 'over a bridge' : '',
                  a.mode ?? '',
                ]
                  .filter(Boolean)
                  .join(', ')}
              </td>
              <td className="min-w-[9rem] break-all">{a.fileName}</td>
              <td className="pin">{a.minutes > 0 ? a.minutes : '–'}</td>
              <td className="min-w-[14rem]" dir="auto">
                {a.message}
                {(a.notes ?? []).map((n) => (
                  <p key={n.at} className="text-[0.9rem] text-ink-2">
                    {shortMoment(n.at)}: {n.text}
                  </p>
                ))}
                <AddNote save={(text) => annotate(a.id, text)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scrolls>
  )
}

function AddNote({ save }: { save: (text: string) => Promise<boolean> }) {
  const [text, setText] = useState<string | null>(null)
  if (text === null)
    return (
      <button
        type="button"
        className="inline-block min-h-6 text-[0.9rem] underline underline-offset-4"
        onClick={() => setText('')}
      >
        Add a note
      </button>
    )
  return (
    <form
      className="grid gap-1.5"
      onSubmit={(e) => {
        e.preventDefault()
        void save(text).then((ok) => ok && setText(null))
      }}
    >
      <TextField label="Note on this attempt" value={text} maxLength={1000} onChange={setText} />
      <div className="flex gap-2">
        <button type="submit" className={buttonClass('plain')} disabled={text.trim() === ''}>
          Keep the note
        </button>
        <button type="button" className={buttonClass('quiet')} onClick={() => setText(null)}>
          Leave it
        </button>
      </div>
    </form>
  )
}
