'use client'
import type { Assessment } from '@fresh-coat/core/unit/assess'
import { type CoatId, coats, type StepId, stepOf } from '@fresh-coat/core/unit/way'
import Link from '@/components/link'
import { PaintBand, twoDigits } from '@/components/paint/paint'

interface Unit {
  id: string
  number: number
  name: string
  next: StepId
  inService: boolean
  waiting: Assessment['waiting']
}
interface Lane {
  coat: CoatId
  count: number
  shown: Unit[]
}

function standing(unit: Unit): string {
  const [trouble] = unit.waiting
  if (trouble)
    return `${stepOf(trouble.step).title.toLowerCase()}: ${trouble.severity === 'error' ? 'trouble' : 'stale'}`
  return unit.inService ? 'in service' : stepOf(unit.next).title.toLowerCase()
}

const edge = (unit: Unit): string => {
  const [trouble] = unit.waiting
  if (!trouble) return ''
  return trouble.severity === 'error' ? 'border-l-4 !border-l-oxide' : 'border-l-4 !border-l-ochre-line'
}

function LaneUnit({ unit }: { unit: Unit }) {
  return (
    <li>
      <Link
        href={`/units/${unit.number}`}
        className={`sheet grid grid-cols-[2rem_1fr] items-baseline gap-2 px-2.5 py-1.5 hover:border-ink ${edge(unit)}`}
      >
        <span className="font-title text-[1.2rem] font-extrabold">{twoDigits(unit.number)}</span>
        <span className="min-w-0">
          <span className="line-clamp-2 block leading-snug" dir="auto">
            {unit.name}
          </span>
          <span className="block truncate text-[0.87rem] text-ink-2">{standing(unit)}</span>
        </span>
      </Link>
    </li>
  )
}

function CoatLane({ lane, name }: { lane: Lane; name: string }) {
  const more = lane.count - lane.shown.length
  return (
    <section aria-labelledby={`lane-${lane.coat}`} className="min-w-0">
      <div className="flex items-baseline justify-between font-title text-[1.08rem] font-semibold">
        <h2 id={`lane-${lane.coat}`}>{name}</h2>
        <span className="font-normal text-ink-2">{lane.count}</span>
      </div>
      <PaintBand coat={lane.coat} share={1} />
      <ul className="mt-2 grid gap-2">
        {lane.shown.map((u) => (
          <LaneUnit key={u.id} unit={u} />
        ))}
      </ul>
      {more > 0 && (
        <Link href={`/units?coat=${lane.coat}`} className="mt-2 block underline underline-offset-4">
          {more} more
        </Link>
      )}
    </section>
  )
}

/** Every unit under the coat it has reached. */
export function CoatLanes({ lanes }: { lanes: readonly Lane[] }) {
  return (
    <div className="grid grid-cols-1 gap-3 sm:grid-cols-3 lg:grid-cols-5">
      {lanes.map((lane) => (
        <CoatLane key={lane.coat} lane={lane} name={coats.find((c) => c.id === lane.coat)?.name ?? ''} />
      ))}
    </div>
  )
}
