'use client'
import { hexNumber } from '@fresh-coat/core/bytes/text'
import { classesOf, type Run, sectorBytes } from '@fresh-coat/core/dump/sectors'
import { useId, useState } from 'react'
import { SectorMap, sectorWords } from './drawings/sector-map'
import { HexView } from './hex-view'

/** The chip map with a place on it, and the bytes that stand there. */
export function FileInspector({
  fileId,
  runs,
  marked = [],
  marks = [],
  start = 0,
}: {
  fileId: string
  runs: readonly Run[]
  /** Sectors to strike through. */
  marked?: readonly number[]
  /** Bytes to point out. */
  marks?: readonly number[]
  start?: number
}) {
  const id = useId()
  const [offset, setOffset] = useState(start)
  const classes = classesOf(runs)
  const sector = Math.min(Math.floor(offset / sectorBytes), Math.max(0, classes.length - 1))
  const kind = classes[sector]
  return (
    <div className="grid gap-4">
      {classes.length > 0 && (
        <>
          <SectorMap
            runs={runs}
            label="Chip map"
            marked={marked}
            chosen={sector}
            onChoose={(s) => setOffset(s * sectorBytes)}
          />
          <div className="grid gap-1">
            <label htmlFor={id} className="text-[0.9rem] font-semibold text-ink-2">
              Sector {sector} of {classes.length}, at {hexNumber(sector * sectorBytes)}: {kind ? sectorWords(kind) : ''}
            </label>
            <input
              id={id}
              type="range"
              min={0}
              max={classes.length - 1}
              value={sector}
              aria-valuetext={`Sector ${sector}, ${kind ? sectorWords(kind) : ''}`}
              className="w-full accent-(--verdigris)"
              onChange={(e) => setOffset(Number(e.target.value) * sectorBytes)}
            />
          </div>
        </>
      )}
      <HexView fileId={fileId} offset={offset} onOffset={setOffset} marks={marks} />
    </div>
  )
}
