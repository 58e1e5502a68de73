import { factsOf, isKnownFamily } from '@fresh-coat/core/families/families'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import type { ReactNode } from 'react'
import { desk } from '@/components/link/desk'
import { DeskCard } from '@/components/link/desk-card'
import { deskStore, isBusy } from '@/components/link/desk-store'
import { entersByLines } from '@/components/link/of-unit'
import { askPort } from '@/components/link/open-port'
import { useDesk } from '@/components/link/use-desk'
import { useUnable } from '@/components/link/use-unable'
import { buttonClass, Key } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = SurfaceProps<'start'>

const usualRate = 115_200
const bootSeconds = 10
const programSeconds = 20

/** The rate of the boot text first, then the one that programs speak at. */
function ratesOf(view: Props['view']): { rate: number; seconds: number }[] {
  const family = familyOf(view)?.family ?? null
  const boot = family !== null && isKnownFamily(family) ? factsOf(family).bootBaud : usualRate
  const program = { rate: usualRate, seconds: programSeconds }
  return boot === usualRate ? [program] : [{ rate: boot, seconds: bootSeconds }, program]
}

export interface Listening {
  /** While it listens; null otherwise. */
  card: ReactNode | null
  /** What was heard so far, while it listens. */
  text: string | null
  offer: ReactNode
}

/** Hearing a start with the port of this browser: what comes is the boot text. */
export function useListenHere({ view, record }: Props): Listening {
  const state = useDesk(deskStore)
  const mine = state.unitId === view.id && state.what === 'listen' && isBusy(state)
  const unable = useUnable(view, state, mine)
  const begin = async () => {
    const open = await askPort()
    if (!open) return
    await desk.listen({
      unitId: view.id,
      open,
      byLines: entersByLines(view),
      rates: ratesOf(view),
      heard: (text) => {
        if (text.trim() !== '') record.patch({ log: text })
      },
    })
    if (deskStore.now().ended?.good) desk.clear()
  }
  return {
    text: mine ? state.text : null,
    card: mine ? <DeskCard desk={desk} view={state} entry={null} /> : null,
    offer: unable ? (
      <p className="text-[0.93rem] text-ink-2">{unable}</p>
    ) : (
      <>
        <button
          type="button"
          data-key="r"
          className={`${buttonClass('main')} min-h-[3rem] justify-self-start`}
          onClick={() => void begin()}
        >
          Listen here
          <Key>r</Key>
        </button>
        {state.unitId === view.id && state.what === 'listen' && state.ended && !state.ended.good && (
          <p role="status">{state.ended.words}</p>
        )}
      </>
    ),
  }
}
