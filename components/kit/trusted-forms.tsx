'use client'
import { dayWords } from '@fresh-coat/core/edge/day'
import { checksInOrder, dueOf, type OwnCheck, wattsByOhms } from '@fresh-coat/core/metering/trusted'
import { CommandForm } from '@/components/forms/command-form'
import { NumberField, TextField } from '@/components/forms/fields'
import { Tag } from '@/components/paint/paint'

/** References and loads as they stand: when they were checked themselves, and what that says. */

interface Reference {
  id: string
  version: number
  name: string
  gainPct: number
  digits: number
  resolution: number
  checks: OwnCheck[]
  everyMonths: number | null
}

export function ReferenceRow({ reference, today }: { reference: Reference; today: string }) {
  const { id, version, name, ...data } = reference
  const checks = checksInOrder(data.checks)
  const due = dueOf(data.checks, data.everyMonths)
  const kept = { gainPct: data.gainPct, digits: data.digits, resolution: data.resolution }
  const empty: { [key: string]: unknown; on: string; note: string; everyMonths: number | null } = {
    on: today,
    note: '',
    everyMonths: data.everyMonths ?? 24,
  }
  return (
    <li className="sheet grid gap-1.5 px-4 py-2.5">
      <p>
        <strong>{name}</strong> ±({data.gainPct} % of reading + {data.digits} digits), one digit is {data.resolution}
      </p>
      <p className="flex flex-wrap gap-2.5">
        {checks.length === 0 ? (
          <>
            <Tag severity="watch">not checked</Tag> Nobody has written down when it was checked itself.
          </>
        ) : (
          <>
            {due !== null && <Tag severity={due < today ? 'watch' : 'ok'}>{due < today ? 'due' : 'ok'}</Tag>}
            <span>
              Checked {dayWords(checks[0]?.on ?? '')}
              {checks[0]?.note ? `, ${checks[0].note}` : ''}
              {due === null ? '' : `; again ${dayWords(due)}`}
              {checks.length > 1
                ? `. Before: ${checks
                    .slice(1, 5)
                    .map((c) => dayWords(c.on))
                    .join(', ')}`
                : ''}
            </span>
          </>
        )}
      </p>
      <details>
        <summary className="text-[0.93rem] underline underline-offset-4">It was checked</summary>
        <div className="mt-2">
          <CommandForm
            command="edit-kit"
            empty={empty}
            toInput={(v) => ({
              kitId: id,
              version,
              name,
              data: {
                ...kept,
                everyMonths: v.everyMonths,
                checks: [...data.checks, { on: v.on, note: v.note }].slice(-40),
              },
            })}
            submit="Write it down"
            disabled={(v) => !/^\d{4}-\d{2}-\d{2}$/.test(v.on)}
          >
            {(v, set) => (
              <div className="grid gap-3 sm:grid-cols-3">
                <TextField label="On" mono value={v.on} maxLength={10} onChange={(on) => set({ on })} />
                <TextField
                  label="By whom, against what"
                  value={v.note}
                  maxLength={120}
                  onChange={(note) => set({ note })}
                />
                <NumberField
                  label="Again after"
                  unit="months"
                  min={1}
                  max={120}
                  whole
                  value={v.everyMonths}
                  onChange={(everyMonths) => set({ everyMonths })}
                />
              </div>
            )}
          </CommandForm>
        </div>
      </details>
    </li>
  )
}

interface KnownLoad {
  id: string
  version: number
  name: string
  watts: number
  kind: string
  ohms: number | null
  checkedOn: string | null
}

export function LoadRow({ load, today, volts }: { load: KnownLoad; today: string; volts: number }) {
  const by = load.ohms === null ? null : wattsByOhms(load.kind, load.watts, load.ohms, volts)
  const empty: { [key: string]: unknown; ohms: number | null } = { ohms: load.ohms }
  return (
    <li className="sheet grid gap-1.5 px-4 py-2.5">
      <p>
        <strong>{load.name}</strong> {load.watts} W, {load.kind}
      </p>
      {by && (
        <p className="flex gap-2.5">
          <Tag severity={by.agrees ? 'ok' : 'watch'}>{by.agrees ? 'ok' : 'drifted'}</Tag>
          <span>
            {load.ohms} Ω cold, {dayWords(load.checkedOn ?? '')}: {by.watts.toFixed(0)} W at {volts} V
            {by.agrees ? '.' : '. Its watts are not what is written here any more.'}
          </span>
        </p>
      )}
      {load.kind === 'resistive' && (
        <details>
          <summary className="text-[0.93rem] underline underline-offset-4">Its resistance, measured cold</summary>
          <div className="mt-2 max-w-sm">
            <CommandForm
              command="edit-kit"
              empty={empty}
              toInput={(v) => ({
                kitId: load.id,
                version: load.version,
                name: load.name,
                data: { watts: load.watts, kind: load.kind, ohms: v.ohms, checkedOn: today },
              })}
              submit="Keep it"
              disabled={(v) => v.ohms === null || v.ohms <= 0}
            >
              {(v, set) => (
                <NumberField
                  label="Unplugged, between its pins"
                  unit="Ω"
                  min={0}
                  max={1e6}
                  value={v.ohms}
                  onChange={(ohms) => set({ ohms })}
                  hint="Of a heater. A lamp’s filament is another thing cold."
                />
              )}
            </CommandForm>
          </div>
        </details>
      )}
    </li>
  )
}
