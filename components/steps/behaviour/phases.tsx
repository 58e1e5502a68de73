import { phasesOf } from '@fresh-coat/core/behaviour/of-template'
import type { PlacedFinding } from '@fresh-coat/core/edge/finding'
import { type CoilState, phases } from '@fresh-coat/core/load/states'
import { loadsOf, openLoadFindings } from '@fresh-coat/core/steps/behaviour/facts'
import { contacts, loadKinds } from '@fresh-coat/core/steps/behaviour/record'
import { useState } from 'react'
import { SelectField, TextField, Tick } from '@/components/forms/fields'
import { buttonClass, FindingRow } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'behaviour'>, 'view' | 'record'>

/** What the load does when the unit does not work for it: five phases per channel, and what is wrong with them. */

const phaseWords = {
  unpowered: 'No supply',
  booting: 'Starting',
  started: 'Started',
  hung: 'Program stands still',
  offline: 'No network',
} as const
const stateWords: Record<CoilState, string> = {
  on: 'on',
  off: 'off',
  held: 'as it was',
  maybe: 'perhaps on',
  last: 'as before',
}
const stateFill: Record<CoilState, string> = {
  on: 'bg-verdigris text-on-paint',
  off: 'bg-sheet-2 text-ink-2',
  held: 'bg-ok-soft text-ink',
  maybe: 'bg-ochre-soft text-ochre',
  last: 'bg-ok-soft text-ink',
}
const kindWords = {
  lamp: 'a lamp',
  heater: 'a heater',
  motor: 'a motor',
  'latch-unlocks': 'a latch that opens without supply',
  'latch-locks': 'a latch that stays shut without supply',
  modem: 'the modem or router',
  pump: 'a pump',
  fan: 'a fan',
  other: 'something else',
} as const
const contactWords = {
  NO: 'the contact that is open at rest',
  NC: 'the contact that is closed at rest',
  'CO-NO': 'a change-over, open at rest',
  'CO-NC': 'a change-over, closed at rest',
} as const

function LoadFields({ ch, record }: { ch: number } & Pick<Props, 'record'>) {
  const { data, patch } = record
  const known = data.channels.find((c) => c.ch === ch)
  const load = known?.load ?? null
  const set = (change: Partial<NonNullable<typeof load>>) => {
    const next = { contact: 'NO' as const, kind: 'lamp' as const, wayOut: false, attended: false, ...load, ...change }
    const row = { ...(known ?? { ch, onPower: 'off' as const, tried: false }), load: next }
    patch({ channels: [...data.channels.filter((c) => c.ch !== ch), row].sort((a, b) => a.ch - b.ch) })
  }
  return (
    <div className="grid gap-2 sm:grid-cols-2">
      <SelectField
        label={`On channel ${ch} hangs`}
        value={load?.kind ?? null}
        none="nobody has said"
        options={loadKinds.map((k) => ({ value: k, label: kindWords[k] }))}
        onChange={(kind) => kind && set({ kind })}
      />
      <SelectField
        label="through"
        value={load?.contact ?? 'NO'}
        options={contacts.map((c) => ({ value: c, label: contactWords[c] }))}
        onChange={(contact) => contact && set({ contact })}
      />
      {load?.kind.startsWith('latch') && (
        <Tick label="People leave by it" checked={load.wayOut} onChange={(wayOut) => set({ wayOut })} />
      )}
      {load && ['heater', 'motor', 'pump'].includes(load.kind) && (
        <Tick label="Somebody is always beside it" checked={load.attended} onChange={(attended) => set({ attended })} />
      )}
    </div>
  )
}

/** An unsafe state that somebody takes upon themselves, by name and with a reason. */
function Decide({ finding, record }: { finding: PlacedFinding<string> } & Pick<Props, 'record'>) {
  const [by, setBy] = useState('')
  const [why, setWhy] = useState('')
  const { data, patch } = record
  return (
    <details>
      <summary className="text-[0.93rem] text-ink-2">Decide it by name instead</summary>
      <div className="mt-2 grid gap-2">
        <TextField label="Who decides" value={by} maxLength={120} onChange={setBy} />
        <TextField label="Why it may be so here" value={why} maxLength={500} onChange={setWhy} />
        <button
          type="button"
          className={`${buttonClass()} justify-self-start`}
          disabled={by.trim() === '' || why.trim() === ''}
          onClick={() =>
            patch({
              decided: [...data.decided, { code: finding.code, at: finding.at, by: by.trim(), why: why.trim() }],
            })
          }
        >
          It was decided
        </button>
      </div>
    </details>
  )
}

export function Phases({ view, record, channels }: Props & { channels: readonly number[] }) {
  const loads = loadsOf(view)
  const open = openLoadFindings(view)
  const { decided } = record.data
  return (
    <div className="grid gap-5">
      {channels.map((ch) => (
        <LoadFields key={ch} ch={ch} record={record} />
      ))}
      {loads.map((c) => {
        const { load } = phasesOf(c)
        return (
          <section key={c.ch} aria-label={`Channel ${c.ch}`}>
            <h3 className="mb-1 text-[1rem] font-semibold">Channel {c.ch}: its load</h3>
            <dl className="grid grid-cols-5 gap-1 text-center text-[0.87rem]">
              {phases.map((p) => (
                <div key={p} className="grid grid-rows-[2.6rem_auto] gap-1">
                  <dt className="self-end text-ink-2">{phaseWords[p]}</dt>
                  <dd className={`rounded-[6px] px-1 py-2 font-semibold ${stateFill[load[p]]}`}>
                    {stateWords[load[p]]}
                  </dd>
                </div>
              ))}
            </dl>
          </section>
        )
      })}
      {open.length > 0 && (
        <ul className="grid gap-3" aria-label="What speaks against it">
          {open.map((f) => (
            <li key={f.code + f.at} className="grid gap-1">
              <FindingRow finding={{ ...f, message: `${f.at.replace('ch', 'Channel ')}: ${f.message}` }} />
              {f.severity === 'error' && <Decide finding={f} record={record} />}
            </li>
          ))}
        </ul>
      )}
      {decided.length > 0 && (
        <ul className="grid gap-1 text-ink-2" aria-label="Decided">
          {decided.map((d) => (
            <li key={d.code + d.at}>
              {d.at.replace('ch', 'Channel ')}, {d.code}: decided by {d.by}. “{d.why}”
            </li>
          ))}
        </ul>
      )}
      <p className="text-[0.93rem] text-ink-2">Nothing unattended is safe because a hub would switch it off.</p>
    </div>
  )
}
