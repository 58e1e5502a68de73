'use client'
import { backWithinMs, type HowItWent } from '@fresh-coat/core/fleet/campaign'
import type { BoardUnit } from '@fresh-coat/core/fleet/campaign-board'
import { useState } from 'react'
import { TextField } from '@/components/forms/fields'
import Link from '@/components/link'
import { buttonClass, twoDigits } from '@/components/paint/paint'
import { type Refusal, refusalOf, send } from '@/components/send'

/** One unit of an update: begun by a press, and what a person saw of it. */

/** The clock of a page may be a minute behind the press: nobody gets longer for that. */
const minutesLeft = (ms: number): number => Math.max(0, Math.ceil(Math.min(ms, backWithinMs) / 60_000))

const wentWords = (how: HowItWent, now: number): string => {
  switch (how.state) {
    case 'ok':
      return `went well${how.why ? `: ${how.why}` : ''}`
    case 'failed':
      return `failed${how.why ? `: ${how.why}` : ''}`
    case 'begun':
      return `begun; it has ${minutesLeft(how.until - now)} min to come back`
    case 'look':
      return 'begun, and nobody listens to it: look, and say how it went'
    default:
      return 'waits'
  }
}
/** When it is a unit’s turn, by the clock of whoever looks. */
const turnForm = new Intl.DateTimeFormat('en-GB', {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})
const turnWords = (ms: number): string => turnForm.format(ms)

export function UpdateUnit({
  unit,
  name,
  now,
  done,
}: {
  /** With why its update cannot be begun now; empty: it can. */
  unit: BoardUnit & { why: string }
  name: string
  now: number
  done: () => void
}) {
  const { how, why, start } = unit
  const [error, setError] = useState<Refusal | null>(null)
  const [note, setNote] = useState('')
  const go = async (command: string, input: object) => {
    const sent = await send(command, { unitId: unit.id, ...input })
    setError(refusalOf(sent))
    if (sent.state === 'ok') done()
  }
  return (
    <div className="grid gap-3 rounded-[10px] border border-rule bg-sheet p-4">
      <h2 className="text-[1.15rem]">
        {twoDigits(unit.number)} {name}
      </h2>
      <p>
        It runs {unit.installed || 'something nobody knows'}; {wentWords(how, now)}.
        {start !== null && how.state === 'waiting' && ` Its turn is ${turnWords(start)}.`}
      </p>
      {how.state !== 'ok' && (
        <div className="flex flex-wrap items-center gap-3">
          <button
            type="button"
            className={buttonClass('main')}
            disabled={why !== ''}
            onClick={() => void go('begin-update', {})}
          >
            {how.state === 'waiting' ? 'Its update begins now' : 'It begins once more'}
          </button>
          {why && <span className="text-ink-2">{why}</span>}
          <Link href={`/units/${unit.number}/watch`} className="underline underline-offset-4">
            Its way to the version
          </Link>
        </div>
      )}
      {error?.code === 'not-sure' ? (
        <div
          role="alertdialog"
          aria-label="Are you sure?"
          className="grid gap-2 rounded-[10px] border-2 border-oxide p-3"
        >
          <p className="font-semibold">{error.message}</p>
          <button
            type="button"
            className={`${buttonClass('main')} justify-self-start`}
            onClick={() => void go('begin-update', { sure: true })}
          >
            Its load is off, or somebody is there: it begins
          </button>
        </div>
      ) : (
        error && (
          <p role="alert" className="text-oxide">
            {error.message} {error.next}
          </p>
        )
      )}
      {how.state !== 'waiting' && (
        <div className="flex flex-wrap items-end gap-3">
          <TextField
            label="What you saw"
            value={note}
            maxLength={200}
            onChange={setNote}
            className="min-w-[16rem] flex-1"
          />
          <button
            type="button"
            className={buttonClass('plain')}
            onClick={() => void go('say-update', { ok: true, note })}
          >
            It went well
          </button>
          <button
            type="button"
            className={buttonClass('plain')}
            disabled={note.trim() === ''}
            onClick={() => void go('say-update', { ok: false, note })}
          >
            It failed
          </button>
        </div>
      )}
    </div>
  )
}
