'use client'
import type { CampaignPolicy, CampaignUnit } from '@fresh-coat/core/fleet/campaign'
import { useState } from 'react'
import { CommandForm } from '@/components/forms/command-form'
import { NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { buttonClass, twoDigits } from '@/components/paint/paint'

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

const weekdays = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const

/** Numbers of units that are updated before this one; what is no number of the list is said. */
function AfterField({
  units,
  own,
  after,
  onChange,
}: {
  units: readonly CampaignUnit[]
  own: string
  after: readonly string[]
  onChange: (ids: string[]) => void
}) {
  const numbers = after.flatMap((id) => units.find((u) => u.id === id)?.number ?? []).map(twoDigits)
  const [text, setText] = useState(numbers.join(', '))
  const read = text.split(/[\s,;]+/).filter(Boolean)
  const found = read.map((t) => units.find((u) => u.number === Number(t) && u.id !== own))
  const unknown = read.filter((_, i) => !found[i])
  return (
    <TextField
      label="Only after"
      mono
      value={text}
      maxLength={80}
      placeholder="21, 40"
      onChange={(to) => {
        setText(to)
        const ids = to
          .split(/[\s,;]+/)
          .flatMap((t) => units.find((u) => u.number === Number(t) && u.id !== own)?.id ?? [])
        onChange([...new Set(ids)].slice(0, 20))
      }}
      hint={unknown.length > 0 && <span className="text-ochre">Not in this update: {unknown.join(', ')}</span>}
    />
  )
}

export function PolicyForm({
  policy,
  firmwares,
  units,
}: {
  policy: CampaignPolicy
  firmwares: readonly { name: string; units: number }[]
  units: readonly CampaignUnit[]
}) {
  return (
    <CommandForm
      command="set-campaign"
      empty={policy as CampaignPolicy & Record<string, unknown>}
      submit="Plan it"
      disabled={(v) => !/^v?\d+(\.\d+)*/.test(v.version) || !v.firmware}
    >
      {(v, set) => {
        const ring = (i: number, change: object) =>
          set({ rings: v.rings.map((r, k) => (k === i ? { ...r, ...change } : r)) })
        return (
          <>
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
              <TextField
                label="Not before (UTC)"
                mono
                value={v.start}
                maxLength={30}
                onChange={(start) => set({ start })}
              />
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
            <Fold summary={`Rings: ${v.rings.map((r) => r.name).join(', ')}`}>
              {v.rings.map((r, i) => (
                <div
                  key={`ring ${i + 1}`}
                  className="grid items-end gap-3 sm:grid-cols-[minmax(0,1fr)_8rem_10rem_12rem_auto]"
                >
                  <TextField label="Ring" value={r.name} maxLength={60} onChange={(name) => ring(i, { name })} />
                  <NumberField
                    label="Units"
                    min={0}
                    max={5000}
                    whole
                    value={r.count}
                    onChange={(count) => ring(i, { count })}
                  />
                  <NumberField
                    label="or of those left"
                    unit="%"
                    min={0}
                    max={100}
                    value={r.sharePct}
                    onChange={(sharePct) => ring(i, { sharePct })}
                  />
                  <NumberField
                    label="Then steady for"
                    unit="h"
                    min={0}
                    max={2000}
                    value={v.soakHours[i] ?? null}
                    onChange={(h) =>
                      set({ soakHours: v.rings.map((_, k) => (k === i ? (h ?? 0) : (v.soakHours[k] ?? 0))) })
                    }
                  />
                  <button
                    type="button"
                    className={buttonClass('quiet')}
                    disabled={v.rings.length === 1}
                    onClick={() =>
                      set({
                        rings: v.rings.filter((_, k) => k !== i),
                        soakHours: v.soakHours.filter((_, k) => k !== i),
                      })
                    }
                  >
                    Take it off
                  </button>
                </div>
              ))}
              <button
                type="button"
                className={`${buttonClass()} justify-self-start`}
                disabled={v.rings.length >= 12}
                onClick={() =>
                  set({ rings: [...v.rings, { name: `Ring ${v.rings.length + 1}`, count: null, sharePct: null }] })
                }
              >
                Another ring
              </button>
            </Fold>
            <Fold
              summary={
                v.window ? `Only ${v.window.days.join(', ')}, ${v.window.from} to ${v.window.to}` : 'At any hour'
              }
            >
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
            <Fold
              summary={v.blackouts.length === 0 ? 'Shows, when nothing is touched' : `Shows: ${v.blackouts.length}`}
            >
              {v.blackouts.map((b, i) => {
                const one = (change: object) =>
                  set({ blackouts: v.blackouts.map((x, k) => (k === i ? { ...x, ...change } : x)) })
                return (
                  <div
                    key={`show ${i + 1}`}
                    className="grid items-end gap-3 sm:grid-cols-[minmax(0,1fr)_15rem_15rem_auto]"
                  >
                    <TextField label="What" value={b.what} maxLength={120} onChange={(what) => one({ what })} />
                    <TextField
                      label="from (UTC)"
                      mono
                      value={b.from}
                      maxLength={30}
                      onChange={(from) => one({ from })}
                    />
                    <TextField label="to (UTC)" mono value={b.to} maxLength={30} onChange={(to) => one({ to })} />
                    <button
                      type="button"
                      className={buttonClass('quiet')}
                      onClick={() => set({ blackouts: v.blackouts.filter((_, k) => k !== i) })}
                    >
                      Take it off
                    </button>
                  </div>
                )
              })}
              <button
                type="button"
                className={`${buttonClass()} justify-self-start`}
                disabled={v.blackouts.length >= 60}
                onClick={() => set({ blackouts: [...v.blackouts, { what: '', from: nextHour(), to: nextHour() }] })}
              >
                A show
              </button>
            </Fold>
            {units.length > 0 && (
              <Fold summary="Units that are special">
                {units.map((u) => {
                  const own = v.units[u.id] ?? {
                    role: u.bridge ? ('bridge' as const) : ('normal' as const),
                    canary: false,
                    after: [],
                    held: '',
                  }
                  const put = (change: Partial<typeof own>) =>
                    set({ units: { ...v.units, [u.id]: { ...own, ...change } } })
                  return (
                    <div key={u.id} className="grid items-end gap-3 sm:grid-cols-[11rem_13rem_9rem_8rem_minmax(0,1fr)]">
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
                      <AfterField
                        units={units}
                        own={u.id}
                        after={own.after ?? []}
                        onChange={(after) => put({ after })}
                      />
                      <Tick label="goes first" checked={own.canary} onChange={(canary) => put({ canary })} />
                      <TextField
                        label="Left as it is, because"
                        value={own.held}
                        maxLength={200}
                        onChange={(held) => put({ held })}
                      />
                    </div>
                  )
                })}
              </Fold>
            )}
          </>
        )
      }}
    </CommandForm>
  )
}
