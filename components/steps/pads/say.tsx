import { mostPads } from '@fresh-coat/core/pads/solve'
import { hasTwoRows, padCalled } from '@fresh-coat/core/steps/pads/row'
import { padRoles } from '@fresh-coat/core/wiring/wiring'
import { Choice, NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { Word } from '@/components/frame/drawer'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { ModuleChoice } from './module'

type Record = SurfaceProps<'pads'>['record']
const usualPitches = ['2.54', '2', '1.27'] as const
const numbers = [
  'No',
  'One',
  'Two',
  'Three',
  'Four',
  'Five',
  'Six',
  'Seven',
  'Eight',
  'Nine',
  'Ten',
  'Eleven',
  'Twelve',
]

const capital = (s: string) => `${s.charAt(0).toUpperCase()}${s.slice(1)}`

/** A pad more or less, at the end that the person looks at. */
function resized({ data }: Record, by: number): Partial<Record['data']> {
  const n = data.pads.length
  const rows = Math.min(data.rows, Math.max(1, n))
  const atFront = data.seenFrom === 'bottom' && rows === 1
  const readings = Array.from({ length: n }, (_, i) => data.readings[i] ?? {})
  const change = <T,>(list: readonly T[], blank: T): T[] => {
    if (by > 0) {
      const more = Array.from({ length: by }, () => blank)
      return atFront ? [...more, ...list] : [...list, ...more]
    }
    return atFront ? list.slice(-by) : list.slice(0, by)
  }
  const pads = change(data.pads, 'UNKNOWN' as const)
  return {
    pads,
    readings: change(readings, {}),
    // Places on a photo are in the order of the pads: a pad put in front shifts them all, so they are placed anew.
    ...(data.onPhoto ? { onPhoto: { ...data.onPhoto, at: atFront ? [] : data.onPhoto.at.slice(0, pads.length) } } : {}),
  }
}

/** So many pads, from however many there are now. */
export const withPads = (record: Record, count: number): Partial<Record['data']> => {
  const by = count - record.data.pads.length
  return by === 0 ? {} : resized(record, by)
}

function HowMany({ record }: { record: Record }) {
  const n = record.data.pads.length
  return (
    <>
      <div className="flex items-center gap-2">
        <button
          type="button"
          className={buttonClass()}
          disabled={n === 0}
          onClick={() => record.patch(resized(record, -1))}
        >
          <span aria-hidden="true">−</span>
          <span className="sr-only">One pad less</span>
        </button>
        <output className="pin min-w-[2.2rem] text-center text-[1.25rem] font-bold">{n}</output>
        <button
          type="button"
          className={buttonClass()}
          disabled={n >= mostPads}
          onClick={() => record.patch(resized(record, 1))}
        >
          <span aria-hidden="true">+</span>
          <span className="sr-only">Add a pad</span>
        </button>
      </div>
      {n >= mostPads && <p className="text-ink-2">Twelve pads are the most that can be solved together.</p>}
      <Choice
        label="In rows"
        value={String(record.data.rows)}
        options={['1', '2', '3'].map((r) => ({ value: r, label: r }))}
        onChange={(r) => record.patch({ rows: Number(r) })}
      />
    </>
  )
}

const bootWords = { button: 'by a button on it', pad: 'by a pad in the row', none: 'not at all' }

/** How far apart two rows are, in steps of 2.54 mm: a plug of two rows needs it. */
function RowGap({ record: { data, patch } }: { record: Record }) {
  return (
    <Word
      name="Between the rows"
      faulty={false}
      open={
        <NumberField
          label="Between the rows, in steps of 2.54 mm"
          unit="steps"
          min={1}
          max={40}
          whole
          value={data.rowGap}
          onChange={(rowGap) => patch({ rowGap })}
        />
      }
    >
      {data.rowGap === null ? 'nobody measured the gap' : `${(data.rowGap * 2.54).toFixed(2)} mm`} between the rows
    </Word>
  )
}

/** How many pads, how far apart, from which side: as a sentence; of a module, which one. */
export function PadsSay({
  view,
  record,
  choices,
  count,
}: Pick<SurfaceProps<'pads'>, 'view' | 'record' | 'choices'> & { count: number }) {
  const { data, patch } = record
  const n = data.pads.length
  return (
    <>
      {view.module ? (
        <>
          {numbers[n] ?? n} contacts of{' '}
          <Word name="Module" open={<ModuleChoice view={view} record={record} choices={choices} />}>
            {view.module.name}
          </Word>
          , {data.pitchMm} mm apart, seen from its parts side
        </>
      ) : (
        <>
          <Word name="How many pads" faulty={n === 0} open={<HowMany record={record} />}>
            {numbers[n] ?? n} {n === 1 ? 'pad' : 'pads'} in {data.rows === 1 ? 'one row' : `${data.rows} rows`}
          </Word>
          ,{' '}
          <Word
            name="Pitch"
            faulty={data.pitchMm === null}
            open={
              <>
                <Choice
                  label="Pitch, mm"
                  value={usualPitches.find((p) => Number(p) === data.pitchMm) ?? null}
                  options={usualPitches.map((p) => ({ value: p, label: p }))}
                  onChange={(p) => patch({ pitchMm: Number(p) })}
                />
                <NumberField
                  label="another"
                  unit="mm"
                  min={0.3}
                  max={10}
                  value={data.pitchMm}
                  onChange={(pitchMm) => patch({ pitchMm })}
                />
              </>
            }
          >
            {data.pitchMm === null ? 'nobody measured how far apart' : `${data.pitchMm} mm apart`}
          </Word>
          , seen from the{' '}
          <Word
            name="Side"
            open={
              <Choice
                label="You look at the"
                value={data.seenFrom}
                options={[
                  { value: 'top', label: 'parts side' },
                  { value: 'bottom', label: 'solder side' },
                ]}
                onChange={(seenFrom) => patch({ seenFrom })}
              />
            }
          >
            {data.seenFrom === 'top' ? 'parts side' : 'solder side'}
          </Word>
          {choices.modules.length > 0 && n > 0 && (
            <>
              ,{' '}
              <Word name="Module" open={<ModuleChoice view={view} record={record} choices={choices} />}>
                no module named
              </Word>
            </>
          )}
        </>
      )}
      {hasTwoRows(view) && (
        <>
          , <RowGap record={record} />
        </>
      )}
      . BOOT is reached{' '}
      <Word name="BOOT" faulty={data.bootBy === null} open={<BootFields record={record} />}>
        {data.bootBy === null ? 'nobody knows how' : bootWords[data.bootBy]}
      </Word>
      . {count === 0 ? 'No reading yet.' : `${count} ${count === 1 ? 'reading' : 'readings'}.`}
    </>
  )
}

const BootFields = ({ record: { data, patch } }: { record: Record }) => (
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
)

/** What is true of the row without a meter, and what a person decides against it. */
export function RowByHand({ record, order }: { record: Record; order: readonly number[] }) {
  const { data, patch } = record
  return (
    <>
      <Tick
        label="A regulator takes 5 V on this row (seen on the board)"
        checked={data.regulator5v}
        onChange={(regulator5v) => patch({ regulator5v })}
      />
      <Tick
        label="3.3 V goes in at a proven point outside this row"
        checked={data.railKnown}
        onChange={(railKnown) => patch({ railKnown })}
      />
      <TextField label="How you found them" value={data.note} maxLength={1000} onChange={(note) => patch({ note })} />
      <section className="grid gap-2">
        <h3 className="text-[1.05rem]">Set a role by hand</h3>
        <div className="grid grid-cols-3 gap-3">
          {order.map((index) => (
            <SelectField
              key={index}
              label={capital(padCalled(data.contacts, index))}
              value={data.pads[index] ?? 'UNKNOWN'}
              options={padRoles.map((r) => ({ value: r, label: r === 'UNKNOWN' ? 'not known' : r }))}
              onChange={(r) => r && patch({ pads: data.pads.map((x, j) => (j === index ? r : x)) })}
            />
          ))}
        </div>
      </section>
    </>
  )
}
