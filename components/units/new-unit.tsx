'use client'
import { CommandForm } from '@/components/forms/command-form'
import { SelectField, TextField } from '@/components/forms/fields'
import { boardLabel, twoDigits } from '@/components/paint/paint'
import { CaseNumberField } from './case-number-field'

export function NewUnit({
  free,
  boards,
  places,
}: {
  free: number
  boards: { id: string; name: string; units: number }[]
  places: string[]
}) {
  return (
    <CommandForm
      command="create-unit"
      empty={{ number: free as number | null, name: '', place: '', boardId: null as string | null }}
      submit="It has arrived"
      disabled={(v) => v.name.trim() === '' || v.number === null}
      then={(value) => `/units/${value.number}/arrive`}
    >
      {(v, set) => (
        <>
          <div className="grid gap-3 sm:grid-cols-[8rem_1fr]">
            <CaseNumberField
              value={v.number}
              onChange={(number) => set({ number })}
              hint={`${twoDigits(free)} is the next free one.`}
            />
            <TextField
              label="What you call it for now"
              value={v.name}
              startsHere
              maxLength={120}
              onChange={(name) => set({ name })}
            />
          </div>
          <div className="grid gap-3 sm:grid-cols-2">
            <SelectField
              label="Board"
              value={v.boardId}
              none="Nobody knows yet"
              options={boards.map((b) => ({ value: b.id, label: boardLabel(b) }))}
              onChange={(boardId) => set({ boardId })}
              hint="Of a known board, everything known is filled in."
            />
            <TextField
              label="Where it will live"
              value={v.place}
              maxLength={120}
              onChange={(place) => set({ place })}
              hint={places.length ? `So far: ${places.slice(0, 5).join(', ')}` : ''}
            />
          </div>
        </>
      )}
    </CommandForm>
  )
}
