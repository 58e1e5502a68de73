'use client'
import {
  type Campaign,
  type CampaignPolicy,
  type CampaignUnit,
  campaignNow,
  type HowItWent,
  mayBegin,
} from '@fresh-coat/core/fleet/campaign'
import { useCallback, useMemo, useState } from 'react'
import { RingLines } from '@/components/drawings/ring-lines'
import { CommandForm } from '@/components/forms/command-form'
import { NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { useRefresh } from '@/components/frame/use-refresh'
import Link from '@/components/link'
import { useAir, useNow } from '@/components/live/use-air'
import { buttonClass, Notice, Tag, twoDigits } from '@/components/paint/paint'
import { type Refusal, send } from '@/components/send'
import { Scrolls } from '@/components/tables/scrolls'

/** One firmware to one version, ring by ring: drawn over time, begun by a press, judged by what is heard. */

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
const freshPolicy = (firmware: string): CampaignPolicy => ({
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

const wentWords = (how: HowItWent, now: number): string => {
  switch (how.state) {
    case 'ok':
      return `went well${how.why ? `: ${how.why}` : ''}`
    case 'failed':
      return `failed${how.why ? `: ${how.why}` : ''}`
    case 'begun':
      return `begun; it has ${Math.max(0, Math.ceil((how.until - now) / 60_000))} min to come back`
    case 'look':
      return 'begun, and nobody listens to it: look, and say how it went'
    default:
      return 'waits'
  }
}
/** When it is a unit’s turn, by the clock of whoever looks. */
const turnWords = (ms: number): string =>
  new Date(ms).toLocaleString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  })

const reasonWords = (reason: string): string =>
  reason === 'current'
    ? 'runs it already'
    : reason === 'held'
      ? 'is left as it is'
      : reason === 'newer'
        ? 'runs something newer'
        : reason === 'manual'
          ? 'cuts the branch it sits on: by hand, on the spot'
          : reason.startsWith('blocked-by')
            ? 'waits for one that is left out'
            : 'cannot be put in order'

function Chosen({
  unit,
  turn,
  how,
  why,
  now,
  done,
}: {
  unit: CampaignUnit
  turn: number | null
  how: HowItWent
  why: string
  now: number
  done: () => void
}) {
  const [error, setError] = useState<Refusal | null>(null)
  const [note, setNote] = useState('')
  const go = async (command: string, input: object) => {
    const sent = await send(command, { unitId: unit.id, ...input })
    setError(sent.state === 'refused' ? sent.error : null)
    if (sent.state === 'ok') done()
  }
  return (
    <div className="grid gap-3 rounded-[10px] border border-rule bg-sheet p-4">
      <h2 className="text-[1.15rem]">
        {twoDigits(unit.number)} {unit.name}
      </h2>
      <p>
        It runs {unit.installed || 'something nobody knows'}; {wentWords(how, now)}.
        {turn !== null && how.state === 'waiting' && ` Its turn is ${turnWords(turn)}.`}
      </p>
      {how.state !== 'ok' && (
        <div className="flex flex-wrap items-center gap-3">
          <button
            type="button"
            className={buttonClass('main')}
            disabled={why !== ''}
            onClick={() => void go('begin-update', {})}
          >
            {how.state === 'waiting' ? 'Its update begins now' : 'It begins once more'}
          </button>
          {why && <span className="text-ink-2">{why}</span>}
          <Link href={`/units/${unit.number}/watch`} className="underline underline-offset-4">
            Its way to the version
          </Link>
        </div>
      )}
      {error?.code === 'not-sure' ? (
        <div
          role="alertdialog"
          aria-label="Are you sure?"
          className="grid gap-2 rounded-[10px] border-2 border-oxide p-3"
        >
          <p className="font-semibold">{error.message}</p>
          <button
            type="button"
            className={`${buttonClass('main')} justify-self-start`}
            onClick={() => void go('begin-update', { sure: true })}
          >
            Its load is off, or somebody is there: it begins
          </button>
        </div>
      ) : (
        error && (
          <p role="alert" className="text-oxide">
            {error.message} {error.next}
          </p>
        )
      )}
      {how.state !== 'waiting' && (
        <div className="flex flex-wrap items-end gap-3">
          <TextField
            label="What you saw"
            value={note}
            maxLength={200}
            onChange={setNote}
            className="min-w-[16rem] flex-1"
          />
          <button
            type="button"
            className={buttonClass('plain')}
            onClick={() => void go('say-update', { ok: true, note })}
          >
            It went well
          </button>
          <button
            type="button"
            className={buttonClass('plain')}
            disabled={note.trim() === ''}
            onClick={() => void go('say-update', { ok: false, note })}
          >
            It failed
          </button>
        </div>
      )}
    </div>
  )
}

const weekdays = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const

function PolicyForm({
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
                  const own = v.units[u.id] ?? { role: 'normal' as const, canary: false, held: '' }
                  const put = (change: Partial<typeof own>) =>
                    set({ units: { ...v.units, [u.id]: { ...own, ...change } } })
                  return (
                    <div key={u.id} className="grid items-end gap-3 sm:grid-cols-[12rem_14rem_8rem_minmax(0,1fr)]">
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

export function Updates({
  campaign,
  units,
  firmwares,
}: {
  campaign: Campaign | null
  units: readonly CampaignUnit[]
  firmwares: readonly { name: string; units: number }[]
}) {
  const refresh = useRefresh()
  // What is heard judges an update: the page follows.
  useAir(
    { rows: [], link: null },
    0,
    useCallback(() => refresh(), [refresh]),
  )
  const clock = useNow(5000)
  const [chosen, setChosen] = useState<number | null>(null)
  const now = clock ?? (campaign ? Date.parse(campaign.policy.start) : 0)
  const seen = useMemo(() => (campaign ? campaignNow(campaign, units, now) : null), [campaign, units, now])
  const waves = seen?.plan.ok ? seen.plan.value.waves : []
  const of = new Map(units.map((u) => [u.id, u]))
  const rings = waves.map((w) => ({
    name: w.ring,
    status: w.status,
    notBefore: Date.parse(w.notBefore),
    units: w.units.flatMap(({ id, start }) => {
      const u = of.get(id)
      return u
        ? [
            {
              number: u.number,
              name: u.name,
              start: Date.parse(start),
              state: seen?.went.get(id)?.state ?? ('waiting' as const),
            },
          ]
        : []
    }),
  }))
  const unit = units.find((u) => u.number === chosen)
  const ics = seen?.plan.ok ? (seen.plan.value.ics ?? '') : ''
  const begun = campaign ? Object.keys(campaign.begun).length : 0
  return (
    <main className="grid gap-4 px-4 py-3.5 sm:px-5">
      <p>
        <Link href="/network" className="underline underline-offset-4">
          Network
        </Link>
      </p>
      <section className="sheet grid gap-3 p-4" aria-labelledby="updates">
        <h1 id="updates" className="text-[1.4rem]">
          {campaign ? `${campaign.policy.firmware} to ${campaign.policy.version}` : 'Updates'}{' '}
          <span className="text-[1rem] font-normal text-ink-2">
            {campaign
              ? `${rings.reduce((n, r) => n + r.units.length, 0)} units in ${rings.length} rings; ${begun} begun`
              : 'none is planned'}
          </span>
        </h1>
        {!campaign && (
          <p className="text-ink-2">
            Plan below who goes first, when, and when it stops by itself. Nothing is updated by the app: it says whose
            turn it is, and judges by what it hears.
          </p>
        )}
        {seen && !seen.plan.ok && (
          <Notice severity="error" title={seen.plan.faults[0]?.message ?? 'It cannot be planned.'} />
        )}
        {rings.length > 0 && campaign && (
          <>
            <Scrolls label="Rings over time">
              <RingLines
                rings={rings}
                blackouts={campaign.policy.blackouts.map((b) => ({
                  from: Date.parse(b.from),
                  to: Date.parse(b.to),
                  what: b.what,
                }))}
                now={now}
                chosen={chosen}
                onChoose={setChosen}
              />
            </Scrolls>
            <ul className="flex flex-wrap gap-2" aria-label="Units of the update">
              {rings.flatMap((r) =>
                r.units.map((u) => (
                  <li key={u.number}>
                    <button
                      type="button"
                      aria-pressed={chosen === u.number}
                      className={buttonClass(chosen === u.number ? 'main' : 'quiet')}
                      onClick={() => setChosen(u.number)}
                    >
                      {twoDigits(u.number)} {u.name}
                    </button>
                  </li>
                )),
              )}
            </ul>
          </>
        )}
        {seen?.plan.ok && seen.plan.value.skipped.length > 0 && (
          <ul className="grid gap-1">
            {seen.plan.value.skipped.map((s) => (
              <li key={s.id} className="flex gap-2.5">
                <Tag severity={s.reason === 'current' || s.reason === 'held' ? 'ok' : 'watch'}>
                  {twoDigits(of.get(s.id)?.number ?? 0)}
                </Tag>
                {of.get(s.id)?.name} {reasonWords(s.reason)}
              </li>
            ))}
          </ul>
        )}
        {(seen?.unknown.length ?? 0) > 0 && (
          <p className="text-ochre">
            Nobody knows what {seen?.unknown.map((u) => twoDigits(u.number)).join(', ')} runs: note it at Watch.
          </p>
        )}
      </section>
      {unit && seen && (
        <Chosen
          key={unit.id}
          unit={unit}
          how={seen.went.get(unit.id) ?? { state: 'waiting' }}
          turn={rings.flatMap((r) => r.units).find((u) => u.number === unit.number)?.start ?? null}
          why={mayBegin(waves, unit.id, now)}
          now={now}
          done={refresh}
        />
      )}
      {campaign && (
        <div className="flex flex-wrap gap-4">
          {ics && (
            <a
              className="underline underline-offset-4"
              download={`updates-${campaign.policy.version}.ics`}
              href={`data:text/calendar;charset=utf-8,${encodeURIComponent(ics)}`}
            >
              Into a calendar
            </a>
          )}
          <button
            type="button"
            className={buttonClass('quiet')}
            onClick={() => void send('end-campaign', {}).then(() => refresh())}
          >
            Put this update away
          </button>
        </div>
      )}
      <section className="grid gap-3" aria-labelledby="policy">
        <h2 id="policy" className="text-[1.15rem]">
          {campaign ? 'How it goes' : 'Plan an update'}
        </h2>
        <div className="sheet p-4">
          {firmwares.length === 0 ? (
            <p className="text-ink-2">No unit in service says what firmware it runs.</p>
          ) : (
            <PolicyForm
              key={JSON.stringify(campaign?.policy ?? null)}
              policy={campaign?.policy ?? freshPolicy(firmwares[0]?.name ?? '')}
              firmwares={firmwares}
              units={units}
            />
          )}
        </div>
      </section>
    </main>
  )
}
