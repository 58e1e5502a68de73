import { useState } from 'react'
import { NumberField } from '@/components/forms/fields'
import { buttonClass } from '@/components/paint/paint'

/** A unit asked for by the number on its case. */
export function AskUnit({
  label,
  ask,
  missing = () => false,
  children,
}: {
  label: string
  ask: (number: number) => void
  /** There is none of this number, as far as the page knows. */
  missing?: (number: number) => boolean
  children: string
}) {
  const [number, setNumber] = useState<number | null>(null)
  const none = number !== null && missing(number)
  return (
    <div className="flex flex-wrap items-end gap-3">
      <NumberField
        label={label}
        whole
        min={1}
        value={number}
        onChange={setNumber}
        hint={none ? 'No unit of this update has it.' : ''}
      />
      <button
        type="button"
        className={buttonClass()}
        disabled={number === null || none}
        onClick={() => {
          if (number !== null) ask(number)
          setNumber(null)
        }}
      >
        {children}
      </button>
    </div>
  )
}

/** The same of units that are all here. */
export function PickUnit<U extends { number: number }>({
  label,
  units,
  pick,
  children,
}: {
  label: string
  units: readonly U[]
  pick: (unit: U) => void
  children: string
}) {
  const of = (number: number) => units.find((u) => u.number === number)
  return (
    <AskUnit
      label={label}
      missing={(number) => !of(number)}
      ask={(number) => {
        const unit = of(number)
        if (unit) pick(unit)
      }}
    >
      {children}
    </AskUnit>
  )
}
