import { toQuantity } from '@fresh-coat/core/steps/meter/quantity'
import { Choice, NumberField, SelectField, Tick } from '@/components/forms/fields'
import { Word } from '@/components/frame/drawer'
import Link from '@/components/link'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'meter'>, 'record' | 'choices'>

export const units = { P: 'W', I: 'A', V: 'V' }
const quantityWords = { P: 'Power', I: 'Current', V: 'Voltage' }
const loadWords = { resistive: 'A resistive load', charger: 'A charger', motor: 'A motor', other: 'Another load' }
const modelWords = { auto: 'the data decide the model', gain: 'a gain only', gainOffset: 'a gain and an offset' }

/** What is measured, and how finely the unit shows it. */
function OfWhat({ data, patch }: Props['record']) {
  const unit = units[data.quantity]
  return (
    <Word
      name="Quantity"
      open={
        <>
          <Choice
            label="Quantity"
            value={data.quantity}
            options={[
              { value: 'P', label: 'Power' },
              { value: 'I', label: 'Current' },
              { value: 'V', label: 'Voltage' },
            ]}
            onChange={(quantity) => patch(toQuantity(data, quantity))}
          />
          <NumberField
            label="Step of the unit’s display"
            unit={unit}
            min={0}
            max={1000}
            value={data.indicatedResolution}
            onChange={(n) => n !== null && patch({ indicatedResolution: n })}
          />
        </>
      }
    >
      {quantityWords[data.quantity]}
    </Word>
  )
}

/** The meter that is believed. */
function Against({ record: { data, patch }, choices }: Props) {
  const reference = choices.instruments.find((i) => i.id === data.instrumentId)
  return (
    <Word
      name="Reference meter"
      faulty={!reference}
      open={
        <SelectField
          label="Reference meter"
          value={data.instrumentId}
          options={choices.instruments.map((i) => ({
            value: i.id,
            label: `${i.name} (${i.gainPct} % + ${i.digits} digits)`,
          }))}
          onChange={(instrumentId) => patch({ instrumentId })}
          hint={
            choices.instruments.length === 0 && (
              <Link href="/meters" className="underline">
                Add it under Meters
              </Link>
            )
          }
        />
      }
    >
      {reference ? `${reference.name}, ±(${reference.gainPct} % + ${reference.digits} digits)` : 'no reference yet'}
    </Word>
  )
}

/** How far off it may be, and by which model that is told. */
function Within({ data, patch }: Props['record']) {
  const unit = units[data.quantity]
  return (
    <Word
      name="Limit"
      open={
        <>
          <NumberField
            label="Limit"
            unit="%"
            min={0}
            max={100}
            value={data.limitPct}
            onChange={(n) => n !== null && patch({ limitPct: n })}
          />
          <NumberField
            label="or at least"
            unit={unit}
            min={0}
            max={10000}
            value={data.limitAbs}
            onChange={(n) => n !== null && patch({ limitAbs: n })}
          />
          <Choice
            label="Model"
            value={data.model}
            options={[
              { value: 'auto', label: 'The data decide' },
              { value: 'gain', label: 'Gain' },
              { value: 'gainOffset', label: 'Gain and offset' },
            ]}
            onChange={(model) => patch({ model })}
          />
        </>
      }
    >
      {data.limitPct} % or {data.limitAbs} {unit}
    </Word>
  )
}

/** When it is checked again. */
function Again({ data, patch }: Props['record']) {
  return (
    <Word
      name="Check again in"
      open={
        <NumberField
          label="Check again in"
          unit="months"
          min={1}
          max={120}
          whole
          value={data.recheckMonths}
          onChange={(n) => n !== null && patch({ recheckMonths: n })}
        />
      }
    >
      {data.recheckMonths} {data.recheckMonths === 1 ? 'month' : 'months'}
    </Word>
  )
}

/** What hangs on the unit meanwhile. */
function With({ data, patch }: Props['record']) {
  return (
    <Word
      name="Load"
      faulty={!data.warm}
      open={
        <>
          <Choice
            label="Load"
            value={data.loadKind}
            options={[
              { value: 'resistive', label: 'Resistive' },
              { value: 'charger', label: 'Charger' },
              { value: 'motor', label: 'Motor' },
              { value: 'other', label: 'Other' },
            ]}
            onChange={(loadKind) => patch({ loadKind })}
          />
          <Tick label="Warmed up 5 minutes or more" checked={data.warm} onChange={(warm) => patch({ warm })} />
        </>
      }
    >
      {loadWords[data.loadKind]}, {data.warm ? 'warmed up' : 'not warmed up yet'}
    </Word>
  )
}

/** Against what, within what, how often, with what load: as a sentence. */
export function MeterSay({ record, choices }: Props) {
  const { model } = record.data
  return (
    <>
      <OfWhat {...record} /> against <Against record={record} choices={choices} />, within <Within {...record} /> (
      {modelWords[model]}), again in <Again {...record} />. <With {...record} />.
    </>
  )
}
