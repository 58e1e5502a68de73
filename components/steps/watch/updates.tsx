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
  radioBuild,
  ranOf,
  releasesFor,
  updateOf,
  updateSchemeOf,
  usualUpdateEnd,
} from '@fresh-coat/core/steps/watch/installed'
import { useState } from 'react'
import { Choice, NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import Link from '@/components/link'
import { amount, buttonClass, Fact, Findings, shortMoment } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block } from '@/components/steps/heading'

const schemeWords = {
  single: 'One slot: staged above the running program',
  dual: 'Two slots: into the other one',
  external: 'A radio: passed on by the main firmware',
} as const

/** What runs now, what should, and the way there step by step with its checks. */
export function Updates({ view, record, choices }: SurfaceProps<'watch'>) {
  const { data, patch } = record
  const [said, setSaid] = useState({ firmware: '', version: '', build: 'full' })
  const installed = installedOf(view)
  const family = familyOf(view)?.family ?? null
  const isRadio = data.target === 'radio'
  const profile = choices.profiles.find((p) => p.name === installed?.firmware) ?? null
  const every = (profile?.releases ?? []).filter((r) => r.family === family)
  const releases = releasesFor(view, every)
  const wish = isRadio ? data.radioWanted : data.wanted
  const wanted = wish && releases.some((r) => buildName(r) === buildName(wish)) ? wish : null
  const { path, why } = updateOf(view, every, wanted)
  const newest = every.filter((r) => r.build !== radioBuild).sort((a, b) => compareVersions(b.version, a.version))[0]
  const behind = installed && newest && compareVersions(installed.version, newest.version) < 0

  const takes = updateSchemeOf(view)
  const note = (target: 'main' | 'radio', now: Omit<Installed, 'at'>) =>
    noteInstalled(view, target, { ...now, at: new Date().toISOString() })
  const walk = (step: UpgradeStep) => {
    const [version = '', build = ''] = step.to.split('/')
    const now = { firmware: installed?.firmware ?? '', version, build, how: 'reported' as const }
    patch({ walked: [...data.walked, step.to], ...note(data.target, now) })
  }
  const ran = ranOf(view)
  return (
    <Block title="Installed, and what should be">
      <dl>
        <Fact name="Main" evidence={installed ? `${howSays(installed.how)}, ${shortMoment(installed.at)}` : ''}>
          {installed ? `${installed.firmware} ${installedName(installed)}` : 'not known'}
          {behind && <span className="text-ochre">; {newest.version} is out</span>}
        </Fact>
        <Fact name="Radio" evidence={data.radio ? `${howSays(data.radio.how)}, ${shortMoment(data.radio.at)}` : ''}>
          {data.radio ? `${data.radio.firmware} ${data.radio.version}` : 'none on record'}
        </Fact>
      </dl>
      {!profile && (
        <p className="text-ink-2">
          {installed
            ? `There is no profile called ${installed.firmware || 'like that'}. `
            : 'Note what runs, and the releases of its firmware tell the way to a newer one. '}
          <Link href="/images/firmware" className="underline underline-offset-4">
            Firmware and its releases
          </Link>
        </p>
      )}
      {profile && (
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
            options={[...releases]
              .sort((a, b) => compareVersions(b.version, a.version) || (a.build < b.build ? -1 : 1))
              .map((r) => ({
                value: buildName(r),
                label: `${buildName(r)}, ${amount(r.bytes)} bytes${r.stop ? ', a stop' : ''}`,
              }))}
            onChange={(name) => {
              const [version = '', build = ''] = (name ?? '').split('/')
              const chosen = name ? { version, build } : null
              patch({ walked: [], ...(isRadio ? { radioWanted: chosen } : { wanted: chosen }) })
            }}
          />
          {!isRadio && (
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
              <p className="mt-1 text-[0.87rem] text-ink-3">
                {takes.how === 'layout'
                  ? 'By the layout on its chip.'
                  : takes.how === 'family'
                    ? `As is usual for ${family ?? 'its family'}.`
                    : 'As somebody said.'}
              </p>
            </div>
          )}
          {isRadio ? (
            <NumberField
              label="Room in the radio"
              unit="bytes"
              min={1}
              max={16777216}
              whole
              value={data.radioBytes}
              onChange={(radioBytes) => patch({ radioBytes })}
              hint="A new radio with no network formed is updated, not working yet."
            />
          ) : takes.scheme === 'single' ? (
            <NumberField
              label="Files or settings begin at"
              min={1}
              max={4294967295}
              whole
              value={data.updateEnd}
              onChange={(updateEnd) => patch({ updateEnd })}
              hint={`Empty: ${amount(usualUpdateEnd)} (${hexNumber(usualUpdateEnd)}) on a 1 MiB chip without files.`}
            />
          ) : (
            <NumberField
              label="Room for the new program"
              unit="bytes"
              min={1}
              max={16777216}
              whole
              value={data.slotBytes}
              onChange={(slotBytes) => patch({ slotBytes })}
              hint={
                takes.slot
                  ? `By the layout on its chip: ${amount(takes.room ?? 0)} bytes in “${takes.slot}”, the slot that is not running.`
                  : 'The size of the slot that is not running.'
              }
            />
          )}
          <Tick
            label="An older version is allowed (settings are not converted back)"
            checked={data.allowDowngrade}
            onChange={(allowDowngrade) => patch({ allowDowngrade })}
          />
        </div>
      )}
      {profile && !path && wanted && <p className="text-ochre">{why}</p>}
      {path && (
        <>
          <Findings findings={path.findings} label="The way" />
          {path.steps.length > 0 && (
            <>
              <p className="text-ink-2">
                {schemeWords[isRadio ? 'external' : takes.scheme]}. Before each: download the settings, see that the
                power is steady. During: do not leave or reload its page. After: wait until it answers, and check the
                version it reports, not the one that was sent. Losing power half-way on one slot means wires again.
              </p>
              <ol className="grid gap-2">
                {path.steps.map((s, i) => (
                  <li key={s.to} className="flex flex-wrap items-center gap-3 rounded-[9px] border border-rule p-3">
                    <span className="pin text-ink-3">{i + 1}</span>
                    <div className="min-w-[14rem] flex-1">
                      <p>
                        <strong className="pin">{s.from}</strong> to <strong className="pin">{s.to}</strong>
                      </p>
                      <p className="text-[0.9rem] text-ink-2">
                        {amount(s.uploadBytes)} bytes{s.upload === 'gzip' ? ' packed' : ''}
                        {s.stageStart !== null && `, staged from ${hexNumber(s.stageStart)}`}; {amount(s.freeBytes)}{' '}
                        bytes stay free.
                      </p>
                    </div>
                    <button
                      type="button"
                      className={buttonClass(i === 0 ? 'main' : 'plain')}
                      disabled={i > 0}
                      onClick={() => walk(s)}
                    >
                      It reports {s.to}
                    </button>
                  </li>
                ))}
              </ol>
            </>
          )}
        </>
      )}
      {ran.length > 0 && (
        <Fold summary={`What it ran: ${ran.length} on record`}>
          <ul className="grid gap-1.5">
            {ran.map((r) => (
              <li key={`${r.target} ${r.at}`} className="flex flex-wrap items-baseline gap-x-3">
                <span className="pin text-ink-3">{shortMoment(r.at)}</span>
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
        </Fold>
      )}
      <Fold summary="Note what runs on it">
        <div className="grid items-end gap-3 sm:grid-cols-3">
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
        </div>
        <div className="flex flex-wrap gap-3">
          {(['reported', 'said'] as const).map((how) => (
            <button
              key={how}
              type="button"
              className={buttonClass()}
              disabled={!said.firmware || !said.version.trim()}
              onClick={() => patch({ ...note('main', { ...said, how }), walked: [] })}
            >
              {how === 'reported' ? 'The unit reports it' : 'Somebody said so'}
            </button>
          ))}
          <button
            type="button"
            className={buttonClass('quiet')}
            disabled={!said.firmware || !said.version.trim()}
            onClick={() => patch({ ...note('radio', { ...said, build: radioBuild, how: 'reported' }), walked: [] })}
          >
            It is its radio
          </button>
        </div>
      </Fold>
    </Block>
  )
}
