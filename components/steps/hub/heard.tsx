'use client'
import { askedAndAnswered } from '@fresh-coat/core/live/answered'
import type { Happening } from '@fresh-coat/core/live/standing'
import type { HubTest } from '@fresh-coat/core/unit/view'
import { useUnitOnAir } from '@/components/live/unit-air'
import { useNow } from '@/components/live/use-air'
import { useStill } from '@/components/live/use-still'
import { happened, since } from '@/components/live/words'
import { buttonClass, clockOf } from '@/components/paint/paint'

const freshMs = 5 * 60_000
const nothing: readonly Happening[] = []
const tells: Partial<Record<HubTest['direction'], (h: Happening) => boolean>> = {
  'details in the unit': (h) => h.kind === 'online' || h.kind === 'state',
  'hub to unit': (h) => h.kind === 'state',
  'button to hub': (h) => h.kind === 'event' || h.kind === 'state',
}

/** Channel of a field: "switch/2" → 2. */
const channelOf = (field: string | undefined): number => Number(field?.split('/')[1] ?? Number.NaN)

/** Those of the channel that is asked about first: what the others do meanwhile is never in its way. */
const ofChannelFirst = <T extends { field?: string }>(list: readonly T[], channel: number | null): T[] => {
  const isAsked = (one: T) => channel === null || channelOf(one.field) === channel
  return [...list.filter(isAsked), ...list.filter((one) => !isAsked(one))]
}

/** What the listener heard of the unit in the last minutes, offered as what was seen: it is evidence, and a person takes it. */
export function Heard({
  number,
  kind,
  channel,
  use,
}: {
  number: number
  kind: HubTest['direction']
  /** The one that is asked about; null: the unit as a whole. */
  channel: number | null
  use: (words: string) => void
}) {
  const { data } = useUnitOnAir(number)
  const now = useNow()
  const { shown, hold } = useStill(data?.happenings ?? nothing)
  if (!data?.listening || now === null) return null
  const own = data.wishes.flatMap((w) => w.sentAt ?? [])
  const asked = kind === 'hub to unit' ? askedAndAnswered(shown, own).filter((a) => now - a.askedAt < freshMs) : []
  const fresh = ofChannelFirst(
    shown.filter((h) => tells[kind]?.(h) && now - h.at < freshMs),
    channel,
  ).slice(0, 3)
  if (fresh.length === 0 && asked.length === 0)
    return (
      <p className="text-[0.93rem] text-ink-2">The app listens: what the unit says when it switches is offered here.</p>
    )
  return (
    <ul className="grid gap-1 text-[0.93rem]" aria-label="Heard on the air" aria-live="polite" {...hold}>
      {ofChannelFirst(asked, channel)
        .slice(0, 2)
        .map((a) => {
          const words = `set ${a.value === true ? 'on' : 'off'} from outside at ${clockOf(new Date(a.askedAt).toISOString())}, channel ${channelOf(a.field)} says so ${a.afterMs} ms later`
          return (
            <li key={`asked ${a.askedAt} ${a.field}`} className="flex flex-wrap items-center gap-x-3">
              <span>Heard: {words}</span>
              <button type="button" className={`${buttonClass('quiet')} !px-2`} onClick={() => use(`heard: ${words}`)}>
                Use it
              </button>
            </li>
          )
        })}
      {fresh.map((h) => (
        <li key={`${h.at} ${h.kind} ${h.field}`} className="flex flex-wrap items-center gap-x-3">
          <span>
            Heard {since(now - h.at)} ago: {happened(h)}
          </span>
          <button
            type="button"
            className={`${buttonClass('quiet')} !px-2`}
            onClick={() => use(`heard at ${clockOf(new Date(h.at).toISOString())}: ${happened(h)}`)}
          >
            Use it
          </button>
        </li>
      ))}
    </ul>
  )
}
