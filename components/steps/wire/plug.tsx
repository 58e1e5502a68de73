import { padsOf } from '@fresh-coat/core/steps/pads/facts'
import { jigOf, rowsOf } from '@fresh-coat/core/steps/wire/facts'
import { straightWays } from '@fresh-coat/core/steps/wire/straight'
import type { Jig, JigPlan, StraightPlug } from '@fresh-coat/core/wiring/jig'
import { JigDrawing, StraightDrawing } from '@/components/drawings/jig-drawing'
import { Choice, NumberField } from '@/components/forms/fields'
import Link from '@/components/link'
import { buttonClass, twoDigits } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { TwoRowsPair } from './two-rows'

type Props = Pick<SurfaceProps<'wire'>, 'view' | 'record' | 'choices'>

/** Which side it goes on, and the pitch of the adapter's row. */
function PlugFields({ record: { data, patch } }: Pick<Props, 'record'>) {
  return (
    <div className="flex flex-wrap items-end gap-x-5 gap-y-2">
      <Choice
        label="The plug goes on from the"
        value={data.plugFace}
        options={[
          { value: 'top', label: 'parts side' },
          { value: 'bottom', label: 'solder side' },
        ]}
        onChange={(plugFace) => patch({ plugFace })}
      />
      <NumberField
        label="Pitch of the adapter’s row"
        unit="mm"
        min={0.3}
        max={10}
        value={data.adapterPitchMm}
        onChange={(n) => n && patch({ adapterPitchMm: n })}
        className="w-[11rem]"
      />
    </div>
  )
}

/** How it goes on, in words: turned round or not, and what has to be bent away. */
export function straightWords(plug: StraightPlug, pins: readonly string[]): string {
  const turned = plug.orientation === 'reversed'
  const bend =
    plug.bend.length === 0
      ? 'No pin has to be bent.'
      : `Bend away and insulate ${plug.bend.map((i) => `${pins[i]} (pin ${i + 1})`).join(', ')}: a bent pin must touch nothing.`
  return `${turned ? 'Turned round, it goes straight on.' : 'It goes straight on.'} ${bend}${turned ? ' Its body then lies on the other side: see that nothing tall is there.' : ''}`
}

function jigWords(plan: JigPlan, jig: Jig, made: number): string {
  const why =
    plan.reason === 'pitch'
      ? 'The pitches differ, so it never plugs straight on.'
      : 'The order of the rows differs, and bending a pin does not move its neighbours.'
  const wires =
    jig.crossings === 0
      ? 'On a jig no wire crosses another.'
      : `On a jig ${jig.crossings} ${jig.crossings === 1 ? 'pair crosses' : 'pairs cross'}: ${jig.topWires} insulated wire${jig.topWires === 1 ? '' : 's'} on top, the rest bare below.`
  const worth =
    made >= 3
      ? `${made} units of this board are on record: it is worth its half hour.`
      : 'It is worth its half hour from the third unit of a board on.'
  return `${why} ${wires} ${worth}`
}

function whyNeither({ view, record }: Pick<Props, 'view' | 'record'>): string {
  if ((padsOf(view).rows ?? 1) > 2) return 'The pads are three rows: use loose wires.'
  if (record.data.power === 'adapter5v') return 'With 5 V on the row use loose wires.'
  return 'GND, TX, RX and 3V3 must be known, and on the adapter too.'
}

/** Adapters of the kit that would plug straight on; the chosen one is only one of them. */
function KitWide({ view, choices, record }: Props) {
  const ways = straightWays(view, choices.adapters).slice(0, 4)
  if (ways.length === 0) return <p className="text-ink-2">No adapter of the kit plugs straight on.</p>
  return (
    <ul className="grid gap-1" aria-label="Adapters that plug straight on">
      {ways.map((w) => (
        <li key={`${w.adapter.id} ${w.face}`}>
          <button
            type="button"
            className="underline underline-offset-4"
            onClick={() => record.patch({ adapterId: w.adapter.id, plugFace: w.face })}
          >
            {w.adapter.name}
          </button>{' '}
          from the {w.face === 'top' ? 'parts' : 'solder'} side,{' '}
          {w.bend === 0 ? 'nothing to bend' : `${w.bend} ${w.bend === 1 ? 'pin' : 'pins'} to bend away`}
        </li>
      ))}
    </ul>
  )
}

function JigPair({ view, record, plan, jig }: Props & { plan: JigPlan; jig: Jig }) {
  return (
    <>
      <p>{jigWords(plan, jig, view.board?.unitNumbers.length ?? 0)}</p>
      <div className="grid gap-4 sm:grid-cols-2">
        {(['parts', 'solder'] as const).map((side) => (
          <figure key={side} className="grid justify-items-start gap-1">
            <JigDrawing
              jig={jig}
              adapter={view.adapter?.pins ?? []}
              pads={plan.padsInView}
              side={side}
              pitchPads={padsOf(view).pitchMm ?? 2.54}
              pitchAdapter={record.data.adapterPitchMm}
            />
            <figcaption className="text-[0.9rem] text-ink-2">{side} side</figcaption>
          </figure>
        ))}
      </div>
      <Link href={`/units/${view.number}/jig`} className={`${buttonClass('plain')} justify-self-start`}>
        Print it 1:1, with its parts
      </Link>
    </>
  )
}

/** Straight plug where one goes; else a jig, drawn to scale. */
export function PlugOrJig(props: Props) {
  const { view, record } = props
  if (!view.adapter) return <p className="text-ink-2">Choose the adapter first.</p>
  const plan = jigOf(view)
  return (
    <>
      <PlugFields record={record} />
      <TwoRowsPair view={view} record={record} />
      {plan === null && rowsOf(view) === null && <p className="text-ink-2">{whyNeither(props)}</p>}
      {plan?.straight && (
        <>
          <StraightDrawing plug={plan.straight} adapter={view.adapter.pins} pads={plan.padsInView} />
          <p>{straightWords(plan.straight, view.adapter.pins)}</p>
        </>
      )}
      {plan?.jig && <JigPair {...props} plan={plan} jig={plan.jig} />}
      <section className="grid gap-1.5">
        <h3 className="text-[1.05rem]">The whole kit</h3>
        <KitWide {...props} />
      </section>
      <p className="text-ink-2">Unit {twoDigits(view.number)}; the plug is drawn as you look at it.</p>
    </>
  )
}
