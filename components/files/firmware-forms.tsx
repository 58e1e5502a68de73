'use client'
import { type Family, families } from '@fresh-coat/core/families/families'
import { type Release, updateBytes } from '@fresh-coat/core/flash/release'
import { buildName } from '@fresh-coat/core/flash/upgrade'
import { compareVersions, readVersion } from '@fresh-coat/core/flash/version'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import type { ConsoleWords } from '@fresh-coat/core/link/questions'
import type { Mapping } from '@fresh-coat/core/live/mapping'
import type { SetupMode } from '@fresh-coat/core/network/beats'
import type { Phrases } from '@fresh-coat/core/profile/phrases'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { useState } from 'react'
import { CommandForm } from '@/components/forms/command-form'
import { AreaField, NumberField, OffsetField, SelectField, TextField, Tick } from '@/components/forms/fields'
import Link from '@/components/link'
import { amount, buttonClass } from '@/components/paint/paint'
import { AirForm } from './air-form'
import { ConsoleWordsForm } from './console-words-form'
import { PhrasesForm } from './phrases-form'
import { SetupForm } from './setup-form'

interface Values {
  [key: string]: unknown
  name: string
  families: Family[]
  setupAddress: string
  about: string
  startOffsets: Partial<Record<Family, number>>
  releases: Release[]
  console: ConsoleWords | null
  phrases: Phrases | null
  air: Mapping | null
  setup: SetupMode | null
}
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

/** A firmware as editable data: its families, and what its releases may be jumped to from. */
export function FirmwareForm({
  profile,
  images = [],
}: {
  /** Files of the vault that are described as releases of this firmware. */
  images?: UnitFile[]
  profile?: {
    id: string
    version: number
    name: string
    families: Family[]
    setupAddress: string
    about: string
    startOffsets: Partial<Record<Family, number>>
    releases: Release[]
    console: ConsoleWords | null
    phrases: Phrases | null
    air: Mapping | null
    setup: SetupMode | null
  }
}) {
  const [draft, setDraft] = useState<Release>(blank)
  const empty: Values = profile
    ? {
        name: profile.name,
        families: profile.families,
        setupAddress: profile.setupAddress,
        about: profile.about,
        startOffsets: profile.startOffsets,
        releases: profile.releases,
        console: profile.console,
        phrases: profile.phrases,
        air: profile.air,
        setup: profile.setup,
      }
    : {
        name: '',
        families: [],
        setupAddress: '',
        about: '',
        startOffsets: {},
        releases: [],
        console: null,
        phrases: null,
        air: null,
        setup: null,
      }
  const filesOf = (r: Release) =>
    images.filter(
      (f) => f.release === buildName(r) && ((f.inspection as ImageInspection | null)?.family ?? r.family) === r.family,
    )
  const good = readVersion(draft.version) !== null && draft.build.trim() !== '' && draft.bytes > 0
  return (
    <CommandForm
      command={profile ? 'edit-profile' : 'add-profile'}
      empty={empty}
      toInput={({ name, ...data }) =>
        profile ? { profileId: profile.id, version: profile.version, name, data } : { name, data }
      }
      submit={profile ? 'Save this firmware' : 'Add this firmware'}
      disabled={(v) => v.name.trim() === ''}
    >
      {(v, set) => (
        <>
          <div className="grid gap-3 sm:grid-cols-2">
            <TextField label="Name" value={v.name} maxLength={120} onChange={(name) => set({ name })} />
            <TextField
              label="Address of its setup page"
              mono
              value={v.setupAddress}
              maxLength={60}
              onChange={(setupAddress) => set({ setupAddress })}
            />
          </div>
          <AreaField
            label="About"
            mono={false}
            rows={2}
            maxLength={500}
            value={v.about}
            onChange={(about) => set({ about })}
          />
          <fieldset>
            <legend className="text-[0.9rem] font-semibold text-ink-2">Made for</legend>
            <div className="flex flex-wrap gap-x-4">
              {families
                .filter((f) => f !== 'OTHER')
                .map((f) => (
                  <Tick
                    key={f}
                    label={f}
                    checked={v.families.includes(f)}
                    onChange={(on) => set({ families: on ? [...v.families, f] : v.families.filter((x) => x !== f) })}
                  />
                ))}
            </div>
          </fieldset>
          <PhrasesForm name={v.name} phrases={v.phrases} onChange={(phrases) => set({ phrases })} />
          <SetupForm setup={v.setup} onChange={(setup) => set({ setup })} />
          <AirForm air={v.air} onChange={(air) => set({ air })} />
          <ConsoleWordsForm words={v.console} onChange={(console) => set({ console })} />
          {v.families.includes('CM3') && (
            <div className="max-w-[24rem]">
              <OffsetField
                label="Its files for CM3 begin at"
                value={v.startOffsets.CM3 ?? null}
                hint="No chip and no file says it: take it from the papers of the firmware."
                onChange={(at) => {
                  const { CM3: _, ...rest } = v.startOffsets
                  set({ startOffsets: at === null ? rest : { ...rest, CM3: at } })
                }}
              />
            </div>
          )}
          {v.releases.length > 0 && (
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
                  {[...v.releases]
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
                          <ReleaseFiles files={filesOf(r)} release={r} />
                        </td>
                        <td>{[r.note, r.layout && `Layout ${r.layout}.`].filter(Boolean).join(' ')}</td>
                        <td>
                          <button
                            type="button"
                            className="underline"
                            aria-label={`Remove ${r.version}/${r.build}`}
                            onClick={() => set({ releases: v.releases.filter((x) => x !== r) })}
                          >
                            remove
                          </button>
                        </td>
                      </tr>
                    ))}
                </tbody>
              </table>
            </div>
          )}
          <fieldset className="grid gap-3 rounded-[10px] border border-rule p-3 sm:grid-cols-4">
            <legend className="px-1 font-semibold">A release</legend>
            <TextField
              label="Version"
              mono
              value={draft.version}
              maxLength={40}
              onChange={(version) => setDraft((now) => ({ ...now, version }))}
            />
            <TextField
              label="Build"
              mono
              value={draft.build}
              maxLength={60}
              onChange={(build) => setDraft((now) => ({ ...now, build }))}
            />
            <SelectField
              label="Family"
              value={draft.family}
              options={families.map((f) => ({ value: f, label: f }))}
              onChange={(family) => family && setDraft((now) => ({ ...now, family }))}
            />
            <NumberField
              label="Bytes"
              min={1}
              max={16777216}
              whole
              value={draft.bytes || null}
              onChange={(bytes) => setDraft((now) => ({ ...now, bytes: bytes ?? 0 }))}
            />
            <NumberField
              label="Bytes packed, if it may be"
              min={1}
              max={16777216}
              whole
              value={draft.gzBytes}
              onChange={(gzBytes) => setDraft((now) => ({ ...now, gzBytes }))}
            />
            <TextField
              label="Oldest version to come from"
              mono
              value={draft.minFrom ?? ''}
              maxLength={40}
              onChange={(minFrom) => setDraft((now) => ({ ...now, minFrom: minFrom.trim() === '' ? null : minFrom }))}
            />
            <TextField
              label="Oldest main firmware (radio only)"
              mono
              value={draft.minHost ?? ''}
              maxLength={40}
              onChange={(minHost) => setDraft((now) => ({ ...now, minHost: minHost.trim() === '' ? null : minHost }))}
            />
            <TextField
              label="Layout it needs, if a certain one"
              mono
              value={draft.layout ?? ''}
              maxLength={60}
              onChange={(layout) => setDraft((now) => ({ ...now, layout: layout.trim() === '' ? null : layout }))}
            />
            <TextField
              label="Note"
              value={draft.note}
              maxLength={500}
              onChange={(note) => setDraft((now) => ({ ...now, note }))}
            />
            <Tick
              label="A stop: never jump over it"
              checked={draft.stop}
              onChange={(stop) => setDraft((now) => ({ ...now, stop }))}
            />
            <Tick
              label="Takes packed uploads"
              checked={draft.acceptsGzip}
              onChange={(acceptsGzip) => setDraft((now) => ({ ...now, acceptsGzip }))}
            />
            <button
              type="button"
              className={`${buttonClass('plain')} self-end`}
              disabled={!good}
              onClick={() => {
                set({
                  releases: [
                    ...v.releases.filter(
                      (r) => r.version !== draft.version || r.build !== draft.build || r.family !== draft.family,
                    ),
                    draft,
                  ],
                })
                setDraft({ ...blank, family: draft.family })
              }}
            >
              Put it on the list
            </button>
          </fieldset>
        </>
      )}
    </CommandForm>
  )
}
