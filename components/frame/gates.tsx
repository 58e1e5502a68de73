'use client'
import type { GatesAt } from '@fresh-coat/core/unit/gates'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { type GateId, gateTitle, gateWords, type StepId } from '@fresh-coat/core/unit/way'
import { useEffect, useState } from 'react'
import { HazardPhoto } from '@/components/drawings/hazard-photo'
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

const timeForm = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' })
const timeOf = (at: string) => timeForm.format(new Date(at))

/** Gates of this step that were confirmed today, as one quiet line with reading and time. */
export function GateLine({ gates: { confirmed } }: { gates: GatesAt }) {
  if (confirmed.length === 0) return null
  return (
    <p className="flex items-baseline gap-2.5 text-[0.93rem] text-ink-2" data-part="gates">
      <span className="stripes inline-block h-2.5 w-6 shrink-0 self-center rounded-[2px]" aria-hidden="true" />
      <span>
        {confirmed.map((g) => (
          <span key={g.gate}>
            {gateWords[g.gate].confirm}, confirmed today
            {g.measured ? `: ${g.measured} ${readings[g.gate]?.unit ?? ''}` : ''}
            <span suppressHydrationWarning>, {timeOf(g.at)}</span>.{' '}
          </span>
        ))}
      </span>
    </p>
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
    <div className="grid gap-1.5" role="timer" aria-label="Discharge clock">
      <span className="font-title text-[3.2rem] leading-none font-bold" suppressHydrationWarning>
        {clockWords(left)}
      </span>
      <span className="h-3 overflow-hidden rounded bg-rule-2">
        <span
          className="block h-full bg-ochre-line"
          style={{ width: `${100 - (100 * left) / Math.max(1, of)}%` }}
          suppressHydrationWarning
        />
      </span>
      <span className="text-ink-2">
        {left > 0 ? `of ${clockWords(of)} since “unplugged”` : 'The wait is over: measure now.'}
      </span>
    </div>
  )
}

function Reading({
  reading,
  value,
  onChange,
}: {
  reading: { label: string; unit: string }
  value: string
  onChange: (text: string) => void
}) {
  return (
    <label className="flex items-center gap-2.5">
      <span>{reading.label}</span>
      <input
        className="field pin !w-28 !text-[1.3rem] font-semibold"
        inputMode="decimal"
        autoComplete="off"
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
      <span>{reading.unit}</span>
    </label>
  )
}

/** Can this be a reading that ends the wait before its time? */
const below30 = (text: string) => text.trim() !== '' && Math.abs(Number(text.trim().replace(',', '.'))) < 30

/**
 * The gate to answer now, in place of the card: it names the hazard of this board and wants a deliberate confirmation. It
 * cannot be ticked beforehand, and nothing else is asked until it is answered.
 */
export function GateCard({
  view,
  step,
  gate,
  gates: { all, clock, hazard },
  confirm,
}: {
  view: UnitView
  step: StepId
  gate: GateId
  gates: GatesAt
  confirm: (said: Said) => void
}) {
  const [measured, setMeasured] = useState('')
  const title = gateTitle(gate, step)
  const reading = readings[gate]
  const left = useSecondsUntil(clock?.over ?? null)
  const early = left > 0
  const mayNot = early && !below30(measured)
  return (
    <form
      aria-label={`Gate: ${title}`}
      className="-mx-5 -my-4 grid min-h-[calc(100%+2rem)] content-start gap-4 bg-ochre-soft px-5 pb-5"
      onSubmit={(e) => {
        e.preventDefault()
        if (!mayNot) confirm({ measured: measured.trim(), ...(early ? { early } : {}) })
      }}
    >
      <span className="stripes -mx-5 block h-4" aria-hidden="true" />
      <p className="text-ink-2">First{all.length > 1 ? `, gate ${all.indexOf(gate) + 1} of ${all.length}` : ''}</p>
      <h2 className="font-title text-[1.65rem] leading-[1.15] font-semibold">{title}</h2>
      <p className="text-[1.02rem]">
        {hazard}
        {clock && ' Measure across each capacitor and the plug pins, with a meter just tried on a known source.'}
      </p>
      {gate !== 'licensed' && gate !== 'current-limit' && <HazardPhoto view={view} wordsOnly={clock !== null} />}
      {clock && <Clock left={left} of={clock.seconds} />}
      {reading && <Reading reading={reading} value={measured} onChange={setMeasured} />}
      <button
        type="submit"
        data-key="g"
        className={`${buttonClass('plain')} min-h-[3.4rem] justify-self-stretch text-[1.1rem]`}
        disabled={mayNot}
      >
        {early ? 'Measured before the time, below 30 V' : gateWords[gate].confirm}
        <Key>g</Key>
      </button>
      {mayNot && <p className="text-ink-2">Before its time the wait ends only with a reading below 30 V.</p>}
    </form>
  )
}
