import type { MeterFit } from '@fresh-coat/core/metering/fit'
import { newFactor, plainGain } from '@fresh-coat/core/metering/told'
import { fitInputOf } from '@fresh-coat/core/steps/meter/facts'
import { CopyText } from '@/components/forms/copy-text'
import { NumberField } from '@/components/forms/fields'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'meter'>, 'view' | 'record' | 'choices'>

const digits = (n: number): string => String(Number(n.toPrecision(7)))

/** The factor that belongs into the unit, both ways a firmware may use it; an offset where something can keep one. */
export function Told({ view, record, choices, fit, unit }: Props & { fit: MeterFit; unit: string }) {
  const { data, patch } = record
  const instrument = choices.instruments.find((i) => i.id === data.instrumentId)
  const gain = instrument ? plainGain(fitInputOf(view, instrument), fit) : fit.gain
  const factor = data.factor ?? 1
  const { multiplies, divides } = newFactor(gain, factor)
  return (
    <div className="grid gap-5">
      <section className="grid gap-2" aria-label="It multiplies">
        <h3 className="text-[1.05rem]">Where it multiplies by its factor</h3>
        <CopyText text={digits(multiplies)} />
      </section>
      <section className="grid gap-2" aria-label="It divides">
        <h3 className="text-[1.05rem]">Where it divides by its factor</h3>
        <CopyText text={digits(divides)} />
      </section>
      <NumberField
        label="The factor that stands in it now"
        min={0}
        max={1e12}
        value={data.factor}
        onChange={(value) => patch({ factor: value !== null && value > 0 ? value : null })}
        hint={data.factor === null ? 'Nobody looked: 1 is taken, as for a unit that was never set.' : ''}
      />
      {fit.model === 'gainOffset' && (
        <p>
          These are for a unit that keeps no offset. Where a hub or an app can keep one, tell it gain{' '}
          <strong className="pin">{digits(fit.gain)}</strong> and offset{' '}
          <strong className="pin">
            {fit.offset.toFixed(3)} {unit}
          </strong>
          : the gain of the two together is off by the offset without it.
        </p>
      )}
      <p className="text-ink-2">
        If small loads are still off with the right factor, the unit was set at another load than it is used at. Which
        way a firmware uses its factor: tell it, and see whether it shows more or less.
      </p>
    </div>
  )
}
