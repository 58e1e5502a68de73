'use client'
import {
  type Announcements,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { dayWriter } from '@fresh-coat/core/edge/day'
import { type CampaignPolicy, ringMoved } from '@fresh-coat/core/fleet/campaign'
import type { BoardRing } from '@fresh-coat/core/fleet/campaign-board'
import { useId, useState } from 'react'
import { useRefresh } from '@/components/frame/use-refresh'
import { Notice } from '@/components/paint/paint'
import { type Refusal, refusalOf, send } from '@/components/send'

/** Rings on the days they begin: one that is not begun can be taken to another day, and those behind it follow. Days are those of UTC. */

const dayMs = 86_400_000
const dayOf = (ms: number) => Math.floor(ms / dayMs) * dayMs
/** Monday of its week. */
const weekOf = (ms: number) => dayOf(ms) - ((new Date(ms).getUTCDay() + 6) % 7) * dayMs
const mostWeeks = 12
const [onDay, onFirst, weekday, inFull] = [
  dayWriter({ day: 'numeric' }),
  dayWriter({ day: 'numeric', month: 'short' }),
  dayWriter({ weekday: 'long' }),
  dayWriter({ weekday: 'long', day: 'numeric', month: 'long' }),
]

const idOf = (at: number) => `ring ${at}`
const ringAt = (id: string | number) => Number(String(id).slice('ring '.length))

/** What is read out while a ring is carried: its name, and the day that it is over. */
const told = (rings: readonly BoardRing[]): Announcements => {
  const name = (id: string | number) => rings[ringAt(id)]?.ring ?? 'The ring'
  const day = (over: { id: string | number } | null) => (over ? inFull(Number(over.id)) : 'no day')
  return {
    onDragStart: ({ active }) => `${name(active.id)} is picked up.`,
    onDragOver: ({ active, over }) => `${name(active.id)} is over ${day(over)}.`,
    onDragEnd: ({ active, over }) =>
      over ? `${name(active.id)} is put down on ${day(over)}.` : `${name(active.id)} stays where it was.`,
    onDragCancel: ({ active }) => `${name(active.id)} stays where it was.`,
  }
}

interface Blackout {
  from: number
  to: number
  what: string
}

function Chip({ ring, at }: { ring: BoardRing; at: number }) {
  const { fixed } = ring
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({
    id: idOf(at),
    disabled: fixed,
  })
  const status = ring.status === 'pending' ? '' : `, ${ring.status}`
  return (
    <button
      ref={setNodeRef}
      type="button"
      {...attributes}
      {...(fixed ? {} : listeners)}
      disabled={fixed}
      aria-label={`${ring.ring}: ${ring.all} units${status}`}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      className={`relative w-full touch-none truncate rounded-[6px] border px-1.5 py-0.5 text-left text-[0.86rem] ${
        ring.status === 'stopped'
          ? 'border-oxide bg-oxide text-sheet'
          : ring.status === 'done'
            ? 'border-verdigris bg-ok-soft'
            : 'border-ink bg-sheet font-semibold'
      } ${fixed ? '' : 'cursor-grab'} ${isDragging ? 'z-30 shadow-lg' : ''}`}
    >
      {ring.ring} <span className="font-normal">{ring.all}</span>
    </button>
  )
}

function Day({
  day,
  today,
  blackout,
  children,
}: {
  day: number
  today: boolean
  blackout: Blackout | undefined
  children: React.ReactNode
}) {
  const { setNodeRef, isOver } = useDroppable({ id: String(day) })
  return (
    <td
      ref={setNodeRef}
      data-day={day}
      className={`h-[4.6rem] border-r border-b border-rule p-1 align-top ${isOver ? 'bg-ok-soft' : blackout ? 'bg-sheet-2' : ''}`}
    >
      <span className={`block text-[0.8rem] ${today ? 'font-bold text-ink' : 'text-ink-2'}`}>
        {new Date(day).getUTCDate() === 1 ? onFirst(day) : onDay(day)}
        {today && ' today'}
      </span>
      {blackout && (
        <span className="block truncate text-[0.78rem] text-ink-2" title={blackout.what || 'a show'}>
          {blackout.what || 'a show'}: free
        </span>
      )}
      <span className="grid gap-1">{children}</span>
    </td>
  )
}

export function RingCalendar({
  policy,
  rings,
  now,
}: {
  policy: CampaignPolicy
  rings: readonly BoardRing[]
  now: number
}) {
  const refresh = useRefresh()
  const dndId = useId()
  const [error, setError] = useState<Refusal | null>(null)
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, {
      // One press is one day, up and down a week.
      coordinateGetter: (event, { currentCoordinates: { x, y } }) => {
        const cell = document.querySelector('[data-day]')?.getBoundingClientRect()
        if (!cell) return undefined
        const step = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowDown: [0, 1], ArrowUp: [0, -1] }[event.code]
        if (!step) return undefined
        event.preventDefault()
        return { x: x + (step[0] ?? 0) * cell.width, y: y + (step[1] ?? 0) * cell.height }
      },
    }),
  )
  if (rings.length === 0) return null
  const first = weekOf(Math.min(...rings.map((r) => r.start), Math.max(now, 0)))
  const last = Math.max(...rings.map((r) => r.end))
  const weeks = Math.min(mostWeeks, Math.ceil((last - first) / (7 * dayMs)) + 1)
  const blackouts = policy.blackouts.map((b) => ({ from: Date.parse(b.from), to: Date.parse(b.to), what: b.what }))
  const put = async ({ active, over }: DragEndEvent) => {
    if (!over) return
    const at = ringAt(active.id)
    const ring = rings[at]
    if (!ring || dayOf(ring.start) === Number(over.id)) return
    const sent = await send('set-campaign', ringMoved(policy, rings, at, Number(over.id)))
    setError(refusalOf(sent))
    if (sent.state === 'ok') refresh()
  }
  return (
    <section className="grid gap-2" aria-label="Calendar of rings">
      <DndContext
        id={dndId}
        sensors={sensors}
        onDragEnd={(e) => void put(e)}
        accessibility={{
          announcements: told(rings),
          screenReaderInstructions: {
            draggable: 'Space picks it up, arrows move it, Space puts it down, Escape leaves it.',
          },
        }}
      >
        <table className="w-full min-w-[640px] table-fixed border-t border-l border-rule">
          <thead>
            <tr>
              {Array.from({ length: 7 }, (_, d) => (
                <th
                  key={d}
                  scope="col"
                  className="border-r border-b border-rule p-1 text-left text-[0.8rem] font-normal text-ink-2"
                >
                  {weekday(first + d * dayMs)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: weeks }, (_, w) => (
              <tr key={w}>
                {Array.from({ length: 7 }, (_, d) => {
                  const day = first + (w * 7 + d) * dayMs
                  return (
                    <Day
                      key={day}
                      day={day}
                      today={dayOf(now) === day}
                      blackout={blackouts.find((b) => b.from < day + dayMs && b.to > day)}
                    >
                      {rings.map((ring, at) =>
                        dayOf(ring.start) === day ? <Chip key={ring.ring} ring={ring} at={at} /> : null,
                      )}
                    </Day>
                  )
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </DndContext>
      {error && (
        <Notice severity="error" title={error.message}>
          {error.next}
        </Notice>
      )}
      <p className="text-[0.93rem] text-ink-2">
        A ring is taken to another day by hand; one behind it waits until it was steady long enough. Where nothing may
        be touched, or no window is open, it goes to the next one.
      </p>
    </section>
  )
}
