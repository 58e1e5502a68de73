import { withColumns } from '@fresh-coat/core/network/columns'
import { parseMac } from '@fresh-coat/core/network/mac'
import type { matchNetwork, NetworkMatch } from '@fresh-coat/core/network/match'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { firmwareOf } from '@fresh-coat/core/steps/write/facts'
import * as Comlink from 'comlink'
import { useDeferredValue, useEffect, useMemo, useState } from 'react'
import type { SurfaceProps } from '@/components/steps/context'
import type { MatchWorker } from '@/workers/match.worker'

type Props = Pick<SurfaceProps<'join'>, 'view' | 'record' | 'choices'>
type Wanted = {
  id: string
  apMac: string | null
  family: string | null
  firmware: string | null
  nameSuffix: string | null
}
type Outcome = ReturnType<typeof matchNetwork>

/** Other units still to be found go along: an entry that is surely another unit's is not offered here. */
function othersOf(choices: Props['choices']): Wanted[] {
  return choices.otherUnits.flatMap((u) => {
    const apMac = parseMac(u.apMac.trim())
    const nameSuffix = u.nameSuffix.trim() || null
    if (!apMac && !nameSuffix) return []
    return [{ id: String(u.number), apMac, family: u.family, firmware: u.firmware || null, nameSuffix }]
  })
}

interface Matcher {
  worker: Worker
  remote: Comlink.Remote<MatchWorker>
}
let held: Matcher | null = null
const againMs = 2000

function start(): Matcher {
  const worker = new Worker(new URL('../../../workers/match.worker.ts', import.meta.url), { type: 'module' })
  // One handle as long as the worker lives: when a handle is collected, Comlink lets go of the worker behind it.
  return { worker, remote: Comlink.wrap<MatchWorker>(worker) }
}

/** Ten thousand lines take most of a second: they are matched beside the page. Fails where the worker does not come. */
function matchBeside(input: unknown): Promise<Outcome> {
  held ??= start()
  const { worker, remote } = held
  return new Promise((done, fail) => {
    const lost = () => {
      held = null
      worker.terminate()
      fail(new Error('the worker did not come'))
    }
    worker.addEventListener('error', lost, { once: true })
    remote
      .match(input)
      .then(done, fail)
      .finally(() => worker.removeEventListener('error', lost))
  })
}

/** The lists that were pasted, matched against this unit; null while there is nothing to match, or it is still worked out. */
export function useMatch({ view, record: { data }, choices }: Props): { result: NetworkMatch | null; busy: boolean } {
  const before = useDeferredValue(data.before)
  const after = useDeferredValue(data.after)
  const { columns } = data
  const apMac = parseMac(data.apMac.trim())
  const suffix = data.nameSuffix.trim()
  const family = familyOf(view)?.family ?? null
  const firmware = firmwareOf(view) || null
  const others = useMemo(() => othersOf(choices), [choices])
  const input = useMemo(() => {
    if (after.trim() === '' || (!apMac && suffix === '')) return null
    const me: Wanted = { id: String(view.number), apMac, family, firmware, nameSuffix: suffix || null }
    const read = (text: string) => (columns ? withColumns(text, columns) : text)
    return {
      tables: [
        ...(before.trim() ? [{ text: read(before), phase: 'before' }] : []),
        { text: read(after), phase: 'after' },
      ],
      units: [me, ...others],
    }
  }, [after, before, apMac, suffix, view.number, family, firmware, columns, others])
  const [found, setFound] = useState<{ of: unknown; result: NetworkMatch | null }>({ of: null, result: null })
  useEffect(() => {
    if (!input) return
    let wanted = true
    let timer: ReturnType<typeof setTimeout>
    const ask = () =>
      void matchBeside(input).then(
        (outcome) => wanted && setFound({ of: input, result: outcome.ok ? outcome.value : null }),
        () => {
          if (wanted) timer = setTimeout(ask, againMs)
        },
      )
    ask()
    return () => {
      wanted = false
      clearTimeout(timer)
    }
  }, [input])
  return { result: input ? found.result : null, busy: input !== null && found.of !== input }
}
