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

/**
 * A photo with marks on it. Click places one, dragging or the arrow keys move the chosen one. Places are shares of width
 * and height, so they hold at every zoom and on every screen. The browser turns the photo as its camera data says.
 */
export function PhotoStage({
  src,
  alt,
  points,
  chosen,
  onChoose,
  onPlace,
  onMove,
  placing,
}: {
  src: string
  alt: string
  points: readonly StagePoint[]
  chosen: string | null
  onChoose: (id: string | null) => void
  onPlace?: (x: number, y: number) => void
  onMove?: (id: string, x: number, y: number) => void
  /** What a click on the photo places; empty when nothing is placed. */
  placing: string
}) {
  const [zoom, setZoom] = useState(1)
  const [broken, setBroken] = useState(false)
  const picture = useRef<HTMLDivElement>(null)
  const drag = useRef<string | null>(null)
  const at = (e: { clientX: number; clientY: number }) => {
    const box = (picture.current as HTMLDivElement).getBoundingClientRect()
    return [clamp((e.clientX - box.left) / box.width), clamp((e.clientY - box.top) / box.height)] as const
  }
  const nudge = (e: KeyboardEvent, p: StagePoint) => {
    const by = e.shiftKey ? 0.05 : 0.01
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [-by, 0],
      ArrowRight: [by, 0],
      ArrowUp: [0, -by],
      ArrowDown: [0, by],
    }
    const step = steps[e.key]
    if (!step || !onMove) return
    onMove(p.id, clamp(p.x + step[0]), clamp(p.y + step[1]))
    e.preventDefault()
    e.stopPropagation()
  }
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap items-center gap-2">
        <button
          type="button"
          className={buttonClass('plain')}
          disabled={zoom === zooms[0]}
          onClick={() => setZoom(zooms[zooms.indexOf(zoom) - 1] ?? 1)}
        >
          Smaller
        </button>
        <button
          type="button"
          className={buttonClass('plain')}
          disabled={zoom === zooms.at(-1)}
          onClick={() => setZoom(zooms[zooms.indexOf(zoom) + 1] ?? zoom)}
        >
          Larger
        </button>
        <span className="pin text-ink-2">{zoom} ×</span>
        {onPlace && placing && (
          <button type="button" className={buttonClass('quiet')} onClick={() => onPlace(0.5, 0.5)}>
            {placing} by keyboard
          </button>
        )}
      </div>
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
            onPointerUp={() => {
              drag.current = null
            }}
            onPointerLeave={() => {
              drag.current = null
            }}
          >
            {/* biome-ignore lint/performance/noImgElement: served from our own store, shown as it is */}
            <img
              src={src}
              alt={alt}
              className="block w-full select-none"
              draggable={false}
              onError={() => setBroken(true)}
            />
            {points.map((p) => (
              <button
                key={p.id}
                type="button"
                data-mark={p.id}
                aria-label={p.name}
                aria-pressed={p.id === chosen}
                title={p.name}
                className={`pin absolute grid min-h-[2rem] min-w-[2rem] -translate-x-1/2 -translate-y-1/2 touch-none place-items-center border-[2.5px] bg-sheet/90 px-1 font-bold text-ink ${p.id === chosen ? 'z-10 border-ochre-line' : 'border-ink'} ${p.shape === 'round' ? 'rounded-full' : p.shape === 'diamond' ? 'rounded-[11px_3px_11px_3px]' : 'rounded-[5px]'}`}
                style={{ left: `${p.x * 100}%`, top: `${p.y * 100}%` }}
                onClick={() => onChoose(p.id)}
                onKeyDown={(e) => nudge(e, p)}
                onPointerDown={() => {
                  onChoose(p.id)
                  if (onMove) drag.current = p.id
                }}
              >
                {p.sign}
              </button>
            ))}
          </div>
        )}
      </section>
    </div>
  )
}
