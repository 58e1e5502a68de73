import { padsOf } from '@fresh-coat/core/steps/pads/facts'
import { jigOf, type TwoRows, twoRowsOf } from '@fresh-coat/core/steps/wire/facts'
import type { UnitView } from '@fresh-coat/core/unit/view'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import type { ReactNode } from 'react'
import { JigDrawing, wireWord } from '@/components/drawings/jig-drawing'
import { TwoRowsDrawing } from '@/components/drawings/two-rows-drawing'
import { PrintButton, SaveSvg } from '@/components/forms/print-button'
import Link from '@/components/link'
import { Empty, twoDigits } from '@/components/paint/paint'
import { database, inSnapshot } from '@/server/db/client'
import { viewByNumber } from '@/server/units/load'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Jig, 1:1' }

const lengths = (n: number) => `${n} length${n === 1 ? '' : 's'}`

const hole = 2.54

/** The line to check the printer by. */
function FiftyMillimetres() {
  return (
    <>
      <p className="text-ink-2">
        Printed at 100 %: the line below is 50 mm. Measure it before you drill or solder anything by this sheet.
      </p>
      <svg width="52mm" height="6mm" viewBox="0 0 52 6" role="img" aria-label="A line of 50 millimetres">
        <path d="M1 1 v3 M1 2.5 h50 M51 1 v3" stroke="currentColor" strokeWidth="0.3" fill="none" />
      </svg>
    </>
  )
}

interface Wire {
  role: Parameters<typeof wireWord>[0]
  from: string
  to: string
  layer: 'top' | 'bottom'
}

interface SheetProps {
  title: string
  back: ReactNode
  /** What is saved as a drawing, and as which file. */
  save: { from: string; name: string }
  figures: ReactNode
  parts: ReactNode
  /** What the second column of the wires says. */
  onto: string
  wires: readonly Wire[]
  note: string
}

function Wires({ onto, wires }: Pick<SheetProps, 'onto' | 'wires'>) {
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>Adapter</th>
          <th>{onto}</th>
          <th>Colour</th>
          <th>Runs</th>
        </tr>
      </thead>
      <tbody>
        {wires.map((w) => (
          <tr key={w.role}>
            <td className="pin">{w.from}</td>
            <td className="pin">{w.to}</td>
            <td>{wireWord(w.role)}</td>
            <td>{w.layer === 'top' ? 'on top, insulated' : 'below, bare'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** A jig on paper: drawings to scale, what it is made of, and which wire goes where. */
function Sheet({ title, back, save, figures, parts, onto, wires, note }: SheetProps) {
  return (
    <main className="mx-auto grid max-w-4xl gap-4 bg-sheet px-6 py-5">
      <div className="no-print flex flex-wrap items-center gap-4">
        {back}
        <PrintButton />
        <SaveSvg {...save} />
      </div>
      <h1 className="text-[1.4rem]">{title}</h1>
      <FiftyMillimetres />
      <div className="flex flex-wrap gap-[12mm]">{figures}</div>
      <div className="grid gap-6 sm:grid-cols-2">
        <section>
          <h2 className="text-[1.1rem]">Parts</h2>
          <ul className="list-disc pl-5">{parts}</ul>
        </section>
        <section>
          <h2 className="text-[1.1rem]">Wires</h2>
          <Wires onto={onto} wires={wires} />
        </section>
      </div>
      <p className="text-ink-2">{note}</p>
    </main>
  )
}

const offBoard = (pitch: number) => Math.abs(pitch - hole) > 0.01
const BootButton = () => <li>A push button from BOOT to GND, on the jig itself</li>
/** The pin of an adapter, named and counted. */
const adapterPin = (adapter: readonly string[], i: number) => `${adapter[i]} (pin ${i + 1})`
const sideOf = (face: 'top' | 'bottom') => (face === 'top' ? 'parts' : 'solder')

interface Fixed {
  view: UnitView & { adapter: NonNullable<UnitView['adapter']> }
  pitchPads: number
  pitchAdapter: number
  back: ReactNode
}

/** Plug and jig of two rows, both from the side that is soldered, with what goes where. */
function TwoRowsSheet({ view, two, pitchPads, pitchAdapter, back }: Fixed & { two: TwoRows }) {
  const { plan, rows } = two
  const adapter = view.adapter.pins
  const drawn = { ...two, adapter, pitchPads, pitchAdapter, side: 'solder' as const, print: true }
  return (
    <Sheet
      title={`Two rows: ${view.adapter.name} to ${view.module?.name ?? view.board?.name ?? `unit ${twoDigits(view.number)}`}`}
      back={back}
      save={{ from: 'jig-solder', name: 'jig-two-rows-solder-side.svg' }}
      figures={
        <>
          <figure id="plug-solder">
            <TwoRowsDrawing {...drawn} socket={false} />
            <figcaption>plug, solder side, 1:1</figcaption>
          </figure>
          <figure id="jig-solder">
            <TwoRowsDrawing {...drawn} socket />
            <figcaption>jig, solder side, 1:1</figcaption>
          </figure>
        </>
      }
      parts={
        <>
          <li>
            Two pin rows of {rows[0].length} at {pitchPads} mm, {(plan.gap * hole).toFixed(2)} mm apart
            {offBoard(pitchPads) && ': not the pitch of perfboard, so on short wires'}
          </li>
          <li>
            For the jig: perfboard of {plan.cols} × {plan.rows} holes, and a socket of {adapter.length} ways at{' '}
            {pitchAdapter} mm
          </li>
          {plan.topWires > 0 && <li>Insulated wire on top, {lengths(plan.topWires)}</li>}
          {rows.some((r) => r.includes('BOOT')) && <BootButton />}
          {plan.wires.length > plan.topWires && <li>Bare wire below, {lengths(plan.wires.length - plan.topWires)}</li>}
        </>
      }
      onto="Pin of the plug"
      wires={plan.wires.map((w) => ({
        role: w.role,
        from: adapterPin(adapter, w.adapter),
        to: `${w.role}, ${w.row === 0 ? 'upper' : 'lower'} row, ${w.column + 1}`,
        layer: w.layer,
      }))}
      note={`It goes on from the ${sideOf(view.records.wire.data.plugFace)} side; rows and pins are counted as seen from there, the drawings are turned for the side that is soldered. The square pin is pin 1 of the upper row. Check every wire with the ohmmeter before the first use. Low voltage only: the unit is off the mains whenever it is on.`}
    />
  )
}

type Planned = NonNullable<ReturnType<typeof jigOf>>
type Jig = NonNullable<Planned['jig']>

/** The jig between one row of pads and the adapter, from both sides. */
function OneRowSheet({
  view,
  jig,
  pads,
  pitchPads,
  pitchAdapter,
  back,
}: Fixed & { jig: Jig; pads: Planned['padsInView'] }) {
  const adapter = view.adapter.pins
  const on = (layer: 'top' | 'bottom') => jig.wires.filter((w) => w.layer === layer).length
  const shortWires = (pitch: number) => offBoard(pitch) && ': not the pitch of the board, so on short wires'
  const turned = jig.adapterReversed ? '; the adapter sits turned round in its socket' : ''
  return (
    <Sheet
      title={`Jig: ${view.adapter.name} to ${view.board?.name ?? `unit ${twoDigits(view.number)}`}`}
      back={back}
      save={{ from: 'jig-parts', name: `jig-unit${twoDigits(view.number)}-parts-side.svg` }}
      figures={(['parts', 'solder'] as const).map((side) => (
        <figure key={side} id={`jig-${side}`}>
          <JigDrawing {...{ jig, adapter, pads, side, pitchPads, pitchAdapter }} print />
          <figcaption>{side} side, 1:1</figcaption>
        </figure>
      ))}
      parts={
        <>
          <li>
            Perfboard, {jig.cols} × {jig.rows} holes at 2.54 mm
          </li>
          <li>
            Pin header, {pads.length} pins at {pitchPads} mm, for the pads{shortWires(pitchPads)}
          </li>
          <li>
            Socket, {adapter.length} ways at {pitchAdapter} mm, for the adapter{shortWires(pitchAdapter)}
          </li>
          {on('bottom') > 0 && <li>Bare wire, {lengths(on('bottom'))}, below</li>}
          {on('top') > 0 && <li>Insulated wire, {lengths(on('top'))}, on top</li>}
          {pads.includes('BOOT') && <BootButton />}
        </>
      }
      onto="Pad"
      wires={jig.wires.map((w) => ({
        role: w.role,
        from: adapterPin(adapter, w.adapter),
        to: `${w.role} (pad ${w.pad + 1})`,
        layer: w.layer,
      }))}
      note={`Pads as seen from the ${sideOf(view.records.wire.data.plugFace)} side of the unit, where the jig goes on${turned}. Check every wire with the ohmmeter against the list before the first use. Low voltage only: the unit is off the mains whenever the jig is on.`}
    />
  )
}

/** The jig of a unit's board on paper: both sides to scale, a line to check the printer by, and what it is made of. */
export default async function JigPage({ params }: { params: Promise<{ number: string }> }) {
  const { number } = await params
  const view = await inSnapshot(database(), (tx) => viewByNumber(tx, Number(number)))
  if (!view) notFound()
  const { adapter } = view
  const plan = jigOf(view)
  const two = twoRowsOf(view)
  const back = (
    <Link href={`/units/${view.number}/wire`} className="underline">
      Back to Wire
    </Link>
  )
  if (adapter && (two || plan?.jig)) {
    const fixed: Fixed = {
      view: { ...view, adapter },
      pitchPads: padsOf(view).pitchMm ?? hole,
      pitchAdapter: view.records.wire.data.adapterPitchMm,
      back,
    }
    if (two) return <TwoRowsSheet {...fixed} two={two} />
    if (plan?.jig) return <OneRowSheet {...fixed} jig={plan.jig} pads={plan.padsInView} />
  }
  return (
    <main className="mx-auto max-w-3xl px-4 py-5">
      <Empty title="No jig is needed or possible here">
        <p>
          {plan?.straight
            ? 'The adapter plugs straight on.'
            : 'Choose an adapter, and find GND, TX, RX and 3V3 in one row first.'}{' '}
          {back}
        </p>
      </Empty>
    </main>
  )
}
