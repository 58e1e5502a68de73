'use client'
import { hexNumber } from '@fresh-coat/core/bytes/text'
import { buildName, type UpgradeStep } from '@fresh-coat/core/flash/upgrade'
import { compareVersions } from '@fresh-coat/core/flash/version'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import {
  howSays,
  type Installed,
  installedName,
  installedOf,
  noteInstalled,
  type Ran as RanRow,
  radioBuild,
  ranOf,
  releasesFor,
  updateOf,
  updateSchemeOf,
  usualUpdateEnd,
} from '@fresh-coat/core/steps/watch/installed'
import { Choice, NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { Count } from '@/components/frame/card'
import { useKept } from '@/components/frame/frame-context'
import Link from '@/components/link'
import { amount, buttonClass, Findings, shortMoment } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = SurfaceProps<'watch'>

const schemeWords = {
  single: 'One slot: staged above the running program',
  dual: 'Two slots: into the other one',
  external: 'A radio: passed on by the main firmware',
} as const

/** What runs, which releases there are for it, and what was chosen of them. */
export function useInstalled({ view, record: { data }, choices }: Props) {
  const installed = installedOf(view)
  const family = familyOf(view)?.family ?? null
  const profile = choices.profiles.find((p) => p.name === installed?.firmware) ?? null
  const every = (profile?.releases ?? []).filter((r) => r.family === family)
  const releases = releasesFor(view, every)
  const wish = data.target === 'radio' ? data.radioWanted : data.wanted
  const wanted = wish && releases.some((r) => buildName(r) === buildName(wish)) ? wish : null
  return { installed, family, profile, every, releases, wanted, ran: ranOf(view) }
}

/** Main program and radio, and whether a newer one is out. */
export function InstalledFacts(props: Props) {
  const { installed, every } = useInstalled(props)
  const { radio } = props.record.data
  const newest = every.filter((r) => r.build !== radioBuild).sort((a, b) => compareVersions(b.version, a.version))[0]
  const behind = installed && newest && compareVersions(installed.version, newest.version) < 0
  return (
    <>
      <Count name="Main" note={installed ? `${howSays(installed.how)}, ${shortMoment(installed.at)}` : ''}>
        {installed ? `${installed.firmware} ${installedName(installed)}` : 'not known'}
        {behind && <span className="text-ochre">; {newest.version} is out</span>}
      </Count>
      {radio && (
        <Count name="Radio" note={`${howSays(radio.how)}, ${shortMoment(radio.at)}`}>
          {radio.firmware} {radio.version}
        </Count>
      )}
    </>
  )
}

/** How much room an update has: by the radio, by one slot, or by the slot that is not running. */
function RoomField({ view, record: { data, patch } }: Props) {
  const takes = updateSchemeOf(view)
  const most = { min: 1, max: 16_777_216, whole: true }
  if (data.target === 'radio')
    return (
      <NumberField
        label="Room in the radio"
        unit="bytes"
        {...most}
        value={data.radioBytes}
        onChange={(radioBytes) => patch({ radioBytes })}
        hint="A new radio with no network formed is updated, not working yet."
      />
    )
  if (takes.scheme === 'single')
    return (
      <NumberField
        label="Files or settings begin at"
        min={1}
        max={4_294_967_295}
        whole
        value={data.updateEnd}
        onChange={(updateEnd) => patch({ updateEnd })}
        hint={`Empty: ${amount(usualUpdateEnd)} (${hexNumber(usualUpdateEnd)}) on a 1 MiB chip without files.`}
      />
    )
  return (
    <NumberField
      label="Room for the new program"
      unit="bytes"
      {...most}
      value={data.slotBytes}
      onChange={(slotBytes) => patch({ slotBytes })}
      hint={
        takes.slot
          ? `By the layout on its chip: ${amount(takes.room ?? 0)} bytes in “${takes.slot}”, the slot that is not running.`
          : 'The size of the slot that is not running.'
      }
    />
  )
}

function SchemeField({ view, record: { patch } }: Props) {
  const takes = updateSchemeOf(view)
  const family = familyOf(view)?.family ?? 'its family'
  const how = {
    layout: 'By the layout on its chip.',
    family: `As is usual for ${family}.`,
    said: 'As somebody said.',
  }
  return (
    <div>
      <Choice
        label="How it takes updates"
        value={takes.scheme}
        options={[
          { value: 'single', label: 'One slot' },
          { value: 'dual', label: 'Two slots' },
        ]}
        onChange={(scheme) => patch({ scheme })}
      />
      <p className="mt-1 text-[0.87rem] text-ink-3">{how[takes.how as keyof typeof how] ?? how.said}</p>
    </div>
  )
}

/** What should run on it, and what the way there depends on. */
export function UpdateFields(props: Props) {
  const { data, patch } = props.record
  const { installed, profile, releases, wanted } = useInstalled(props)
  const isRadio = data.target === 'radio'
  if (!profile)
    return (
      <p className="text-ink-2">
        {installed
          ? `There is no profile called ${installed.firmware || 'like that'}. `
          : 'Note what runs, and the releases of its firmware tell the way to a newer one. '}
        <Link href="/images/firmware" className="underline underline-offset-4">
          Firmware and its releases
        </Link>
      </p>
    )
  const newestFirst = [...releases].sort(
    (a, b) => compareVersions(b.version, a.version) || (a.build < b.build ? -1 : 1),
  )
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <Choice
        label="Brought up to date"
        value={data.target}
        options={[
          { value: 'main', label: 'Main program, first' },
          { value: 'radio', label: 'Its radio' },
        ]}
        onChange={(target) => patch({ target, walked: [] })}
      />
      <SelectField
        label="Should run"
        value={wanted ? buildName(wanted) : null}
        none={releases.length === 0 ? 'No release for this family yet' : 'Leave it as it is'}
        options={newestFirst.map((r) => ({
          value: buildName(r),
          label: `${buildName(r)}, ${amount(r.bytes)} bytes${r.stop ? ', a stop' : ''}`,
        }))}
        onChange={(name) => {
          const [version = '', build = ''] = (name ?? '').split('/')
          const chosen = name ? { version, build } : null
          patch({ walked: [], ...(isRadio ? { radioWanted: chosen } : { wanted: chosen }) })
        }}
      />
      {!isRadio && <SchemeField {...props} />}
      <RoomField {...props} />
      <Tick
        label="An older version is allowed (settings are not converted back)"
        checked={data.allowDowngrade}
        onChange={(allowDowngrade) => patch({ allowDowngrade })}
      />
    </div>
  )
}

function PathStep({ step, at, walk }: { step: UpgradeStep; at: number; walk: () => void }) {
  return (
    <li className="grid gap-2 rounded-[9px] border border-rule p-3">
      <p>
        <strong className="pin">{step.from}</strong> to <strong className="pin">{step.to}</strong>
        <span className="block text-[0.9rem] text-ink-2">
          {amount(step.uploadBytes)} bytes{step.upload === 'gzip' ? ' packed' : ''}
          {step.stageStart !== null && `, staged from ${hexNumber(step.stageStart)}`}; {amount(step.freeBytes)} bytes
          stay free.
        </span>
      </p>
      <button
        type="button"
        className={`${buttonClass(at === 0 ? 'main' : 'plain')} justify-self-start`}
        disabled={at > 0}
        onClick={walk}
      >
        It reports {step.to}
      </button>
    </li>
  )
}

/** The way to what should run, step by step, with what speaks against it. */
export function UpdatePath(props: Props) {
  const { view, record } = props
  const { data, patch } = record
  const { installed, every, wanted } = useInstalled(props)
  const { path, why } = updateOf(view, every, wanted)
  if (!path) return wanted ? <p className="text-ochre">{why}</p> : null
  const scheme = data.target === 'radio' ? 'external' : updateSchemeOf(view).scheme
  const walk = (step: UpgradeStep) => {
    const [version = '', build = ''] = step.to.split('/')
    const now: Installed = {
      firmware: installed?.firmware ?? '',
      version,
      build,
      how: 'reported',
      at: new Date().toISOString(),
    }
    patch({ walked: [...data.walked, step.to], ...noteInstalled(view, data.target, now) })
  }
  return (
    <>
      <Findings findings={path.findings} label="The way" />
      {path.steps.length > 0 && (
        <>
          <ol className="grid gap-2">
            {path.steps.map((s, i) => (
              <PathStep key={s.to} step={s} at={i} walk={() => walk(s)} />
            ))}
          </ol>
          <p className="text-[0.93rem] text-ink-2">
            {schemeWords[scheme]}. Before each: download the settings, see that the power is steady. During: do not
            leave or reload its page. After: wait until it answers, and check the version it reports, not the one that
            was sent. Losing power half-way on one slot means wires again.
          </p>
        </>
      )}
    </>
  )
}

/** Everything it ran, newest first. */
export const Ran = ({ ran }: { ran: readonly RanRow[] }) => (
  <ul className="grid gap-1.5">
    {ran.map((r) => (
      <li key={`${r.target} ${r.at}`} className="flex flex-wrap items-baseline gap-x-3">
        <span className="pin text-ink-2">{shortMoment(r.at)}</span>
        <strong>
          {r.firmware} {installedName(r)}
        </strong>
        <span className="text-ink-2">
          {r.target === 'radio' ? `on the radio${r.host ? `, beside ${r.host}` : ''}; ` : ''}
          {howSays(r.how)}
        </span>
      </li>
    ))}
  </ul>
)

/** What runs on it, as the unit reports it or somebody says. */
export function NoteInstalled({ view, record: { patch }, choices }: Props) {
  const [said, setSaid] = useKept('note installed', { firmware: '', version: '', build: 'full' })
  const mayNot = !said.firmware || !said.version.trim()
  const note = (target: 'main' | 'radio', how: Installed['how'], build: string) =>
    patch({ ...noteInstalled(view, target, { ...said, build, how, at: new Date().toISOString() }), walked: [] })
  return (
    <>
      <SelectField
        label="Firmware"
        value={said.firmware || null}
        options={choices.profiles.map((p) => ({ value: p.name, label: p.name }))}
        onChange={(firmware) => setSaid({ ...said, firmware: firmware ?? '' })}
      />
      <TextField
        label="Version"
        mono
        value={said.version}
        maxLength={40}
        onChange={(version) => setSaid({ ...said, version })}
      />
      <TextField
        label="Build"
        mono
        value={said.build}
        maxLength={60}
        onChange={(build) => setSaid({ ...said, build })}
      />
      <div className="flex flex-wrap gap-3">
        <button
          type="button"
          className={buttonClass()}
          disabled={mayNot}
          onClick={() => note('main', 'reported', said.build)}
        >
          The unit reports it
        </button>
        <button
          type="button"
          className={buttonClass()}
          disabled={mayNot}
          onClick={() => note('main', 'said', said.build)}
        >
          Somebody said so
        </button>
        <button
          type="button"
          className={buttonClass('quiet')}
          disabled={mayNot}
          onClick={() => note('radio', 'reported', radioBuild)}
        >
          It is its radio
        </button>
      </div>
    </>
  )
}
