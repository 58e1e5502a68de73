'use client'
import { type Family, families } from '@fresh-coat/core/families/families'
import type { Release } from '@fresh-coat/core/flash/release'
import type { ConsoleWords } from '@fresh-coat/core/link/questions'
import type { Mapping } from '@fresh-coat/core/live/mapping'
import type { SetupMode } from '@fresh-coat/core/network/beats'
import type { Phrases } from '@fresh-coat/core/profile/phrases'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { CommandForm } from '@/components/forms/command-form'
import { AreaField, OffsetField, TextField, Tick } from '@/components/forms/fields'
import { AirForm } from './air-form'
import { ConsoleWordsForm } from './console-words-form'
import { PhrasesForm } from './phrases-form'
import { ReleaseEntry, ReleasesTable } from './releases'
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
const unnamed: Values = {
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

/** The families that a firmware is made for. */
function MadeFor({ made, onChange }: { made: readonly Family[]; onChange: (made: Family[]) => void }) {
  return (
    <fieldset>
      <legend className="text-[0.9rem] font-semibold text-ink-2">Made for</legend>
      <div className="flex flex-wrap gap-x-4">
        {families
          .filter((f) => f !== 'OTHER')
          .map((f) => (
            <Tick
              key={f}
              label={f}
              checked={made.includes(f)}
              onChange={(on) => onChange(on ? [...made, f] : made.filter((x) => x !== f))}
            />
          ))}
      </div>
    </fieldset>
  )
}

type Offsets = Values['startOffsets']

/** Where files for a family begin whose chip and files do not say it. */
function StartOffset({ offsets, onChange }: { offsets: Offsets; onChange: (offsets: Offsets) => void }) {
  return (
    <div className="max-w-[24rem]">
      <OffsetField
        label="Its files for CM3 begin at"
        value={offsets.CM3 ?? null}
        hint="No chip and no file says it: take it from the papers of the firmware."
        onChange={(at) => {
          const { CM3: _, ...rest } = offsets
          onChange(at === null ? rest : { ...rest, CM3: at })
        }}
      />
    </div>
  )
}

/** A firmware as editable data: its families, and what its releases may be jumped to from. */
export function FirmwareForm({
  profile,
  images = [],
}: {
  /** Files of the vault that are described as releases of this firmware. */
  images?: UnitFile[]
  profile?: Values & { id: string; version: number }
}) {
  const { id, version, ...values } = profile ?? { id: '', version: 0, ...unnamed }
  return (
    <CommandForm
      command={profile ? 'edit-profile' : 'add-profile'}
      empty={values}
      toInput={({ name, ...data }) => (profile ? { profileId: id, version, name, data } : { name, data })}
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
          <MadeFor made={v.families} onChange={(families) => set({ families })} />
          <PhrasesForm name={v.name} phrases={v.phrases} onChange={(phrases) => set({ phrases })} />
          <SetupForm setup={v.setup} onChange={(setup) => set({ setup })} />
          <AirForm air={v.air} onChange={(air) => set({ air })} />
          <ConsoleWordsForm words={v.console} onChange={(console) => set({ console })} />
          {v.families.includes('CM3') && (
            <StartOffset offsets={v.startOffsets} onChange={(startOffsets) => set({ startOffsets })} />
          )}
          {v.releases.length > 0 && (
            <ReleasesTable releases={v.releases} images={images} onChange={(releases) => set({ releases })} />
          )}
          <ReleaseEntry releases={v.releases} onChange={(releases) => set({ releases })} />
        </>
      )}
    </CommandForm>
  )
}
