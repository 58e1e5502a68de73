import { hexNumber } from '@fresh-coat/core/bytes/text'
import { classesOf, type Run, type SectorClass } from '@fresh-coat/core/dump/sectors'
import type React from 'react'

const look: Record<SectorClass, { letter: string; fill: string; ink: string; words: string }> = {
  blank: { letter: 'b', fill: '#f3f6f4', ink: '#52655f', words: 'blank, all FF' },
  zero: { letter: '0', fill: '#d3dcd8', ink: '#3f524d', words: 'all 00' },
  constant: { letter: 'c', fill: '#ecd9a8', ink: '#5a3d05', words: 'one other value' },
  text: { letter: 't', fill: '#e9b9a6', ink: '#5b1c10', words: 'text' },
  low: { letter: 'l', fill: '#b6cfe0', ink: '#173450', words: 'low: tables, settings' },
  mid: { letter: 'm', fill: '#6f9fb8', ink: '#0b2230', words: 'middle: program code' },
  high: { letter: 'h', fill: '#2f5468', ink: '#f2f7f9', words: 'high: packed or encrypted' },
}
const columns = 64
export const sectorWords = (kind: SectorClass): string => look[kind].words

/** The chip drawn sector by sector, 64 to a row: one colour and one letter per class; differing sectors are struck. */
export function SectorMap({
  runs,
  marked = [],
  label,
  chosen = null,
  onChoose,
}: {
  runs: readonly Run[]
  marked?: readonly number[]
  label: string
  /** The sector that is looked at; a slider beside the map does the same for the keyboard. */
  chosen?: number | null
  onChoose?: (sector: number) => void
}) {
  const classes = classesOf(runs)
  const rows = Math.ceil(classes.length / columns)
  const w = 11
  const h = rows > 24 ? 8 : 14
  const left = 62
  const counts = new Map<SectorClass, number>()
  for (const c of classes) counts.set(c, (counts.get(c) ?? 0) + 1)
  const words = [...counts].map(([c, n]) => `${n} ${look[c].words}`).join('; ')
  return (
    <figure className="grid gap-2">
      <svg
        viewBox={`0 0 ${left + columns * w + 2} ${rows * h + 2}`}
        className="w-full"
        role="img"
        aria-label={`${label}: ${classes.length} sectors. ${words}.`}
        {...(onChoose
          ? {
              style: { cursor: 'crosshair' },
              onClick: (e: React.MouseEvent<SVGSVGElement>) => {
                const box = e.currentTarget.getBoundingClientRect()
                const scale = (left + columns * w + 2) / box.width
                const x = (e.clientX - box.left) * scale - left
                const y = (e.clientY - box.top) * scale
                const sector = Math.floor(y / h) * columns + Math.floor(x / w)
                if (x >= 0 && x < columns * w && sector < classes.length) onChoose(sector)
              },
            }
          : {})}
      >
        {Array.from({ length: rows }, (_, r) => {
          const row = classes.slice(r * columns, (r + 1) * columns)
          // Neighbours of one class are one rectangle: a 16 MiB chip stays light.
          const pieces: { at: number; n: number; kind: SectorClass }[] = []
          row.forEach((kind, i) => {
            const last = pieces.at(-1)
            if (last && last.kind === kind) last.n++
            else pieces.push({ at: i, n: 1, kind })
          })
          return (
            <g key={r}>
              {(rows <= 16 || r % 8 === 0) && (
                <text
                  x={left - 6}
                  y={r * h + h * 0.75}
                  textAnchor="end"
                  className="pin"
                  fontSize="9"
                  fill="var(--ink-3)"
                >
                  {hexNumber(r * columns * 4096)}
                </text>
              )}
              {pieces.map((p) => (
                <g key={p.at}>
                  <rect
                    x={left + p.at * w}
                    y={r * h}
                    width={p.n * w}
                    height={h}
                    fill={look[p.kind].fill}
                    stroke="var(--rule)"
                    strokeWidth="0.5"
                  />
                  {h > 10 && (
                    <text
                      x={left + p.at * w + 2.7}
                      y={r * h + 10.4}
                      className="pin"
                      fontSize="9"
                      fill={look[p.kind].ink}
                      textLength={p.n > 1 ? (p.n - 1) * w + 5.4 : undefined}
                    >
                      {look[p.kind].letter.repeat(p.n)}
                    </text>
                  )}
                </g>
              ))}
            </g>
          )
        })}
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
        {marked.map((s) => {
          const x = left + (s % columns) * w
          const y = Math.floor(s / columns) * h
          return (
            <g key={s}>
              <rect x={x} y={y} width={w} height={h} fill="none" stroke="var(--oxide)" strokeWidth="2" />
              <path d={`M${x} ${y + h} L${x + w} ${y}`} stroke="var(--oxide)" strokeWidth="2" />
            </g>
          )
        })}
      </svg>
      <figcaption className="flex flex-wrap gap-x-4 gap-y-1 text-[0.9rem] text-ink-2">
        {[...counts].map(([c, n]) => (
          <span key={c} className="inline-flex items-center gap-1.5">
            <span
              className="pin grid size-[17px] place-items-center rounded-[3px] border border-rule text-[0.75rem]"
              style={{ background: look[c].fill, color: look[c].ink }}
              aria-hidden="true"
            >
              {look[c].letter}
            </span>
            {n} {look[c].words}
          </span>
        ))}
        {marked.length > 0 && <span className="text-oxide">struck through: {marked.length} differ</span>}
      </figcaption>
    </figure>
  )
}
