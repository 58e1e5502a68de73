'use client'
import type { Assessment } from '@fresh-coat/core/unit/assess'
import { type StepId, stepOf } from '@fresh-coat/core/unit/way'
import Link from '@/components/link'
import { CaseNumber, coatPaint, Tag } from '@/components/paint/paint'

interface Row {
  number: number
  name: string
  place: string
  board: string
  family: string | null
  firmware: string
  coats: Assessment['coats']
  waiting: Assessment['waiting']
  inService: boolean
  next: StepId
}

/** The five coats of a unit as one painted line. */
function CoatLine({ coats }: { coats: Assessment['coats'] }) {
  return (
    <span
      className="flex h-[9px] gap-[3px]"
      role="img"
      aria-label={coats.map((c) => `${c.name} ${c.done} of ${c.of}`).join(', ')}
    >
      {coats.map((c) => (
        <span key={c.id} className="flex-1 overflow-hidden rounded-[2px] bg-unpainted">
          <span
            className="block h-full"
            style={{ width: `${c.of === 0 ? 100 : (c.done / c.of) * 100}%`, background: coatPaint[c.id] }}
          />
        </span>
      ))}
    </span>
  )
}

function Standing({ unit }: { unit: Row }) {
  const [first] = unit.waiting
  if (first) return <Tag severity={first.severity}>{stepOf(first.step).title.toLowerCase()}</Tag>
  return unit.inService ? 'in service' : `next: ${stepOf(unit.next).title.toLowerCase()}`
}

/** Units one below the other. */
export function UnitRows({ units }: { units: readonly (Row & { id: string })[] }) {
  return (
    <ul className="grid gap-2">
      {units.map((u) => (
        <UnitRow key={u.id} unit={u} />
      ))}
    </ul>
  )
}

/** One unit of the list: number, name, what it is, and how far it came. */
function UnitRow({ unit }: { unit: Row }) {
  return (
    <li>
      <Link
        href={`/units/${unit.number}`}
        className="sheet grid grid-cols-[3rem_minmax(0,1fr)] items-center gap-x-4 gap-y-1 px-3.5 py-2 hover:border-ink md:grid-cols-[3rem_minmax(0,1.4fr)_minmax(0,1.2fr)_7rem_minmax(0,1fr)_9rem]"
      >
        <CaseNumber n={unit.number} size="small" />
        <span className="min-w-0">
          <span className="block truncate font-semibold" dir="auto">
            {unit.name}
          </span>
          <span className="block truncate text-[0.9rem] text-ink-2" dir="auto">
            {unit.place || 'no place'}
          </span>
        </span>
        <span className="truncate max-md:col-start-2">{unit.board || 'board not named'}</span>
        <span className="pin max-md:hidden">{unit.family ?? '–'}</span>
        <span className="truncate text-ink-2 max-md:hidden">{unit.firmware || '–'}</span>
        <span className="grid gap-1 max-md:col-start-2">
          <CoatLine coats={unit.coats} />
          <span className="text-[0.9rem]">
            <Standing unit={unit} />
          </span>
        </span>
      </Link>
    </li>
  )
}
