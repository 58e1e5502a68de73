'use client'
import {
  decidingPart,
  type ElectricKind,
  electricKinds,
  electricOf,
  loadOf,
  PrintedRating,
  type RatingSource,
  ratingSources,
} from '@fresh-coat/core/load/of-unit'
import { RatingBars } from '@/components/drawings/rating-bars'
import { NumberField, SelectField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { buttonClass, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'arrive'>, 'view' | 'record'>
type Data = Props['record']['data']

/** May this unit carry this load? Drawn first; what it is made of stands below. */

export const electricWords: Record<ElectricKind, string> = {
  resistive: 'a heater: a plain resistance',
  incandescent: 'a lamp with a filament',
  led: 'a lamp with a driver',
  motor: 'a motor',
  compressor: 'a compressor',
  transformer: 'a transformer',
  charger: 'a switched supply',
  discharge: 'a discharge lamp',
}
const sourceWords: Record<RatingSource, string> = {
  package: 'the case',
  relay: 'the relay',
  terminals: 'its terminals',
  board: 'the board',
  fuse: 'its fuse',
  plug: 'the plug',
}

function Judged({ view, record: { data } }: Props) {
  const load = loadOf(view)
  if (!load)
    return (
      <p>
        {data.loadWatts === null
          ? 'Say how much it will carry: then it is judged.'
          : 'No marking is known: read one from the unit. None is guessed.'}
      </p>
    )
  const { check } = load
  // What nobody knows is never shown as safe.
  const severity = check.verdict === 'stop' ? 'error' : check.verdict === 'caution' || load.kindUnknown ? 'watch' : 'ok'
  return (
    <div className="grid gap-3" role="status">
      <RatingBars parts={load.parts} check={check} />
      <p className="flex gap-2.5">
        <Tag severity={severity}>{severity === 'error' ? 'stop' : severity === 'watch' ? 'caution' : 'ok'}</Tag>
        <span>
          {Math.round(check.usePct)} % of what{' '}
          {decidingPart(check) === 'lead' ? 'the lead' : sourceWords[check.limit.source as RatingSource]} bears
          {load.kindUnknown
            ? '; its inrush is not known'
            : `; for a moment ${Number(check.inrushA.toPrecision(2))} A, ${check.inrushX} times as much, typical`}
          .
        </span>
      </p>
      <ul className="grid gap-1.5">
        {check.findings.map((f) => (
          <li key={f.code}>
            <strong className={f.severity === 'error' ? 'text-oxide' : ''}>{f.message}</strong> {f.next}
          </li>
        ))}
      </ul>
    </div>
  )
}

function Rating({
  r,
  put,
  remove,
}: {
  r: PrintedRating
  put: (to: Partial<PrintedRating>) => void
  remove: () => void
}) {
  const number = (label: string, key: 'A' | 'W' | 'Vmax' | 'makeA', unit: string) => (
    <NumberField
      label={label}
      unit={unit}
      min={0}
      max={100_000}
      value={r[key]}
      onChange={(n) => put({ [key]: n !== null && n > 0 ? n : null })}
    />
  )
  return (
    <fieldset className="grid grid-cols-3 gap-3 border-t border-rule-2 pt-3">
      <legend className="sr-only">Marking of {sourceWords[r.source]}</legend>
      <SelectField
        label="Printed on"
        value={r.source}
        options={ratingSources.map((s) => ({ value: s, label: sourceWords[s] }))}
        onChange={(source) => source && put({ source })}
      />
      {number('Amperes', 'A', 'A')}
      {number('Watts', 'W', 'W')}
      {number('Up to', 'Vmax', 'V')}
      <SelectField
        label="Current"
        value={r.current}
        none="not marked"
        options={[
          { value: 'ac', label: 'alternating' },
          { value: 'dc', label: 'direct' },
          { value: 'both', label: 'both' },
        ]}
        onChange={(current) => put({ current })}
      />
      {number('It may make', 'makeA', 'A')}
      <button type="button" className={`${buttonClass('quiet')} justify-self-start`} onClick={remove}>
        Take it off
      </button>
    </fieldset>
  )
}

function Latch({ latch, put }: { latch: Data['latch']; put: (latch: Data['latch']) => void }) {
  const now = latch ?? { A: null, V: null, supplyA: null, flyback: false, holdN: null }
  const number = (label: string, key: 'A' | 'V' | 'supplyA' | 'holdN', unit: string) => (
    <NumberField label={label} unit={unit} min={0} value={now[key]} onChange={(n) => put({ ...now, [key]: n })} />
  )
  return (
    <div className="grid grid-cols-2 gap-3">
      {number('The latch draws', 'A', 'A')}
      {number('at', 'V', 'V')}
      {number('Its supply gives', 'supplyA', 'A')}
      {number('It holds with', 'holdN', 'N')}
      <Tick
        label="A reverse diode sits across its coil"
        checked={now.flyback}
        onChange={(flyback) => put({ ...now, flyback })}
      />
    </div>
  )
}

/** Several coils on one small supply: all at once, or only some of them. */
function Coils({
  coils,
  put,
  maxOn,
}: {
  coils: Data['coils']
  put: (coils: Data['coils']) => void
  maxOn: number | null
}) {
  const now = coils ?? { count: null, mA: null, boardMA: null, supplyMA: null }
  const number = (label: string, key: keyof typeof now, unit: string, most: number) => (
    <NumberField
      label={label}
      unit={unit}
      min={0}
      max={most}
      whole={key === 'count'}
      value={now[key]}
      onChange={(n) => put({ ...now, [key]: n })}
    />
  )
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        {number('Relays', 'count', '', 64)}
        {number('A coil draws', 'mA', 'mA', 10_000)}
        {number('The board beside them', 'boardMA', 'mA', 10_000)}
        {number('The supply gives', 'supplyMA', 'mA', 100_000)}
      </div>
      {maxOn !== null && (
        <p role="status">
          {maxOn === 0 ? 'None may be on' : `${maxOn} may be on at once`}, with a fifth of the supply to spare.
        </p>
      )}
    </>
  )
}

export function LoadCheckPart(props: Props) {
  const { view, record } = props
  const { data, patch } = record
  const ofBoard = data.ratings.length === 0 ? (view.board?.ratings ?? []) : []
  const put = (ratings: PrintedRating[]) => patch({ ratings })
  const kind = electricOf(data)
  const isLatch = data.load === 'latch-locks' || data.load === 'latch-unlocks'
  return (
    <div className="grid gap-4">
      <Judged {...props} />
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="It will carry"
          unit="W"
          min={0}
          max={20_000}
          value={data.loadWatts}
          onChange={(loadWatts) => patch({ loadWatts })}
        />
        <NumberField
          label="On at a time for"
          unit="h"
          min={0}
          max={8760}
          value={data.loadHours}
          onChange={(loadHours) => patch({ loadHours })}
          hint="Three hours or more count as always."
        />
        <SelectField
          label="To a contact it is"
          value={kind}
          none="nobody has said what"
          options={electricKinds.map((k) => ({ value: k, label: electricWords[k] }))}
          onChange={(electric) => patch({ electric })}
        />
      </div>
      <section className="grid gap-3" aria-label="Markings">
        <h3 className="text-[1.05rem]">Markings, as they are printed</h3>
        {ofBoard.length > 0 && (
          <p className="text-ink-2">
            From its board: {ofBoard.map((r) => `${sourceWords[r.source]} ${r.A ? `${r.A} A` : `${r.W} W`}`).join(', ')}
            .
          </p>
        )}
        {data.ratings.map((r, i) => (
          <Rating
            key={`marking ${i + 1}`}
            r={r}
            put={(to) => put(data.ratings.map((x, j) => (j === i ? { ...x, ...to } : x)))}
            remove={() => put(data.ratings.filter((_, j) => j !== i))}
          />
        ))}
        <button
          type="button"
          className={`${buttonClass()} justify-self-start`}
          disabled={data.ratings.length >= 12}
          onClick={() =>
            put([
              ...data.ratings,
              ...(data.ratings.length === 0 ? ofBoard : []),
              PrintedRating.parse({ source: 'relay' }),
            ])
          }
        >
          Write a marking down
        </button>
      </section>
      <Fold summary="It hangs on an extension lead" startOpen={data.lead !== null}>
        <NumberField
          label="The lead bears"
          unit="A"
          min={0}
          max={100}
          value={data.lead?.A ?? null}
          onChange={(A) => patch({ lead: A !== null && A > 0 ? { A, wound: data.lead?.wound ?? true } : null })}
        />
        {data.lead && (
          <Tick
            label="Some of it is still wound up"
            checked={data.lead.wound}
            onChange={(wound) => data.lead && patch({ lead: { ...data.lead, wound } })}
          />
        )}
      </Fold>
      <Fold summary="Several relays on one small supply" startOpen={data.coils !== null}>
        <Coils coils={data.coils} put={(coils) => patch({ coils })} maxOn={loadOf(view)?.check.coils?.maxOn ?? null} />
      </Fold>
      {isLatch && (
        <Fold summary="The latch and its supply" startOpen>
          <Latch latch={data.latch} put={(latch) => patch({ latch })} />
        </Fold>
      )}
    </div>
  )
}
