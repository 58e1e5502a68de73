import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { useEffect, useState } from 'react'
import { type DeskView, isBusy } from './desk-store'
import { linkFamily } from './of-unit'
import { useWay } from './way'
import { type SerialHere, serialHere } from './web-serial'

/** Why a unit cannot be worked at from this page, and what instead; null where it can. */
export function useUnable(view: UnitView, desk: DeskView, mine: boolean): string | null {
  // The browser is known once the page stands in it.
  const [here, setHere] = useState<SerialHere | null>(null)
  useEffect(() => setHere(serialHere()), [])
  const way = useWay()
  if (here === null) return null
  if (way.kind === 'browser' && !('serial' in here)) return `${here.why} ${here.instead}`
  const said = familyOf(view)?.family ?? null
  if (said !== null && linkFamily(view) === null)
    return `The link does not speak to ${said} yet: use any tool, and bring what it made.`
  return isBusy(desk) && !mine ? 'The port is at work already.' : null
}
