import { padsOf } from '@fresh-coat/core/steps/pads/facts'
import { rowsOf, type TwoRows, twoRowsOf } from '@fresh-coat/core/steps/wire/facts'
import { wireWord } from '@/components/drawings/jig-drawing'
import { TwoRowsDrawing } from '@/components/drawings/two-rows-drawing'
import Link from '@/components/link'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'wire'>, 'view' | 'record'>

function whyNot({ view, record }: Props): string {
  if ((padsOf(view).rowGap ?? null) === null)
    return 'Nobody measured how far apart the rows are: it is asked at Find the pads, in steps of 2.54 mm.'
  if (record.data.power === 'adapter5v') return 'With 5 V on the row use loose wires.'
  return 'GND, TX, RX and 3V3 must be known, and on the adapter too.'
}

const words = ({ plan }: TwoRows): string =>
  `${plan.topWires === 0 ? 'On a jig no wire crosses another.' : `On a jig ${plan.topWires} insulated ${plan.topWires === 1 ? 'wire runs' : 'wires run'} on top: what goes to the far row passes between the pins of the near one.`}${plan.adapterReversed ? ' The adapter sits turned round in its socket.' : ''}`

/** Two rows: which pin gets which lead, as a plug and as a jig, both from the side that is soldered. */
export function TwoRowsPair(props: Props) {
  const { view, record } = props
  const two = twoRowsOf(view)
  if (rowsOf(view) === null) return null
  if (!two || !view.adapter) return <p className="text-ink-2">{whyNot(props)}</p>
  const drawn = {
    ...two,
    adapter: view.adapter.pins,
    side: 'solder' as const,
    pitchPads: padsOf(view).pitchMm ?? 2.54,
    pitchAdapter: record.data.adapterPitchMm,
  }
  return (
    <>
      <p>{words(two)}</p>
      <div className="grid gap-4 sm:grid-cols-2">
        <figure className="grid justify-items-start gap-1">
          <TwoRowsDrawing {...drawn} socket={false} />
          <figcaption className="text-[0.9rem] text-ink-2">
            Plug, solder side: {two.plan.wires.map((w) => `${w.role} ${wireWord(w.role)}`).join(', ')}
            {record.data.power !== 'adapter3v3' && ', 3V3 red from its own supply'}
          </figcaption>
        </figure>
        <figure className="grid justify-items-start gap-1">
          <TwoRowsDrawing {...drawn} socket />
          <figcaption className="text-[0.9rem] text-ink-2">Jig, solder side</figcaption>
        </figure>
      </div>
      <Link href={`/units/${view.number}/jig`} className={`${buttonClass('plain')} justify-self-start`}>
        Print it 1:1, with its parts
      </Link>
    </>
  )
}
