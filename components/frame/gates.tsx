'use client'
import { dischargeClock, gateInTheWay, gatesFor, hazardOf, openGate } from '@fresh-coat/core/unit/gates'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { type GateId, gateWords, type StepId } from '@fresh-coat/core/unit/way'
import { useEffect, useState } from 'react'
import { buttonClass, Key } from '@/components/paint/paint'

/** What a gate is confirmed with. */
export interface Said {
  measured: string
  /** Before the discharge clock is over. */
  early?: boolean
}

/** What is written down with a confirmation, and its unit. */
const readings: Partial<Record<GateId, { label: string; unit: string }>> = {
  discharged: { label: 'Measured', unit: 'V' },
  'current-limit': { label: 'Limit', unit: 'mA' },
}

function GateLine({ view, gate }: { view: UnitView; gate: GateId }) {
  const record = openGate(view, gate)
  const time = record?.at
    ? new Date(record.at).toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit' })
    : ''
  return (
    <div className="flex items-center gap-3 rounded-[10px] border border-rule bg-sheet-2 px-4 py-2 text-ink-2">
      <span className="stripes h-5 w-2.5 shrink-0 rounded-[3px] opacity-60" aria-hidden="true" />
      <span>
        {gateWords[gate].confirm}, confirmed today
        {record?.measured ? `: ${record.measured} ${readings[gate]?.unit ?? ''}` : ''}
        <span suppressHydrationWarning>{time && `, ${time}`}</span>.
      </span>
    </div>
  )
}

/** Seconds until a moment, counted down while the page is open. */
function useSecondsUntil(moment: string | null): number {
  const left = () => (moment === null ? 0 : Math.max(0, Math.ceil((Date.parse(moment) - Date.now()) / 1000)))
  const [seconds, setSeconds] = useState(left)
  // biome-ignore lint/correctness/useExhaustiveDependencies: counts anew when the moment changes
  useEffect(() => {
    setSeconds(left())
    const timer = setInterval(() => setSeconds(left()), 500)
    return () => clearInterval(timer)
  }, [moment])
  return seconds
}

const clockWords = (seconds: number) => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`

function Clock({ left, of }: { left: number; of: number }) {
  return (
    <p className="flex w-full items-center gap-3" role="timer" aria-label="Discharge clock">
      <span className="pin text-[1.6rem]" suppressHydrationWarning>
        {clockWords(left)}
      </span>
      <span className="h-2.5 flex-1 overflow-hidden rounded bg-rule-2">
        <span
          className="block h-full bg-ochre-line"
          style={{ width: `${100 - (100 * left) / Math.max(1, of)}%` }}
          suppressHydrationWarning
        />
      </span>
      <span className="text-ink-2">
        {left > 0 ? `of ${clockWords(of)} since “unplugged”` : 'The wait is over: measure now.'}
      </span>
    </p>
  )
}

/** Can this be a reading that ends the wait before its time? */
const below30 = (text: string) => text.trim() !== '' && Math.abs(Number(text.trim().replace(',', '.'))) < 30

/** A gate names the hazard of this board and wants a deliberate confirmation. It cannot be ticked beforehand. */
function OpenGate({ view, gate, confirm }: { view: UnitView; gate: GateId; confirm: (said: Said) => void }) {
  const [measured, setMeasured] = useState('')
  const words = gateWords[gate]
  const reading = readings[gate]
  const clock = gate === 'discharged' ? dischargeClock(view) : null
  const left = useSecondsUntil(clock?.over ?? null)
  const early = left > 0
  const mayNot = early && !below30(measured)
  return (
    <section
      aria-label={`Gate: ${words.title}`}
      className="flex flex-wrap items-center gap-x-4 gap-y-2 rounded-[10px] bg-ochre-soft px-4 py-2.5"
    >
      <span className="stripes h-10 w-3 shrink-0 rounded-[3px]" aria-hidden="true" />
      <p className="min-w-[14rem] flex-1">
        <strong>{words.title}</strong> {hazardOf(view, gate)}
        {clock && ' Measure across each capacitor and the plug pins, with a meter just tried on a known source.'}
      </p>
      {clock && <Clock left={left} of={clock.seconds} />}
      {reading && (
        <label className="flex items-center gap-2">
          <span>{reading.label}</span>
          <input
            className="field pin !w-20"
            inputMode="decimal"
            value={measured}
            onChange={(e) => setMeasured(e.target.value)}
          />
          <span>{reading.unit}</span>
        </label>
      )}
      <button
        type="button"
        data-key="g"
        className={buttonClass('plain')}
        disabled={mayNot}
        onClick={() => confirm({ measured: measured.trim(), ...(early ? { early } : {}) })}
      >
        {early ? 'Measured before the time, below 30 V' : words.confirm}
        <Key>g</Key>
      </button>
      {mayNot && <p className="w-full text-ink-2">Before its time the wait ends only with a reading below 30 V.</p>}
    </section>
  )
}

/** The gates of a step, one after the other: those confirmed as a quiet line each, then the one to answer now. */
export function Gates({
  view,
  step,
  confirm,
}: {
  view: UnitView
  step: StepId
  confirm: (gate: GateId, said: Said) => void
}) {
  const gates = gatesFor(view, step)
  if (gates.length === 0) return null
  const now = gateInTheWay(view, step)
  return (
    <div className="grid gap-2">
      {gates
        .filter((gate) => openGate(view, gate))
        .map((gate) => (
          <GateLine key={gate} view={view} gate={gate} />
        ))}
      {now && <OpenGate key={now} view={view} gate={now} confirm={(said) => confirm(now, said)} />}
    </div>
  )
}
