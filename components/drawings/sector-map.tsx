import { hexNumber } from '@fresh-coat/core/bytes/text'
import { classesOf, type Run, type SectorClass, sectorBytes } from '@fresh-coat/core/dump/sectors'
import type React from 'react'
import { memo, useId } from 'react'
import { Scrolls } from '@/components/tables/scrolls'

const sectorWord: Record<SectorClass, string> = {
  blank: 'blank, all FF',
  zero: 'all 00',
  constant: 'one other value',
  text: 'text',
  low: 'low: tables, settings',
  mid: 'middle: program code',
  high: 'high: packed or encrypted',
}
const letters: Record<SectorClass, string> = {
  blank: 'b',
  zero: '0',
  constant: 'c',
  text: 't',
  low: 'l',
  mid: 'm',
  high: 'h',
}
/** Colours per theme stand in the style sheet; empty is near the ground in both. */
const fill = (kind: SectorClass) => `var(--sector-${kind})`
const ink = (kind: SectorClass) => `var(--sector-${kind}-ink)`
export const sectorWords = (kind: SectorClass): string => sectorWord[kind]

export interface Cells {
  columns: number
  left: number
  w: number
  h: number
}
const mapWidth = 704
const mapHeight = 200

/** Cells so large that a chip of any size fills the same room: 64 to a row, 128 from 8 MiB on. */
export function cellsFor(sectors: number): Cells {
  const columns = sectors > 1024 ? 128 : 64
  const rows = Math.max(1, Math.ceil(sectors / columns))
  return { columns, left: 62, w: mapWidth / columns, h: Math.max(6, Math.min(34, Math.floor(mapHeight / rows))) }
}

/**
 * The cells of every class as one path each, neighbours in a row joined: a 16 MiB chip of changing sectors would be
 * thousands of elements otherwise, and the page would stand still while it is drawn.
 */
function areasOf(classes: readonly SectorClass[], { columns, left, w, h }: Cells): Map<SectorClass, string> {
  const areas = new Map<SectorClass, string>()
  for (let from = 0; from < classes.length; ) {
    const kind = classes[from] as SectorClass
    const rowEnd = (Math.floor(from / columns) + 1) * columns
    let to = from + 1
    while (to < rowEnd && classes[to] === kind) to++
    const wide = (to - from) * w
    const x = left + (from % columns) * w
    const y = Math.floor(from / columns) * h
    areas.set(kind, `${areas.get(kind) ?? ''}M${x} ${y}h${wide}v${h}h${-wide}z`)
    from = to
  }
  return areas
}

/** A stretch of sectors as one path, row by row. */
export function spanArea(from: number, until: number, { columns, left, w, h }: Cells): string {
  let path = ''
  for (let at = from; at < until; ) {
    const rowEnd = Math.min(until, (Math.floor(at / columns) + 1) * columns)
    const wide = (rowEnd - at) * w
    path += `M${left + (at % columns) * w} ${Math.floor(at / columns) * h}h${wide}v${h}h${-wide}z`
    at = rowEnd
  }
  return path
}

/** The address of each row, of every fourth where there are many. */
export function RowAddresses({ rows, cells: { columns, left, h } }: { rows: number; cells: Cells }) {
  return Array.from({ length: rows }, (_, r) =>
    rows <= 16 || r % 4 === 0 ? (
      <text
        key={r}
        x={left - 6}
        y={r * h + h / 2 + 3}
        textAnchor="end"
        className="pin"
        style={{ fontSize: 10 }}
        fill="var(--ink-2)"
      >
        {hexNumber(r * columns * sectorBytes)}
      </text>
    ) : null,
  )
}

/** The chip drawn sector by sector, 64 to a row: one colour and one letter per class; differing sectors are struck. */
export const SectorMap = memo(function SectorMap({
  runs,
  marked = [],
  label,
  of = 0,
  chosen = null,
  onChoose,
  onPoint,
}: {
  runs: readonly Run[]
  marked?: readonly number[]
  label: string
  /** Sectors of the chip, while a read has not come to its end. */
  of?: number
  /** The sector that is looked at; a slider beside the map does the same for the keyboard. */
  chosen?: number | null
  onChoose?: (sector: number) => void
  /** Hears which sector the pointer is over; null when it leaves. */
  onPoint?: (sector: number | null) => void
}) {
  const id = useId()
  const classes = classesOf(runs)
  const sectors = Math.max(of, classes.length)
  const cells = cellsFor(sectors)
  const { columns, left, w, h } = cells
  const rows = Math.ceil(sectors / columns)
  const letter = Math.min(12, w * 0.9, h * 0.8)
  const counts = new Map<SectorClass, number>()
  for (const c of classes) counts.set(c, (counts.get(c) ?? 0) + 1)
  const words = [...counts].map(([c, n]) => `${n} ${sectorWord[c]}`).join('; ')
  const areas = areasOf(classes, cells)
  const sectorUnder = (e: React.MouseEvent<SVGSVGElement>): number | null => {
    const box = e.currentTarget.getBoundingClientRect()
    const scale = (left + columns * w + 2) / box.width
    const x = (e.clientX - box.left) * scale - left
    const sector = Math.floor(((e.clientY - box.top) * scale) / h) * columns + Math.floor(x / w)
    return x >= 0 && x < columns * w && sector >= 0 && sector < classes.length ? sector : null
  }
  return (
    <figure className="grid gap-2">
      <Scrolls label={label}>
        {/* biome-ignore lint/a11y/useKeyWithClickEvents: a slider beside the map does the same for the keyboard */}
        <svg
          viewBox={`0 0 ${left + columns * w + 2} ${rows * h + 2}`}
          className="w-full min-w-[600px]"
          role="img"
          aria-label={`${label}: ${classes.length}${of > classes.length ? ` of ${of}` : ''} sectors. ${words}.`}
          style={onChoose ? { cursor: 'crosshair' } : undefined}
          onClick={(e) => {
            const sector = sectorUnder(e)
            if (sector !== null) onChoose?.(sector)
          }}
          onPointerMove={(e) => onPoint?.(sectorUnder(e))}
          onPointerLeave={() => onPoint?.(null)}
        >
          <defs>
            {[...counts.keys()].map((c) => (
              <pattern key={c} id={`${id}${c}`} x={left} y={0} width={w} height={h} patternUnits="userSpaceOnUse">
                <rect width={w} height={h} fill={fill(c)} />
                <text
                  x={w / 2}
                  y={h / 2 + letter / 3}
                  textAnchor="middle"
                  className="pin"
                  style={{ fontSize: letter }}
                  fill={ink(c)}
                >
                  {letters[c]}
                </text>
              </pattern>
            ))}
          </defs>
          <RowAddresses rows={rows} cells={cells} />
          {sectors > classes.length && (
            <path d={spanArea(classes.length, sectors, cells)} fill="var(--sheet)" stroke="var(--rule)" />
          )}
          {[...areas].map(([c, path]) => (
            <path key={c} d={path} fill={`url(#${id}${c})`} stroke="var(--rule)" strokeWidth="0.5" />
          ))}
          {chosen !== null && (
            <rect
              x={left + (chosen % columns) * w - 1}
              y={Math.floor(chosen / columns) * h - 1}
              width={w + 2}
              height={h + 2}
              fill="none"
              stroke="var(--ink)"
              strokeWidth="2.5"
            />
          )}
          {marked.length > 0 && (
            <path
              d={marked
                .map((s) => {
                  const x = left + (s % columns) * w
                  const y = Math.floor(s / columns) * h
                  return `M${x} ${y}h${w}v${h}h${-w}zM${x} ${y + h}l${w} ${-h}`
                })
                .join('')}
              fill="none"
              stroke="var(--oxide)"
              strokeWidth="2"
            />
          )}
        </svg>
      </Scrolls>
      <figcaption className="flex flex-wrap gap-x-4 gap-y-1 text-[0.9rem] text-ink-2">
        {[...counts].map(([c, n]) => (
          <span key={c} className="inline-flex items-center gap-1.5">
            <span
              className="pin grid size-[17px] place-items-center rounded-[3px] border border-rule text-[0.75rem]"
              style={{ background: fill(c), color: ink(c) }}
              aria-hidden="true"
            >
              {letters[c]}
            </span>
            {n} {sectorWord[c]}
          </span>
        ))}
        {marked.length > 0 && <span className="text-oxide">struck through: {marked.length} differ</span>}
      </figcaption>
    </figure>
  )
})

/** A chip of which nothing was read yet: its sectors, empty. One area for all of them, as above. */
export function UnreadMap({ bytes, label }: { bytes: number; label: string }) {
  const id = useId()
  const cells = cellsFor(bytes / sectorBytes)
  const { columns, left, w, h } = cells
  const rows = Math.ceil(bytes / sectorBytes / columns)
  return (
    <svg viewBox={`0 0 ${left + columns * w + 2} ${rows * h + 2}`} className="w-full" role="img" aria-label={label}>
      <defs>
        <pattern id={id} x={left} y={0} width={w} height={h} patternUnits="userSpaceOnUse">
          <rect
            x={0.8}
            y={1}
            width={w - 1.6}
            height={h - 2}
            rx="2"
            fill="var(--sheet)"
            stroke="var(--rule)"
            strokeWidth="0.8"
          />
        </pattern>
      </defs>
      <RowAddresses rows={rows} cells={cells} />
      <path d={spanArea(0, bytes / sectorBytes, cells)} fill={`url(#${id})`} />
    </svg>
  )
}
