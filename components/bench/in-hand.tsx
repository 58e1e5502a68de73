import type { Assessment } from '@fresh-coat/core/unit/assess'
import { type StepId, stepOf } from '@fresh-coat/core/unit/way'
import { CommandButton } from '@/components/forms/command-button'
import Link from '@/components/link'
import { buttonClass, CaseNumber, CoatBands, Key } from '@/components/paint/paint'

interface Unit {
  id: string
  number: number
  name: string
  next: StepId
  coats: Assessment['coats']
}

/** The unit on the table, its next thing, and the way back to it. */
export function InHand({ unit, open }: { unit: Unit | null; open: string }) {
  if (!unit)
    return (
      <section className="sheet mb-5 flex flex-wrap items-center justify-between gap-4 px-5 py-4">
        <p>Nothing is in hand. Open a unit from a lane, or begin a new one.</p>
        <Link href="/units/new" className={buttonClass('main')}>
          New unit
        </Link>
      </section>
    )
  return (
    <section aria-label="In hand" className="sheet mb-5 flex flex-wrap items-center gap-x-5 gap-y-3 px-5 py-4">
      <CaseNumber n={unit.number} />
      <div className="min-w-[16rem] flex-1">
        <h2 className="text-[1.45rem] leading-tight" dir="auto">
          {unit.name}
        </h2>
        <p className="mb-2 text-ink-2">
          Next: {stepOf(unit.next).next}. {open}
        </p>
        <div className="max-w-[34rem]">
          <CoatBands coats={unit.coats} />
        </div>
      </div>
      <div className="grid gap-2">
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
