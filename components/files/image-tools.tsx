'use client'
import { constantKinds, OwnBuild } from '@fresh-coat/core/flash/own-build'
import type { Release } from '@fresh-coat/core/flash/release'
import { type FlashMode, flashModes } from '@fresh-coat/core/image/image'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { CommandForm } from '@/components/forms/command-form'
import { AreaField, Choice, NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { useRefresh } from '@/components/frame/use-refresh'
import { amount, buttonClass, Notice } from '@/components/paint/paint'
import { type Refusal, send } from '@/components/send'

/** Makes a copy with another flash mode: a new file under a new name, the original stays. */
export function PatchMode({
  fileId,
  mode,
  done,
}: {
  fileId: string
  mode: FlashMode | null
  /** What to do with the new file; without it the page goes there. */
  done?: (id: string) => void
}) {
  const router = useRouter()
  const [to, setTo] = useState<FlashMode>('DOUT')
  const [error, setError] = useState<Refusal | null>(null)
  const [busy, setBusy] = useState(false)
  const [note, setNote] = useState('')
  const make = async () => {
    setBusy(true)
    setError(null)
    const result = await send('patch-image', { fileId, mode: to })
    setBusy(false)
    if (result.state === 'refused') return setError(result.error)
    if (result.state === 'away') return setNote('The server does not answer. Nothing was made.')
    setNote(
      result.value.known ? `The vault has this copy already: ${result.value.name}.` : `Made: ${result.value.name}.`,
    )
    const id = result.value.id as string
    if (done) done(id)
    else router.push(`/images/${id}`)
  }
  return (
    <div className="grid gap-2">
      <Choice
        label={`Its mode is ${mode ?? 'unknown'}. A copy with`}
        compact
        value={to}
        options={flashModes.map((m) => ({ value: m, label: m }))}
        onChange={setTo}
      />
      <button
        type="button"
        className={`${buttonClass('plain')} justify-self-start`}
        disabled={busy || to === mode}
        onClick={() => void make()}
      >
        Make a {to} copy
      </button>
      {note && <p className="text-ink-2">{note}</p>}
      {error && (
        <Notice severity="error" title={error.message}>
          {error.kept} {error.next}
        </Notice>
      )}
    </div>
  )
}

/** Where a file came from, and which release of which firmware it is. */
export function DescribeFile({
  file,
  firmwares,
}: {
  file: { id: string; version: number; origin: string; firmware: string; release: string }
  firmwares: string[]
}) {
  return (
    <CommandForm
      command="describe-file"
      empty={{ origin: file.origin, firmware: file.firmware, release: file.release }}
      toInput={(v) => ({ fileId: file.id, version: file.version, ...v })}
      submit="Note it"
    >
      {(v, set) => (
        <div className="grid gap-2">
          <TextField
            label="Where it came from"
            value={v.origin}
            maxLength={300}
            onChange={(origin) => set({ origin })}
          />
          <SelectField
            label="Firmware"
            value={v.firmware || null}
            none="Not said"
            options={firmwares.map((f) => ({ value: f, label: f }))}
            onChange={(firmware) => set({ firmware: firmware ?? '' })}
          />
          <TextField
            label="Release"
            value={v.release}
            maxLength={60}
            placeholder="9.4.1/full"
            onChange={(release) => set({ release })}
          />
        </div>
      )}
    </CommandForm>
  )
}

const makers = { release: 'A release', own: 'An own build', other: 'Somebody else’s' } as const
const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
const namesOf = { topic: 'a topic', host: 'a host', number: 'a number', else: 'something else' } as const

/** "BASE: topic" a line: what was built in, and what it names. */
const constantsOf = (text: string): OwnBuild['constants'] =>
  linesOf(text).map((line) => {
    const [name = '', said = ''] = line.split(':').map((part) => part.trim())
    return { name, names: constantKinds.find((k) => k === said.toLowerCase()) ?? 'else' }
  })

/** Whose build it is, and what is in it: held against every unit that it would go into. */
export function DescribeBuild({ file }: { file: { id: string; version: number; build?: OwnBuild | null } }) {
  const build = file.build ?? OwnBuild.parse({})
  return (
    <CommandForm
      command="describe-build"
      empty={{
        ...build,
        options: build.options.join('\n'),
        libraries: build.libraries.join('\n'),
        constants: build.constants.map((c) => `${c.name}: ${c.names}`).join('\n'),
      }}
      toInput={(v) => ({
        fileId: file.id,
        version: file.version,
        build: {
          ...v,
          options: linesOf(v.options),
          libraries: linesOf(v.libraries),
          constants: constantsOf(v.constants),
        },
      })}
      submit="Note the build"
    >
      {(v, set) => (
        <div className="grid gap-2">
          <Choice
            label="Whose build"
            compact
            value={v.by}
            options={(Object.keys(makers) as (keyof typeof makers)[]).map((m) => ({ value: m, label: makers[m] }))}
            onChange={(by) => set({ by })}
          />
          <TextField label="Its source" value={v.source} maxLength={200} onChange={(source) => set({ source })} />
          <TextField
            label="State of the source"
            mono
            value={v.state}
            maxLength={120}
            onChange={(state) => set({ state })}
          />
          <AreaField
            label="Options built in, one a line"
            rows={3}
            value={v.options}
            onChange={(options) => set({ options })}
          />
          <AreaField
            label="Libraries, one a line"
            rows={2}
            value={v.libraries}
            onChange={(libraries) => set({ libraries })}
          />
          <AreaField
            label={`Constants built in, one a line: NAME: ${constantKinds.join(', ')}`}
            rows={2}
            value={v.constants}
            onChange={(constants) => set({ constants })}
          />
          {constantsOf(v.constants).some((c) => c.names !== 'else') && (
            <p className="text-ink-2">
              It names{' '}
              {[...new Set(constantsOf(v.constants).map((c) => c.names))]
                .filter((k) => k !== 'else')
                .map((k) => namesOf[k])
                .join(', ')}
              : it is for one unit alone. Values that are secret belong among the secrets of that unit, not here.
            </p>
          )}
          <NumberField
            label="For this unit alone: its number"
            value={v.forUnit}
            min={1}
            max={100000}
            whole
            onChange={(forUnit) => set({ forUnit })}
          />
          <Tick
            label="A test image: it only does one thing that can be seen, such as blinking a pin"
            checked={v.test}
            onChange={(test) => set({ test })}
          />
        </div>
      )}
    </CommandForm>
  )
}

/** Puts a described file on the list of releases of its firmware, with what its bytes say. */
export function ListRelease({
  profile,
  release,
}: {
  profile: { id: string; version: number; name: string; data: Record<string, unknown> & { releases: Release[] } }
  release: Release
}) {
  const refresh = useRefresh()
  const [error, setError] = useState<Refusal | null>(null)
  const add = async () => {
    const data = { ...profile.data, releases: [...profile.data.releases, release] }
    const result = await send('edit-profile', {
      profileId: profile.id,
      version: profile.version,
      name: profile.name,
      data,
    })
    if (result.state === 'ok') return refresh()
    setError(
      result.state === 'refused'
        ? result.error
        : {
            code: 'away',
            message: 'The server does not answer.',
            kept: 'Nothing was changed.',
            next: 'Try again when it is back.',
          },
    )
  }
  return (
    <div className="mt-3 grid gap-2">
      <p className="text-ink-2">
        {release.version}/{release.build}, {amount(release.bytes)} bytes over the air, is not on the list of{' '}
        {profile.name} yet: no way to it can be planned.
      </p>
      <button type="button" className={`${buttonClass('plain')} justify-self-start`} onClick={() => void add()}>
        Put it on the list
      </button>
      {error && (
        <Notice severity="error" title={error.message}>
          {error.kept} {error.next}
        </Notice>
      )}
    </div>
  )
}

/** Another kept file to compare with. */
export function CompareWith({ fileId, others }: { fileId: string; others: { id: string; label: string }[] }) {
  const router = useRouter()
  const [other, setOther] = useState<string | null>(null)
  if (others.length === 0) return <p className="text-ink-2">There is no other file of this kind to compare with.</p>
  return (
    <div className="grid gap-2">
      <SelectField
        label="Compare it with"
        value={other}
        options={others.map((o) => ({ value: o.id, label: o.label }))}
        onChange={setOther}
      />
      <button
        type="button"
        className={`${buttonClass('plain')} justify-self-start`}
        disabled={!other}
        onClick={() => other && router.push(`/images/compare?a=${fileId}&b=${other}`)}
      >
        Compare
      </button>
    </div>
  )
}
