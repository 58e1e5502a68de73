import { assess } from '@fresh-coat/core/unit/assess'
import type { UnitView } from '@fresh-coat/core/unit/view'

/** The way out of the first thing that keeps a unit's next step from being done; empty when nothing does. */
export function firstOpen(view: UnitView): string {
  const { next, steps } = assess(view)
  return steps.find((s) => s.id === next)?.conditions.find((c) => !c.met)?.next ?? ''
}
