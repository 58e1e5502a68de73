'use client'
import { sectorBytes } from '@fresh-coat/core/dump/sectors'
import { buildExtended, buildLx106 } from '@fresh-coat/core/image/build'
import type { Journal } from '@fresh-coat/core/link/journal'
import { hasDigest } from '@fresh-coat/core/link/reading'
import { useMemo, useState } from 'react'
import { SectorMap, UnreadMap } from '@/components/drawings/sector-map'
import { WriteMap } from '@/components/drawings/write-map'
import { Choice } from '@/components/forms/fields'
import { Card } from '@/components/frame/card'
import { Desk } from '@/components/link/desk'
import { DeskCard, DeskEnd } from '@/components/link/desk-card'
import { DeskRail } from '@/components/link/desk-rail'
import { DeskStore, type DeskView, isBusy } from '@/components/link/desk-store'
import { openerOf } from '@/components/link/open-port'
import { useDesk } from '@/components/link/use-desk'
import { buttonClass, Tag } from '@/components/paint/paint'
import { VirtualPort } from '@/standins/chip/browser-port'
import { ChipSpec, type Fault } from '@/standins/chip/chip-spec'

/**
 * A whole first flash on virtual hardware: read twice, written, seen starting, with hands on BOOT and power. It runs the flow and the
 * port of real ones; no unit, no record and no statistic hears of it.
 */

const families = ['LX106', 'LX6', 'RV32'] as const
type Family = (typeof families)[number]
const troubles = {
  none: { words: 'none', faults: [] },
  slip: { words: 'the adapter is pulled while it reads', faults: [{ fault: 'unplug', after: 150_000 }] },
  supply: { words: 'the supply gives way while it writes', faults: [{ fault: 'brownout', block: 20, strap: 'free' }] },
} as const satisfies Record<string, { words: string; faults: Fault[] }>
type Trouble = keyof typeof troubles

const flashBytes = 2 ** 18
/** Of real time; a whole flash takes a minute instead of several. */
const pace = 0.02
const ids: Record<Family, string> = { LX106: '684012', LX6: '204012', RV32: '204012' }
const bootOffsets: Record<Family, number> = { LX106: 0, LX6: 0x1000, RV32: 0 }
const listenSeconds = 4

/** A program that this chip would start: made here, as everything of the stand-in. */
function imageOf(family: Family): Uint8Array {
  const data = Uint8Array.from({ length: 48_000 }, (_, i) => (i * 131 + (i >> 5)) & 0xff)
  const common = { mode: 'DIO', sizeCode: 0, clock: 0 } as const
  return family === 'LX106'
    ? buildLx106({ ...common, entry: 0x40100010, segments: [{ address: 0x40100000, data }] })
    : buildExtended({
        ...common,
        entry: 0x40080400,
        chipId: family === 'RV32' ? 5 : 0,
        minRevision: 0,
        maxRevision: 199,
        segments: [{ address: 0x40080000, data }],
      })
}

interface Bench {
  family: Family
  port: VirtualPort
  desk: Desk
  image: Uint8Array
  /** Reads that were kept. */
  reads: Uint8Array[]
}
const benchOf = (family: Family, trouble: Trouble): Bench => ({
  family,
  port: new VirtualPort(
    ChipSpec.parse({
      family,
      flashBytes,
      flashId: ids[family],
      strap: 'free',
      factor: pace,
      faults: [...troubles[trouble].faults],
    }),
  ),
  desk: new Desk(new DeskStore()),
  image: imageOf(family),
  reads: [],
})

interface Kept {
  kept: Journal | null
}
type Stage = 'read' | 'write' | 'start' | 'done'
const unknown = { family: null, mac: null, flashId: null, flashBytes: null }

/** BOOT and power, as two switches under the hands. */
function Hands({ port }: { port: VirtualPort }) {
  const [held, setHeld] = useState(false)
  const [on, setOn] = useState(port.isPowered)
  return (
    <fieldset className="flex flex-wrap items-center gap-2" aria-label="Your hands">
      <button
        type="button"
        aria-pressed={held}
        className={buttonClass(held ? 'main' : 'plain')}
        onClick={() => {
          port.hold(held ? 'free' : 'held')
          setHeld(!held)
        }}
      >
        BOOT {held ? 'is held' : 'is free'}
      </button>
      <button
        type="button"
        aria-pressed={on}
        className={buttonClass(on ? 'main' : 'plain')}
        onClick={() => {
          port.power(!on)
          setOn(!on)
        }}
      >
        Power {on ? 'on' : 'off'}
      </button>
      <span className="text-[0.93rem] text-ink-2">
        BOOT counts at the moment power comes. {held ? 'Held, it waits in its loader.' : 'Free, it starts its program.'}
      </span>
    </fieldset>
  )
}

function Drawn({ view, bench }: { view: DeskView; bench: Bench }) {
  if (view.what === 'listen')
    return (
      <pre className="pin min-h-[7rem] rounded-[10px] bg-bar px-4 py-3 whitespace-pre-wrap text-[#d5e2dd]">
        {view.text.trim() || 'Nothing was heard yet.'}
      </pre>
    )
  if (view.what === 'write')
    return (
      <WriteMap
        flashBytes={flashBytes}
        offset={bootOffsets[bench.family]}
        bytes={bench.image.length}
        confirmed={view.progress?.done ?? 0}
        erased={view.progress !== null}
        whole={false}
      />
    )
  return view.runs.length > 0 ? (
    <SectorMap runs={view.runs} of={flashBytes / sectorBytes} marked={view.differing} label="What is read" />
  ) : (
    <UnreadMap bytes={flashBytes} label="The virtual chip, nothing of it read yet" />
  )
}

const asks: Record<Exclude<Stage, 'done'>, { ask: string; how: string; press: string }> = {
  read: {
    ask: 'Keep the stock firmware',
    how: 'Two reads of the whole chip, at two rates. It is called until it answers: then bring it into download mode.',
    press: 'Read it, twice',
  },
  write: {
    ask: 'Write the new one',
    how: 'Erased exactly, block by block, and proven. If it is lost half-way, the journal finishes it.',
    press: 'Write it',
  },
  start: {
    ask: 'See it start',
    how: 'Free BOOT, take its power, listen, and give it power.',
    press: 'Listen',
  },
}

/** Runs a stage; the next one where it ended well. */
async function run(stage: Exclude<Stage, 'done'>, bench: Bench, journal: Kept): Promise<boolean> {
  const { desk, port, image, family } = bench
  const open = openerOf(port)
  const log = async () => {}
  if (stage === 'read') {
    bench.reads = []
    const keep = async (bytes: Uint8Array) => bench.reads.push(bytes) > 0
    await desk.read({
      unitId: null,
      open,
      expected: unknown,
      byLines: false,
      identified: log,
      reads: [1, 2],
      keep,
      log,
    })
  } else if (stage === 'write')
    await desk.write({
      unitId: null,
      open,
      expected: unknown,
      byLines: false,
      file: { sha256: 'practice', bytes: image.length },
      data: image,
      offset: bootOffsets[family],
      eraseAll: false,
      verify: hasDigest(family) ? 'digest' : 'sample',
      journal: journal.kept,
      keepJournal: async (kept) => {
        journal.kept = kept
      },
      log,
    })
  else {
    const rate = family === 'LX106' ? 74_880 : 115_200
    await desk.listen({
      unitId: null,
      open,
      byLines: false,
      rates: [{ rate, seconds: listenSeconds }],
      heard: () => {},
    })
  }
  return desk.store.now().ended?.good === true
}

const after: Record<Exclude<Stage, 'done'>, Stage> = { read: 'write', write: 'start', start: 'done' }

function Running({ bench, anew }: { bench: Bench; anew: () => void }) {
  const view = useDesk(bench.desk.store)
  const [stage, setStage] = useState<Stage>('read')
  const [journal] = useState<Kept>({ kept: null })
  const { desk } = bench
  const begin = () => {
    if (stage === 'done') return
    void run(stage, bench, journal).then((good) => good && setStage(after[stage]))
  }
  const idle = !isBusy(view)
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_340px]">
      <div className="grid min-w-0 content-start gap-4">
        {view.what && view.what !== 'listen' && <DeskRail view={view} />}
        <Drawn view={view} bench={bench} />
        <Hands port={bench.port} />
      </div>
      <div className="grid content-start gap-4">
        {!idle ? (
          <DeskCard
            desk={desk}
            view={view}
            goOn={() => desk.again(openerOf(bench.port))}
            entry={null}
            hotkeys={false}
          />
        ) : stage === 'done' ? (
          <Card ask="From its stock firmware to its first start" how="Read twice, written, proven, and seen starting.">
            <p className="flex gap-2.5">
              <Tag severity="ok">practice</Tag> On a virtual {bench.family}: it proves your hands, and nothing of a real
              chip.
            </p>
            <button type="button" className={`${buttonClass('main')} justify-self-start`} onClick={anew}>
              Another one
            </button>
          </Card>
        ) : (
          <>
            {view.ended && !view.ended.good && <DeskEnd desk={desk} view={view} />}
            <Card ask={asks[stage].ask} how={asks[stage].how}>
              <button type="button" className={`${buttonClass('main')} justify-self-start`} onClick={begin}>
                {stage === 'write' && journal.kept ? 'Finish it from its journal' : asks[stage].press}
              </button>
            </Card>
          </>
        )}
      </div>
    </div>
  )
}

export function FirstFlash() {
  const [family, setFamily] = useState<Family>('LX6')
  const [trouble, setTrouble] = useState<Trouble>('none')
  const [round, setRound] = useState(0)
  // biome-ignore lint/correctness/useExhaustiveDependencies: another round is another chip
  const bench = useMemo(() => benchOf(family, trouble), [family, trouble, round])
  const anew = () => setRound(round + 1)
  return (
    <>
      <p className="hatch flex items-center rounded-[6px] border border-ink-3 px-3 py-1">
        <strong className="rounded-[4px] bg-sheet px-2">Practice: virtual chip</strong>
      </p>
      <div className="flex flex-wrap items-end gap-x-8 gap-y-3">
        <Choice
          label="Chip"
          value={family}
          options={families.map((f) => ({ value: f, label: f }))}
          onChange={(f) => setFamily(f as Family)}
        />
        <Choice
          label="Trouble on the way"
          value={trouble}
          options={(Object.keys(troubles) as Trouble[]).map((t) => ({ value: t, label: troubles[t].words }))}
          onChange={(t) => setTrouble(t as Trouble)}
        />
      </div>
      <Running key={`${family} ${trouble} ${round}`} bench={bench} anew={anew} />
    </>
  )
}
