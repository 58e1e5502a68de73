import { within } from '@fresh-coat/core/edge/within'
import { howTo, measureName, readingOf } from '@fresh-coat/core/pads/how'
import { type Measure, type PadReading, type ReadingName, readOhms, readVolts } from '@fresh-coat/core/pads/readings'
import type { PadSolution } from '@fresh-coat/core/pads/solve'
import { padStateOfReadings } from '@fresh-coat/core/steps/pads/facts'
import { useState } from 'react'
import { type Answer, Answers, Card } from '@/components/frame/card'
import { Key, percentOf } from '@/components/paint/paint'
import { readingWords } from './reading-cell'
import { openMeasures } from './readings'

export interface Target {
  pad: number
  measure: Measure
}

/** What the row would be with one more reading: "then it is TX". */
function thenWords(readings: readonly PadReading[], railKnown: boolean, target: Target, value: boolean): string {
  const tried = readings.map((r, i) => (i === target.pad ? { ...r, [readingOf(target.measure)]: value } : r))
  const { solution } = padStateOfReadings(tried, railKnown)
  const role = solution?.best.roles[target.pad]
  if (!solution || !role) return ''
  return `then ${role === 'UNKNOWN' ? 'none of them' : role}, ${percentOf(solution.marginals[target.pad]?.[role] ?? 0)}`
}

/** Where the probes go, in words. */
function How({ measure, called }: { measure: Measure; called: string }) {
  const how = howTo[measure]
  if (how.black === '–') return <p>Look: {how.enter}.</p>
  return (
    <div className="grid gap-1">
      <p>
        Meter on <strong>{how.setting}</strong>. Black on {how.black}. Red on {how.red.replace('the pad', called)}.
      </p>
      <p className="text-[0.93rem] text-ink-2">
        {how.powered ? '3.3 V from a bench supply or the adapter; never the mains.' : 'Nothing is powered.'}
      </p>
    </div>
  )
}

const reads: Partial<Record<ReadingName, (text: string) => number | 'open' | null>> = {
  ohms_3v3: readOhms,
  volts: readVolts,
  volts_10k: readVolts,
}

/** A reading that is typed: volts, ohms, or what is printed. */
function Typed({ target, called, take }: { target: Target; called: string; take: (value: number | string) => void }) {
  const name = readingOf(target.measure)
  const words = readingWords[name]
  const [text, setText] = useState('')
  const read = reads[name]
  const value = read ? read(text) : text.trim()
  const bad = text.trim() !== '' && value === null
  return (
    <form
      className="grid gap-1.5"
      onSubmit={(e) => {
        e.preventDefault()
        if (value === null || (read && text.trim() === '')) return
        take(value)
        setText('')
      }}
    >
      <label className="flex items-center gap-2.5">
        <span className="sr-only">{`${upper(called)}, ${words.head}`}</span>
        <input
          data-key="n"
          className="field pin !min-h-[3.1rem] max-w-[11rem] !text-[1.5rem] font-semibold"
          inputMode={read ? 'decimal' : 'text'}
          autoComplete="off"
          maxLength={40}
          aria-invalid={bad}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <span>{words.unit}</span>
        <button type="submit" className="min-h-[3.1rem] rounded-[10px] border border-ink bg-sheet px-3 font-semibold">
          Take it<Key>Enter</Key>
        </button>
      </label>
      <p className={`text-[0.9rem] ${bad ? 'font-semibold text-oxide' : 'text-ink-2'}`}>
        {bad ? `“${text}” is no reading: ${words.hint}.` : words.hint}
      </p>
    </form>
  )
}

interface Props {
  target: Target
  /** "pad 3", or "contact 9" of a module. */
  called?: (pad: number) => string
  readings: readonly PadReading[]
  railKnown: boolean
  solution: PadSolution | null
  put: (pad: number, reading: PadReading) => void
  choose: (target: Target) => void
  pass: () => void
}

function answersFor({ target, readings, railKnown, put, pass }: Props): Answer[] {
  const name = readingOf(target.measure)
  const words = readingWords[name]
  const cell = readings[target.pad] ?? {}
  const take = (value: unknown) => put(target.pad, { ...cell, [name]: value })
  const cannot: Answer = { label: 'Cannot tell: ask another', pick: pass }
  if (words.yes)
    return [
      { label: upper(words.yes), hint: thenWords(readings, railKnown, target, true), pick: () => take(true) },
      { label: upper(words.no ?? 'no'), hint: thenWords(readings, railKnown, target, false), pick: () => take(false) },
      cannot,
    ]
  if (name === 'ohms_3v3') return [{ label: 'Open: nothing', pick: () => take('open') }, cannot]
  if (name === 'volts') return [{ label: 'It floats', pick: () => take(0) }, cannot]
  if (name === 'label') return [{ label: 'Nothing is printed', pick: () => take('') }, cannot]
  return [cannot]
}

const upper = (s: string) => `${(s[0] ?? '').toUpperCase()}${s.slice(1)}`

/** The next reading: where the probes go, what may be seen, each with its digit. */
export function ReadingCard(props: Props) {
  const { target, readings, solution, put, choose } = props
  const called = (props.called ?? ((pad) => `pad ${pad + 1}`))(target.pad)
  const name = readingOf(target.measure)
  const cell = readings[target.pad] ?? {}
  const best = solution?.next.find((n) => n.pad === target.pad && n.measure === target.measure)
  const first = best !== undefined && solution?.next[0] === best
  const others = openMeasures(cell, solution?.poweredAllowed ?? props.railKnown).filter((m) => m !== target.measure)
  const typed = readingWords[name].yes === undefined
  return (
    <Card
      lead={
        best
          ? `${first ? 'Next, tells most' : 'Tells'}: ${best.bits < 0.005 ? 'enough is known' : `${best.bits.toFixed(2)} bit`} in ${best.minutes} min`
          : 'As you chose'
      }
      ask={`${upper(called)}: ${measureName(target.measure)}`}
      how={<How measure={target.measure} called={called} />}
      {...(typed ? {} : { answers: answersFor(props) })}
    >
      {typed && (
        <Typed
          key={`${target.pad} ${target.measure}`}
          target={target}
          called={called}
          take={(value) => put(target.pad, { ...cell, [name]: value } as PadReading)}
        />
      )}
      {typed && <Answers answers={answersFor(props)} />}
      {others.length > 0 && (
        <p className="flex flex-wrap gap-x-3 gap-y-1 text-[0.9rem] text-ink-2">
          or at {called}:
          {others.map((m) => (
            <button
              key={m}
              type="button"
              className="underline underline-offset-4"
              onClick={() => choose({ pad: target.pad, measure: m })}
            >
              {within(readingWords[readingOf(m)].head)}
            </button>
          ))}
        </p>
      )}
    </Card>
  )
}
