'use client'
import { dischargeWait } from '@fresh-coat/core/steps/open/facts'
import { gateHolds, gatesFor, hazardOf } from '@fresh-coat/core/unit/gates'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { type GateId, gateWords, type StepId } from '@fresh-coat/core/unit/way'
import { useState } from 'react'
import { buttonClass, Key } from '@/components/paint/paint'

/** A gate names the hazard of this board and wants a deliberate confirmation. It cannot be ticked beforehand. */
function GateBar({
  view,
  gate,
  hotkey,
  confirm,
}: {
  view: UnitView
  gate: GateId
  hotkey: boolean
  confirm: (measured: string) => void
}) {
  const [measured, setMeasured] = useState('')
  const held = gateHolds(view, gate)
  const record = view.gates.find((g) => g.gate === gate && g.day === view.today)
  const words = gateWords[gate]
  if (held)
    return (
      <div className="flex items-center gap-3 rounded-[10px] border border-rule bg-sheet-2 px-4 py-2 text-ink-2">
        <span className="stripes h-5 w-2.5 shrink-0 rounded-[3px] opacity-60" aria-hidden="true" />
        <span>
          {words.confirm}, confirmed today{record?.measured ? `: ${record.measured} V` : ''}.
        </span>
      </div>
    )
  return (
    <section
      aria-label={`Gate: ${words.title}`}
      className="flex flex-wrap items-center gap-x-4 gap-y-2 rounded-[10px] bg-ochre-soft px-4 py-2.5"
    >
      <span className="stripes h-10 w-3 shrink-0 rounded-[3px]" aria-hidden="true" />
      <p className="min-w-[14rem] flex-1">
        <strong>{words.title}</strong> {hazardOf(view, gate)}
        {gate === 'discharged' &&
          ` Wait at least ${Math.ceil(dischargeWait(view))} s, then measure across each capacitor and the plug pins.`}
      </p>
      {gate === 'discharged' && (
        <label className="flex items-center gap-2">
          <span>Measured</span>
          <input
            className="field pin !w-20"
            inputMode="decimal"
            value={measured}
            onChange={(e) => setMeasured(e.target.value)}
          />
          <span>V</span>
        </label>
      )}
      <button
        type="button"
        data-key={hotkey ? 'g' : undefined}
        className={buttonClass('plain')}
        onClick={() => confirm(measured.trim())}
      >
        {words.confirm}
        {hotkey && <Key>g</Key>}
      </button>
    </section>
  )
}

export function Gates({
  view,
  step,
  confirm,
}: {
  view: UnitView
  step: StepId
  confirm: (gate: GateId, measured: string) => void
}) {
  const gates = gatesFor(view, step)
  const first = gates.find((g) => !gateHolds(view, g))
  if (gates.length === 0) return null
  return (
    <div className="grid gap-2">
      {gates.map((gate) => (
        <GateBar
          key={gate}
          view={view}
          gate={gate}
          hotkey={gate === first}
          confirm={(measured) => confirm(gate, measured)}
        />
      ))}
    </div>
  )
}
