import { useState } from 'react'
import { NumberField } from '@/components/forms/fields'
import { buttonClass } from '@/components/paint/paint'

/** One of many, by the number on its case; a number that none of them has is said. */
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
  const [number, setNumber] = useState<number | null>(null)
  const found = units.find((u) => u.number === number)
  return (
    <div className="flex flex-wrap items-end gap-3">
      <NumberField
        label={label}
        whole
        min={1}
        value={number}
        onChange={setNumber}
        hint={number === null || found ? '' : 'No unit of this update has it.'}
      />
      <button
        type="button"
        className={buttonClass()}
        disabled={!found}
        onClick={() => {
          if (found) pick(found)
          setNumber(null)
        }}
      >
        {children}
      </button>
    </div>
  )
}

/** The same where the units are not here: whatever number is typed is asked for. */
export function AskUnit({ label, ask, children }: { label: string; ask: (number: number) => void; children: string }) {
  const [number, setNumber] = useState<number | null>(null)
  return (
    <div className="flex flex-wrap items-end gap-3">
      <NumberField label={label} whole min={1} value={number} onChange={setNumber} />
      <button
        type="button"
        className={buttonClass()}
        disabled={number === null}
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
