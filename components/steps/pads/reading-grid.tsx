'use client'
import { readingOf } from '@fresh-coat/core/pads/how'
import type { PadReading, ReadingName } from '@fresh-coat/core/pads/readings'
import type { NextReading } from '@fresh-coat/core/pads/solve'
import { type PadRole, padRoles } from '@fresh-coat/core/wiring/wiring'
import { type KeyboardEvent, type ReactNode, useRef } from 'react'
import { buttonClass, percentOf } from '@/components/paint/paint'
import { poweredReadings, ReadingCell, readingWords, unpowered } from './reading-cell'

export interface GridProps {
  readings: readonly PadReading[]
  /** Indices in the order they lie before the person. */
  order: readonly number[]
  marginals: readonly Record<PadRole, number>[] | null
  faults: readonly { pad: number; reading: string; message: string }[]
  next: NextReading | null
  poweredAllowed: boolean
  chosen: number
  onChoose: (index: number) => void
  /** What a pad is numbered as, where that is not its place in the row. */
  numberOf?: (index: number) => number
  onChange: (index: number, reading: PadReading) => void
  /** In practice: the stand-in meter takes the reading. */
  onProbe?: (index: number, reading: ReadingName) => void
}

/** The two most probable roles of a pad, as a bar and in words. */
function Odds({ marginal }: { marginal: Record<PadRole, number> }) {
  const [first, second] = [...padRoles].sort((a, b) => marginal[b] - marginal[a]) as [PadRole, PadRole]
  const word = (r: PadRole) => (r === 'UNKNOWN' ? 'other' : r)
  return (
    <div className="min-w-[7.6rem]">
      <p className="flex justify-between gap-2">
        <strong className="pin">{word(first)}</strong>
        <span className="pin">{percentOf(marginal[first])}</span>
      </p>
      <div className="h-2 overflow-hidden rounded-[3px] bg-unpainted" aria-hidden="true">
        <div className="h-full bg-prussian" style={{ width: `${marginal[first] * 100}%` }} />
      </div>
      <p className="text-[0.85rem] text-ink-2">
        then {word(second)} {percentOf(marginal[second])}
      </p>
    </div>
  )
}

const columns: readonly ReadingName[] = [...unpowered, ...poweredReadings]

const ways: Record<string, [number, number]> = {
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
  Enter: [0, 1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
}

/** Goes from cell to cell by the arrows and Enter. */
function move(e: KeyboardEvent<HTMLElement>, order: readonly number[], table: HTMLElement | null): void {
  const step = ways[e.key]
  const target = e.target as HTMLElement
  if (!step) return
  // Inside a text the arrows move the cursor; only its ends lead on.
  if (target instanceof HTMLInputElement && step[0] !== 0) {
    const at = target.selectionStart ?? 0
    if (step[0] < 0 ? at > 0 : at < target.value.length) return
  }
  const [pad, reading] = (target.dataset.cell ?? '').split(' ')
  const row = order.indexOf(Number(pad)) + step[1]
  const column = columns.indexOf(reading as ReadingName) + step[0]
  const cell = table?.querySelector<HTMLElement>(`[data-cell="${order[row]} ${columns[column]}"]:not(:disabled)`)
  e.preventDefault()
  e.stopPropagation()
  cell?.focus()
  if (cell instanceof HTMLInputElement) cell.select()
}

interface Grid extends GridProps {
  numberOf: (index: number) => number
  cell: (index: number, reading: ReadingName) => ReactNode
  /** May this reading not be taken yet? */
  closed: (reading: ReadingName) => boolean
}

function Heads({ poweredAllowed }: Pick<Grid, 'poweredAllowed'>) {
  return (
    <thead>
      <tr>
        <th rowSpan={2} className="px-1 text-left font-semibold text-ink-2">
          Pad
        </th>
        <th colSpan={unpowered.length} scope="colgroup" className="text-left text-[0.87rem] font-semibold text-ink-2">
          Nothing powered
        </th>
        <th
          colSpan={poweredReadings.length}
          scope="colgroup"
          className="rounded-[5px] bg-ochre-soft px-1.5 text-left text-[0.87rem] font-semibold text-ochre"
        >
          {poweredAllowed ? '3.3 V from the bench, mains off' : 'Only once GND and 3V3 are sure'}
        </th>
        <th rowSpan={2} className="px-1 text-left font-semibold text-ink-2">
          It is
        </th>
      </tr>
      <tr>
        {columns.map((c) => (
          <th key={c} className="px-0.5 text-left text-[0.87rem] font-semibold" title={readingWords[c].hint}>
            {readingWords[c].head}
            {readingWords[c].unit && <span className="font-normal text-ink-3"> {readingWords[c].unit}</span>}
          </th>
        ))}
      </tr>
    </thead>
  )
}

/** All pads at once. */
function AllPads({ order, chosen, onChoose, marginals, poweredAllowed, numberOf, cell, closed }: Grid) {
  return (
    <table className="w-full border-separate border-spacing-[2px]">
      <caption className="sr-only">Readings of every pad</caption>
      <Heads poweredAllowed={poweredAllowed} />
      <tbody>
        {order.map((index) => (
          <tr key={index} className={index === chosen ? 'bg-ok-soft' : ''} onFocus={() => onChoose(index)}>
            <th scope="row" className="pin px-2 text-[1.2rem]">
              {numberOf(index)}
            </th>
            {columns.map((c) => (
              <td key={c} className={`min-w-[3.3rem] ${c === 'label' ? 'min-w-[4rem]' : ''}`}>
                {closed(c) ? (
                  <span className="block text-center text-ink-3" title="GND and 3V3 first">
                    ·
                  </span>
                ) : (
                  cell(index, c)
                )}
              </td>
            ))}
            <td className="pl-2">{marginals?.[index] && <Odds marginal={marginals[index]} />}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** One pad at a time, on a phone. */
function OnePad({ order, chosen, onChoose, marginals, poweredAllowed, numberOf, cell, closed }: Grid) {
  return (
    <>
      <div className="flex items-center gap-2">
        {order.map((index) => (
          <button
            key={index}
            type="button"
            aria-pressed={index === chosen}
            className={`${buttonClass(index === chosen ? 'main' : 'plain')} pin min-w-[2.6rem] flex-1 !px-1`}
            onClick={() => onChoose(index)}
          >
            <span className="sr-only">Pad </span>
            {numberOf(index)}
          </button>
        ))}
      </div>
      {marginals?.[chosen] && <Odds marginal={marginals[chosen]} />}
      {columns
        .filter((c) => !closed(c))
        .map((c) => (
          <div key={c} className="grid grid-cols-[1fr_8rem] items-center gap-3">
            <p>
              <strong>{readingWords[c].head}</strong>{' '}
              <span className="text-[0.87rem] text-ink-2">{readingWords[c].hint}</span>
            </p>
            {cell(chosen, c)}
          </div>
        ))}
      {!poweredAllowed && <p className="text-ochre">Readings under power come once GND and 3V3 are sure.</p>}
    </>
  )
}

/** Readings of all pads in one grid; on a phone one pad at a time. */
export function ReadingGrid(props: GridProps) {
  const { readings, order, faults, next, poweredAllowed, onChange, onProbe } = props
  const table = useRef<HTMLDivElement>(null)
  const cell = (index: number, reading: ReadingName) => (
    <ReadingCell
      pad={index}
      reading={reading}
      value={readings[index]?.[reading]}
      fault={faults.find((f) => f.pad === index && f.reading === reading)?.message ?? ''}
      wanted={next !== null && next.pad === index && readingOf(next.measure) === reading}
      move={(e) => move(e, order, table.current)}
      onChange={(value) => {
        const { [reading]: _, ...rest } = readings[index] ?? {}
        onChange(index, value === undefined ? rest : { ...rest, [reading]: value })
      }}
      {...(onProbe && (poweredAllowed || unpowered.includes(reading)) ? { probe: () => onProbe(index, reading) } : {})}
    />
  )
  const closed = (reading: ReadingName) =>
    !poweredAllowed && poweredReadings.includes(reading) && readings.every((r) => r[reading] === undefined)
  const grid: Grid = { ...props, numberOf: props.numberOf ?? ((index) => index + 1), cell, closed }
  if (order.length === 0) return null
  return (
    <>
      <div ref={table} className="hidden overflow-x-auto md:block">
        <AllPads {...grid} />
      </div>
      <div className="grid gap-3 md:hidden">
        <OnePad {...grid} />
      </div>
    </>
  )
}
