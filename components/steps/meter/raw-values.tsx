'use client'
import { type OnHand, usualLoads } from '@fresh-coat/core/metering/raw-map'
import {
  loadKinds,
  type MapTest,
  type RawSnapshot,
  rawMapOf,
  readRaw,
  testOf,
} from '@fresh-coat/core/metering/raw-of-unit'
import { firmwareOf } from '@fresh-coat/core/steps/write/facts'
import { useMemo, useState } from 'react'
import { RawRows } from '@/components/drawings/raw-rows'
import { AreaField, Choice, NumberField, SelectField } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { buttonClass, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Scrolls } from '@/components/tables/scrolls'
import { EnergyRunFold } from './energy-run'

type Props = Pick<SurfaceProps<'meter'>, 'view' | 'record' | 'choices'>

/** Which raw value is which: snapshots in known states, what they make likely, and the load that would tell most next. */

const kindWords: Record<RawSnapshot['kind'], string> = {
  none: 'nothing plugged in',
  charger: 'a small charger',
  resistive: 'a heater or a lamp with a filament',
  motor: 'a motor',
  other: 'something else',
}
const usualNames: Record<string, string> = {
  nothing: 'with nothing plugged in',
  'charger-10': 'with a charger of about 10 W',
  'resistive-60': 'with a lamp or heater of about 60 W',
  'resistive-1000': 'with a heater of about 1000 W',
}
const testWords: Record<MapTest, [severity: 'ok' | 'watch' | 'error', words: string]> = {
  fits: ['ok', 'It fits this unit too.'],
  'does not fit': ['error', 'It does not fit this unit: find out anew which value is which.'],
  'not tested': ['watch', 'Not tested here: one snapshot with a heater or lamp of known watts tells.'],
  're-check': ['watch', 'It fits, with another firmware than it was found with: look at it again.'],
}

const empty = {
  on: true,
  kind: 'resistive' as RawSnapshot['kind'],
  w: null as number | null,
  refV: null as number | null,
  refI: null as number | null,
  refP: null as number | null,
  raw: '',
}
const mostSnapshots = 20

function Take({ record: { data, patch } }: Pick<Props, 'record'>) {
  const [typed, setTyped] = useKept('raw snapshot', empty)
  const set = (change: Partial<typeof empty>) => setTyped({ ...typed, ...change })
  const { raw, unread } = readRaw(typed.raw)
  const count = Object.keys(raw).length
  const take = () => {
    const id = `s${Math.max(0, ...data.snapshots.map((s) => Number(s.id.slice(1)) || 0)) + 1}`
    patch({ snapshots: [...data.snapshots, { ...typed, id, at: new Date().toISOString() }] })
    setTyped({ ...typed, raw: '' })
  }
  const number = (label: string, unit: string, key: 'w' | 'refV' | 'refI' | 'refP') => (
    <NumberField label={label} unit={unit} min={0} value={typed[key]} onChange={(n) => set({ [key]: n })} />
  )
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        if (count > 0) take()
      }}
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <SelectField
          label="With it"
          value={typed.kind}
          options={loadKinds.map((k) => ({ value: k, label: kindWords[k] }))}
          onChange={(kind) => kind && set({ kind })}
        />
        {typed.kind !== 'none' && number('Its watts, where they are printed', 'W', 'w')}
      </div>
      <Choice
        label="Its switch is"
        compact
        value={typed.on ? 'on' : 'off'}
        options={[
          { value: 'off', label: 'off' },
          { value: 'on', label: 'on' },
        ]}
        onChange={(is) => set({ on: is === 'on' })}
      />
      <AreaField
        label="All raw values of that moment, a key and its value to a line"
        rows={5}
        value={typed.raw}
        maxLength={8000}
        onChange={(text) => set({ raw: text })}
      />
      {unread.length > 0 && (
        <p className="text-ochre">No whole number and no on or off, left out: {unread.slice(0, 6).join('; ')}.</p>
      )}
      <details>
        <summary className="font-semibold">What a reference meter showed</summary>
        <div className="mt-2 grid grid-cols-3 gap-3">
          {number('Volts', 'V', 'refV')}
          {number('Amperes', 'A', 'refI')}
          {number('Watts', 'W', 'refP')}
        </div>
      </details>
      <button
        type="submit"
        className={`${buttonClass('main')} justify-self-start`}
        disabled={count === 0 || data.snapshots.length >= mostSnapshots}
      >
        {count === 0 ? 'Take it down' : `Take down ${count} ${count === 1 ? 'value' : 'values'}`}
      </button>
    </form>
  )
}

function Taken({ record: { data, patch } }: Pick<Props, 'record'>) {
  return (
    <ol className="grid gap-1" aria-label="Snapshots">
      {data.snapshots.map((s) => (
        <li key={s.id} className="grid grid-cols-[3rem_minmax(0,1fr)_auto] gap-3 border-b border-rule-2 py-1">
          <span className="pin font-bold">{s.id}</span>
          <span>
            {s.on ? 'on' : 'off'}, {kindWords[s.kind]}
            {s.w !== null && s.kind !== 'none' ? `, ${s.w} W` : ''}
          </span>
          <button
            type="button"
            className="underline underline-offset-4"
            onClick={() => patch({ snapshots: data.snapshots.filter((x) => x.id !== s.id) })}
          >
            Drop {s.id}
          </button>
        </li>
      ))}
    </ol>
  )
}

/** What the board knows already, and whether it holds here. */
function OfBoard({ view, record: { data } }: Pick<Props, 'view' | 'record'>) {
  const kept = view.board?.rawMap
  if (!kept) return null
  const [severity, words] = testWords[testOf(kept, data.snapshots, firmwareOf(view))]
  return (
    <section className="grid gap-1.5" aria-label="From its board">
      <p>
        From unit {kept.unit}
        {kept.firmware ? ` with ${kept.firmware}` : ''}: volts <strong className="pin">{kept.voltage.key}</strong> ÷{' '}
        {10 ** kept.voltage.k}, amperes <strong className="pin">{kept.current.key}</strong> ÷ {10 ** kept.current.k},
        watts <strong className="pin">{kept.power.key}</strong> ÷ {10 ** kept.power.k}.
      </p>
      <p className="flex gap-2.5">
        <Tag severity={severity} /> {words}
      </p>
    </section>
  )
}

export function RawValues({ view, record, choices }: Props) {
  const { data } = record
  const onHand: OnHand[] = choices.loads.map((l) => ({
    id: l.name,
    kind: l.kind === 'resistive' || l.kind === 'charger' || l.kind === 'motor' ? l.kind : 'other',
    w: l.watts,
    pf: null,
  }))
  const loads = [...onHand, ...usualLoads]
  const key = JSON.stringify([data.snapshots, view.mainsVolts, view.records.arrive.data.ratedAmps, onHand])
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key holds all that decides
  const map = useMemo(() => rawMapOf(view, loads), [key])
  const [why, setWhy] = useState(false)
  const last = data.snapshots.at(-1)
  const next = map?.next ?? null
  return (
    <div className="grid gap-5">
      {map ? (
        <div className="grid gap-2" role="status">
          <Scrolls label="Raw values">
            <RawRows map={map} last={last ? readRaw(last.raw).raw : {}} />
          </Scrolls>
          <p className="flex gap-2.5">
            <Tag severity={map.settled ? 'ok' : 'watch'}>{map.settled ? 'settled' : 'too alike'}</Tag>
            <span>
              {map.settled
                ? `Volts are ${map.best.voltage.key}, amperes ${map.best.current.key}, watts ${map.best.power.key}. With Meter done, its board knows.`
                : 'Do not believe this yet: several answers fit as well.'}
              {next !== null && <> What tells most now: a snapshot {usualNames[next] ?? `with ${next}`}.</>}
            </span>
          </p>
          <button
            type="button"
            className="justify-self-start underline underline-offset-4"
            aria-expanded={why}
            onClick={() => setWhy(!why)}
          >
            Why
          </button>
          {why && (
            <ul className="grid gap-1">
              {map.explain.map((e) => (
                <li key={e.id} className="pin">
                  {e.id}: {e.V.toFixed(1)} V, {e.I.toFixed(3)} A, {e.P.toFixed(1)} W
                  {e.pf === null ? '' : `, power factor ${e.pf.toFixed(3)}`}
                </li>
              ))}
              {map.ranked
                .slice(1, 4)
                .filter((r) => r.probability >= 0.0005)
                .map((r) => (
                  <li key={`${r.voltage.key} ${r.current.key} ${r.power.key} ${r.current.k} ${r.power.k}`}>
                    else {r.voltage.key}, {r.current.key}, {r.power.key}: {(r.probability * 100).toFixed(1)} %
                  </li>
                ))}
            </ul>
          )}
        </div>
      ) : (
        <p>
          Set a state, wait ten seconds, and read all values at once: first off, then with a small charger, then with a
          heater or lamp of known watts. A charger alone never tells amperes from watts.
        </p>
      )}
      <OfBoard view={view} record={record} />
      <Take record={record} />
      {data.snapshots.length > 0 && <Taken record={record} />}
      <EnergyRunFold />
    </div>
  )
}
