import { dividerOf } from '@fresh-coat/core/steps/wire/facts'
import { designDivider, dividerWords, seriesNames } from '@fresh-coat/core/wiring/divider'
import { Choice, NumberField } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { amount, buttonClass, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'wire'>, 'view' | 'record'>

/** Does the adapter drive more than the board's RX takes, or is a divider fitted already? */
export const wantsDivider = ({ view, record }: Props): boolean =>
  (view.adapter?.logicV ?? 3.3) > 3.6 || record.data.divider !== null

function Resistors({ record: { data, patch } }: Pick<Props, 'record'>) {
  const { divider } = data
  if (!divider) return null
  const field = (label: string, key: 'rTop' | 'rBottom') => (
    <NumberField
      label={label}
      unit="Ω"
      min={1}
      max={1e7}
      value={divider[key]}
      onChange={(ohms) => ohms && patch({ divider: { ...divider, [key]: ohms } })}
    />
  )
  return (
    <>
      {field('From adapter TX to RX', 'rTop')}
      {field('From RX to GND', 'rBottom')}
      <button
        type="button"
        className={`${buttonClass('quiet')} justify-self-start`}
        onClick={() => patch({ divider: null })}
      >
        No divider
      </button>
    </>
  )
}

/** Two resistors in front of RX, for an adapter that drives more than 3.3 V. */
export function Divider({ view, record }: Props) {
  const [series, setSeries] = useKept<(typeof seriesNames)[number]>('divider series', 'E24')
  const volts = view.adapter?.logicV ?? 3.3
  const check = dividerOf(view)
  return (
    <>
      <p className="text-ink-2">
        Only the line into the board needs it: the board’s 3.3 V is a valid high for a {volts} V adapter.
      </p>
      <Choice
        label="From series"
        value={series}
        options={seriesNames.map((s) => ({ value: s, label: s }))}
        onChange={setSeries}
      />
      <div className="flex flex-wrap gap-2">
        {designDivider(volts, 3.2, series).map((p) => (
          <button
            key={`${p.rTop}-${p.rBottom}`}
            type="button"
            className={buttonClass('plain')}
            onClick={() => record.patch({ divider: { rTop: p.rTop, rBottom: p.rBottom } })}
          >
            <span className="pin">
              {amount(p.rTop)} / {amount(p.rBottom)} Ω
            </span>
            <span className="ml-2 font-normal">{p.vout.toFixed(2)} V</span>
          </button>
        ))}
      </div>
      <Resistors record={record} />
      {check && (
        <p className="flex gap-2.5" aria-live="polite">
          <Tag severity={check.verdict === 'ok' ? 'ok' : 'error'}>{check.verdict.replaceAll('_', ' ')}</Tag>
          <span>
            {check.vout.toFixed(2)} V reach RX. {dividerWords[check.verdict]} At {amount(view.records.check.data.baud)}{' '}
            baud an edge takes {check.riseNs.toFixed(0)} ns, {check.risePct.toFixed(1)} % of a bit.
          </span>
        </p>
      )}
    </>
  )
}
