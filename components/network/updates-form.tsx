'use client'
import type { CampaignPolicy } from '@fresh-coat/core/fleet/campaign'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { CommandForm } from '@/components/forms/command-form'
import { NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { Rows } from '@/components/forms/rows'
import { buttonClass, twoDigits } from '@/components/paint/paint'
import { ask } from '@/components/send'
import { PickUnit } from './pick-unit'

/** How an update goes: which version, rings, hours, shows, units that are special. */

const zone = (): string => {
  const minutes = -new Date().getTimezoneOffset()
  const two = (n: number) => String(Math.floor(Math.abs(n))).padStart(2, '0')
  return minutes === 0 ? 'Z' : `${minutes < 0 ? '-' : '+'}${two(minutes / 60)}:${two(minutes % 60)}`
}
const nextHour = (): string => {
  const at = new Date()
  at.setUTCMinutes(0, 0, 0)
  at.setUTCHours(at.getUTCHours() + 1)
  return at.toISOString()
}
export const freshPolicy = (firmware: string): CampaignPolicy => ({
  firmware,
  version: '',
  start: nextHour(),
  utcOffset: zone(),
  rings: [
    { name: 'Trial', count: 1, sharePct: null },
    { name: 'First ring', count: null, sharePct: 34 },
    { name: 'The rest', count: null, sharePct: null },
  ],
  soakHours: [48, 24],
  window: { days: ['mon', 'tue', 'wed', 'thu', 'sun'], from: '22:30', to: '00:30' },
  minutesPerUnit: 12,
  maxPerWindow: null,
  maxFailures: 0,
  blackouts: [],
  units: {},
})

/** A unit that may be treated otherwise than the rest. */
export interface SpecialUnit {
  id: string
  number: number
  name: string
  bridge: boolean
}

const weekdays = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const

const numbersIn = (text: string): string[] => text.split(/[\s,;]+/).filter(Boolean)

/** Numbers of units that are updated before this one; what is no number of the list is said. */
function AfterField({
  units,
  own,
  after,
  onChange,
}: {
  units: readonly SpecialUnit[]
  own: string
  after: readonly string[]
  onChange: (ids: string[]) => void
}) {
  const numbers = after.flatMap((id) => units.find((u) => u.id === id)?.number ?? []).map(twoDigits)
  const [text, setText] = useState(numbers.join(', '))
  const read = numbersIn(text)
  const unitOf = (number: string) => units.find((u) => u.number === Number(number) && u.id !== own)
  const unknown = read.filter((number) => !unitOf(number))
  return (
    <TextField
      label="Only after"
      mono
      value={text}
      maxLength={80}
      placeholder="21, 40"
      onChange={(to) => {
        setText(to)
        onChange([...new Set(numbersIn(to).flatMap((number) => unitOf(number)?.id ?? []))].slice(0, 20))
      }}
      hint={unknown.length > 0 && <span className="text-ochre">Not in this update: {unknown.join(', ')}</span>}
    />
  )
}

interface FirmwareInUse {
  name: string
  units: number
}
type Parts = { v: CampaignPolicy; set: (change: Partial<CampaignPolicy>) => void }

function WhatAndHowFast({ v, set, firmwares }: Parts & { firmwares: readonly FirmwareInUse[] }) {
  return (
    <div className="grid gap-3 sm:grid-cols-4">
      <SelectField
        label="Firmware"
        value={v.firmware}
        options={firmwares.map((f) => ({ value: f.name, label: `${f.name}, ${f.units} units` }))}
        onChange={(firmware) => firmware && set({ firmware, units: {} })}
      />
      <TextField
        label="To version"
        mono
        value={v.version}
        maxLength={40}
        placeholder="9.5.0"
        onChange={(version) => set({ version })}
      />
      <TextField label="Not before (UTC)" mono value={v.start} maxLength={30} onChange={(start) => set({ start })} />
      <NumberField
        label="Minutes for each"
        min={1}
        max={600}
        whole
        value={v.minutesPerUnit}
        onChange={(n) => n !== null && set({ minutesPerUnit: n })}
      />
      <NumberField
        label="A ring stops above so many failures"
        min={0}
        max={500}
        whole
        value={v.maxFailures}
        onChange={(n) => n !== null && set({ maxFailures: n })}
      />
      <NumberField
        label="At most in one window"
        min={1}
        max={500}
        whole
        value={v.maxPerWindow}
        onChange={(maxPerWindow) => set({ maxPerWindow })}
      />
    </div>
  )
}

function Rings({ v, set }: Parts) {
  return (
    <Fold summary={`Rings: ${v.rings.map((r) => r.name).join(', ')}`}>
      <Rows
        rows={v.rings}
        columns="sm:grid-cols-[minmax(0,1fr)_8rem_10rem_12rem_auto]"
        least={1}
        most={12}
        another="Another ring"
        fresh={() => ({ name: `Ring ${v.rings.length + 1}`, count: null, sharePct: null })}
        onChange={(rings, gone) =>
          set({ rings, ...(gone === null ? {} : { soakHours: v.soakHours.filter((_, k) => k !== gone) }) })
        }
      >
        {(r, put, i) => (
          <>
            <TextField label="Ring" value={r.name} maxLength={60} onChange={(name) => put({ name })} />
            <NumberField label="Units" min={0} max={5000} whole value={r.count} onChange={(count) => put({ count })} />
            <NumberField
              label="or of those left"
              unit="%"
              min={0}
              max={100}
              value={r.sharePct}
              onChange={(sharePct) => put({ sharePct })}
            />
            <NumberField
              label="Then steady for"
              unit="h"
              min={0}
              max={2000}
              value={v.soakHours[i] ?? null}
              onChange={(h) => set({ soakHours: v.rings.map((_, k) => (k === i ? (h ?? 0) : (v.soakHours[k] ?? 0))) })}
            />
          </>
        )}
      </Rows>
    </Fold>
  )
}

function Hours({ v, set }: Parts) {
  return (
    <Fold summary={v.window ? `Only ${v.window.days.join(', ')}, ${v.window.from} to ${v.window.to}` : 'At any hour'}>
      <Tick
        label="Only in a window"
        checked={v.window !== null}
        onChange={(on) => set({ window: on ? { days: [...weekdays], from: '22:30', to: '00:30' } : null })}
      />
      {v.window && (
        <div className="flex flex-wrap items-end gap-3">
          <TextField
            label="from"
            mono
            value={v.window.from}
            maxLength={5}
            onChange={(from) => v.window && set({ window: { ...v.window, from } })}
          />
          <TextField
            label="to"
            mono
            value={v.window.to}
            maxLength={5}
            onChange={(to) => v.window && set({ window: { ...v.window, to } })}
          />
          {weekdays.map((d) => (
            <Tick
              key={d}
              label={d}
              checked={v.window?.days.includes(d) === true}
              onChange={(on) =>
                v.window &&
                set({
                  window: {
                    ...v.window,
                    days: weekdays.filter((x) => (x === d ? on : v.window?.days.includes(x))),
                  },
                })
              }
            />
          ))}
        </div>
      )}
    </Fold>
  )
}

function Shows({ v, set }: Parts) {
  return (
    <Fold summary={v.blackouts.length === 0 ? 'Shows, when nothing is touched' : `Shows: ${v.blackouts.length}`}>
      <Rows
        rows={v.blackouts}
        columns="sm:grid-cols-[minmax(0,1fr)_15rem_15rem_auto]"
        most={60}
        another="A show"
        fresh={() => ({ what: '', from: nextHour(), to: nextHour() })}
        onChange={(blackouts) => set({ blackouts })}
      >
        {(b, put) => (
          <>
            <TextField label="What" value={b.what} maxLength={120} onChange={(what) => put({ what })} />
            <TextField label="from (UTC)" mono value={b.from} maxLength={30} onChange={(from) => put({ from })} />
            <TextField label="to (UTC)" mono value={b.to} maxLength={30} onChange={(to) => put({ to })} />
          </>
        )}
      </Rows>
    </Fold>
  )
}

/** What is not like the others, and how one of them is then treated. */
function OneSpecial({ v, set, u, units }: Parts & { u: SpecialUnit; units: readonly SpecialUnit[] }) {
  const own = v.units[u.id] ?? {
    role: u.bridge ? ('bridge' as const) : ('normal' as const),
    canary: false,
    after: [],
    held: '',
  }
  const put = (change: Partial<typeof own>) => set({ units: { ...v.units, [u.id]: { ...own, ...change } } })
  return (
    <div className="grid items-end gap-3 sm:grid-cols-[11rem_13rem_9rem_8rem_minmax(0,1fr)]">
      <span className="pb-2 font-semibold">
        {twoDigits(u.number)} {u.name}
      </span>
      <SelectField
        label="It is"
        value={own.role}
        options={[
          { value: 'normal', label: 'a unit like others' },
          { value: 'bridge', label: 'a bridge: alone, last' },
          { value: 'powers-network', label: 'what powers the network' },
          { value: 'powers-hub', label: 'what powers the hub' },
        ]}
        onChange={(role) => role && put({ role })}
      />
      <AfterField units={units} own={u.id} after={own.after ?? []} onChange={(after) => put({ after })} />
      <Tick label="goes first" checked={own.canary} onChange={(canary) => put({ canary })} />
      <TextField label="Left as it is, because" value={own.held} maxLength={200} onChange={(held) => put({ held })} />
    </div>
  )
}

/** With every unit that this firmware is on: they are asked for when somebody looks. */
function Specials({ v, set, special, firmware }: Parts & { special: readonly SpecialUnit[]; firmware: string }) {
  const [asked, setAsked] = useState<readonly string[]>([])
  const {
    data: units,
    error,
    refetch,
  } = useQuery({
    queryKey: ['update-units', firmware],
    queryFn: () => ask<SpecialUnit[]>(`/api/updates/units?firmware=${encodeURIComponent(firmware)}`),
    retry: 1,
  })
  if (error)
    return (
      <div role="alert" className="flex flex-wrap items-center gap-3">
        <span className="text-oxide">{error.message} What was said of units stands.</span>
        <button type="button" className={buttonClass()} onClick={() => void refetch()}>
          Ask once more
        </button>
      </div>
    )
  if (!units)
    return (
      <p role="status" className="text-ink-2">
        Asking which units there are…
      </p>
    )
  const likely = new Set(special.map((u) => u.id))
  const shown = units.filter((u) => v.units[u.id] || likely.has(u.id) || asked.includes(u.id))
  return (
    <>
      {shown.map((u) => (
        <OneSpecial key={u.id} v={v} set={set} u={u} units={units} />
      ))}
      <PickUnit label="Number of a unit" units={units} pick={(u) => setAsked([...asked, u.id])}>
        It is special
      </PickUnit>
    </>
  )
}

/** Units that somebody said something of, and bridges; any other one is asked for by its number. */
function Special({ v, set, special }: Parts & { special: readonly SpecialUnit[] }) {
  const known = new Set([...Object.keys(v.units), ...special.map((u) => u.id)])
  return (
    <Fold summary={known.size === 0 ? 'Units that are special' : `Units that are special: ${known.size}`}>
      <Specials key={v.firmware} v={v} set={set} special={special} firmware={v.firmware} />
    </Fold>
  )
}

export function PolicyForm({
  policy,
  firmwares,
  special,
}: {
  policy: CampaignPolicy
  firmwares: readonly FirmwareInUse[]
  /** Of the firmware of the policy. */
  special: readonly SpecialUnit[]
}) {
  return (
    <CommandForm
      command="set-campaign"
      empty={policy as CampaignPolicy & Record<string, unknown>}
      submit="Plan it"
      disabled={(v) => !/^v?\d+(\.\d+)*/.test(v.version) || !v.firmware}
    >
      {(v, set) => (
        <>
          <WhatAndHowFast v={v} set={set} firmwares={firmwares} />
          <Rings v={v} set={set} />
          <Hours v={v} set={set} />
          <Shows v={v} set={set} />
          <Special v={v} set={set} special={v.firmware === policy.firmware ? special : []} />
        </>
      )}
    </CommandForm>
  )
}
