'use client'
import { reportLoad } from '@fresh-coat/core/calculators/report-load'
import type { LinkRow, OnAirRow, StrangeSender } from '@fresh-coat/core/live/on-air'
import { skewTold } from '@fresh-coat/core/live/standing'
import { useState } from 'react'
import { type AirRow, AirRows } from '@/components/drawings/air-rows'
import { CommandButton } from '@/components/forms/command-button'
import { CommandForm } from '@/components/forms/command-form'
import { AreaField, TextField, Tick } from '@/components/forms/fields'
import { amount, buttonClass, Notice, Tag } from '@/components/paint/paint'
import { type Air, useAir, useNow } from './use-air'
import { numberOf, since, stateWords } from './words'

/** Who is on the air, live: the drawing, what is odd about it, and who speaks without being planned. */

const deadMs = 15_000

function drawn(row: OnAirRow, now: number): AirRow {
  const { words, on } = stateWords(row.fields)
  const watts = numberOf(row.fields, 'P')
  const gone = row.presence === 'offline'
  const silent = row.presence === 'stale'
  // They came and went by turns; what it is now says which of them the last one was.
  const came = row.presence !== 'offline'
  const changes = row.changes.map((at, i, all) => ({ at, came: (all.length - 1 - i) % 2 === 0 ? came : !came }))
  const quiet = row.usualS === null && row.presence === 'online' && row.beats.length < 3
  return {
    number: row.number,
    name: row.name,
    place: row.place,
    state: gone ? 'gone' : words,
    on,
    unsure: gone || silent || row.flapping || row.presence === 'unknown',
    watts: watts === null || gone || silent ? '' : `${amount(Math.round(watts))} W`,
    beats: row.beats,
    changes,
    says: silent
      ? `silent for ${since(now - (row.heardAt ?? now))}, usual gap ${Math.round(row.usualS ?? 0)} s`
      : quiet
        ? 'speaks only when something happens'
        : '',
    silentFrom: silent ? row.heardAt : null,
    watch: silent || gone || row.flapping,
  }
}

type Filter = 'all' | 'silent' | 'gone' | 'flapping'
const fits: Record<Filter, (row: OnAirRow) => boolean> = {
  all: () => true,
  silent: (r) => r.presence === 'stale',
  gone: (r) => r.presence === 'offline',
  flapping: (r) => r.flapping,
}
const filterWords: Record<Filter, string> = {
  all: 'All',
  silent: 'silent',
  gone: 'gone',
  flapping: 'coming and going',
}

function Filters({ rows, filter, choose }: { rows: readonly OnAirRow[]; filter: Filter; choose: (f: Filter) => void }) {
  return (
    <fieldset className="flex flex-wrap gap-x-5 gap-y-1">
      <legend className="sr-only">Which of them</legend>
      {(Object.keys(fits) as Filter[]).map((f) => {
        const n = rows.filter(fits[f]).length
        return f !== 'all' && n === 0 ? null : (
          <button
            key={f}
            type="button"
            aria-pressed={filter === f}
            className={`min-h-[2rem] ${filter === f ? 'font-bold' : 'text-ink-2 underline underline-offset-4'}`}
            onClick={() => choose(f)}
          >
            {filterWords[f]}
            {f === 'all' ? '' : ` ${n}`}
          </button>
        )
      })}
    </fieldset>
  )
}

/** The listener in a sentence: connected to what, since when, how much; or why not. */
/** What those of the page report by their own rhythm, messages a minute; null while nobody has one. */
function rhythmOf(rows: readonly OnAirRow[]): number | null {
  const units = rows.flatMap((r) =>
    r.usualS === null || r.presence === 'offline' ? [] : [{ n: 1, periodS: r.usualS }],
  )
  const load = units.length > 0 ? reportLoad({ units }) : null
  return load?.ok ? load.value.perMinute : null
}

function lineWords(link: LinkRow | null, now: number, rows: readonly OnAirRow[]): { words: string; wrong: string } {
  if (!link) return { words: '', wrong: 'Nobody listens: the listener has not run yet.' }
  if (now - link.beatAt > deadMs)
    return {
      words: '',
      wrong: `The listener has not been heard of for ${since(now - link.beatAt)}: start the app again.`,
    }
  if (link.state === 'off') return { words: 'not listening', wrong: '' }
  if (link.state !== 'connected')
    return {
      words: link.broker,
      wrong: link.message || (link.state === 'connecting' ? `Connecting to ${link.broker}…` : 'The broker refuses.'),
    }
  const refused = ['too-large', 'topic', 'utf8', 'json', 'nesting', 'keys'].reduce(
    (n, k) => n + (link.counts[k] ?? 0),
    0,
  )
  const rhythm = rhythmOf(rows)
  const parts = [
    `listening to ${link.broker} for ${since(now - link.since)}`,
    `${amount(link.counts.taken ?? 0)} messages`,
    refused > 0 ? `${amount(refused)} refused` : 'none refused',
    ...(rhythm === null ? [] : [`by their rhythm ${amount(Math.round(rhythm))} a minute`]),
  ]
  return { words: parts.join(' · '), wrong: '' }
}

function Oddities({ rows, link, senders }: { rows: readonly OnAirRow[]; link: LinkRow | null; senders: number }) {
  const fluttering = rows.filter((r) => r.flapping)
  const skewed = rows.filter((r) => Math.abs(r.skewS ?? 0) > skewTold)
  const dropped = Object.entries(link?.dropped ?? {})
  return (
    <ul className="grid gap-2 md:grid-cols-2">
      {fluttering.map((r) => {
        const rssi = numberOf(r.fields, 'rssi')
        return (
          <li key={r.number} className="flex gap-2.5">
            <Tag severity="watch">{String(r.number).padStart(2, '0')}</Tag>
            <span>
              {r.name} comes and goes:{' '}
              {rssi !== null && rssi < -80
                ? `at the edge of the Wi-Fi (${rssi} dBm)`
                : 'a weak supply, or the edge of the Wi-Fi'}
              .
            </span>
          </li>
        )
      })}
      {skewed.map((r) => (
        <li key={`clock ${r.number}`} className="flex gap-2.5">
          <Tag severity="watch">{String(r.number).padStart(2, '0')}</Tag>
          <span>
            The clock of {r.name} is {since(Math.abs(r.skewS ?? 0) * 1000)} {(r.skewS ?? 0) > 0 ? 'ahead' : 'behind'}:
            its times order nothing here.
          </span>
        </li>
      ))}
      {dropped.length > 0 && (
        <li className="flex flex-wrap items-center gap-2.5">
          <Tag severity="error">lost</Tag>
          While the database was away, {dropped.map(([kind, n]) => `${n} ${kind}`).join(', ')} found no place.
          <CommandButton command="seen-dropped" input={{}} look="quiet">
            I have seen it
          </CommandButton>
        </li>
      )}
      {link?.refused && (
        <li className="flex gap-2.5">
          <Tag severity="watch">refused</Tag>
          <span className="min-w-0 break-words">
            The last that nobody could read ({link.refused.because}) came at{' '}
            <span className="pin">{link.refused.topic}</span>:{' '}
            <span className="pin">{link.refused.sample.slice(0, 60)}</span>
          </span>
        </li>
      )}
      {senders > 0 && (
        <li className="flex gap-2.5">
          <Tag severity="watch">new</Tag>
          <span>
            {senders === 1 ? 'One speaks that is' : `${senders} speak that are`} in no plan:{' '}
            <a href="#whose" className="underline underline-offset-4">
              whose are they?
            </a>
          </span>
        </li>
      )}
    </ul>
  )
}

function Whose({ senders, now }: { senders: readonly StrangeSender[]; now: number }) {
  if (senders.length === 0) return null
  return (
    <section id="whose" className="grid gap-2" aria-labelledby="whose-title">
      <h2 id="whose-title" className="text-[1.15rem]">
        Whose are they?
      </h2>
      <p className="text-ink-2">
        They speak under the site’s topics and no unit has that name. A unit found here was never named, or was named
        otherwise: give it its topic at Name, or give the unit the name it has.
      </p>
      <ul className="grid gap-1">
        {senders.map((s) => (
          <li
            key={s.prefix}
            className="grid items-center gap-x-4 gap-y-1 border-b border-rule-2 py-1 sm:grid-cols-[minmax(0,1fr)_11rem_auto]"
          >
            <span className="min-w-0">
              <span className="pin block truncate">{s.prefix}</span>
              <span className="pin block truncate text-[0.85rem] text-ink-2">{s.sample}</span>
            </span>
            <span className="text-ink-2">
              {amount(s.messages)} messages, last {since(now - s.lastAt)} ago
            </span>
            <CommandButton command="drop-sender" input={{ prefix: s.prefix }} look="quiet">
              Put away
            </CommandButton>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** Whether the app listens, and as whom. */
export function ListenerForm({
  setting,
}: {
  setting: { on: boolean; user: string; ca: string; hasPassword: boolean }
}) {
  return (
    <CommandForm
      command="set-listener"
      empty={{ on: setting.on, user: setting.user, ca: setting.ca, password: '', change: !setting.hasPassword }}
      toInput={(v) => ({
        on: v.on,
        user: v.user,
        ca: v.ca,
        ...(v.change && (v.password || setting.hasPassword) ? { password: v.password } : {}),
      })}
      submit="Save"
    >
      {(v, set) => (
        <>
          <Tick label="The app listens to the broker of the site" checked={v.on} onChange={(on) => set({ on })} />
          <div className="grid gap-3 sm:grid-cols-2">
            <TextField
              label="The app’s own user there"
              value={v.user}
              maxLength={120}
              onChange={(user) => set({ user })}
              hint="Empty: the one that units use."
            />
            {v.change ? (
              <TextField
                label="Its password"
                masked
                value={v.password}
                maxLength={400}
                onChange={(password) => set({ password })}
                hint="Kept sealed; shown nowhere."
              />
            ) : (
              <button
                type="button"
                className={`${buttonClass('quiet')} self-end justify-self-start`}
                onClick={() => set({ change: true })}
              >
                A password is kept. Change it
              </button>
            )}
          </div>
          <AreaField
            label="Certificate authority of the broker, where it is an own one"
            rows={3}
            value={v.ca}
            maxLength={20_000}
            onChange={(ca) => set({ ca })}
          />
        </>
      )}
    </CommandForm>
  )
}

function lost(air: Air): string {
  return air.line === 'lost' ? 'This page has lost its line to the server: what it shows is as it was then.' : ''
}

export function OnAir({
  initial,
  after,
  senders,
  listener,
  broker,
}: {
  initial: Pick<Air, 'rows' | 'link'>
  after: number
  senders: readonly StrangeSender[]
  listener: { on: boolean; user: string; ca: string }
  broker: string
}) {
  const air = useAir(initial, after)
  const [filter, setFilter] = useState<Filter>('all')
  const clock = useNow()
  const newest = Math.max(air.link?.beatAt ?? 0, ...air.rows.map((r) => r.heardAt ?? 0))
  const now = clock ?? newest
  const { words, wrong } = lineWords(air.link, now, air.rows)
  const shown = air.rows.filter(fits[filter])
  return (
    <section className="sheet grid gap-2.5 p-4" aria-labelledby="air">
      <h1 id="air" className="text-[1.4rem]">
        On the air <span className="text-[1rem] font-normal text-ink-2">{listener.on ? words : ''}</span>
      </h1>
      {listener.on && wrong && (
        <Notice severity="watch" title={wrong}>
          What is shown was heard before.
        </Notice>
      )}
      {lost(air) && <Notice severity="watch" title={lost(air)} />}
      {!listener.on && (
        <div className="sheet grid justify-items-start gap-2 p-4">
          <p className="font-semibold">The app does not listen yet.</p>
          <p className="text-ink-2">
            {broker ? (
              `It would subscribe at ${broker} to the topics of your units, and to nothing else.`
            ) : (
              <>
                <a href="#site" className="underline underline-offset-4">
                  Name the broker of the site
                </a>
                , among what every unit is told; then the app can listen to it.
              </>
            )}
          </p>
          {broker && (
            // As it was set up before: who it is at the broker is typed once.
            <CommandButton
              command="set-listener"
              input={{ on: true, user: listener.user, ca: listener.ca }}
              look="main"
            >
              Listen to {broker}
            </CommandButton>
          )}
        </div>
      )}
      {air.rows.length > 0 && (
        <>
          <Filters rows={air.rows} filter={filter} choose={setFilter} />
          <AirRows rows={shown.map((r) => drawn(r, now))} now={now} />
          <Oddities rows={air.rows} link={air.link} senders={senders.length} />
        </>
      )}
      {listener.on && air.rows.length === 0 && !wrong && (
        <p className="text-ink-2">
          Nobody has been heard yet. Units speak under their topics as soon as they are joined.
        </p>
      )}
      <Whose senders={senders} now={now} />
    </section>
  )
}
