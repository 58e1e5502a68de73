'use client'
import { measureOf, type PadReading, type ReadingName } from '@fresh-coat/core/pads/readings'
import { padStateOfReadings } from '@fresh-coat/core/steps/pads/facts'
import { type PadRole, padRoles } from '@fresh-coat/core/wiring/wiring'
import { useState } from 'react'
import { PadField } from '@/components/drawings/pad-field'
import { SelectField } from '@/components/forms/fields'
import { buttonClass, Tag } from '@/components/paint/paint'
import { PadAdvice } from '@/components/steps/pads/pad-advice'
import { ReadingGrid } from '@/components/steps/pads/reading-grid'
import { type HuntScore, makeVirtualBoard, probe, scoreHunt, type VirtualBoard } from '@/standins/virtual-board'
import { HuntHead } from './hunt-head'
import { NotKept, useKeepScore } from './keep-score'

const minutesOf = (reading: ReadingName) => measureOf(reading === 'volts_10k' ? 'sag_10k' : reading).minutes

const blankSolution = (readings: readonly PadReading[]) => padStateOfReadings(readings, false, true).solution

/** A hunt on one virtual board: what was read there, how long that took, and what the hunter says of each pad. */
function useHunt(first: number) {
  const keeping = useKeepScore()
  const [seed, setSeed] = useState(first)
  const board = makeVirtualBoard(seed)
  const [readings, setReadings] = useState<PadReading[]>(() => board.roles.map(() => ({})))
  const [minutes, setMinutes] = useState(0)
  const [answer, setAnswer] = useState<(PadRole | null)[]>([])
  const [over, setOver] = useState<HuntScore | null>(null)
  const { solution, faults } = padStateOfReadings(readings, false)
  const roles = board.roles.map((_, i): PadRole => answer[i] ?? solution?.best.roles[i] ?? 'UNKNOWN')
  return {
    ...{ keeping, seed, board, readings, minutes, over, solution, faults, roles },
    start: (next: number) => {
      setSeed(next)
      setReadings(makeVirtualBoard(next).roles.map(() => ({})))
      setMinutes(0)
      setAnswer([])
      setOver(null)
      keeping.forget()
    },
    read: (index: number, reading: ReadingName) => {
      if (over) return
      const shown = probe(board, index, reading)
      setReadings(readings.map((r, i) => (i === index ? { ...r, ...shown } : r)))
      setMinutes(minutes + minutesOf(reading))
    },
    say: (index: number, role: PadRole) =>
      setAnswer(board.roles.map((_, i) => (i === index ? role : (answer[i] ?? null)))),
    finish: async () => {
      const result = scoreHunt(board, roles, minutes)
      setOver(result)
      await keeping.keep({
        kind: 'pad hunt',
        family: board.family,
        score: result.score,
        data: { seed, minutes, wrong: result.wrong.length },
      })
    },
  }
}
type Hunt = ReturnType<typeof useHunt>

/** The row as it is thought to be; afterwards as it is. */
function Row({
  hunt: { board, roles, readings, solution, over },
  chosen,
  onChoose,
}: {
  hunt: Hunt
  chosen: number
  onChoose: (index: number) => void
}) {
  return (
    <PadField
      pads={board.roles.map((hidden, index) => {
        const role = over ? hidden : (roles[index] as PadRole)
        return {
          index,
          role,
          sure: solution?.marginals[index]?.[role] ?? null,
          square: readings[index]?.square ?? false,
          label: readings[index]?.label ?? '',
          conflict: over ? over.wrong.includes(index) : false,
        }
      })}
      rows={1}
      face="top"
      chosen={chosen}
      onChoose={onChoose}
    />
  )
}

function Said({ hunt: { board, roles, over, say, finish } }: { hunt: Hunt }) {
  return (
    <div className="flex flex-wrap items-end gap-3">
      {board.roles.map((_, i) => (
        <SelectField
          key={i}
          label={`Pad ${i + 1} is`}
          value={roles[i] ?? 'UNKNOWN'}
          options={padRoles.map((r) => ({ value: r, label: r === 'UNKNOWN' ? 'other' : r }))}
          onChange={(r) => r && say(i, r)}
          className="w-[8rem]"
        />
      ))}
      <button type="button" className={buttonClass('main')} disabled={over !== null} onClick={() => void finish()}>
        That is the row
      </button>
    </div>
  )
}

function Score({ over, board, minutes }: { over: HuntScore; board: VirtualBoard; minutes: number }) {
  const isOf = (i: number) => `${i + 1} is ${board.roles[i] === 'UNKNOWN' ? 'none of them' : board.roles[i]}`
  return (
    <p className="flex flex-wrap items-center gap-3 text-[1.15rem]" aria-live="polite">
      <span className="font-title text-[2.2rem] font-bold">{over.score}</span>
      <Tag severity={over.wrong.length === 0 ? 'ok' : 'error'}>
        {over.wrong.length === 0 ? 'all right' : `${over.wrong.length} wrong`}
      </Tag>
      <span>
        {over.wrong.length > 0 && `Pad ${over.wrong.map(isOf).join(', pad ')}. `}
        The advice alone needs {over.par.toFixed(1)} min; you took {minutes.toFixed(1)}. Its family: {board.family}.
      </span>
    </p>
  )
}

/** Find the pads of a board that nobody labelled: the meter is a stand-in, the solver and the grid are the real ones. */
export function PadHunt({ first }: { first: number }) {
  const hunt = useHunt(first)
  const { keeping, seed, board, readings, minutes, over, solution, faults } = hunt
  const [chosen, setChosen] = useState(0)
  const [advice, setAdvice] = useState(true)
  const start = (next: number) => {
    hunt.start(next)
    setChosen(0)
  }
  return (
    <div className="grid gap-4">
      <HuntHead thing="board" seed={seed} start={start}>
        <p className="pb-2">
          <span className="pin text-[1.2rem]">{minutes.toFixed(1)} min</span>{' '}
          <span className="text-ink-2">at the bench, as each reading takes there</span>
        </p>
        <label className="flex items-center gap-2 pb-2">
          <input type="checkbox" className="size-5" checked={advice} onChange={(e) => setAdvice(e.target.checked)} />
          Advice
        </label>
      </HuntHead>
      <div className="grid gap-4 lg:grid-cols-[minmax(0,5fr)_minmax(0,4fr)]">
        <Row hunt={hunt} chosen={chosen} onChoose={setChosen} />
        {advice && !over ? <PadAdvice solution={solution ?? blankSolution(readings)} faults={faults} /> : null}
      </div>
      <ReadingGrid
        readings={readings}
        order={board.roles.map((_, i) => i)}
        marginals={advice ? (solution?.marginals ?? null) : null}
        faults={faults}
        next={advice ? (solution?.next[0] ?? null) : null}
        poweredAllowed={solution?.poweredAllowed ?? false}
        chosen={chosen}
        onChoose={setChosen}
        onChange={() => {}}
        onProbe={hunt.read}
      />
      <Said hunt={hunt} />
      {over && <Score over={over} board={board} minutes={minutes} />}
      <NotKept {...keeping} />
    </div>
  )
}
