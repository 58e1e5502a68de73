'use client'
import { hexNumber, hexOf, sizeWords } from '@fresh-coat/core/bytes/text'
import type { DumpComparison } from '@fresh-coat/core/dump/compare'
import type { DumpInspection } from '@fresh-coat/core/dump/inspect'
import type { Run } from '@fresh-coat/core/dump/sectors'
import { attemptAdvice } from '@fresh-coat/core/flash/attempts'
import { flashIdAnswered, parseFlashId } from '@fresh-coat/core/flash/flash-id'
import { backupOf, flashBytesOf, restoreDue, restoreOf, type TwinBackup } from '@fresh-coat/core/steps/backup/facts'
import { backupSkipCodes } from '@fresh-coat/core/steps/backup/record'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { gateHolds, gatesFor } from '@fresh-coat/core/unit/gates'
import type { AttemptOutcome, UnitFile } from '@fresh-coat/core/unit/view'
import { useEffect, useState } from 'react'
import { SectorMap } from '@/components/drawings/sector-map'
import { analyseDump, prepareAnalysis } from '@/components/files/analyse-dump'
import { DropFile } from '@/components/files/drop-file'
import { useUpload } from '@/components/files/use-upload'
import { AreaField, Choice, NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { useRefresh } from '@/components/frame/use-refresh'
import { amount, buttonClass, Fact, Findings, shortMoment, Tag, twoDigits } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'
import { AttemptFields, AttemptTable, outcomeWords, WhatWorked } from '@/components/steps/write/attempts'

const skipWords = {
  'read-protected': 'The chip refuses to be read',
  'already-replaced': 'It came with open firmware',
  'no-read-path': 'The way in cannot read',
  twin: 'A twin of the same board is backed up',
  owner: 'The owner decides so',
}

const stateWords = {
  verified: 'read twice and equal',
  single: 'read once',
  differ: 'its reads differ',
  skipped: 'skipped',
  none: 'none',
} as const

export function BackupSurface({ view, record, gates, choices, act }: SurfaceProps<'backup'>) {
  const refresh = useRefresh()
  const { data, patch } = record
  const backup = backupOf(view)
  const flash = flashBytesOf(view)
  const id = parseFlashId(data.flashId)
  const uploading = useUpload()
  const { setWork, setError } = uploading
  const [fresh, setFresh] = useState<DumpInspection | null>(null)
  const [early, setEarly] = useState<Run[] | null>(null)
  const [comparison, setComparison] = useState<DumpComparison | null>(null)

  useEffect(prepareAnalysis, [])

  const pair = backup.first && backup.second ? `${backup.first.id}/${backup.second.id}` : null
  useEffect(() => {
    setComparison(null)
    if (!pair) return
    let wanted = true
    void fetch(`/api/compare/${pair}`)
      .then((r) => r.json())
      .then((result) => {
        if (wanted && result.ok) setComparison(result.value)
      })
      .catch(() => {})
    return () => {
      wanted = false
    }
  }, [pair])

  const take = async (file: File, read: 1 | 2) => {
    setError(null)
    setFresh(null)
    if (file.size > 16 * 1048576) {
      setError({
        code: 'too-large',
        message: `This file has ${amount(file.size)} bytes; at most 16 MiB can be a flash file.`,
        kept: 'Nothing was stored.',
        next: 'Check that you chose the right file.',
      })
      return
    }
    const started = performance.now()
    const family = familyOf(view)?.family ?? null
    const analysis = analyseDump(
      file,
      { family: family === 'OTHER' ? null : family, flashBytes: flash },
      (phase, done, total) => {
        const rate = done / 1048576 / ((performance.now() - started) / 1000)
        setWork({
          label:
            phase === 'hash'
              ? 'Hashing, looking for headers and keys'
              : `Looking at every sector, ${rate.toFixed(0)} MiB/s`,
          done,
          total,
          cancel: analysis.cancel,
        })
      },
      setEarly,
    )
    setWork({ label: 'Reading', done: 0, total: file.size, cancel: analysis.cancel })
    const found = await analysis.done.finally(() => setEarly(null))
    if (found === null) return setWork(null)
    setFresh(found)
    const kept = await uploading.keep(
      { kind: 'dump', name: file.name, unitId: view.id, read: String(read), keep: data.onDisk ? 'no' : 'yes' },
      file,
      data.onDisk ? 'Looking at it; its bytes are not kept' : 'Keeping it',
    )
    if (!kept) return
    setFresh(null)
    refresh()
  }
  const putAside = (file: UnitFile) => void act('put-file-aside', { fileId: file.id })
  const unreadable = () => {
    setWork(null)
    setError({
      code: 'unreadable',
      message: 'The file could not be read to its end.',
      kept: 'Nothing was stored.',
      next: 'See whether it is still where it was, and choose it again.',
    })
  }

  const shown = fresh ?? (backup.first?.inspection as DumpInspection | null)
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
        <Read
          n={1}
          file={backup.first}
          busy={uploading.busy}
          take={(f) => void take(f, 1).catch(unreadable)}
          aside={putAside}
        />
        <Read
          n={2}
          file={backup.second}
          busy={uploading.busy}
          take={(f) => void take(f, 2).catch(unreadable)}
          aside={putAside}
        />
      </div>
      <Tick
        label="Leave the bytes on my disk: keep only hash, length and map here"
        checked={data.onDisk}
        onChange={(onDisk) => patch({ onDisk })}
      />
      {uploading.state}
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
      <Block title="Or skip it, with the reason">
        {data.skip === null ? (
          <button
            type="button"
            className={`${buttonClass()} justify-self-start`}
            onClick={() => patch({ skip: { code: 'read-protected', reason: '' } })}
          >
            There will be no backup
          </button>
        ) : (
          <div className="grid gap-3 sm:grid-cols-[18rem_1fr]">
            <SelectField
              label="Why"
              value={data.skip.code}
              options={backupSkipCodes.map((c) => ({ value: c, label: skipWords[c] }))}
              onChange={(code) => code && patch({ skip: { code, reason: data.skip?.reason ?? '' } })}
            />
            <AreaField
              label="In a sentence of at least 15 characters"
              rows={2}
              mono={false}
              maxLength={1000}
              value={data.skip.reason}
              onChange={(reason) => patch({ skip: { code: data.skip?.code ?? 'owner', reason } })}
            />
            <button
              type="button"
              className={`${buttonClass('quiet')} justify-self-start`}
              onClick={() => patch({ skip: null })}
            >
              I will read it after all
            </button>
          </div>
        )}
      </Block>
      {(backup.first || choices.twins.length > 0) && <PutBack view={view} record={record} twins={choices.twins} />}
    </>
  )
}

/** The way back to the stock firmware: the plan, the manifest, and when it was last tried. */
function PutBack({
  view,
  record,
  twins,
}: Pick<SurfaceProps<'backup'>, 'view' | 'record'> & { twins: readonly TwinBackup[] }) {
  const { data, patch } = record
  const [fromUnit, setFromUnit] = useState<string | null>(null)
  const own = backupOf(view)
  const twin = twins.find((t) => String(t.number) === fromUnit) ?? null
  const plan = restoreOf(view, twin)
  const due = restoreDue(view)
  const file = twin?.file ?? own.first
  return (
    <Fold summary="Put the stock firmware back">
      {data.skip && !own.first && data.skip.reason.trim() !== '' && (
        <p>
          It was not kept: {skipWords[data.skip.code].toLowerCase()}. “{data.skip.reason.trim()}”
        </p>
      )}
      {twins.length > 0 && (
        <SelectField
          label="The copy to put back"
          value={fromUnit}
          none={own.first ? 'This unit’s own' : 'This unit’s own: there is none'}
          options={twins.map((t) => ({
            value: String(t.number),
            label: `${twoDigits(t.number)} ${t.name}, same board, ${stateWords[t.state]}`,
          }))}
          onChange={setFromUnit}
        />
      )}
      <Findings findings={plan.findings} empty="A verified copy of the whole chip: nothing speaks against it." />
      {plan.allowed && (
        <dl>
          <Fact name="File" evidence={<span className="pin break-all select-all">{plan.sha256}</span>}>
            {file?.held === false ? (
              `${file.name}, on your disk`
            ) : (
              <a className="underline underline-offset-4" href={`/api/files/${file?.id}`}>
                {file?.name}
              </a>
            )}
          </Fact>
          <Fact name="Offset">
            <span className="pin select-all">{hexNumber(plan.offset)}</span>
          </Fact>
          <Fact name="Length">
            <span className="pin select-all">{plan.bytes}</span> bytes, the whole{' '}
            {plan.offset === 0 ? 'chip' : 'rest of it'}
          </Fact>
          <Fact name="Afterwards">The read-back digest must equal the hash above.</Fact>
        </dl>
      )}
      {plan.sha256 && <CheckAgain sha256={plan.sha256} />}
      <p>
        <a className="underline underline-offset-4" href={`/api/export/manifest?unit=${twin?.number ?? view.number}`}>
          Manifest for sha256sum
        </a>
      </p>
      {own.first && !twin && (
        <div className="flex flex-wrap items-end gap-4">
          <button type="button" className={buttonClass()} onClick={() => patch({ restoreTested: view.today })}>
            Put back today, and it started
          </button>
          <NumberField
            label="Try it again after"
            unit="months"
            min={1}
            max={120}
            whole
            value={data.restoreMonths}
            onChange={(n) => n && patch({ restoreMonths: n })}
            className="w-[11rem]"
          />
          <p className="pb-2 text-ink-2">
            {data.restoreTested ? `Tried ${data.restoreTested}. ` : 'Never tried. '}
            {due ? `Due ${due}.` : 'A due date comes with a verified copy.'}
          </p>
        </div>
      )}
    </Fold>
  )
}

const readFailures = ['no-answer', 'lost-midway', 'cancelled'] as const

/** A read that did not work is logged as quickly as one that did is dropped; both count for the next time. */
function ReadAttempts({ view, act, open }: Pick<SurfaceProps<'backup'>, 'view' | 'act'> & { open: boolean }) {
  const [form, setForm] = useState({
    outcome: 'no-answer' as AttemptOutcome,
    message: '',
    minutes: null as number | null,
    baud: null as number | null,
  })
  const advice = attemptAdvice(view.reads, null)
  const onBoard = view.board?.reads ?? view.reads
  const log = async () => {
    const ok = await act('log-attempt', {
      unitId: view.id,
      action: 'read',
      outcome: form.outcome,
      minutes: form.minutes ?? 0,
      ...(form.baud === null ? {} : { baud: form.baud }),
      verify: 'none',
      verified: false,
      message: form.message,
    })
    if (ok) setForm({ ...form, outcome: 'no-answer', message: '', minutes: null })
  }
  return (
    <>
      {advice && (
        <p className="flex gap-2.5" aria-live="polite">
          <Tag severity="watch" /> {advice}
        </p>
      )}
      <Fold summary="A read that did not work">
        <Choice
          label="What happened"
          value={form.outcome}
          options={readFailures.map((o) => ({ value: o, label: outcomeWords[o] }))}
          onChange={(outcome) => setForm({ ...form, outcome })}
        />
        <div className="grid gap-3 sm:grid-cols-[10rem_10rem_1fr]">
          <NumberField
            label="Rate"
            unit="baud"
            min={300}
            max={4000000}
            whole
            value={form.baud}
            onChange={(baud) => setForm({ ...form, baud })}
          />
          <AttemptFields
            minutes={form.minutes}
            message={form.message}
            onChange={(change) => setForm({ ...form, ...change })}
          />
        </div>
        <button
          type="button"
          className={`${buttonClass('plain')} justify-self-start`}
          disabled={open}
          onClick={() => void log()}
        >
          Log this read
        </button>
        {open && <p className="text-ink-2">The gate above comes first, before every attempt.</p>}
      </Fold>
      {onBoard.length > 0 && (
        <Fold summary={`Reads so far${view.board ? ` on ${view.board.name}` : ''}: ${onBoard.length}`}>
          <WhatWorked attempts={onBoard} what="read" />
          {view.reads.length > 0 && (
            <AttemptTable
              attempts={view.reads}
              annotate={(attemptId, text) => act('annotate-attempt', { attemptId, text })}
            />
          )}
        </Fold>
      )}
    </>
  )
}

/** Before a file is used, it is hashed again: is it still the one that was read? Nothing of it leaves the page. */
function CheckAgain({ sha256 }: { sha256: string }) {
  const [result, setResult] = useState<{ name: string; state: 'same' | 'other' | 'unreadable' } | null>(null)
  const check = async (file: File) => {
    setResult(null)
    try {
      const digest = await crypto.subtle.digest('SHA-256', await file.arrayBuffer())
      setResult({ name: file.name, state: hexOf(new Uint8Array(digest)) === sha256 ? 'same' : 'other' })
    } catch {
      setResult({ name: file.name, state: 'unreadable' })
    }
  }
  return (
    <div className="grid gap-2">
      <DropFile
        label="Check the file on your disk"
        about="Before every use: its hash is computed here and compared with the one above."
        onFile={(file) => void check(file)}
      />
      {result && (
        <p aria-live="polite">
          <Tag severity={result.state === 'same' ? 'ok' : 'error'}>
            {result.state === 'same' ? 'the same' : result.state === 'other' ? 'another file' : 'not readable'}
          </Tag>{' '}
          <span className="break-all">{result.name}</span>
          {result.state === 'same' && ': byte for byte what was read.'}
          {result.state === 'other' && ': it is not the copy that was read, or it has changed. Do not write it.'}
          {result.state === 'unreadable' && ': see whether it is still where it was.'}
        </p>
      )}
    </div>
  )
}

function Read({
  n,
  file,
  busy,
  take,
  aside,
}: {
  n: 1 | 2
  file: UnitFile | null
  busy: boolean
  take: (file: File) => void
  aside: (file: UnitFile) => void
}) {
  const label = n === 1 ? 'First read' : 'Second read'
  return (
    <div className="grid content-start gap-2">
      <h3 className="text-[1.05rem]">{label}</h3>
      {file && (
        <div className="rounded-[10px] border border-rule bg-sheet-2 p-3">
          <p className="break-all">
            <strong>{file.name}</strong>, {sizeWords(file.bytes)}
          </p>
          <p className="pin break-all text-ink-2">{file.sha256}</p>
          <p className="text-[0.9rem] text-ink-2">
            <Tag severity="ok">private</Tag>{' '}
            {file.held === false ? (
              <>noted {shortMoment(file.createdAt)} · its bytes are on your disk only</>
            ) : (
              <>
                kept {shortMoment(file.createdAt)} ·{' '}
                <a className="underline underline-offset-4" href={`/api/files/${file.id}`}>
                  Save it as it came
                </a>
              </>
            )}
          </p>
          <button type="button" className="underline underline-offset-4" onClick={() => aside(file)}>
            Put it aside: it is not this unit’s chip
          </button>
        </div>
      )}
      <DropFile
        label={
          file ? `Read again: drop the new ${label.toLowerCase()}` : `Drop the ${label.toLowerCase()}, or choose it`
        }
        about="Up to 16 MiB, plain bytes from 0 to the end of the chip."
        disabled={busy}
        onFile={take}
      />
    </div>
  )
}
