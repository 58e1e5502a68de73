'use client'
import { factsOf, isKnownFamily } from '@fresh-coat/core/families/families'
import { familyOf } from '@fresh-coat/core/journey/facts'
import { padRoles } from '@fresh-coat/core/wiring/wiring'
import { PadRow } from '../drawings/pad-row'
import { Choice, NumberField, SelectField, TextField, Tick } from '../fields'
import { buttonClass } from '../paint'
import type { SurfaceProps } from './context'
import { Block, StepHeading } from './heading'

export function PadsSurface({ view, record }: SurfaceProps<'pads'>) {
  const { data, patch } = record
  const family = familyOf(view)?.family
  const facts = family && isKnownFamily(family) ? factsOf(family) : null
  return (
    <>
      <StepHeading title="Find the serial pads">
        Unpowered first: continuity to a sure ground, ohms to the 3.3 V rail. Powered readings only from 3.3 V on the
        bench, never on mains. Seen from the parts side, left to right.
      </StepHeading>
      <PadRow pads={data.pads} />
      <Block title="The row">
        <div className="flex flex-wrap items-end gap-3">
          {data.pads.map((role, i) => (
            <SelectField
              key={i}
              label={`Pad ${i + 1}`}
              value={role}
              options={padRoles.map((r) => ({ value: r, label: r === 'UNKNOWN' ? 'not known' : r }))}
              onChange={(r) => r && patch({ pads: data.pads.map((x, j) => (j === i ? r : x)) })}
              className="w-[8.2rem]"
            />
          ))}
          <button
            type="button"
            className={buttonClass()}
            disabled={data.pads.length >= 12}
            onClick={() => patch({ pads: [...data.pads, 'UNKNOWN'] })}
          >
            Add a pad
          </button>
          <button
            type="button"
            className={buttonClass('quiet')}
            disabled={data.pads.length === 0}
            onClick={() => patch({ pads: data.pads.slice(0, -1) })}
          >
            Remove the last
          </button>
          <button
            type="button"
            className={buttonClass('quiet')}
            disabled={data.pads.length < 2}
            onClick={() => patch({ pads: [...data.pads].reverse() })}
          >
            Mirror (I read it from below)
          </button>
        </div>
        {data.pads.length >= 12 && <p className="text-ink-2">Twelve pads are the most a row can have here.</p>}
        <div className="grid gap-3 sm:grid-cols-2">
          <NumberField
            label="Pitch"
            unit="mm"
            min={0.3}
            max={10}
            value={data.pitchMm}
            onChange={(pitchMm) => patch({ pitchMm })}
            hint="2.54 is a usual pin header."
          />
          <Choice
            label="How BOOT is reached"
            value={data.bootBy}
            options={[
              { value: 'button', label: 'A button on it' },
              { value: 'pad', label: 'A pad in the row' },
              { value: 'none', label: 'Not at all' },
            ]}
            onChange={(bootBy) => patch({ bootBy })}
          />
        </div>
        <Tick
          label="A regulator takes 5 V on this row (seen on the board)"
          checked={data.regulator5v}
          onChange={(regulator5v) => patch({ regulator5v })}
        />
        <TextField label="How you found them" value={data.note} maxLength={1000} onChange={(note) => patch({ note })} />
      </Block>
      {facts && (
        <p className="text-ink-2">
          {facts.family}: TX is {facts.uart.tx}, RX is {facts.uart.rx}. Strap: {facts.bootStrap}. Its text comes at{' '}
          <span className="pin">{facts.bootBaud}</span>.
        </p>
      )}
    </>
  )
}
