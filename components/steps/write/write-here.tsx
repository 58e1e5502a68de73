import type { KnownFamily } from '@fresh-coat/core/families/families'
import type { Journal } from '@fresh-coat/core/link/journal'
import { hasDigest } from '@fresh-coat/core/link/reading'
import { linkTime } from '@fresh-coat/core/link/time'
import { untriedWrite } from '@fresh-coat/core/link/tried'
import type { VerifyMethod } from '@fresh-coat/core/link/whole-write'
import { preflightOf } from '@fresh-coat/core/steps/check/facts'
import { entryInstructions } from '@fresh-coat/core/steps/wire/instructions'
import { type ReactNode, useState } from 'react'
import { WriteMap } from '@/components/drawings/write-map'
import { Choice } from '@/components/forms/fields'
import { Card } from '@/components/frame/card'
import { checkedBytes } from '@/components/link/checked-bytes'
import { desk } from '@/components/link/desk'
import { DeskCard, DeskEnd } from '@/components/link/desk-card'
import { DeskRail } from '@/components/link/desk-rail'
import { type DeskView, deskStore } from '@/components/link/desk-store'
import { Entry } from '@/components/link/entry'
import { journalKeeper } from '@/components/link/journal-store'
import { entersByLines, expectedOf, linkFamily, linkLog } from '@/components/link/of-unit'
import { askPort } from '@/components/link/open-port'
import { useDesk } from '@/components/link/use-desk'
import { journalOf, useJournal } from '@/components/link/use-journal'
import { useUnable } from '@/components/link/use-unable'
import { buttonClass, Key, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = SurfaceProps<'write'>

/** Writing exactly the image that was checked, from this page. */
export interface Writing {
  desk: DeskView
  shown: boolean
  card: ReactNode | null
  begin: (verify: VerifyMethod) => void
  family: KnownFamily | null
  bytes: number
  /** The plan counts on a digest, which this chip has none of by itself: what checking takes here is not in its time. */
  plannedByDigest: boolean
  /** A write of this image that was not finished. */
  journal: Journal | null
  unable: string | null
  fault: string | null
}

const usualLatencyMs = 1
const readBackWords = (family: KnownFamily, bytes: number): string => {
  const time = linkTime({ family, action: 'read-registers', bytes, rate: 115_200, latencyMs: usualLatencyMs })
  return time.ok ? `about ${Math.ceil(time.value.seconds / 60)} min` : ''
}

export function useWriteHere({ view, act }: Props): Writing {
  const state = useDesk(deskStore)
  const family = linkFamily(view)
  const mine = state.unitId === view.id && state.what === 'write' && state.phase !== 'idle'
  const journal = useJournal(view, state.phase === 'over')
  const unable = useUnable(view, state, mine)
  const [fault, setFault] = useState<string | null>(null)
  const plan = preflightOf(view)?.plan ?? null
  const { image } = view
  const ofThis = journalOf(journal, image)
  const begin = async (verify: VerifyMethod) => {
    const region = plan?.regions[0]
    if (!image || !region) return
    setFault(null)
    const open = await askPort()
    if (!open) return
    try {
      const data = await checkedBytes(image)
      await desk.write({
        unitId: view.id,
        open,
        expected: expectedOf(view),
        byLines: entersByLines(view),
        file: { sha256: image.sha256, bytes: image.bytes },
        data,
        offset: region.offset,
        eraseAll: plan?.erase === 'chip',
        verify,
        journal: ofThis,
        keepJournal: journalKeeper(view),
        log: linkLog(view, act),
      })
    } catch (cause) {
      setFault(`Nothing was written: ${cause instanceof Error ? cause.message : String(cause)}.`)
    }
  }
  return {
    desk: state,
    shown: mine,
    begin: (verify) => void begin(verify),
    family,
    bytes: image?.bytes ?? 0,
    plannedByDigest: family !== null && !hasDigest(family) && view.records.check.data.verify === 'digest',
    journal: ofThis,
    unable,
    fault,
    card: !mine ? null : state.phase === 'over' ? (
      <DeskEnd desk={desk} view={state} />
    ) : (
      <DeskCard desk={desk} view={state} entry={<Entry steps={entryInstructions(view, 'write')} />} />
    ),
  }
}

/** The chip while it is written. */
export function WriteHereDrawing({
  view,
  offset,
  bytes,
  whole,
}: {
  view: DeskView
  offset: number
  bytes: number
  whole: boolean
}) {
  const erasing =
    view.state !== null && !['listening', 'calling', 'detecting', 'testing', 'rating'].includes(view.state)
  return (
    <div className="grid content-center gap-5">
      <DeskRail view={view} />
      <WriteMap
        flashBytes={view.flashBytes ?? 1 << 20}
        offset={offset}
        bytes={bytes}
        confirmed={view.progress?.done ?? 0}
        erased={erasing}
        whole={whole}
      />
    </div>
  )
}

/** The offer on the card. */
export function WriteHere({
  begin,
  family,
  bytes,
  plannedByDigest,
  journal,
  unable,
  fault,
  attempt,
}: Writing & { attempt: number }) {
  const [verify, setVerify] = useState<VerifyMethod | null>(null)
  if (unable) return <p className="text-[0.93rem] text-ink-2">{unable}</p>
  const byReading = family !== null && !hasDigest(family)
  const chosen = verify ?? (byReading ? 'readback' : 'digest')
  return (
    <Card lead={`Attempt ${attempt}`} ask={journal ? 'Finish it' : 'Write it'}>
      {journal && (
        <p className="flex gap-2.5" role="status">
          <Tag severity="error">half</Tag>
          <span>
            Half written: {journal.regions[0]?.confirmedBlocks ?? 0} of {Math.ceil(bytes / 1024)} KiB are confirmed. It
            goes on from there.
          </span>
        </p>
      )}
      {byReading && (
        <Choice
          label={plannedByDigest ? 'Checked by; its time is not in the plan' : 'Checked by'}
          value={chosen}
          options={[
            { value: 'readback', label: `Reading back, ${readBackWords(family, bytes)}` },
            { value: 'sample', label: 'A sample' },
          ]}
          onChange={(v) => setVerify(v as VerifyMethod)}
        />
      )}
      <button
        type="button"
        data-key="r"
        className={`${buttonClass('main')} min-h-[3rem] justify-self-start`}
        onClick={() => begin(chosen)}
      >
        {journal ? 'Finish it here' : 'Write it here'}
        <Key>r</Key>
      </button>
      {family && <p className="text-[0.93rem] text-ink-2">{untriedWrite(family)}</p>}
      {fault && (
        <p className="text-oxide" role="alert">
          {fault}
        </p>
      )}
    </Card>
  )
}
