import { usualMinutes } from '@fresh-coat/core/fleet/time-at-hand'
import { type StepId, stepOf } from '@fresh-coat/core/unit/way'
import { CommandButton } from '@/components/forms/command-button'
import Link from '@/components/link'
import { buttonClass, CaseNumber, Key } from '@/components/paint/paint'

interface Unit {
  id: string
  number: number
  name: string
  next: StepId
}

/** The unit on the table, its next thing, and the way back to it. */
export function InHand({ unit, open }: { unit: Unit | null; open: string }) {
  if (!unit)
    return (
      <section className="sheet flex flex-wrap items-center justify-between gap-4 px-5 py-3.5">
        <p>Nothing is in hand. Take a unit from the rack, or begin a new one.</p>
        <Link href="/units/new" className={buttonClass('main')}>
          New unit
        </Link>
      </section>
    )
  return (
    <section aria-label="In hand" className="sheet flex flex-wrap items-center gap-x-5 gap-y-3 px-5 py-3.5">
      <CaseNumber n={unit.number} />
      <div className="min-w-[14rem] flex-1">
        <h2 className="line-clamp-2 text-[1.5rem] leading-tight" dir="auto">
          {unit.name}
        </h2>
        <p className="text-ink-2">
          Next: <strong className="text-ink">{stepOf(unit.next).next}</strong>, usually {usualMinutes[unit.next]} min.{' '}
          {open}
        </p>
      </div>
      <div className="flex gap-2.5">
        <Link href={`/units/${unit.number}/${unit.next}`} data-key="." className={buttonClass('main')}>
          Carry on
          <Key>.</Key>
        </Link>
        <CommandButton command="put-back" input={{ unitId: unit.id }}>
          Put back
        </CommandButton>
      </div>
    </section>
  )
}
