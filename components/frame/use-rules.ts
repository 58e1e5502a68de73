'use client'
import { useEffect, useState } from 'react'
import { firstSurface } from '@/components/steps/surfaces'

/** What judges a unit: the rules of all eighteen steps. */
export type Rules = Pick<typeof import('./rules'), 'judge' | 'instructionsOf' | 'tickOff'>
export type { Judged } from '@fresh-coat/core/unit/judge'

let rules: Rules | null = null
let coming: Promise<Rules> | null = null
const againMs = 2000

/** The rules, fetched once per visit; while the server is away they are asked for again. */
export function loadRules(): Promise<Rules> {
  coming ??= firstSurface
    .then(() => import('./rules'))
    .then(
      (m) => {
        rules = m
        return m
      },
      async () => {
        await new Promise((resolve) => setTimeout(resolve, againMs))
        coming = null
        return loadRules()
      },
    )
  return coming
}

/** The rules, once they are here: a first visit shows what the server judged, and does not wait for them. */
export function useRules(): Rules | null {
  const [here, setHere] = useState(rules)
  useEffect(() => {
    if (here) return
    let wanted = true
    void loadRules().then((loaded) => wanted && setHere(() => loaded))
    return () => {
      wanted = false
    }
  }, [here])
  return here
}
