'use client'
import { families } from '@fresh-coat/core/families/families'
import { type Release, updateBytes } from '@fresh-coat/core/flash/release'
import { buildName } from '@fresh-coat/core/flash/upgrade'
import { compareVersions, readVersion } from '@fresh-coat/core/flash/version'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { useState } from 'react'
import { NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import Link from '@/components/link'
import { amount, buttonClass } from '@/components/paint/paint'

const blank: Release = {
  version: '',
  build: 'full',
  family: 'LX106',
  bytes: 0,
  gzBytes: null,
  acceptsGzip: false,
  minFrom: null,
  minHost: null,
  layout: null,
  stop: false,
  note: '',
}

/** Says so when the program in a file has another size than its release on the list. */
function SizeApart({ file, release }: { file: UnitFile; release: Release }) {
  const found = file.inspection as ImageInspection | null
  const bytes = found ? updateBytes(found) : file.bytes
  if (bytes === release.bytes || file.bytes === release.gzBytes) return null
  return <span className="text-ochre"> has {amount(bytes)} bytes</span>
}

/** Files of the vault that are described as this release; a size that differs is said. */
function ReleaseFiles({ files, release }: { files: UnitFile[]; release: Release }) {
  if (files.length === 0) return <span className="text-ink-3">not in the vault</span>
  return files.map((file) => (
    <span key={file.id} className="block">
      <Link href={`/images/${file.id}`} className="inline-block min-h-6 break-all underline underline-offset-4">
        {file.name}
      </Link>
      <SizeApart file={file} release={release} />
    </span>
  ))
}

const filesOf = (images: readonly UnitFile[], r: Release): UnitFile[] =>
  images.filter(
    (f) => f.release === buildName(r) && ((f.inspection as ImageInspection | null)?.family ?? r.family) === r.family,
  )

interface Releases {
  releases: readonly Release[]
  onChange: (releases: Release[]) => void
}

/** The releases of a firmware, the newest first, each with the files that are described as it. */
export function ReleasesTable({ releases, images, onChange }: Releases & { images: readonly UnitFile[] }) {
  return (
    <div className="overflow-x-auto">
      <table className="plain">
        <thead>
          <tr>
            <th>Release</th>
            <th>Family</th>
            <th>Bytes</th>
            <th>Comes from</th>
            <th>Stop</th>
            <th>File</th>
            <th>Note</th>
            <th>
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {[...releases]
            .sort((a, b) => compareVersions(b.version, a.version) || (a.build < b.build ? -1 : 1))
            .map((r) => (
              <tr key={`${r.version}/${r.build}/${r.family}`}>
                <td className="pin">
                  {r.version}/{r.build}
                </td>
                <td>{r.family}</td>
                <td className="pin">
                  {amount(r.bytes)}
                  {r.gzBytes ? `, packed ${amount(r.gzBytes)}` : ''}
                </td>
                <td className="pin">{r.minFrom ? `${r.minFrom} on` : 'any'}</td>
                <td>{r.stop ? 'must not be jumped over' : '–'}</td>
                <td>
                  <ReleaseFiles files={filesOf(images, r)} release={r} />
                </td>
                <td>{[r.note, r.layout && `Layout ${r.layout}.`].filter(Boolean).join(' ')}</td>
                <td>
                  <button
                    type="button"
                    className="underline"
                    aria-label={`Remove ${r.version}/${r.build}`}
                    onClick={() => onChange(releases.filter((x) => x !== r))}
                  >
                    remove
                  </button>
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </div>
  )
}

const isSame = (a: Release, b: Release): boolean =>
  a.version === b.version && a.build === b.build && a.family === b.family

/** Text of a field that may say nothing. */
const orNull = (text: string): string | null => (text.trim() === '' ? null : text)

/** One more release; one that is there already is written anew. */
export function ReleaseEntry({ releases, onChange }: Releases) {
  const [draft, setDraft] = useState<Release>(blank)
  const change = (more: Partial<Release>) => setDraft((now) => ({ ...now, ...more }))
  const good = readVersion(draft.version) !== null && draft.build.trim() !== '' && draft.bytes > 0
  const add = (release: Release) => onChange([...releases.filter((r) => !isSame(r, release)), release])
  return (
    <fieldset className="grid gap-3 rounded-[10px] border border-rule p-3 sm:grid-cols-4">
      <legend className="px-1 font-semibold">A release</legend>
      <TextField
        label="Version"
        mono
        value={draft.version}
        maxLength={40}
        onChange={(version) => change({ version })}
      />
      <TextField label="Build" mono value={draft.build} maxLength={60} onChange={(build) => change({ build })} />
      <SelectField
        label="Family"
        value={draft.family}
        options={families.map((f) => ({ value: f, label: f }))}
        onChange={(family) => family && change({ family })}
      />
      <NumberField
        label="Bytes"
        min={1}
        max={16777216}
        whole
        value={draft.bytes || null}
        onChange={(bytes) => change({ bytes: bytes ?? 0 })}
      />
      <NumberField
        label="Bytes packed, if it may be"
        min={1}
        max={16777216}
        whole
        value={draft.gzBytes}
        onChange={(gzBytes) => change({ gzBytes })}
      />
      <TextField
        label="Oldest version to come from"
        mono
        value={draft.minFrom ?? ''}
        maxLength={40}
        onChange={(minFrom) => change({ minFrom: orNull(minFrom) })}
      />
      <TextField
        label="Oldest main firmware (radio only)"
        mono
        value={draft.minHost ?? ''}
        maxLength={40}
        onChange={(minHost) => change({ minHost: orNull(minHost) })}
      />
      <TextField
        label="Layout it needs, if a certain one"
        mono
        value={draft.layout ?? ''}
        maxLength={60}
        onChange={(layout) => change({ layout: orNull(layout) })}
      />
      <TextField label="Note" value={draft.note} maxLength={500} onChange={(note) => change({ note })} />
      <Tick label="A stop: never jump over it" checked={draft.stop} onChange={(stop) => change({ stop })} />
      <Tick
        label="Takes packed uploads"
        checked={draft.acceptsGzip}
        onChange={(acceptsGzip) => change({ acceptsGzip })}
      />
      <button
        type="button"
        className={`${buttonClass('plain')} self-end`}
        disabled={!good}
        onClick={() => {
          add(draft)
          setDraft({ ...blank, family: draft.family })
        }}
      >
        Put it on the list
      </button>
    </fieldset>
  )
}
