'use client'
import { sizeWords } from '@fresh-coat/core/bytes/text'
import type { DumpInspection } from '@fresh-coat/core/dump/inspect'
import { flashIdAnswered, parseFlashId } from '@fresh-coat/core/flash/flash-id'
import { backupOf, flashBytesOf } from '@fresh-coat/core/steps/backup/facts'
import { gateHolds, gatesFor } from '@fresh-coat/core/unit/gates'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { SectorMap } from '@/components/drawings/sector-map'
import { TextField, Tick } from '@/components/forms/fields'
import { amount, Findings } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'
import { PutBack } from './put-back'
import { Read } from './read'
import { ReadAttempts } from './read-attempts'
import { Skip } from './skip'
import { useComparison, useRead } from './use-read'

export function BackupSurface({ view, record, gates, choices, act }: SurfaceProps<'backup'>) {
  const { data, patch } = record
  const backup = backupOf(view)
  const flash = flashBytesOf(view)
  const id = parseFlashId(data.flashId)
  const { fresh, early, busy, state, take } = useRead(view, data.onDisk)
  const comparison = useComparison(backup)
  const shown = fresh ?? (backup.first?.inspection as DumpInspection | null)
  const putAside = (file: UnitFile) => void act('put-file-aside', { fileId: file.id })
  return (
    <>
      <StepHeading title="Keep the stock firmware">
        It exists nowhere else: calibration, address and keys are this unit’s own. Read the whole chip from 0, enter
        download mode again, and read it a second time.
      </StepHeading>
      {gates}
      <div className="grid gap-3 sm:grid-cols-[16rem_1fr]">
        <TextField
          label="Flash chip id, three bytes"
          mono
          value={data.flashId}
          maxLength={40}
          placeholder="68 40 14"
          onChange={(flashId) => patch({ flashId })}
          hint="Manufacturer first."
        />
        <p className="self-center" aria-live="polite">
          {data.flashId.trim() === '' ? (
            flash ? (
              `Known for this board: ${sizeWords(flash)}.`
            ) : (
              'Without it the size of the chip is not known.'
            )
          ) : !id ? (
            <span className="font-semibold text-oxide">That is no chip id: three bytes in hex are due.</span>
          ) : !flashIdAnswered(id) ? (
            <span className="font-semibold text-oxide">
              The chip did not answer: check wires, power and download mode.
            </span>
          ) : id.flashBytes ? (
            `The chip has ${sizeWords(id.flashBytes)}.`
          ) : (
            'The size byte is unknown: check the order of the three bytes.'
          )}
        </p>
      </div>
      <div className="grid gap-3 md:grid-cols-2">
        <Read n={1} file={backup.first} busy={busy} take={(f) => take(f, 1)} aside={putAside} />
        <Read n={2} file={backup.second} busy={busy} take={(f) => take(f, 2)} aside={putAside} />
      </div>
      <Tick
        label="Leave the bytes on my disk: keep only hash, length and map here"
        checked={data.onDisk}
        onChange={(onDisk) => patch({ onDisk })}
      />
      {state}
      {comparison && (
        <div aria-live="polite">
          <Findings findings={comparison.findings} />
          {comparison.verdict !== 'same' && comparison.differingBytes > 0 && (
            <p className="mt-1 text-ink-2">
              {amount(comparison.differingBytes)} bytes differ: {amount(comparison.bitsLost)} bits lost,{' '}
              {amount(comparison.bitsGained)} gained. Bytes of two reads are never mixed.
            </p>
          )}
        </div>
      )}
      {early && (
        <Block title="What was just read">
          <SectorMap runs={early} label="Chip map" />
          <p className="text-ink-2">Looking for headers, settings and keys.</p>
        </Block>
      )}
      {!early && shown && shown.runs.length > 0 && (
        <Block title={fresh ? 'What was just read' : 'What was read first'}>
          <SectorMap runs={shown.runs} marked={fresh ? [] : (comparison?.differingSectors ?? [])} label="Chip map" />
          <Findings findings={shown.findings} empty="A good read: nothing speaks against it." />
        </Block>
      )}
      <ReadAttempts view={view} act={act} open={gatesFor(view, 'backup').some((g) => !gateHolds(view, g))} />
      <Skip record={record} />
      {(backup.first || choices.twins.length > 0) && <PutBack view={view} record={record} twins={choices.twins} />}
    </>
  )
}
