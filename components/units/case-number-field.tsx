import { NumberField } from '@/components/forms/fields'

/** The number written on a case: how a unit is called from the day it arrives. */
export function CaseNumberField({
  value,
  onChange,
  hint,
}: {
  value: number | null
  onChange: (number: number | null) => void
  hint?: string
}) {
  return (
    <NumberField
      label="Number on its case"
      value={value}
      min={1}
      max={99_999}
      whole
      keepsGood={false}
      onChange={onChange}
      hint={hint}
    />
  )
}
