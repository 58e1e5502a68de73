'use client'
import { dayWords } from '@fresh-coat/core/edge/day'
import { type Evening, type Piece, tonight, usualMinutes } from '@fresh-coat/core/fleet/time-at-hand'
import type { Assessment } from '@fresh-coat/core/unit/assess'
import { type StepId, stepOf } from '@fresh-coat/core/unit/way'
import { type ReactNode, useMemo, useState } from 'react'
import { CommandButton } from '@/components/forms/command-button'
import { type LogEntry, LogList } from '@/components/frame/log-list'
import Link from '@/components/link'
import { buttonClass, Key, twoDigits } from '@/components/paint/paint'

interface Unit {
  id: string
  number: number
  waiting: Assessment['waiting']
  due: string | null
  dueWhat: string
}

function Row({ number, href, children }: { number: number; href: string; children: ReactNode }) {
  return (
    <li className="border-b border-rule">
      <Link href={href} className="grid grid-cols-[2.4rem_1fr] py-1.5 leading-snug hover:underline">
        <span className="font-title text-[1.1rem] font-extrabold">{twoDigits(number)}</span>
        <span>{children}</span>
      </Link>
    </li>
  )
}

const dueStep = (what: string): StepId => (what.startsWith('Meter') ? 'meter' : 'backup')
const shown = 6
const shownTonight = 6

/** What waits: what is wrong, its way out, and how long that usually takes. */
function WaitingList({ units, due }: { units: readonly Unit[]; due: readonly Unit[] }) {
  if (units.length === 0 && due.length === 0) return <p className="text-ink-2">Nothing waits.</p>
  const rows = units.flatMap((u) => u.waiting.slice(0, 1).map((w) => ({ u, w })))
  return (
    <ul>
      {rows.slice(0, shown).map(({ u, w }) => (
        <Row key={`${u.id}-${w.step}`} number={u.number} href={`/units/${u.number}/${w.step}`}>
          <span className="block">{w.text}</span>
          <span className="block text-[0.9rem] text-ink-2">
            {w.next} {usualMinutes[w.step]} min.
          </span>
        </Row>
      ))}
      {due.slice(0, 3).map((u) => (
        <Row key={`${u.id}-due`} number={u.number} href={`/units/${u.number}/${dueStep(u.dueWhat)}`}>
          {u.dueWhat} falls due {dayWords(u.due ?? '')}.{' '}
          <span className="text-ink-2">{usualMinutes[dueStep(u.dueWhat)]} min.</span>
        </Row>
      ))}
    </ul>
  )
}

const hands = [30, 60, 120]

/** The evening on a line: each piece with its set-up in front of it, in the order in which it is done. */
function EveningLine({ plan, minutes }: { plan: Evening; minutes: number }) {
  const percent = (m: number) => `${(100 * m) / minutes}%`
  const more = plan.tasks.length - shownTonight
  return (
    <>
      <ol className="grid gap-1" aria-label="In this order">
        {plan.tasks.slice(0, shownTonight).map((t) => (
          <li key={t.number}>
            <Link href={`/units/${t.number}/${t.step}`} className="grid gap-0.5 text-[0.93rem] hover:underline">
              <span className="flex justify-between gap-2">
                <span>
                  <strong className="font-title">{twoDigits(t.number)}</strong> {stepOf(t.step).short.toLowerCase()}
                </span>
                <span className="pin text-ink-2">
                  {Math.round(t.start)}–{Math.round(t.end)}
                </span>
              </span>
              <span className="relative h-[7px] rounded-[3px] bg-unpainted/50" aria-hidden="true">
                <span
                  className="absolute h-full rounded-l-[3px] bg-ochre-line"
                  style={{ left: percent(t.start), width: percent(t.setupMin) }}
                />
                <span
                  className={`absolute h-full rounded-[3px] ${t.waits ? 'bg-oxide' : 'bg-prussian'}`}
                  style={{ left: percent(t.start + t.setupMin), width: percent(t.end - t.start - t.setupMin) }}
                />
              </span>
            </Link>
          </li>
        ))}
      </ol>
      {more > 0 && <p className="text-[0.93rem] text-ink-2">and {more} more after that</p>}
    </>
  )
}

/** What to do in the time at hand, and in which order. */
function TimeAtHand({ pieces }: { pieces: readonly Piece[] }) {
  const [minutes, setMinutes] = useState(60)
  const plan = useMemo(() => tonight(pieces, minutes), [pieces, minutes])
  return (
    <section aria-labelledby="time-at-hand" className="grid gap-1.5">
      <h2 id="time-at-hand" className="flex items-baseline gap-2 text-[1.1rem]">
        With
        {hands.map((m) => (
          <button
            key={m}
            type="button"
            aria-pressed={m === minutes}
            className={m === minutes ? 'border-b-2 border-ink' : 'font-normal text-ink-2 underline underline-offset-4'}
            onClick={() => setMinutes(m)}
          >
            {m === 60 ? 'an hour' : m === 30 ? 'half' : 'two'}
          </button>
        ))}
      </h2>
      {plan.tasks.length === 0 ? <p>Nothing fits.</p> : <EveningLine plan={plan} minutes={minutes} />}
      {plan.tasks.length > 0 && (
        <p className="text-ink-2">
          {plan.tasks.length} {plan.tasks.length === 1 ? 'unit' : 'units'} on in {Math.round(plan.endMin)} min
          {plan.left > 0 && `; ${plan.left} more do not fit`}.
        </p>
      )}
    </section>
  )
}

/** What waits on a person, what fits into the time at hand, and what happened lately. */
export function Waiting({
  units,
  count,
  due,
  pieces,
  log,
}: {
  units: readonly Unit[]
  count: number
  due: readonly Unit[]
  pieces: readonly Piece[]
  log: LogEntry[]
}) {
  const rest = count - Math.min(shown, units.length)
  return (
    <aside
      className="grid content-start gap-4 border-t border-rule bg-sheet-2 px-5 py-3.5 lg:border-t-0 lg:border-l"
      aria-label="Waiting and log"
    >
      <section aria-labelledby="waiting-on-you">
        <h2 id="waiting-on-you" className="text-[1.1rem]">
          Waiting on you
        </h2>
        <WaitingList units={units} due={due} />
        <Link href="/due" className="block py-1.5 underline underline-offset-4">
          Everything due, by its day
        </Link>
        {rest > 0 && (
          <Link href="/units?waits=yes" className="block py-1.5 underline underline-offset-4">
            {rest} more {rest === 1 ? 'unit waits' : 'units wait'}
          </Link>
        )}
      </section>
      <TimeAtHand pieces={pieces} />
      <section aria-labelledby="lately">
        <h2 id="lately" className="text-[1.1rem]">
          Lately
        </h2>
        <LogList log={log.slice(0, 3)} />
      </section>
      <div className="flex gap-2">
        <Link href="/units/new" data-key="n" className={buttonClass('plain')}>
          New unit
          <Key>n</Key>
        </Link>
        <CommandButton command="undo" input={{ unitId: null }} look="quiet" hotkey="u">
          Undo
        </CommandButton>
      </div>
    </aside>
  )
}
