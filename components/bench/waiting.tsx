'use client'
import type { Assessment } from '@fresh-coat/core/unit/assess'
import { stepOf } from '@fresh-coat/core/unit/way'
import type { ReactNode } from 'react'
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

function Row({ unit, href, children }: { unit: Unit; href: string; children: ReactNode }) {
  return (
    <li className="border-b border-rule-2">
      <Link href={href} className="grid grid-cols-[2.4rem_1fr] py-2.5 hover:underline">
        <span className="font-title text-[1.15rem] font-extrabold">{twoDigits(unit.number)}</span>
        <span>{children}</span>
      </Link>
    </li>
  )
}

const dueStep = (what: string) => (what.startsWith('Meter') ? 'meter' : 'backup')

function WaitingList({ units, due }: { units: readonly Unit[]; due: readonly Unit[] }) {
  if (units.length === 0 && due.length === 0) return <p className="mt-1 text-ink-2">Nothing waits.</p>
  return (
    <ul>
      {units.flatMap((u) =>
        u.waiting.map((w) => (
          <Row key={`${u.id}-${w.step}`} unit={u} href={`/units/${u.number}/${w.step}`}>
            <span className="block">
              {stepOf(w.step).title}: {w.text}
            </span>
            <span className="block text-[0.9rem] text-ink-2">{w.next}</span>
          </Row>
        )),
      )}
      {due.map((u) => (
        <Row key={`${u.id}-due`} unit={u} href={`/units/${u.number}/${dueStep(u.dueWhat)}`}>
          {u.dueWhat} falls due {u.due}
        </Row>
      ))}
    </ul>
  )
}

/** What waits on a person, what is wrong before what is stale, and what happened lately. */
export function Waiting({
  units,
  count,
  due,
  log,
}: {
  units: readonly Unit[]
  count: number
  due: readonly Unit[]
  log: LogEntry[]
}) {
  return (
    <aside className="border-t border-rule bg-sheet-2 px-5 py-4 lg:border-t-0 lg:border-l" aria-label="Waiting and log">
      <div className="mb-3 flex gap-2">
        <Link href="/units/new" data-key="n" className={buttonClass('plain')}>
          New unit
          <Key>n</Key>
        </Link>
        <CommandButton command="undo" input={{ unitId: null }} look="quiet" hotkey="u">
          Undo
        </CommandButton>
      </div>
      <h2 className="text-[1.1rem]">Waiting on you</h2>
      <WaitingList units={units} due={due} />
      {count > units.length && (
        <Link href="/units?waits=yes" className="block py-2 underline underline-offset-4">
          {count - units.length} more units wait
        </Link>
      )}
      <h2 className="mt-4 text-[1.1rem]">Bench log</h2>
      <LogList log={log} />
    </aside>
  )
}
