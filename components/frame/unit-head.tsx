import type { Assessment } from '@fresh-coat/core/unit/assess'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { CaseNumber, CoatBands } from '@/components/paint/paint'

/** Number, name and board of the unit, and its five coats. */
export function UnitHead({ view, coats }: { view: UnitView; coats: Assessment['coats'] }) {
  return (
    <section
      aria-label="Unit"
      className="grid items-center gap-x-8 gap-y-3 border-b border-rule px-5 py-3.5 grid-cols-[minmax(0,1fr)] md:grid-cols-[minmax(0,1fr)_minmax(22rem,36rem)]"
    >
      <div className="flex min-w-0 items-center gap-4">
        <CaseNumber n={view.number} />
        <div className="min-w-0">
          <h1 className="truncate text-[1.6rem] leading-tight" dir="auto">
            {view.name}
          </h1>
          <p className="text-ink-2">
            {[view.board?.name ?? 'Board not named yet', view.place].filter(Boolean).join(' · ')}
          </p>
        </div>
      </div>
      <CoatBands coats={coats} narrow />
    </section>
  )
}
