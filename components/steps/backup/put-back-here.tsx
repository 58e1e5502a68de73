import type { RestorePlan } from '@fresh-coat/core/flash/restore'
import { untriedWrite } from '@fresh-coat/core/link/tried'
import { entryInstructions } from '@fresh-coat/core/steps/wire/instructions'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { type ReactNode, useState } from 'react'
import { checkedBytes } from '@/components/link/checked-bytes'
import { desk } from '@/components/link/desk'
import { DeskCard, DeskEnd } from '@/components/link/desk-card'
import { deskStore, isBusy } from '@/components/link/desk-store'
import { Entry } from '@/components/link/entry'
import { journalKeeper } from '@/components/link/journal-store'
import { entersByLines, expectedOf, linkFamily, linkLog } from '@/components/link/of-unit'
import { askPort } from '@/components/link/open-port'
import { useDesk } from '@/components/link/use-desk'
import { journalOf, useJournal } from '@/components/link/use-journal'
import { useUnable } from '@/components/link/use-unable'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { WriteHereDrawing } from '@/components/steps/write/write-here'

type Props = SurfaceProps<'backup'>
type Copy = Pick<UnitFile, 'id' | 'name' | 'sha256' | 'bytes' | 'held'>

/** Writing the kept stock firmware back from this page: its card and drawing while it goes on. */
export interface PuttingBack {
  card: ReactNode | null
  drawing: ReactNode | null
}
export function usePutBack({ view }: Pick<Props, 'view'>): PuttingBack {
  const state = useDesk(deskStore)
  const mine = state.unitId === view.id && state.what === 'write' && state.phase !== 'idle'
  if (!mine) return { card: null, drawing: null }
  const bytes = state.progress?.total ?? state.flashBytes ?? 0
  return {
    card:
      state.phase === 'over' ? (
        <DeskEnd desk={desk} view={state} />
      ) : (
        <DeskCard desk={desk} view={state} entry={<Entry steps={entryInstructions(view, 'write')} />} />
      ),
    drawing: <WriteHereDrawing view={state} offset={0} bytes={bytes} whole />,
  }
}

/** The offer beside the plan: a deliberate press, once both gates stand and the bytes are at hand. */
export function PutBackHere({
  view,
  act,
  plan,
  file,
  fromUnit,
  gated,
}: Pick<Props, 'view' | 'act'> & { plan: RestorePlan; file: Copy | null; fromUnit: number | null; gated: boolean }) {
  const state = useDesk(deskStore)
  const journal = journalOf(useJournal(view, state.phase === 'over'), file)
  const unable = useUnable(view, state, isBusy(state) && state.unitId === view.id)
  const [fault, setFault] = useState<string | null>(null)
  const family = linkFamily(view)
  if (!plan.allowed || !file) return null
  if (file.held === false)
    return <p className="text-ink-2">Its bytes are on your disk, not here: any tool of yours can write them back.</p>
  if (gated) return <p className="text-ink-2">To write it back from here, confirm the gate of this step first.</p>
  if (unable) return <p className="text-ink-2">{unable}</p>
  const log = linkLog(view, (command, input) => act(command, { ...input, restored: { fromUnit } }))
  const begin = async () => {
    setFault(null)
    const open = await askPort()
    if (!open) return
    try {
      const data = await checkedBytes(file)
      await desk.write({
        unitId: view.id,
        open,
        expected: expectedOf(view),
        byLines: entersByLines(view),
        file: { sha256: file.sha256, bytes: file.bytes },
        data: data.subarray(plan.offset),
        offset: plan.offset,
        eraseAll: false,
        verify: 'best',
        journal,
        keepJournal: journalKeeper(view),
        log,
      })
    } catch (cause) {
      setFault(`Nothing was written: ${cause instanceof Error ? cause.message : String(cause)}.`)
    }
  }
  return (
    <div className="grid gap-2">
      <button type="button" className={`${buttonClass('main')} justify-self-start`} onClick={() => void begin()}>
        {journal ? 'Finish writing it back' : 'Write it back here'}
      </button>
      <p className="text-ink-2">
        It overwrites the whole chip{fromUnit === null ? '' : `, with the address of unit ${fromUnit}`}, and is compared
        afterwards. {family && untriedWrite(family)}
      </p>
      {fault && (
        <p className="text-oxide" role="alert">
          {fault}
        </p>
      )}
    </div>
  )
}
