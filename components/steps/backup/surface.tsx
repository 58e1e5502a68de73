'use client'
import { sizeWords } from '@fresh-coat/core/bytes/text'
import type { DumpComparison } from '@fresh-coat/core/dump/compare'
import type { DumpInspection } from '@fresh-coat/core/dump/inspect'
import { classesOf, type Run, sectorBytes } from '@fresh-coat/core/dump/sectors'
import { attemptAdvice } from '@fresh-coat/core/flash/attempts'
import { flashIdAnswered, parseFlashId } from '@fresh-coat/core/flash/flash-id'
import { readsTried } from '@fresh-coat/core/flash/tried'
import { type BackupFact, backupOf, flashBytesOf, readOnceForGood } from '@fresh-coat/core/steps/backup/facts'
import { gateHolds, gatesFor } from '@fresh-coat/core/unit/gates'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import type { ReactNode } from 'react'
import { ReadBars } from '@/components/drawings/read-bars'
import { SectorMap, sectorWords, UnreadMap } from '@/components/drawings/sector-map'
import { DropFile } from '@/components/files/drop-file'
import { TextField, Tick } from '@/components/forms/fields'
import { Card, Standing } from '@/components/frame/card'
import { Word } from '@/components/frame/drawer'
import { type SheetMore, StepSheet } from '@/components/frame/sheet'
import { MeasureLine } from '@/components/link/measure-line'
import { WayForm } from '@/components/link/way-form'
import { amount, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { PutBack } from './put-back'
import { usePutBack } from './put-back-here'
import { Read } from './read'
import { LogRead, ReadHistory } from './read-attempts'
import { ReadHere, ReadMap, useReadHere } from './read-here'
import { Skip } from './skip'
import { TwinProgram } from './twin-program'
import { useComparison, useRead } from './use-read'

type Props = SurfaceProps<'backup'>

const unknownChipBytes = 1 << 20

/** What the flash id says, or why it says nothing. */
function idWords(flashId: string, flash: number | null): { words: string; faulty: boolean } {
  const id = parseFlashId(flashId)
  if (flashId.trim() === '')
    return flash
      ? { words: `known for this board: ${sizeWords(flash)}`, faulty: false }
      : { words: 'not known: its size neither', faulty: true }
  if (!id) return { words: `${flashId}, which is no chip id: three bytes in hex are due`, faulty: true }
  if (!flashIdAnswered(id))
    return { words: `${flashId}: the chip did not answer, check wires, power and download mode`, faulty: true }
  if (!id.flashBytes) return { words: `${flashId}: the size byte is unknown, check the order`, faulty: true }
  return { words: `${flashId}, so it has ${sizeWords(id.flashBytes)}`, faulty: false }
}

function Say({ view, record: { data, patch } }: Props) {
  const { words, faulty } = idWords(data.flashId, flashBytesOf(view))
  return (
    <>
      It exists nowhere else: calibration, address and keys are this unit’s own. The flash chip’s id is{' '}
      <Word
        name="Flash chip id"
        faulty={faulty}
        open={
          <TextField
            label="Flash chip id, three bytes"
            mono
            value={data.flashId}
            maxLength={40}
            placeholder="68 40 14"
            onChange={(flashId) => patch({ flashId })}
            hint="Manufacturer first."
          />
        }
      >
        {words}
      </Word>
      .
    </>
  )
}

/** The sectors as a list: from where to where what lies. */
function RunsTable({ runs }: { runs: readonly Run[] }) {
  const classes = classesOf(runs)
  const stretches: { from: number; kind: (typeof classes)[number]; sectors: number }[] = []
  for (const [i, kind] of classes.entries()) {
    const last = stretches.at(-1)
    if (last?.kind === kind) last.sectors++
    else stretches.push({ from: i, kind, sectors: 1 })
  }
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>From</th>
          <th>Sectors</th>
          <th>Holds</th>
        </tr>
      </thead>
      <tbody>
        {stretches.slice(0, 300).map((s) => (
          <tr key={s.from}>
            <td className="pin">0x{(s.from * sectorBytes).toString(16).toUpperCase()}</td>
            <td>{amount(s.sectors)}</td>
            <td>{sectorWords(s.kind)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** What a single read is worth, said before anybody relies on it. */
function OneRunWorth() {
  return (
    <div className="mt-4 grid gap-2 text-ink-2">
      <p>
        The chip has been overwritten since: no second read can prove this one. A bad contact may have left a fault in
        it that nobody sees.
      </p>
      <p>
        It is good enough to go back in need, and no proof. Only the read of a twin can be held against it: where both
        have the same program, that part is proven.
      </p>
    </div>
  )
}

/** One read in the run that wrote: told before a second read is asked for. */
function OneRun({ record: { data, patch } }: Pick<Props, 'record'>) {
  return (
    <>
      <p>
        Some tools read the chip and write it in one go. Then there is one read, and nothing left to read a second time.
      </p>
      <Tick label="It was read and written in one run" checked={data.oneRun} onChange={(oneRun) => patch({ oneRun })} />
    </>
  )
}

/** What to do now: bring a read, read again, or it is kept. */
function BackupCard({
  backup,
  drop,
  busy,
  onDisk,
  standing,
  oneRun,
  advice,
  here,
}: {
  backup: BackupFact
  drop: (label: string, read: 1 | 2) => ReactNode
  busy: boolean
  onDisk: ReactNode
  standing: ReactNode
  /** Read once, in the run that wrote it. */
  oneRun: boolean
  advice: string | null
  /** Reading it with the port of this browser. */
  here: ReactNode
}) {
  const told = advice && (
    <p className="flex gap-2.5" aria-live="polite">
      <Tag severity="watch" /> <span>{advice}</span>
    </p>
  )
  if (busy) return <Card ask="It is looked at" how="The map fills as it is read. Nothing is kept before it is whole." />
  if (backup.state === 'verified' || backup.state === 'skipped') return standing
  if (oneRun)
    return (
      <>
        {standing}
        <OneRunWorth />
      </>
    )
  if (backup.state === 'differ')
    return (
      <Card
        lead="Bytes of two reads are never mixed"
        ask="The two reads differ. Read again."
        how="Reseat the wires, halve the rate, enter download mode again. Then bring the new second read."
      >
        {told}
        {here}
        {drop('Drop the second read, or choose it', 2)}
        {drop('Or the first anew', 1)}
      </Card>
    )
  if (backup.first && !backup.second)
    return (
      <Card
        lead="One read is kept"
        ask="Read it a second time"
        how="Enter download mode again, at another rate if you can. Two equal reads prove the copy."
      >
        {told}
        {here}
        {drop('Drop the second read, or choose it', 2)}
        {onDisk}
      </Card>
    )
  return (
    <Card
      lead={backup.first ? 'The reads agree, but it is no whole chip' : 'Nothing is kept yet'}
      ask="Read the whole chip, from 0 to its end"
      how="Twice, from here, or with any tool into a file of plain bytes, up to 16 MiB."
    >
      {told}
      {here}
      {drop('Drop the first read, or choose it', 1)}
      {onDisk}
    </Card>
  )
}

function Compared({ comparison }: { comparison: DumpComparison | null }) {
  if (comparison?.verdict === 'same')
    return (
      <p className="flex gap-2.5">
        <Tag severity="ok">equal</Tag> The two reads are equal, byte for byte.
      </p>
    )
  if (!comparison || comparison.differingBytes === 0) return null
  return (
    <p className="text-ink-2">
      {amount(comparison.differingBytes)} bytes differ: {amount(comparison.bitsLost)} bits lost,{' '}
      {amount(comparison.bitsGained)} gained.
    </p>
  )
}

/** What was read of the unit so far, and how the reading of more of it goes. */
function useReads(props: Props) {
  const { view, record } = props
  const backup = backupOf(view)
  const coming = useRead(view, record.data.onDisk)
  const comparison = useComparison(backup)
  const shown = coming.fresh ?? (backup.first?.inspection as DumpInspection | null | undefined) ?? null
  return {
    ...coming,
    backup,
    comparison,
    shown,
    runs: coming.early ?? shown?.runs ?? [],
    chipBytes: flashBytesOf(view) ?? backup.bytes ?? unknownChipBytes,
    reading: useReadHere(props, backup, coming.take),
    puttingBack: usePutBack({ view }),
    gated: gatesFor(view, 'backup').some((g) => !gateHolds(view, g)),
  }
}

type Reads = ReturnType<typeof useReads>

/** The chip: as it is put back, as it is read, as it was read, or as large as it is. */
function ChipMap({ puttingBack, reading, runs, early, fresh, comparison, chipBytes }: Reads) {
  if (puttingBack.drawing) return puttingBack.drawing
  if (reading.shown) return <ReadMap view={reading.desk} />
  if (runs.length === 0)
    return <UnreadMap bytes={chipBytes} label={`The chip, ${sizeWords(chipBytes)}, nothing of it read yet`} />
  const marked = early || fresh ? [] : (comparison?.differingSectors ?? [])
  return <SectorMap runs={runs} marked={marked} label="Chip map" />
}

/** What the bytes say, as far as they are looked at. */
function Judged({ view, choices, reads }: Pick<Props, 'view' | 'choices'> & { reads: Reads }) {
  const { state, early, shown, comparison, reading } = reads
  if (reading.working) return state
  const good = shown !== null && !early && shown.findings.length === 0
  return (
    <>
      {state}
      {early && <p className="text-ink-2">Looking for headers, settings and keys.</p>}
      {good && (
        <p className="flex gap-2.5">
          <Tag severity="ok" /> A good read: nothing speaks against it.
        </p>
      )}
      <div className="flex flex-wrap gap-x-6 gap-y-1.5">
        <Compared comparison={comparison} />
        <TwinProgram view={view} twins={choices.twins} />
      </div>
    </>
  )
}

function TheCard({ props, reads }: { props: Props; reads: Reads }) {
  const { view, record, assessment } = props
  const { backup, busy, take, reading, puttingBack } = reads
  const here = assessment.steps.find((s) => s.id === 'backup')
  return (
    reading.card ??
    puttingBack.card ?? (
      <BackupCard
        backup={backup}
        busy={busy}
        advice={attemptAdvice(view.reads, null)}
        oneRun={readOnceForGood(view)}
        standing={<Standing conditions={here?.conditions ?? []} />}
        onDisk={
          <Tick
            label="Leave the bytes on my disk: keep only hash, length and map here"
            checked={record.data.onDisk}
            onChange={(onDisk) => record.patch({ onDisk })}
          />
        }
        drop={(label, read) => (
          <DropFile label={label} about="" disabled={busy} onFile={(file) => void take(file, read)} />
        )}
        here={<ReadHere {...reading} />}
      />
    )
  )
}

function drawersOf({ view, record, choices, act }: Props, { backup, gated }: Reads): SheetMore[] {
  const { data } = record
  const putAside = (file: UnitFile) => void act('put-file-aside', { fileId: file.id })
  const tried = readsTried(view)
  return [
    backup.first && { name: 'First read', content: <Read file={backup.first} aside={putAside} /> },
    backup.second && { name: 'Second read', content: <Read file={backup.second} aside={putAside} /> },
    !backup.second && {
      id: 'one-run',
      name: data.oneRun ? 'Read and written in one run' : 'Was it read and written in one run?',
      content: <OneRun record={record} />,
    },
    { id: 'port', name: 'Where the adapter hangs', content: <WayForm /> },
    { name: 'Measure the line', content: <MeasureLine view={view} act={act} gated={gated} /> },
    { name: 'A read that did not work', content: <LogRead view={view} act={act} open={gated} /> },
    tried.count > 0 && {
      id: 'reads',
      name: `Reads so far: ${tried.count}`,
      wide: true,
      content: <ReadHistory view={view} act={act} />,
    },
    {
      id: 'skip',
      name: data.skip ? 'There is no backup, and why' : 'There will be no backup',
      content: <Skip record={record} />,
    },
    (backup.first || choices.twins.length > 0) && {
      name: 'Put the stock firmware back',
      content: <PutBack view={view} record={record} twins={choices.twins} act={act} gated={gated} />,
    },
  ]
}

/** The stock firmware, kept: both reads over each other on the map of the chip. */
export function BackupSurface(props: Props) {
  const reads = useReads(props)
  const { backup, early, shown, runs, comparison, reading } = reads
  const ofTwo = (comparison?.findings ?? []).filter((f) => f.code !== 'dumps-same')
  return (
    <StepSheet
      title="Keep the stock firmware"
      say={<Say {...props} />}
      drawing={
        <div className="grid content-center gap-3">
          <ChipMap {...reads} />
          <ReadBars
            first={backup.first}
            second={backup.second}
            chipBytes={reads.chipBytes}
            equal={backup.state === 'verified'}
            busy={reads.busy || reading.working}
            take={reads.take}
          />
        </div>
      }
      twin={runs.length > 0 ? <RunsTable runs={runs} /> : undefined}
      findings={early || reading.working ? [] : [...ofTwo, ...(shown?.findings ?? [])]}
      verdict={<Judged view={props.view} choices={props.choices} reads={reads} />}
      card={<TheCard props={props} reads={reads} />}
      more={drawersOf(props, reads)}
    />
  )
}
