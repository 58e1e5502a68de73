'use client'
import type { OnSpan } from '@fresh-coat/core/behaviour/of-template'
import type { Entry, RunEvent } from '@fresh-coat/core/behaviour/run'
import { useRef, useState } from 'react'

/** Inputs over time as they are played, and below them what the outputs do and why. Edges of inputs can be moved. */

export interface Lane {
  id: string
  name: string
  /** Whether the line is high before anything happens. */
  rests: 0 | 1
}

const nameWidth = 118
const plotWidth = 740
const lanePitch = 46
const top = 34
const amplitude = 26
const mostTold = 60

const levelOf = (e: Entry): 0 | 1 => ('input' in e ? e.level : 'net' in e ? e.net : e.mains)
export const laneOf = (e: Entry): string => ('input' in e ? e.input : 'net' in e ? 'network' : 'mains')

/** A step that people read times by: about six of them. */
function stepOf(until: number): number {
  const rough = until / 6
  const power = 10 ** Math.floor(Math.log10(rough))
  return [1, 2, 5, 10].map((k) => k * power).find((s) => s >= rough) ?? rough
}
const secondsWords = (ms: number): string => (ms >= 120_000 ? `${Math.round(ms / 60_000)} min` : `${ms / 1000} s`)

/** A lane as a line of levels. */
function pathOf(entries: readonly Entry[], rests: 0 | 1, x: (t: number) => number, y: number): string {
  const at = (level: 0 | 1) => (level === 1 ? y - amplitude : y)
  let level = rests
  let path = `M${nameWidth} ${at(level)}`
  for (const e of entries) {
    path += `H${x(e.t)}V${at(levelOf(e))}`
    level = levelOf(e)
  }
  return `${path}H${nameWidth + plotWidth}`
}

export interface BehaviourLineProps {
  lanes: readonly Lane[]
  timeline: readonly Entry[]
  until: number
  spans: readonly OnSpan[]
  outputs: readonly { ch: number; name: string }[]
  events: readonly RunEvent[]
  /** Rules by what they are called. */
  say: (why: string) => string
  /** Moves the edge with this place in the timeline. */
  onMove: (index: number, t: number) => void
  /** Adds a press on a lane, or takes away the edge that is there. */
  onPress: (lane: string, t: number) => void
  onDrop: (index: number) => void
}

/** Where a moment lies in the drawing, in ms. */
type Scale = (t: number) => number

const LaneName = ({ y, children }: { y: number; children: string }) => (
  <text x="0" y={y - 6} fontSize="14" fontWeight="700" fill="var(--ink)">
    {children}
  </text>
)

function TimeAxis({ until, x, bottom }: { until: number; x: Scale; bottom: number }) {
  const step = stepOf(until)
  return Array.from({ length: Math.floor(until / step) + 1 }, (_, i) => i * step).map((t) => (
    <g key={t}>
      <path d={`M${x(t)} ${top - 8}V${bottom}`} stroke="var(--rule-2)" />
      <text
        x={x(t)}
        y="18"
        textAnchor={t === 0 ? 'start' : t > until - step / 4 ? 'end' : 'middle'}
        className="pin"
        style={{ fontSize: 13 }}
        fill="var(--ink-2)"
      >
        {secondsWords(t)}
      </text>
    </g>
  ))
}

interface Held {
  index: number
  t: number
}
/** What hands do with the edges of a timeline. */
interface Hands extends Pick<BehaviourLineProps, 'until' | 'onMove' | 'onDrop'> {
  held: Held | null
  hold: (held: Held | null) => void
  timeAt: (clientX: number) => number
}

/** What an edge is moved by: dragged, or by the arrows; Delete takes it away. */
function Grip({ entry, index, x, y, hands }: { entry: Entry; index: number; x: Scale; y: number; hands: Hands }) {
  const { until, onMove, onDrop, held, hold, timeAt } = hands
  const { t } = entry
  const mine = held?.index === index ? held : null
  return (
    <rect
      x={x(t) - 7}
      y={y - amplitude / 2 - 11}
      width="14"
      height="22"
      rx="4"
      fill="var(--sheet)"
      stroke="var(--prussian)"
      strokeWidth="2"
      className="cursor-ew-resize focus-visible:outline-3"
      tabIndex={0}
      role="slider"
      aria-label={`${laneOf(entry)} ${levelOf(entry) === 1 ? 'on' : 'off'} at ${t / 1000} s`}
      aria-valuemin={0}
      aria-valuemax={until}
      aria-valuenow={t}
      aria-valuetext={`${t / 1000} s`}
      style={{ touchAction: 'none' }}
      onPointerDown={(ev) => {
        ev.currentTarget.setPointerCapture(ev.pointerId)
        hold({ index, t })
      }}
      onPointerMove={(ev) => mine && hold({ index, t: timeAt(ev.clientX) })}
      onPointerUp={() => {
        if (mine) onMove(index, mine.t)
        hold(null)
      }}
      onKeyDown={(ev) => {
        const by = ev.shiftKey ? 1000 : 100
        const to = { ArrowLeft: t - by, ArrowRight: t + by }[ev.key]
        if (to !== undefined) onMove(index, Math.max(0, Math.min(until, to)))
        else if (ev.key === 'Delete' || ev.key === 'Backspace') onDrop(index)
        else return
        ev.preventDefault()
        ev.stopPropagation()
      }}
    />
  )
}

interface InputProps extends Pick<BehaviourLineProps, 'onPress'> {
  lane: Lane
  entries: readonly Entry[]
  x: Scale
  y: number
  hands: Hands
}

/** An input as it is played: pressed on, it gets another edge. */
function InputLane({ lane, entries, x, y, hands, onPress }: InputProps) {
  const mine = entries.filter((e) => laneOf(e) === lane.id).sort((a, b) => a.t - b.t)
  return (
    <g>
      <LaneName y={y}>{lane.name}</LaneName>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the same is done by the buttons of the card */}
      <rect
        x={nameWidth}
        y={y - amplitude - 8}
        width={plotWidth}
        height={amplitude + 16}
        fill="transparent"
        className="cursor-copy"
        onClick={(ev) => onPress(lane.id, hands.timeAt(ev.clientX))}
      />
      <path
        d={pathOf(mine, lane.rests, x, y)}
        fill="none"
        stroke="var(--prussian)"
        strokeWidth="2.4"
        pointerEvents="none"
      />
      {entries.map(
        (entry, index) =>
          laneOf(entry) === lane.id && <Grip key={index} entry={entry} index={index} x={x} y={y} hands={hands} />,
      )}
    </g>
  )
}

interface OutputProps extends Pick<BehaviourLineProps, 'say'> {
  name: string
  spans: readonly OnSpan[]
  x: Scale
  y: number
}

/** When an output is on, and by which rule where there is room to say it. */
function OutputLane({ name, spans, x, y, say }: OutputProps) {
  const titleOf = ({ from, to, why, ended }: OnSpan) =>
    `on at ${from / 1000} s by ${say(why)}${ended ? `, off at ${to / 1000} s by ${say(ended)}` : ''}`
  return (
    <g>
      <LaneName y={y}>{name}</LaneName>
      <path d={`M${nameWidth} ${y + 6}H${nameWidth + plotWidth}`} stroke="var(--rule)" />
      {spans.map((s) => {
        const wide = x(s.to) - x(s.from)
        return (
          <g key={s.from}>
            <rect x={x(s.from)} y={y - 22} width={Math.max(2.5, wide)} height="26" rx="3" fill="var(--verdigris)">
              <title>{titleOf(s)}</title>
            </rect>
            {wide > 130 && (
              <text
                x={x(s.from) + 8}
                y={y - 4}
                className="pin"
                style={{ fontSize: 12.5 }}
                fill="var(--on-paint)"
                pointerEvents="none"
              >
                {`on, by ${say(s.why)}`.slice(0, Math.floor(wide / 8))}
              </text>
            )}
          </g>
        )
      })}
    </g>
  )
}

type Publish = Extract<RunEvent, { publish: string }>

/** What it tells the hub, and what of it is lost. */
function Told({ told, x, y }: { told: readonly Publish[]; x: Scale; y: number }) {
  return (
    <g>
      <LaneName y={y}>Told the hub</LaneName>
      {told.slice(0, mostTold).map((e, i) => (
        <g key={`${e.t}-${i}`}>
          <circle
            cx={x(e.t)}
            cy={y - 10}
            r="11"
            fill={e.lost ? 'var(--oxide-soft)' : 'var(--ok-soft)'}
            stroke={e.lost ? 'var(--oxide)' : 'var(--verdigris)'}
          >
            <title>{`${e.publish}: ${e.value}${e.lost ? ', lost: there is no network, and nothing sends it again' : ''}`}</title>
          </circle>
          <text x={x(e.t)} y={y - 5} textAnchor="middle" className="pin" style={{ fontSize: 11.5 }} fill="var(--ink)">
            {e.value.slice(0, 3)}
          </text>
        </g>
      ))}
    </g>
  )
}

export function BehaviourLine(props: BehaviourLineProps) {
  const { lanes, timeline, until, spans, outputs, events, say, onMove, onPress, onDrop } = props
  const svg = useRef<SVGSVGElement>(null)
  const [held, hold] = useState<Held | null>(null)
  const told = events.filter((e): e is Publish => 'publish' in e)
  const rows = lanes.length + outputs.length + (told.length > 0 ? 1 : 0)
  const height = top + rows * lanePitch + 14
  const width = nameWidth + plotWidth + 12
  const x: Scale = (t) => nameWidth + (Math.min(t, until) / until) * plotWidth
  const timeAt = (clientX: number): number => {
    const box = svg.current?.getBoundingClientRect()
    if (!box) return 0
    const px = ((clientX - box.left) / box.width) * width - nameWidth
    return Math.max(0, Math.min(until, Math.round((px / plotWidth) * (until / 10)) * 10))
  }
  const shown = timeline.map((e, i) => (held?.index === i ? { ...e, t: held.t } : e))
  const hands: Hands = { until, onMove, onDrop, held, hold, timeAt }
  const rowY = (row: number) => top + row * lanePitch + 36
  return (
    <div className="min-h-0 overflow-x-auto">
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing is no field set */}
      <svg
        ref={svg}
        viewBox={`0 0 ${width} ${height}`}
        className="w-full min-w-[36rem]"
        style={{ maxHeight: 430 }}
        role="group"
        aria-label="Inputs over time, and what the outputs do"
      >
        <TimeAxis until={until} x={x} bottom={height - 8} />
        {lanes.map((lane, row) => (
          <InputLane key={lane.id} lane={lane} entries={shown} x={x} y={rowY(row)} hands={hands} onPress={onPress} />
        ))}
        <path d={`M0 ${rowY(lanes.length) - 40}H${width}`} stroke="var(--ink-3)" strokeWidth="1.5" />
        {outputs.map(({ ch, name }, i) => (
          <OutputLane
            key={ch}
            name={name}
            spans={spans.filter((s) => s.ch === ch)}
            x={x}
            y={rowY(lanes.length + i)}
            say={say}
          />
        ))}
        {told.length > 0 && <Told told={told} x={x} y={rowY(rows - 1)} />}
      </svg>
    </div>
  )
}
