'use client'
import { placeholders } from '@fresh-coat/core/flash/own-line'
import { CommandForm } from '@/components/forms/command-form'
import { AreaField, Choice, NumberField, TextField } from '@/components/forms/fields'

interface AdapterValues {
  [key: string]: unknown
  name: string
  pins: string
  logicV: number | null
  max3v3Ma: number | null
  labelledFrom: 'adapter' | 'target'
}
const pinsOf = (text: string) =>
  text
    .trim()
    .split(/[\s,]+/)
    .filter(Boolean)

export function AdapterForm({
  kit,
}: {
  kit?: {
    id: string
    version: number
    name: string
    pins: string[]
    logicV: number
    max3v3Ma: number | null
    labelledFrom: 'adapter' | 'target'
  }
}) {
  const empty: AdapterValues = kit
    ? {
        name: kit.name,
        pins: kit.pins.join(' '),
        logicV: kit.logicV,
        max3v3Ma: kit.max3v3Ma,
        labelledFrom: kit.labelledFrom,
      }
    : { name: '', pins: 'GND CTS 5V TX RX DTR', logicV: 3.3, max3v3Ma: null, labelledFrom: 'adapter' }
  return (
    <CommandForm
      command={kit ? 'edit-kit' : 'add-kit'}
      empty={empty}
      toInput={(v) => {
        const data = { pins: pinsOf(v.pins), logicV: v.logicV, max3v3Ma: v.max3v3Ma, labelledFrom: v.labelledFrom }
        return kit
          ? { kitId: kit.id, version: kit.version, name: v.name, data }
          : { kind: 'adapter', name: v.name, data }
      }}
      submit={kit ? 'Save' : 'Add this adapter'}
      disabled={(v) => !v.name.trim() || pinsOf(v.pins).length === 0 || v.logicV === null}
    >
      {(v, set) => (
        <>
          <div className="grid gap-3 sm:grid-cols-2">
            <TextField label="Name" value={v.name} maxLength={120} onChange={(name) => set({ name })} />
            <TextField
              label="Pins in their order, as labelled"
              mono
              value={v.pins}
              maxLength={200}
              onChange={(pins) => set({ pins })}
              hint="GND 3V3 5V TX RX DTR RTS CTS …"
            />
            <NumberField
              label="Logic level, after its jumper"
              unit="V"
              min={1}
              max={24}
              value={v.logicV}
              onChange={(logicV) => set({ logicV })}
            />
            <NumberField
              label="What its 3V3 pin can give"
              unit="mA"
              min={1}
              max={10000}
              value={v.max3v3Ma}
              onChange={(max3v3Ma) => set({ max3v3Ma })}
              hint="Empty: not known; 50 mA are assumed."
            />
          </div>
          <Choice
            label="Its labels are written from the side of"
            value={v.labelledFrom}
            options={[
              { value: 'adapter', label: 'the adapter' },
              { value: 'target', label: 'the target' },
            ]}
            onChange={(labelledFrom) => set({ labelledFrom })}
          />
        </>
      )}
    </CommandForm>
  )
}

interface InstrumentValues {
  [key: string]: unknown
  name: string
  gainPct: number | null
  digits: number | null
  resolution: number | null
}

export function InstrumentForm() {
  const empty: InstrumentValues = { name: '', gainPct: null, digits: null, resolution: null }
  return (
    <CommandForm
      command="add-kit"
      empty={empty}
      toInput={({ name, ...data }) => ({ kind: 'instrument', name, data })}
      submit="Add this meter"
      disabled={(v) => !v.name.trim() || v.gainPct === null || v.digits === null || v.resolution === null}
    >
      {(v, set) => (
        <div className="grid gap-3 sm:grid-cols-4">
          <TextField label="Reference meter" value={v.name} maxLength={120} onChange={(name) => set({ name })} />
          <NumberField
            label="Class: of reading"
            unit="%"
            min={0}
            max={50}
            value={v.gainPct}
            onChange={(gainPct) => set({ gainPct })}
          />
          <NumberField
            label="plus"
            unit="digits"
            min={0}
            max={1000}
            value={v.digits}
            onChange={(digits) => set({ digits })}
          />
          <NumberField
            label="One digit is"
            min={0}
            max={1000}
            value={v.resolution}
            onChange={(resolution) => set({ resolution })}
          />
        </div>
      )}
    </CommandForm>
  )
}

interface LoadValues {
  [key: string]: unknown
  name: string
  watts: number | null
  kind: 'resistive' | 'charger' | 'motor' | 'other'
}

export function LoadForm() {
  const empty: LoadValues = { name: '', watts: null, kind: 'resistive' }
  return (
    <CommandForm
      command="add-kit"
      empty={empty}
      toInput={({ name, ...data }) => ({ kind: 'load', name, data })}
      submit="Add this load"
      disabled={(v) => !v.name.trim() || v.watts === null}
    >
      {(v, set) => (
        <div className="grid gap-3 sm:grid-cols-3">
          <TextField label="Reference load" value={v.name} maxLength={120} onChange={(name) => set({ name })} />
          <NumberField
            label="Draws"
            unit="W"
            min={0.1}
            max={100000}
            value={v.watts}
            onChange={(watts) => set({ watts })}
          />
          <Choice
            label="Kind"
            value={v.kind}
            options={[
              { value: 'resistive', label: 'Resistive' },
              { value: 'charger', label: 'Charger' },
              { value: 'motor', label: 'Motor' },
              { value: 'other', label: 'Other' },
            ]}
            onChange={(kind) => set({ kind })}
          />
        </div>
      )}
    </CommandForm>
  )
}

/** A person's own line for a tool of theirs; words in braces are filled in at Write. */
export function LineForm({ line }: { line?: { id: string; version: number; name: string; text: string } }) {
  const empty: { [key: string]: unknown; name: string; text: string } = {
    name: line?.name ?? '',
    text: line?.text ?? '',
  }
  return (
    <CommandForm
      command={line ? 'edit-kit' : 'add-kit'}
      empty={empty}
      toInput={(v) =>
        line
          ? { kitId: line.id, version: line.version, name: v.name, data: { text: v.text } }
          : { kind: 'line', name: v.name, data: { text: v.text } }
      }
      submit={line ? 'Save' : 'Keep this line'}
      disabled={(v) => !v.name.trim() || !v.text.trim()}
    >
      {(v, set) => (
        <div className="grid gap-3">
          <TextField label="Name" value={v.name} maxLength={120} onChange={(name) => set({ name })} />
          <AreaField
            label="The line, with its placeholders"
            value={v.text}
            rows={3}
            maxLength={2000}
            onChange={(text) => set({ text })}
            hint={`Filled in: ${placeholders.map((p) => `{${p}}`).join(' ')}`}
          />
        </div>
      )}
    </CommandForm>
  )
}
