'use client'
import { hexNumber, sizeWords } from '@fresh-coat/core/bytes/text'
import { languageNames, variantNames } from '@fresh-coat/core/flash/preflight/file-name'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import { flashBytesOf } from '@fresh-coat/core/steps/backup/facts'
import { preflightOf } from '@fresh-coat/core/steps/check/facts'
import { chipLayoutOf } from '@fresh-coat/core/unit/chip-layout'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { useEffect, useRef, useState } from 'react'
import { ImageStructure, LayoutStrip } from '@/components/drawings/image-structure'
import { DropFile } from '@/components/files/drop-file'
import { PatchMode } from '@/components/files/image-tools'
import { knownAlready, useUpload } from '@/components/files/use-upload'
import { Choice, NumberField, OffsetField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { useRefresh } from '@/components/frame/use-refresh'
import Link from '@/components/link'
import { amount, FindingRow, shortMoment, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'

const verdictWords = {
  go: ['ok', 'It may go in.'],
  warn: ['watch', 'It may go in once every warning is answered.'],
  stop: ['error', 'It must not go in.'],
} as const

/**
 * Firmware and version as the vault describes a file. What was said of another file does not hold for one that is not
 * described.
 */
function saidOf(images: readonly UnitFile[], fileId: string | null, before: string | null) {
  const file = images.find((f) => f.id === fileId)
  if (file?.firmware) return { firmware: file.firmware, firmwareVersion: file.release?.split('/')[0] ?? '' }
  return before === null || before === fileId ? {} : { firmware: '', firmwareVersion: '' }
}

const secondsWords = (seconds: number | null) => (seconds === null ? 'not known: chip size missing' : `${seconds} s`)

export function CheckSurface({ view, record, choices }: SurfaceProps<'check'>) {
  const refresh = useRefresh()
  const { data, patch } = record
  const uploading = useUpload()
  const [note, setNote] = useState('')
  const result = preflightOf(view)
  const found = view.image?.inspection as ImageInspection | null | undefined

  const partial = found?.images[0]?.format === 'extended' && (found.kind === 'app' || found.kind === 'bootloader')
  const consulted = found?.kind === 'app' && found.images[0]?.format === 'extended'
  const layout = consulted ? chipLayoutOf(view, flashBytesOf(view)) : null
  const apps = (layout?.table.entries ?? []).filter((e) => e.type === 0)
  const into = apps.find((e) => e.offset === (data.offset ?? result?.expectedOffset)) ?? null
  const starts = layout?.table.active?.label ?? null

  const take = async (file: File) => {
    setNote('')
    const kept = await uploading.keep({ kind: 'image', name: file.name }, file, 'Keeping and checking it')
    if (!kept) return
    setNote(knownAlready(kept))
    // The same bytes may be in the vault already, described.
    patch({
      fileId: kept.id as string,
      offset: null,
      answered: [],
      ...saidOf(choices.images, kept.id as string, data.fileId),
    })
    refresh()
  }

  // The place follows from file and family until a person types another one.
  const expected = result?.expectedOffset ?? null
  const suggested = useRef<string | null>(null)
  useEffect(() => {
    if (data.offset !== null || expected === null || !data.fileId || suggested.current === data.fileId) return
    suggested.current = data.fileId
    // What belongs beside other parts on the chip must not have them erased.
    patch({ offset: expected, ...(partial ? { eraseAll: false } : {}) })
  }, [data.offset, data.fileId, expected, partial, patch])

  const version = found?.images.find((i) => i.app)?.app?.version ?? null

  const [severity, sentence] = result
    ? verdictWords[result.verdict]
    : (['watch', 'Choose an image, and identify the unit first.'] as const)
  return (
    <>
      <StepHeading title="Check the image before it goes in">
        The name is a hint, the header is the fact. The wrong file writes and verifies like the right one, and never
        starts.
      </StepHeading>
      <div className="grid gap-3 md:grid-cols-2">
        <DropFile
          label="Drop the image, or choose it"
          about="Up to 16 MiB. It goes into the vault and is checked there."
          disabled={uploading.busy}
          onFile={(f) => void take(f)}
        />
        <div className="grid content-start gap-3">
          <SelectField
            label="Or from the vault"
            value={data.fileId}
            options={choices.images.map((f) => ({ value: f.id, label: `${f.name} (${sizeWords(f.bytes)})` }))}
            onChange={(fileId) =>
              patch({ fileId, offset: null, answered: [], ...saidOf(choices.images, fileId, data.fileId) })
            }
          />
          {note && <p className="text-ink-2">{note}</p>}
        </div>
      </div>
      {uploading.state}
      <div className="grid gap-3 sm:grid-cols-3">
        <SelectField
          label="Firmware"
          value={data.firmware || null}
          none="Not said"
          options={choices.profiles.map((p) => ({ value: p.name, label: p.name }))}
          onChange={(firmware) => patch({ firmware: firmware ?? '' })}
        />
        <TextField
          label="Version"
          value={data.firmwareVersion}
          maxLength={40}
          onChange={(firmwareVersion) => patch({ firmwareVersion })}
          hint={
            !version ? (
              ''
            ) : data.firmwareVersion.trim() === '' || data.firmwareVersion.trim() === version ? (
              `The file says ${version}.`
            ) : (
              <span className="font-semibold text-ochre">The file says {version}.</span>
            )
          }
        />
        <OffsetField
          label="Write at offset"
          value={data.offset}
          onChange={(offset) => patch({ offset })}
          hint={expected === null ? '' : `This file belongs at ${hexNumber(expected)}.`}
        />
        <NumberField
          label="Rate"
          unit="baud"
          min={300}
          max={4000000}
          whole
          value={data.baud}
          onChange={(baud) => baud && patch({ baud })}
        />
        <Choice
          label="Verify by"
          value={data.verify}
          options={[
            { value: 'digest', label: 'Digest' },
            { value: 'readback', label: 'Read-back' },
            { value: 'none', label: 'Nothing' },
          ]}
          onChange={(verify) => patch({ verify })}
        />
        <Choice
          label="Data lines to the flash"
          value={data.dataLines === null ? null : (String(data.dataLines) as '2' | '4')}
          options={[
            { value: '2', label: 'Two' },
            { value: '4', label: 'Four' },
          ]}
          onChange={(n) => patch({ dataLines: n === '2' ? 2 : 4 })}
        />
        <SelectField
          label="You want the build"
          value={data.variant}
          none="No matter"
          options={variantNames.map((v) => ({ value: v, label: v }))}
          onChange={(variant) => patch({ variant: variant as typeof data.variant })}
        />
        <SelectField
          label="and the language"
          value={data.language}
          none="No matter"
          options={languageNames.map((l) => ({ value: l, label: l }))}
          onChange={(language) => patch({ language })}
          hint="Two letters in a file name are a language, not a country: uk is Ukrainian."
        />
        <Tick label="Erase the whole chip first" checked={data.eraseAll} onChange={(eraseAll) => patch({ eraseAll })} />
      </div>
      <div aria-live="polite">
        <p className="mb-3 flex items-center gap-2.5 font-title text-[1.15rem] font-semibold">
          <Tag severity={severity} /> {sentence}
        </p>
        {result && (
          <ul className="grid gap-x-8 gap-y-3 lg:grid-cols-2">
            {result.findings.map((f, i) => (
              <FindingRow key={`${f.code}-${i}`} finding={f}>
                {(f.code === 'mode-unproven' || f.code === 'mode-not-possible') && view.image && (
                  <div className="my-3">
                    <PatchMode
                      fileId={view.image.id}
                      mode={found?.images[0]?.mode ?? null}
                      done={(fileId) => {
                        patch({ fileId, offset: null, answered: [] })
                        refresh()
                      }}
                    />
                  </div>
                )}
                {f.severity === 'watch' && (
                  <Tick
                    label="I know, and go on"
                    checked={data.answered.includes(f.code)}
                    onChange={(on) =>
                      patch({ answered: on ? [...data.answered, f.code] : data.answered.filter((c) => c !== f.code) })
                    }
                  />
                )}
              </FindingRow>
            ))}
          </ul>
        )}
        {view.image && (
          <p className="mt-2">
            <Link className="underline underline-offset-4" href={`/images/${view.image.id}`}>
              Its bytes, its structure, and what it differs in
            </Link>
          </p>
        )}
        {result && result.findings.length === 0 && <p>Format, family, size, mode and place fit.</p>}
      </div>
      {result?.plan && (
        <Block title="What will be written">
          <table className="plain">
            <tbody>
              <tr>
                <td>Erase</td>
                <td>{result.plan.erase === 'chip' ? 'the whole chip' : `${result.plan.eraseSectors} sectors`}</td>
                <td className="pin">{secondsWords(result.plan.seconds.erase)}</td>
              </tr>
              <tr>
                <td>Write</td>
                <td>
                  {amount(result.plan.payloadBytes)} bytes at{' '}
                  <span className="pin">{hexNumber(result.plan.regions[0]?.offset ?? 0)}</span>, {amount(data.baud)}{' '}
                  baud
                </td>
                <td className="pin">{result.plan.seconds.write} s</td>
              </tr>
              <tr>
                <td>Verify</td>
                <td>{data.verify === 'none' ? 'not checked' : `by ${data.verify}`}</td>
                <td className="pin">{result.plan.seconds.verify} s</td>
              </tr>
              <tr className="font-semibold">
                <td>Together</td>
                <td />
                <td className="pin">{secondsWords(result.plan.seconds.total)}</td>
              </tr>
            </tbody>
          </table>
        </Block>
      )}
      {consulted && (
        <Block title="The layout it goes into">
          <p className="text-ink-2">
            {layout
              ? layout.from === 'read'
                ? `As it was read from the chip, ${shortMoment(layout.at)}.`
                : `As the last write left it, ${shortMoment(layout.at)}.`
              : 'Nobody knows what lies on the chip: nothing was read, or a write broke off, or it was erased.'}
          </p>
          {layout && (
            <>
              <LayoutStrip table={layout.table} />
              <SelectField
                label="Into the partition"
                value={into?.label ?? null}
                options={apps.map((e) => ({
                  value: e.label,
                  label: `${e.label} at ${hexNumber(e.offset)}, room for ${amount(e.length)} bytes`,
                }))}
                onChange={(label) => {
                  const chosen = apps.find((e) => e.label === label)
                  if (chosen) patch({ offset: chosen.offset })
                }}
              />
              {starts && into && starts !== into.label && (
                <p className="font-semibold text-ochre">
                  The chip starts “{starts}” now: written into “{into.label}”, it would not be what starts.
                </p>
              )}
            </>
          )}
        </Block>
      )}
      {found && found.images.length > 0 && (
        <Block title="What is in the file">
          <ImageStructure images={found.images} bytes={found.gzip?.bytes ?? found.bytes} />
          {found.partitions && <LayoutStrip table={found.partitions} />}
        </Block>
      )}
    </>
  )
}
