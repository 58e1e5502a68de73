import { type Definition, settled } from '@fresh-coat/core/behaviour/definition'
import type { PinTemplate } from '@fresh-coat/core/pins/template'
import { readPhraseLines, writePhraseLines } from '@fresh-coat/core/profile/as-lines'
import { filterNames, forms, type Phrases } from '@fresh-coat/core/profile/phrases'
import { renderSettings } from '@fresh-coat/core/profile/settings'
import { useState } from 'react'
import { AreaField, Choice, NumberField } from '@/components/forms/fields'

/** A firmware's settings in its own words: a phrase a line, and beside them what a unit would get. */

const example: PinTemplate = {
  format: 'fresh-coat/pin-template',
  version: 1,
  board: 'example',
  family: 'LX106',
  pins: [
    { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
    { pin: 'GPIO12', fn: 'relay', ch: 1 },
    { pin: 'GPIO13', fn: 'led', active: 'low' },
  ],
}
const does: Definition = {
  channels: [{ ch: 1, onPower: 'last' }],
  inputs: [{ id: 'button', ch: 1, holdMs: 900 }],
  rules: [{ id: 'flip', when: { input: 'button', event: 'short' }, do: [{ set: 'toggle', ch: 1 }] }],
}
const empty = (name: string): Phrases => ({
  format: 'fresh-coat/phrases',
  version: 1,
  name,
  form: 'lines',
  maxLine: 0,
  phrases: {},
})

export function PhrasesForm({
  name,
  phrases,
  onChange,
}: {
  name: string
  phrases: Phrases | null
  onChange: (phrases: Phrases | null) => void
}) {
  const now = phrases ?? empty(name)
  const [text, setText] = useState(() => writePhraseLines(now.phrases))
  const [fault, setFault] = useState<string | null>(null)
  const set = (change: Partial<Phrases>) => onChange({ ...now, name: name || 'firmware', ...change })
  const count = Object.keys(now.phrases).length
  const shown = renderSettings(now, {
    template: example,
    behaviour: settled(does),
    connection: { ssid: 'Lantern', passwordRef: 'x', host: 'pot-7', mqtt: { host: '192.168.71.2', topic: 'yard' } },
  })
  return (
    <details className="border-t border-rule pt-3">
      <summary className="font-semibold">
        Its settings in its own words{' '}
        <span className="font-normal text-ink-2">{count === 0 ? 'none yet' : `${count} phrases`}</span>
      </summary>
      <div className="mt-3 grid gap-3">
        <div className="grid gap-3 sm:grid-cols-2">
          <Choice
            label="They come as"
            value={now.form}
            options={forms.map((f) => ({
              value: f,
              label: { lines: 'lines', yaml: 'a tree', checklist: 'a list to tick' }[f],
            }))}
            onChange={(form) => form && set({ form })}
          />
          <NumberField
            label="A line has at most"
            unit="characters"
            min={0}
            whole
            value={now.maxLine ?? 0}
            onChange={(maxLine) => set({ maxLine: maxLine ?? 0 })}
          />
        </div>
        <div className="grid gap-3 lg:grid-cols-2">
          <AreaField
            label="Phrases: a key, a colon, what is said"
            rows={12}
            value={text}
            maxLength={40_000}
            onChange={(typed) => {
              setText(typed)
              const read = readPhraseLines(typed)
              setFault(read.fault)
              if (read.fault === null) set({ phrases: read.phrases })
            }}
          />
          <div className="grid content-start gap-2">
            <p className="text-[0.9rem] font-semibold text-ink-2">What a plain unit would get</p>
            <pre className="pin min-h-[8rem] overflow-x-auto rounded-[10px] bg-bar px-4 py-3 whitespace-pre-wrap text-[#d5e2dd]">
              {shown.ok ? shown.value.text : ''}
            </pre>
            {fault && <p className="font-semibold text-oxide">{fault} What was there is kept.</p>}
            {!shown.ok && (
              <p className="font-semibold text-oxide" role="alert">
                {shown.faults[0]?.path.replace('/profile/phrases/', '')}: {shown.faults[0]?.message}
              </p>
            )}
            {shown.ok && shown.value.notExpressible.length > 0 && (
              <p className="text-ochre">
                Not said:{' '}
                {shown.value.notExpressible
                  .map((n) => n.key + (n.missing ? ` (no ${n.missing.join(', ')})` : ''))
                  .join(', ')}
                .
              </p>
            )}
            {shown.ok && shown.value.problems.length > 0 && (
              <p className="text-ochre">
                Too long: {shown.value.problems.map((p) => `line ${p.line} has ${p.length} of ${p.max}`).join(', ')}.
              </p>
            )}
          </div>
        </div>
        <p className="text-[0.87rem] text-ink-3">
          In braces what is filled in: {'{pin} {gpio} {index} {active} {ms}'} and so on, with {filterNames.join(', ')}{' '}
          behind a bar. A brace itself is written twice.
        </p>
      </div>
    </details>
  )
}
