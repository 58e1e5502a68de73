'use client'
import type { UnitOnAirPage, WishRow } from '@fresh-coat/core/live/on-air'
import { asksFirst } from '@fresh-coat/core/live/wish'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useState } from 'react'
import { HourBars } from '@/components/drawings/hour-bars'
import { amount, buttonClass, clockOf, Tag } from '@/components/paint/paint'
import { ask, type Refusal, refusalOf, send } from '@/components/send'
import { SureFirst } from './sure-first'
import { useAir, useNow } from './use-air'
import { channelsOf, happened, numberOf, since, standingOf } from './words'

/** One unit on the air: what it is now, switched by a press, what came back, what happened, its day and its month. */

/** What is known of one unit, read anew whenever it speaks. */
export function useUnitOnAir(number: number) {
  const client = useQueryClient()
  const changed = useCallback(
    (numbers: readonly number[]) => {
      if (numbers.includes(number)) void client.invalidateQueries({ queryKey: ['air', number] })
    },
    [client, number],
  )
  // Only this one: the page of units that begins right before it.
  const { line } = useAir({ rows: [], link: null }, number - 1, changed)
  const query = useQuery({
    queryKey: ['air', number],
    queryFn: () => ask<UnitOnAirPage>(`/api/live/${number}`),
    retry: 1,
  })
  return { ...query, line }
}

const wishWords = (w: WishRow): string => {
  const what = `${w.channel} ${w.value ? 'on' : 'off'}`
  switch (w.state) {
    case 'answered':
      return `${what}: state ${w.answeredAt !== null && w.sentAt !== null ? `${w.answeredAt - w.sentAt} ms` : ''} later`
    case 'silent':
      return `${what}: sent, and nothing came back`
    case 'late':
      return `${what}: not sent, it was too late`
    case 'failed':
      return `${what}: not sent. ${w.note}`
    case 'sent':
      return `${what}: sent…`
    default:
      return `${what}…`
  }
}

function Switches({ view, page }: { view: UnitView; page: UnitOnAirPage }) {
  const [asked, setAsked] = useState<{ channel: string; on: boolean } | null>(null)
  const [error, setError] = useState<Refusal | null>(null)
  const why = asksFirst(view)
  const go = async (channel: string, on: boolean) => {
    setAsked(null)
    const sent = await send('switch-unit', { unitId: view.id, channel, on, sure: why !== null })
    setError(refusalOf(sent))
  }
  const channels = channelsOf(page.row?.fields ?? {})
  return (
    <div className="grid gap-2">
      {channels.map(({ channel, on }) => (
        <div key={channel} className="flex flex-wrap items-center gap-3">
          <span className="min-w-[7rem]">
            Channel {channel}: <strong>{on ? 'on' : 'off'}</strong>
          </span>
          {[true, false].map((to) => (
            <button
              key={String(to)}
              type="button"
              className={buttonClass('plain')}
              onClick={() => (why ? setAsked({ channel, on: to }) : void go(channel, to))}
            >
              {to ? 'Switch on' : 'Switch off'}
            </button>
          ))}
        </div>
      ))}
      {asked && why && (
        <SureFirst why={why} go={() => void go(asked.channel, asked.on)} leave={() => setAsked(null)}>
          {`Somebody looks: switch channel ${asked.channel} ${asked.on ? 'on' : 'off'}`}
        </SureFirst>
      )}
      {error && (
        <p role="alert" className="text-oxide">
          {error.message} {error.next}
        </p>
      )}
      {page.wishes.length > 0 && (
        <ul className="grid gap-0.5 text-[0.93rem] text-ink-2" aria-label="Asked of it" aria-live="polite">
          {page.wishes.map((w) => (
            <li key={w.id}>
              <span className="pin">{clockOf(new Date(w.madeAt).toISOString())}</span> channel {wishWords(w)}
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

function Now({ page, now }: { page: UnitOnAirPage; now: number }) {
  const { row } = page
  if (!row) return <p className="text-ink-2">Nobody has heard it yet.</p>
  const { fields } = row
  const [P, V, I, E, rssi] = ['P', 'V', 'I', 'E', 'rssi'].map((f) => numberOf(fields, f))
  const facts = [
    V === null || V === undefined ? '' : `${V} V`,
    I === null || I === undefined ? '' : `${I} A`,
    E === null || E === undefined ? '' : `${E} kWh`,
    rssi === null || rssi === undefined ? '' : `${rssi} dBm`,
    fields.fw ? `firmware ${String(fields.fw.value)}` : '',
    row.restarts > 0 ? `${row.restarts} ${row.restarts === 1 ? 'restart' : 'restarts'} seen` : '',
  ].filter(Boolean)
  return (
    <div className="grid gap-1">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <Tag severity={row.presence === 'online' && !row.flapping ? 'ok' : 'watch'}>{standingOf(row)}</Tag>
        {P !== null && P !== undefined && <span className="font-title text-[1.9rem] font-bold">{amount(P)} W</span>}
        <span className="text-ink-2">
          {row.heardAt === null ? 'never heard, only told of' : `heard ${since(now - row.heardAt)} ago`}
          {row.usualS === null ? '' : `, usually every ${Math.round(row.usualS)} s`}
        </span>
      </p>
      {facts.length > 0 && <p className="pin text-[0.93rem]">{facts.join('   ')}</p>}
    </div>
  )
}

export function UnitAir({ view }: { view: UnitView }) {
  const { data: page, error, line } = useUnitOnAir(view.number)
  const now = useNow() ?? page?.row?.heardAt ?? 0
  if (error) return <p className="text-oxide">{error.message}</p>
  if (!page) return <p className="text-ink-2">…</p>
  return (
    <div className="grid gap-5">
      {line === 'lost' && <p className="text-ochre">The line to the server is lost: this is as it was then.</p>}
      {!page.listening && <p>The app listens to no broker yet: that is switched on under Network.</p>}
      <Now page={page} now={now} />
      {page.listening && <Switches view={view} page={page} />}
      {page.response && (
        <p className="text-ink-2">
          From a press to its state: {Math.round(page.response.medianMs)} ms, at worst{' '}
          {Math.round(page.response.worstMs)} ms, of the last {page.response.n}.
        </p>
      )}
      {page.hours.length > 0 && <HourBars hours={page.hours} now={now} />}
      {page.happenings.length > 0 && (
        <section className="grid gap-1" aria-label="What happened">
          <h3 className="text-[1.05rem]">What happened</h3>
          <ul className="grid gap-0.5">
            {page.happenings.slice(0, 20).map((h) => (
              <li key={`${h.at} ${h.kind} ${h.field ?? ''}`} className="flex gap-3">
                <span className="pin shrink-0 text-ink-2">{since(now - h.at)} ago</span>
                {happened(h)}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  )
}
