'use client'
import { type Family, families } from '@fresh-coat/core/families/families'
import { defaultPrior } from '@fresh-coat/core/identify/identify'
import { CommandButton } from '@/components/forms/command-button'
import { CommandForm } from '@/components/forms/command-form'
import { NumberField, TextField } from '@/components/forms/fields'

type Numbers = Partial<Record<Family, number | null>>
const given = (numbers: Numbers) =>
  Object.fromEntries(Object.entries(numbers).filter(([, n]) => n !== null && n !== undefined && n !== 0))

/** Counts of a printed marking that come from elsewhere; the units of this workshop count by themselves. */
export function MarkingForm() {
  return (
    <CommandForm
      command="keep-marking"
      empty={{ text: '', counts: {} as Numbers }}
      toInput={(v) => ({ text: v.text, counts: given(v.counts) })}
      submit="Keep these counts"
      disabled={(v) => v.text.trim() === ''}
    >
      {(v, set) => (
        <>
          <TextField
            label="Printed on the chip"
            mono
            value={v.text}
            maxLength={80}
            onChange={(text) => set({ text })}
            hint="The same print again replaces what was entered for it."
          />
          <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
            {families.map((f) => (
              <NumberField
                key={f}
                label={f}
                min={0}
                max={100000}
                whole
                value={v.counts[f] ?? null}
                onChange={(n) => set({ counts: { ...v.counts, [f]: n } })}
              />
            ))}
          </div>
        </>
      )}
    </CommandForm>
  )
}

/** What a chip is before anybody has looked: in per cent, adding up to 100. */
export function PriorForm({ prior }: { prior: Partial<Record<Family, number>> | null }) {
  const start = Object.fromEntries(
    families.map((f) => [f, Math.round(((prior ?? defaultPrior)[f] ?? 0) * 1e6) / 1e4]),
  ) as Record<Family, number | null>
  const sum = (v: Record<Family, number | null>) => families.reduce((a, f) => a + (v[f] ?? 0), 0)
  return (
    <div className="grid gap-3">
      <CommandForm
        command="set-prior"
        empty={{ shares: start }}
        toInput={(v) => ({ prior: Object.fromEntries(families.map((f) => [f, (v.shares[f] ?? 0) / 100])) })}
        submit="Use these chances"
        disabled={(v) => Math.abs(sum(v.shares) - 100) > 1e-4}
      >
        {(v, set) => (
          <>
            <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
              {families.map((f) => (
                <NumberField
                  key={f}
                  label={f}
                  unit="%"
                  min={0}
                  max={100}
                  value={v.shares[f]}
                  onChange={(n) => set({ shares: { ...v.shares, [f]: n } })}
                />
              ))}
            </div>
            <p className={Math.abs(sum(v.shares) - 100) > 1e-4 ? 'font-semibold text-oxide' : 'text-ink-2'}>
              They add up to {Math.round(sum(v.shares) * 100) / 100} %; 100 % are needed.
            </p>
          </>
        )}
      </CommandForm>
      {prior && (
        <CommandButton command="set-prior" input={{ prior: null }} look="quiet">
          Back to the shipped ones
        </CommandButton>
      )}
    </div>
  )
}
