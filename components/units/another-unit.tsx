'use client'
import { CommandForm } from '@/components/forms/command-form'
import { TextField } from '@/components/forms/fields'
import { twoDigits } from '@/components/paint/paint'
import { CaseNumberField } from './case-number-field'

/** "Another one of these": number and name count up, the board fills in everything it knows. */
export function AnotherUnit({
  unitId,
  number,
  free,
  name,
  place,
}: {
  unitId: string
  number: number
  free: number
  name: string
  place: string
}) {
  return (
    <details className="rounded-[10px] border border-rule p-3">
      <summary className="font-semibold">Another one of these</summary>
      <p className="my-2 text-ink-2">
        Everything its board knows is filled in; the route is that of unit {twoDigits(number)}. What differs is asked.
      </p>
      <CommandForm
        command="another-unit"
        empty={{ unitId, number: free as number | null, name, place }}
        submit="It has arrived"
        disabled={(v) => v.name.trim() === '' || v.number === null}
        then={(value) => `/units/${value.number}/arrive`}
      >
        {(v, set) => (
          <div className="grid gap-2">
            <CaseNumberField value={v.number} onChange={(n) => set({ number: n })} />
            <TextField label="Its name" value={v.name} maxLength={120} onChange={(n) => set({ name: n })} />
            <TextField label="Where it will live" value={v.place} maxLength={120} onChange={(p) => set({ place: p })} />
          </div>
        )}
      </CommandForm>
    </details>
  )
}
