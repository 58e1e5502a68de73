import { padsOf } from '@fresh-coat/core/steps/pads/facts'
import { jigOf, type TwoRows, twoRowsOf } from '@fresh-coat/core/steps/wire/facts'
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

/** Plug and jig of two rows, both from the side that is soldered, with what goes where. */
function TwoRowsSheet({
  two,
  adapter,
  title,
  pitchPads,
  pitchAdapter,
  face,
  back,
}: {
  two: TwoRows
  adapter: readonly string[]
  title: string
  pitchPads: number
  pitchAdapter: number
  face: 'top' | 'bottom'
  back: ReactNode
}) {
  const { plan, rows } = two
  const drawn = { ...two, adapter, pitchPads, pitchAdapter, side: 'solder' as const, print: true }
  return (
    <main className="mx-auto grid max-w-4xl gap-4 bg-sheet px-6 py-5">
      <div className="no-print flex flex-wrap items-center gap-4">
        {back}
        <PrintButton />
        <SaveSvg from="jig-solder" name="jig-two-rows-solder-side.svg" />
      </div>
      <h1 className="text-[1.4rem]">Two rows: {title}</h1>
      <FiftyMillimetres />
      <div className="flex flex-wrap gap-[12mm]">
        <figure id="plug-solder">
          <TwoRowsDrawing {...drawn} socket={false} />
          <figcaption>plug, solder side, 1:1</figcaption>
        </figure>
        <figure id="jig-solder">
          <TwoRowsDrawing {...drawn} socket />
          <figcaption>jig, solder side, 1:1</figcaption>
        </figure>
      </div>
      <div className="grid gap-6 sm:grid-cols-2">
        <section>
          <h2 className="text-[1.1rem]">Parts</h2>
          <ul className="list-disc pl-5">
            <li>
              Two pin rows of {rows[0].length} at {pitchPads} mm, {(plan.gap * hole).toFixed(2)} mm apart
              {Math.abs(pitchPads - hole) > 0.01 && ': not the pitch of perfboard, so on short wires'}
            </li>
            <li>
              For the jig: perfboard of {plan.cols} × {plan.rows} holes, and a socket of {adapter.length} ways at{' '}
              {pitchAdapter} mm
            </li>
            {plan.topWires > 0 && <li>Insulated wire on top, {lengths(plan.topWires)}</li>}
            {rows.some((r) => r.includes('BOOT')) && <li>A push button from BOOT to GND, on the jig itself</li>}
            {plan.wires.length > plan.topWires && (
              <li>Bare wire below, {lengths(plan.wires.length - plan.topWires)}</li>
            )}
          </ul>
        </section>
        <section>
          <h2 className="text-[1.1rem]">Wires</h2>
          <table className="plain">
            <thead>
              <tr>
                <th>Adapter</th>
                <th>Pin of the plug</th>
                <th>Colour</th>
                <th>Runs</th>
              </tr>
            </thead>
            <tbody>
              {plan.wires.map((w) => (
                <tr key={w.role}>
                  <td className="pin">
                    {adapter[w.adapter]} (pin {w.adapter + 1})
                  </td>
                  <td className="pin">
                    {w.role}, {w.row === 0 ? 'upper' : 'lower'} row, {w.column + 1}
                  </td>
                  <td>{wireWord(w.role)}</td>
                  <td>{w.layer === 'top' ? 'on top, insulated' : 'below, bare'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      </div>
      <p className="text-ink-2">
        It goes on from the {face === 'top' ? 'parts' : 'solder'} side; rows and pins are counted as seen from there,
        the drawings are turned for the side that is soldered. The square pin is pin 1 of the upper row. Check every
        wire with the ohmmeter before the first use. Low voltage only: the unit is off the mains whenever it is on.
      </p>
    </main>
  )
}

/** The jig of a unit's board on paper: both sides to scale, a line to check the printer by, and what it is made of. */
export default async function JigPage({ params }: { params: Promise<{ number: string }> }) {
  const { number } = await params
  const view = await inSnapshot(database(), (tx) => viewByNumber(tx, Number(number)))
  if (!view) notFound()
  const plan = jigOf(view)
  const pads = padsOf(view)
  const back = (
    <Link href={`/units/${view.number}/wire`} className="underline">
      Back to Wire
    </Link>
  )
  const two = twoRowsOf(view)
  if (two && view.adapter)
    return (
      <TwoRowsSheet
        two={two}
        adapter={view.adapter.pins}
        title={`${view.adapter.name} to ${view.module?.name ?? view.board?.name ?? `unit ${twoDigits(view.number)}`}`}
        pitchPads={pads.pitchMm ?? hole}
        pitchAdapter={view.records.wire.data.adapterPitchMm}
        face={view.records.wire.data.plugFace}
        back={back}
      />
    )
  if (!plan?.jig || !view.adapter)
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
  const { jig } = plan
  const adapter = view.adapter.pins
  const top = jig.wires.filter((w) => w.layer === 'top')
  const bottom = jig.wires.filter((w) => w.layer === 'bottom')
  const pitchPads = pads.pitchMm ?? 2.54
  const pitchAdapter = view.records.wire.data.adapterPitchMm
  const perfboard = (pitch: number) => Math.abs(pitch - 2.54) < 0.01
  return (
    <main className="mx-auto grid max-w-4xl gap-4 bg-sheet px-6 py-5">
      <div className="no-print flex flex-wrap items-center gap-4">
        {back}
        <PrintButton />
        <SaveSvg from="jig-parts" name={`jig-unit${twoDigits(view.number)}-parts-side.svg`} />
      </div>
      <h1 className="text-[1.4rem]">
        Jig: {view.adapter.name} to {view.board?.name ?? `unit ${twoDigits(view.number)}`}
      </h1>
      <FiftyMillimetres />
      <div className="flex flex-wrap gap-[12mm]">
        {(['parts', 'solder'] as const).map((side) => (
          <figure key={side} id={`jig-${side}`}>
            <JigDrawing
              jig={jig}
              adapter={adapter}
              pads={plan.padsInView}
              side={side}
              pitchPads={pitchPads}
              pitchAdapter={pitchAdapter}
              print
            />
            <figcaption>{side} side, 1:1</figcaption>
          </figure>
        ))}
      </div>
      <div className="grid gap-6 sm:grid-cols-2">
        <section>
          <h2 className="text-[1.1rem]">Parts</h2>
          <ul className="list-disc pl-5">
            <li>
              Perfboard, {jig.cols} × {jig.rows} holes at 2.54 mm
            </li>
            <li>
              Pin header, {plan.padsInView.length} pins at {pitchPads} mm, for the pads
              {!perfboard(pitchPads) && ': not the pitch of the board, so on short wires'}
            </li>
            <li>
              Socket, {adapter.length} ways at {pitchAdapter} mm, for the adapter
              {!perfboard(pitchAdapter) && ': not the pitch of the board, so on short wires'}
            </li>
            {bottom.length > 0 && <li>Bare wire, {lengths(bottom.length)}, below</li>}
            {top.length > 0 && <li>Insulated wire, {lengths(top.length)}, on top</li>}
            {plan.padsInView.includes('BOOT') && <li>A push button from BOOT to GND, on the jig itself</li>}
          </ul>
        </section>
        <section>
          <h2 className="text-[1.1rem]">Wires</h2>
          <table className="plain">
            <thead>
              <tr>
                <th>Adapter</th>
                <th>Pad</th>
                <th>Colour</th>
                <th>Runs</th>
              </tr>
            </thead>
            <tbody>
              {jig.wires.map((w) => (
                <tr key={w.role}>
                  <td className="pin">
                    {adapter[w.adapter]} (pin {w.adapter + 1})
                  </td>
                  <td className="pin">
                    {w.role} (pad {w.pad + 1})
                  </td>
                  <td>{wireWord(w.role)}</td>
                  <td>{w.layer === 'top' ? 'on top, insulated' : 'below, bare'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      </div>
      <p className="text-ink-2">
        Pads as seen from the {view.records.wire.data.plugFace === 'top' ? 'parts' : 'solder'} side of the unit, where
        the jig goes on{jig.adapterReversed ? '; the adapter sits turned round in its socket' : ''}. Check every wire
        with the ohmmeter against the list before the first use. Low voltage only: the unit is off the mains whenever
        the jig is on.
      </p>
    </main>
  )
}
