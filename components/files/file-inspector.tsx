'use client'
import { hexNumber } from '@fresh-coat/core/bytes/text'
import { classesOf, type Run, sectorBytes } from '@fresh-coat/core/dump/sectors'
import type { LayoutRegion } from '@fresh-coat/core/image/partitions'
import { useCallback, useId, useState } from 'react'
import { SectorMap, sectorWords } from '@/components/drawings/sector-map'
import { HexView } from './hex-view'

const nothing: readonly never[] = []

/** The chip map with a place on it, and the bytes that stand there. */
export function FileInspector({
  fileId,
  runs,
  marked = nothing,
  marks = nothing,
  start = 0,
  regions = nothing,
  name = '',
}: {
  fileId: string
  /** What it is called where several stand beside each other. */
  name?: string
  runs: readonly Run[]
  /** Sectors to strike through. */
  marked?: readonly number[]
  /** Bytes to point out. */
  marks?: readonly number[]
  start?: number
  /** What lies where, by the layout or the headers. */
  regions?: readonly LayoutRegion[]
}) {
  const id = useId()
  const [offset, setOffset] = useState(start)
  const classes = classesOf(runs)
  const sector = Math.min(Math.floor(offset / sectorBytes), Math.max(0, classes.length - 1))
  const [pointed, setPointed] = useState<number | null>(null)
  const choose = useCallback((s: number) => setOffset(s * sectorBytes), [])
  const says = (s: number) => {
    const at = s * sectorBytes
    const owner = regions.find((r) => at < r.offset + r.length && at + sectorBytes > r.offset && r.label !== '')
    return `Sector ${s} of ${classes.length}, at ${hexNumber(at)}: ${classes[s] ? sectorWords(classes[s]) : ''}${owner ? `, in “${owner.label}”` : ''}`
  }
  return (
    <div className="grid gap-4">
      {classes.length > 0 && (
        <>
          <SectorMap
            runs={runs}
            label={name ? `Chip map of ${name}` : 'Chip map'}
            marked={marked}
            chosen={sector}
            onChoose={choose}
            onPoint={setPointed}
          />
          <p className="min-h-[1.5em] text-[0.9rem] text-ink-2" aria-hidden="true">
            {pointed === null ? 'Point at a sector, or press on it to see its bytes.' : says(pointed)}
          </p>
          <div className="grid gap-1">
            <label htmlFor={id} className="text-[0.9rem] font-semibold text-ink-2">
              {says(sector)}
            </label>
            <input
              id={id}
              type="range"
              min={0}
              max={classes.length - 1}
              value={sector}
              aria-valuetext={says(sector)}
              className="w-full accent-(--verdigris)"
              onChange={(e) => setOffset(Number(e.target.value) * sectorBytes)}
            />
          </div>
        </>
      )}
      <HexView name={name} fileId={fileId} offset={offset} onOffset={setOffset} marks={marks} />
    </div>
  )
}
