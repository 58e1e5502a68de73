import { sizeWords } from '@fresh-coat/core/bytes/text'
import { sectorBytes } from '@fresh-coat/core/dump/sectors'
import type { KnownFamily } from '@fresh-coat/core/families/families'
import { backupName } from '@fresh-coat/core/flash/restore'
import { lacks } from '@fresh-coat/core/link/identity'
import { linkTime } from '@fresh-coat/core/link/time'
import { type BackupFact, flashBytesOf } from '@fresh-coat/core/steps/backup/facts'
import { entryInstructions } from '@fresh-coat/core/steps/wire/instructions'
import type { ReactNode } from 'react'
import { SectorMap, UnreadMap } from '@/components/drawings/sector-map'
import { desk } from '@/components/link/desk'
import { DeskCard, DeskEnd } from '@/components/link/desk-card'
import { DeskRail } from '@/components/link/desk-rail'
import { type DeskView, deskStore } from '@/components/link/desk-store'
import { Entry } from '@/components/link/entry'
import { entersByLines, expectedOf, linkFamily, linkLog, linkName, linkSays } from '@/components/link/of-unit'
import { askPort } from '@/components/link/open-port'
import { useDesk } from '@/components/link/use-desk'
import { useUnable } from '@/components/link/use-unable'
import { useWay, wayWords } from '@/components/link/way'
import { buttonClass, Key } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = SurfaceProps<'backup'>

/** Reading the chip from this page: the way it is offered, and its card while it goes on. */
export interface Reading {
  desk: DeskView
  /** The desk is at this unit's read: its map stands in the drawing. */
  shown: boolean
  card: ReactNode | null
  /** It reads now. */
  working: boolean
  /** Begins, in a press. */
  begin: () => void
  second: boolean
  /** How long it will take; null where size or family is not known. */
  minutes: string | null
  /** Why it cannot be read from here; null where it can. */
  unable: string | null
}

const usualLatencyMs = 1
const rates = { 'read-rom': [460_800, 230_400], 'read-registers': [115_200, 230_400] } as const

/** Both reads, or the second alone, as long as they take with an adapter that hands answers on within a millisecond. */
function minutesOf(family: KnownFamily, bytes: number, second: boolean): string | null {
  const action = lacks({ family }, 'flash-read') ? 'read-registers' : 'read-rom'
  let seconds = 0
  for (const rate of second ? rates[action].slice(1) : rates[action]) {
    const time = linkTime({ family, action, bytes, rate, latencyMs: usualLatencyMs })
    if (!time.ok) return null
    seconds += time.value.seconds
  }
  return seconds < 90 ? `about ${Math.ceil(seconds / 5) * 5} s` : `about ${Math.ceil(seconds / 60)} min`
}

export function useReadHere(
  { view, act }: Props,
  backup: BackupFact,
  take: (file: File, read: 1 | 2, how: Record<string, string>) => Promise<boolean>,
): Reading {
  const state = useDesk(deskStore)
  const family = linkFamily(view)
  const bytes = flashBytesOf(view)
  const second = backup.first !== null && backup.second === null
  const mine = state.unitId === view.id && state.what === 'read' && state.phase !== 'idle'
  const begin = async () => {
    const open = await askPort()
    if (!open) return
    const name = backupName(view.number, view.today)
    await desk.read({
      unitId: view.id,
      open,
      expected: expectedOf(view),
      byLines: entersByLines(view),
      reads: second ? [2] : [1, 2],
      identified: linkSays(view, act),
      keep: (content, { read, rate }) => {
        const file = new File([content], name.replace('.bin', `_${read}.bin`))
        return take(file, read, { baud: String(rate), tool: linkName })
      },
      log: linkLog(view, act),
    })
  }
  const goOn = async () => {
    const open = await askPort()
    if (open) desk.again(open)
  }
  const unable = useUnable(view, state, mine)
  return {
    desk: state,
    shown: mine,
    working: mine && state.phase !== 'over',
    second,
    begin: () => void begin(),
    minutes: family && bytes ? minutesOf(family, bytes, second) : null,
    unable,
    card: !mine ? null : state.phase === 'over' ? (
      <DeskEnd desk={desk} view={state} />
    ) : (
      <DeskCard
        desk={desk}
        view={state}
        goOn={() => void goOn()}
        entry={<Entry steps={entryInstructions(view, 'read')} />}
      />
    ),
  }
}

/** The map as it fills, and how far it is. */
export function ReadMap({ view }: { view: DeskView }) {
  const bytes = view.flashBytes ?? 1 << 20
  return (
    <>
      <DeskRail view={view} />
      {view.runs.length > 0 ? (
        <SectorMap
          runs={view.runs}
          of={Math.ceil(bytes / sectorBytes)}
          marked={view.differing}
          label={view.read === 2 ? 'Second read' : 'First read'}
        />
      ) : (
        <UnreadMap bytes={bytes} label={`The chip, ${sizeWords(bytes)}, nothing of it read yet`} />
      )}
    </>
  )
}

/** The offer on the card. */
export function ReadHere({ begin, second, minutes, unable }: Reading) {
  const way = useWay()
  if (unable) return <p className="text-[0.93rem] text-ink-2">{unable}</p>
  return (
    <div className="grid gap-1.5">
      <button
        type="button"
        data-key="r"
        className={`${buttonClass('main')} min-h-[3rem] justify-self-start`}
        onClick={begin}
      >
        {second ? 'Read it here a second time' : 'Read it here, twice'}
        <Key>r</Key>
      </button>
      <p className="text-[0.93rem] text-ink-2">
        Over {wayWords(way)}
        {way.kind === 'browser' ? ' port' : ''}
        {minutes ? `: ${minutes} where the adapter answers within 1 ms` : ''}. A cable from an earthed computer to a
        board on mains kills: the unit stays unplugged.
      </p>
    </div>
  )
}
