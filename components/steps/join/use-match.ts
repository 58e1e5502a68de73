import { parseMac } from '@fresh-coat/core/network/mac'
import { matchNetwork, type NetworkMatch } from '@fresh-coat/core/network/match'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { firmwareOf } from '@fresh-coat/core/steps/write/facts'
import { useDeferredValue, useMemo } from 'react'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'join'>, 'view' | 'record' | 'choices'>
type Wanted = {
  id: string
  apMac: string | null
  family: string | null
  firmware: string | null
  nameSuffix: string | null
}

/** Other units still to be found go along: an entry that is surely another unit's is not offered here. */
function othersOf(choices: Props['choices']): Wanted[] {
  return choices.otherUnits.flatMap((u) => {
    const apMac = parseMac(u.apMac.trim())
    const nameSuffix = u.nameSuffix.trim() || null
    if (!apMac && !nameSuffix) return []
    return [{ id: String(u.number), apMac, family: u.family, firmware: u.firmware || null, nameSuffix }]
  })
}

/** The lists that were pasted, matched against this unit; null while there is nothing to match. */
export function useMatch({ view, record: { data }, choices }: Props): NetworkMatch | null {
  const before = useDeferredValue(data.before)
  const after = useDeferredValue(data.after)
  const apMac = parseMac(data.apMac.trim())
  const suffix = data.nameSuffix.trim()
  return useMemo(() => {
    if (after.trim() === '' || (!apMac && suffix === '')) return null
    const me: Wanted = {
      id: String(view.number),
      apMac,
      family: familyOf(view)?.family ?? null,
      firmware: firmwareOf(view) || null,
      nameSuffix: suffix || null,
    }
    const outcome = matchNetwork({
      tables: [...(before.trim() ? [{ text: before, phase: 'before' }] : []), { text: after, phase: 'after' }],
      units: [me, ...othersOf(choices)],
    })
    return outcome.ok ? outcome.value : null
  }, [after, before, apMac, suffix, view, choices])
}
