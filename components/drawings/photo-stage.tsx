'use client'
import { type KeyboardEvent, useRef, useState } from 'react'
import { buttonClass } from '@/components/paint/paint'

export interface StagePoint {
  id: string
  x: number
  y: number
  /** Short sign drawn in the mark. */
  sign: string
  /** What a screen reader and a tooltip say. */
  name: string
  shape: 'round' | 'square' | 'diamond'
}

const clamp = (n: number) => Math.min(1, Math.max(0, n))
const zooms = [1, 1.5, 2, 3, 4, 6]

const steps: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
const shapes = { round: 'rounded-full', diamond: 'rounded-[11px_3px_11px_3px]', square: 'rounded-[5px]' } as const

type Move = (id: string, x: number, y: number) => void

/** A mark: pressed it is chosen, the arrow keys move it. */
function Mark({
  point: p,
  chosen,
  onChoose,
  onGrab,
  onMove,
}: {
  point: StagePoint
  chosen: boolean
  onChoose: () => void
  onGrab: () => void
  onMove?: Move | undefined
}) {
  const nudge = (e: KeyboardEvent) => {
    const step = steps[e.key]
    if (!step || !onMove) return
    const by = e.shiftKey ? 0.05 : 0.01
    onMove(p.id, clamp(p.x + step[0] * by), clamp(p.y + step[1] * by))
    e.preventDefault()
    e.stopPropagation()
  }
  return (
    <button
      type="button"
      data-mark={p.id}
      aria-label={p.name}
      aria-pressed={chosen}
      title={p.name}
      className={`pin absolute grid min-h-[2rem] min-w-[2rem] -translate-x-1/2 -translate-y-1/2 touch-none place-items-center border-[2.5px] bg-sheet/90 px-1 font-bold text-ink ${chosen ? 'z-10 border-ochre-line' : 'border-ink'} ${shapes[p.shape]}`}
      style={{ left: `${p.x * 100}%`, top: `${p.y * 100}%` }}
      onClick={onChoose}
      onKeyDown={nudge}
      onPointerDown={() => {
        onChoose()
        onGrab()
      }}
    >
      {p.sign}
    </button>
  )
}

/** @param place puts a mark in the middle, where one can be placed; `placing`: what it is called */
function StageBar({
  zoom,
  onZoom,
  placing,
  place,
}: {
  zoom: number
  onZoom: (zoom: number) => void
  placing: string
  place: (() => void) | null
}) {
  const at = zooms.indexOf(zoom)
  return (
    <div className="flex flex-wrap items-center gap-2">
      <button
        type="button"
        className={buttonClass('plain')}
        disabled={at === 0}
        onClick={() => onZoom(zooms[at - 1] ?? zoom)}
      >
        Smaller
      </button>
      <button
        type="button"
        className={buttonClass('plain')}
        disabled={at === zooms.length - 1}
        onClick={() => onZoom(zooms[at + 1] ?? zoom)}
      >
        Larger
      </button>
      <span className="pin text-ink-2">{zoom} ×</span>
      {place && (
        <button type="button" className={buttonClass('quiet')} onClick={place}>
          {placing} by keyboard
        </button>
      )}
    </div>
  )
}

interface StageGiven {
  src: string
  alt: string
  points: readonly StagePoint[]
  chosen: string | null
  onChoose: (id: string | null) => void
  onPlace?: (x: number, y: number) => void
  onMove?: Move
  /** What a click on the photo places; empty when nothing is placed. */
  placing: string
}

/** The photo with its marks, as wide as its zoom. */
function Picture({
  given: { src, alt, points, chosen, onChoose, onPlace, onMove, placing },
  zoom,
  onBroken,
}: {
  given: StageGiven
  zoom: number
  onBroken: () => void
}) {
  const picture = useRef<HTMLDivElement>(null)
  const drag = useRef<string | null>(null)
  const at = (e: { clientX: number; clientY: number }) => {
    const box = (picture.current as HTMLDivElement).getBoundingClientRect()
    return [clamp((e.clientX - box.left) / box.width), clamp((e.clientY - box.top) / box.height)] as const
  }
  const letGo = () => {
    drag.current = null
  }
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the button above places a mark without a mouse
    // biome-ignore lint/a11y/noStaticElementInteractions: as above
    <div
      ref={picture}
      className={`relative ${onPlace && placing ? 'cursor-crosshair' : ''}`}
      style={{ width: `${zoom * 100}%` }}
      onClick={(e) => {
        if ((e.target as HTMLElement).closest('[data-mark]')) return
        if (onPlace && placing) onPlace(...at(e))
        else onChoose(null)
      }}
      onPointerMove={(e) => {
        if (drag.current && onMove) onMove(drag.current, ...at(e))
      }}
      onPointerUp={letGo}
      onPointerLeave={letGo}
    >
      {/* biome-ignore lint/performance/noImgElement: served from our own store, shown as it is */}
      <img src={src} alt={alt} className="block w-full select-none" draggable={false} onError={onBroken} />
      {points.map((p) => (
        <Mark
          key={p.id}
          point={p}
          chosen={p.id === chosen}
          onChoose={() => onChoose(p.id)}
          onGrab={() => {
            if (onMove) drag.current = p.id
          }}
          onMove={onMove}
        />
      ))}
    </div>
  )
}

/**
 * A photo with marks on it. Click places one, dragging or the arrow keys move the chosen one. Places are shares of width
 * and height, so they hold at every zoom and on every screen. The browser turns the photo as its camera data says.
 */
export function PhotoStage(given: StageGiven) {
  const { alt, onPlace, placing } = given
  const [zoom, setZoom] = useState(1)
  const [broken, setBroken] = useState(false)
  return (
    <div className="grid gap-2">
      <StageBar
        zoom={zoom}
        onZoom={setZoom}
        placing={placing}
        place={onPlace && placing ? () => onPlace(0.5, 0.5) : null}
      />
      <section
        aria-label={`${alt}, with marks`}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region must be reachable by keyboard
        tabIndex={0}
        className="max-h-[62vh] overflow-auto rounded-[10px] border border-rule bg-sheet-2"
      >
        {broken ? (
          <p className="p-5 text-oxide">
            This photo cannot be shown here. It is kept as it came; save it and look at it elsewhere.
          </p>
        ) : (
          <Picture given={given} zoom={zoom} onBroken={() => setBroken(true)} />
        )}
      </section>
    </div>
  )
}
