'use client'
import { families } from '@fresh-coat/core/families/families'
import { contactsOf, edgeWords, type KitModule, readEdge, readModuleMap } from '@fresh-coat/core/module/map'
import { type RefitEdge, refitEdges } from '@fresh-coat/core/refit/refit'
import { ContactMap } from '@/components/drawings/contact-map'
import { CommandForm } from '@/components/forms/command-form'
import { AreaField, Choice, NumberField, TextField, Tick } from '@/components/forms/fields'

interface Values {
  [key: string]: unknown
  name: string
  family: KitModule['family']
  left: string
  right: string
  top: string
  bottom: string
  pitchMm: number | null
  headerless: boolean
}

/** Edges as they are written; numbers count on from edge to edge. */
function edgesOf(v: Values): KitModule['edges'] {
  let from = 1
  return refitEdges.flatMap((side: RefitEdge) => {
    const contacts = readEdge(v[side] as string, from)
    from = Math.max(from - 1, ...contacts.map((c) => c.n)) + 1
    return contacts.length > 0 ? [{ side, contacts }] : []
  })
}

const dataOf = (v: Values) => ({
  family: v.family,
  edges: edgesOf(v),
  pitchMm: v.pitchMm ?? 0,
  headerless: v.headerless,
})

const valuesOf = (m: KitModule): Values => ({
  name: m.name,
  family: m.family,
  left: '',
  right: '',
  top: '',
  bottom: '',
  ...Object.fromEntries(m.edges.map((e) => [e.side, edgeWords(e.contacts)])),
  pitchMm: m.pitchMm,
  headerless: m.headerless ?? false,
})

const empty: Values = {
  name: '',
  family: 'LX106',
  left: '',
  right: '',
  top: '',
  bottom: '',
  pitchMm: 2,
  headerless: false,
}

const edgeNames = {
  left: 'Left edge, top to bottom',
  right: 'Right edge, top to bottom',
  top: 'Top edge, left to right',
  bottom: 'Bottom edge, left to right',
}

/** The map as it is typed, drawn: what is wrong with it is said before it is saved. */
function Drawn({ values }: { values: Values }) {
  const edges = edgesOf(values)
  if (edges.length === 0) return <p className="text-ink-2">The module is drawn here as you write its edges down.</p>
  const read = readModuleMap(dataOf(values))
  return (
    <>
      <ContactMap
        name={values.name || 'module'}
        contacts={contactsOf({ edges }).map((c) => ({ ...c, sure: null, wrong: false, note: '' }))}
      />
      {!read.ok && <p className="font-semibold text-oxide">{read.faults[0]?.message}</p>}
    </>
  )
}

/** A module's contact map, drawn above the words it is written in. */
export function ModuleForm({ module }: { module?: KitModule & { version: number } }) {
  return (
    <CommandForm
      command={module ? 'edit-kit' : 'add-kit'}
      empty={module ? valuesOf(module) : empty}
      toInput={(v) =>
        module
          ? { kitId: module.id, version: module.version, name: v.name, data: dataOf(v) }
          : { kind: 'module', name: v.name, data: dataOf(v) }
      }
      submit={module ? 'Save' : 'Add this module'}
      disabled={(v) => !v.name.trim() || !readModuleMap(dataOf(v)).ok}
    >
      {(v, set) => (
        <>
          <Drawn values={v} />
          <div className="grid gap-3 sm:grid-cols-2">
            <TextField label="Name" value={v.name} maxLength={120} onChange={(name) => set({ name })} />
            <NumberField
              label="Pitch of its contacts"
              unit="mm"
              min={0.3}
              max={10}
              value={v.pitchMm}
              onChange={(pitchMm) => set({ pitchMm })}
            />
          </div>
          <Choice
            label="Family"
            value={v.family}
            options={families.map((f) => ({ value: f, label: f }))}
            onChange={(family) => set({ family })}
          />
          <p className="text-ink-2">
            From its parts side, contact by contact, with commas: a role (GND 3V3 TX RX BOOT RST EN 5V NC), the pin, or
            both; a number where they do not count on. “?” is a contact nobody knows.
          </p>
          <div className="grid gap-3 sm:grid-cols-2">
            {refitEdges.map((side) => (
              <AreaField
                key={side}
                label={edgeNames[side]}
                value={v[side]}
                rows={2}
                maxLength={600}
                onChange={(text) => set({ [side]: text })}
              />
            ))}
          </div>
          <Tick
            label="Soldered flat to its carrier: no header is meant for it"
            checked={v.headerless}
            onChange={(headerless) => set({ headerless })}
          />
        </>
      )}
    </CommandForm>
  )
}
