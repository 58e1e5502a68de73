import { dayWords } from '@fresh-coat/core/edge/day'
import type { EnergyHistory } from '@fresh-coat/core/metering/energy'
import { energyOf, readReadings } from '@fresh-coat/core/metering/energy-of-unit'
import { moneyWords, pricesInOrder } from '@fresh-coat/core/unit/cost'
import { EnergyBars } from '@/components/drawings/energy-bars'
import { AreaField, NumberField } from '@/components/forms/fields'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'meter'>, 'view' | 'record'>

/** What it counted, what that is after its calibrations, what it costs, and what it costs to stand by. */

const kWh = (n: number): string => `${Number(n.toFixed(2))} kWh`

/** Where its price comes from while it has none of its own. */
const sitePrices = (view: Props['view']): string => {
  const latest = pricesInOrder(view.money.prices).at(-1)
  return latest
    ? `The site’s: ${moneyWords(latest.perKWh, view.money)} since ${dayWords(latest.from)}`
    : 'The site has none: under Network.'
}

function History({ history, view }: { history: EnergyHistory } & Pick<Props, 'view'>) {
  const { corrected, total, changePct, cost, unpricedKWh, resets, setbacks, standby } = history
  const [own] = standby
  return (
    <div className="grid gap-3" role="status">
      <EnergyBars intervals={history.intervals} />
      <p>
        <span className="font-title text-[1.9rem] leading-tight font-bold">{kWh(corrected)}</span>{' '}
        {changePct !== null && Math.abs(changePct) >= 0.005 ? (
          <span className="text-ink-2">
            it counted {kWh(total)}; its calibrations make it {Math.abs(changePct).toFixed(2)} %{' '}
            {changePct > 0 ? 'more' : 'less'}
          </span>
        ) : (
          <span className="text-ink-2">as it counted it</span>
        )}
        {cost > 0 && <span>, {moneyWords(cost, view.money)}</span>}
        {cost > 0 && unpricedKWh > 0 && (
          <span className="text-ink-2"> ({kWh(unpricedKWh)} from before the first price)</span>
        )}
      </p>
      {own && (
        <p>
          To stand by it takes {kWh(own.kWhPerYear)} a year
          {own.costPerYear === null ? '' : `, ${moneyWords(own.costPerYear, view.money)}`}.
        </p>
      )}
      {resets.length > 0 && (
        <p className="flex gap-2.5">
          <Tag severity="watch">reset</Tag> It began anew on {resets.map((r) => dayWords(r.slice(0, 10))).join(', ')}:
          what it showed then counts from zero.
        </p>
      )}
      {setbacks.length > 0 && (
        <p className="flex gap-2.5">
          <Tag severity="watch">set back</Tag> It fell a little on{' '}
          {setbacks.map((r) => dayWords(r.slice(0, 10))).join(', ')}: that stretch counts as nothing.
        </p>
      )}
    </div>
  )
}

export function Energy({ view, record: { data, patch } }: Props) {
  const energy = energyOf(view)
  const { readings, unread } = readReadings(data.counter)
  return (
    <div className="grid gap-4">
      {energy === null ? (
        <p>Two readings of its counter make a history. They stay as they are: what is corrected is worked out anew.</p>
      ) : energy.history.ok ? (
        <History history={energy.history.value} view={view} />
      ) : (
        <p className="text-oxide">{energy.history.faults[0]?.message}</p>
      )}
      <AreaField
        label="Its counter: a day and what it showed, one to a line"
        rows={6}
        value={data.counter}
        maxLength={400_000}
        onChange={(counter) => patch({ counter })}
      />
      <p className="text-ink-2">
        {readings.length} {readings.length === 1 ? 'reading' : 'readings'}.
        {unread.length > 0 && <span className="text-ochre"> Not read: {unread.slice(0, 4).join('; ')}.</span>}
      </p>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label={`A kWh costs${view.money.currency ? `, ${view.money.currency}` : ''}`}
          min={0}
          max={1000}
          value={data.perKWh}
          onChange={(perKWh) => patch({ perKWh })}
          hint={data.perKWh === null ? sitePrices(view) : ''}
        />
        <NumberField
          label="It takes with its relay off"
          unit="W"
          min={0}
          max={1000}
          value={data.standbyW}
          onChange={(standbyW) => patch({ standbyW })}
        />
      </div>
    </div>
  )
}
