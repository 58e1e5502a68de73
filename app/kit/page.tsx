import { grouped } from '@fresh-coat/core/bytes/text'
import { dayWords } from '@fresh-coat/core/edge/day'
import { countsOf, countsSentence } from '@fresh-coat/core/identify/markings'
import { contactsOf, type KitModule } from '@fresh-coat/core/module/map'
import type { Adapter } from '@fresh-coat/core/unit/view'
import { type BoardPadRow, servesMost, sharedJigs } from '@fresh-coat/core/wiring/serves'
import type { Metadata } from 'next'
import { AdapterRow } from '@/components/drawings/adapter-row'
import { ContactMap } from '@/components/drawings/contact-map'
import { Fold } from '@/components/forms/fold'
import { AdapterForm, LineForm } from '@/components/kit/kit-forms'
import { MarkingForm, PriorForm } from '@/components/kit/marking-forms'
import { ModuleForm } from '@/components/kit/module-form'
import { OneFile } from '@/components/kit/one-file'
import Link from '@/components/link'
import { Empty } from '@/components/paint/paint'
import { boardRows, boardsByModule } from '@/server/boards/lists'
import { database, inSnapshot } from '@/server/db/client'
import { together } from '@/server/db/together'
import { kitOf, markings, priorOf } from '@/server/kit/reads'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Kit' }

/** Which one adapter goes straight on to most boards, and which boards share a jig. */
function WhichServes({ adapters, rows }: { adapters: readonly Adapter[]; rows: readonly BoardPadRow[] }) {
  const [best] = servesMost(adapters, rows)
  const [shared] = sharedJigs(rows)
  if (rows.length === 0 || (!best?.boards.length && !shared)) return null
  return (
    <p className="max-w-[90ch]">
      {best && best.boards.length > 0 && (
        <>
          <strong>{best.adapter.name}</strong> plugs straight on to {best.boards.length} of {rows.length} boards:{' '}
          {best.boards.map((b) => b.name).join(', ')}
          {best.bends > 0 && `; ${best.bends} ${best.bends === 1 ? 'pin' : 'pins'} to bend away in all`}.{' '}
        </>
      )}
      {shared && <>One jig serves {shared.map((b) => b.name).join(', ')}: the same row, the same pitch.</>}
    </p>
  )
}

/** Contact maps of modules, with the boards that name each. */
function Modules({
  modules,
  named,
}: {
  modules: readonly (KitModule & { version: number })[]
  named: Readonly<Record<string, string[]>>
}) {
  return (
    <>
      <h2 id="modules" className="text-[1.15rem]">
        Modules <span className="font-normal text-ink-2">{modules.length}</span>
      </h2>
      <ul className="grid gap-3 lg:grid-cols-2">
        {modules.map((m) => (
          <li key={m.id} className="sheet grid content-start gap-2 p-4">
            <h3 className="text-[1.1rem]">{m.name}</h3>
            <ContactMap
              name={m.name}
              contacts={contactsOf(m).map((c) => ({ ...c, sure: null, wrong: false, note: '' }))}
            />
            <p className="text-ink-2">
              {m.family} · {contactsOf(m).length} contacts, {m.pitchMm} mm apart
              {m.headerless ? ' · soldered flat' : ''} ·{' '}
              {named[m.id] ? `named by ${named[m.id]?.join(', ')}` : 'no board names it yet'}
            </p>
            <Fold look="bare" summary="Correct it">
              <ModuleForm key={m.version} module={m} />
            </Fold>
          </li>
        ))}
      </ul>
      <Fold look="sheet" summary="Write down a module’s contacts">
        <div className="max-w-3xl">
          <ModuleForm />
        </div>
      </Fold>
    </>
  )
}

type Kept = Awaited<ReturnType<typeof kitOf>>

/** Rooms that have no place of their own in the bar. */
function Around() {
  const link = 'underline underline-offset-4'
  return (
    <p>
      <Link href="/kit/routes" className={link}>
        Which route pays
      </Link>
      ,{' '}
      <Link href="/sums" className={link}>
        small sums of the bench
      </Link>
      ,{' '}
      <Link href="/labels" className={link}>
        labels
      </Link>
      ,{' '}
      <a href="/api/export/units" download className={link}>
        all units as a table
      </a>
      .
    </p>
  )
}

function AdapterSheet({ adapter }: { adapter: Kept['adapters'][number] }) {
  const { measured } = adapter
  return (
    <li className="sheet grid content-start gap-2 p-4">
      <h2 className="text-[1.1rem]">{adapter.name}</h2>
      <AdapterRow pins={adapter.pins} />
      <p className="text-ink-2">
        Logic {adapter.logicV} V ·{' '}
        {adapter.max3v3Ma ? `3V3 gives ${adapter.max3v3Ma} mA` : 'current of the 3V3 pin not known'} · labelled from the{' '}
        {adapter.labelledFrom}’s side
      </p>
      {measured && (
        <p className="text-ink-2">
          Line, with {measured.family} on {dayWords(measured.on)}:{' '}
          {measured.bestRate === null ? 'it does not hold' : `holds ${grouped(measured.bestRate)} baud`}
          {measured.latencyMs === null ? '' : `, an answer waits ${measured.latencyMs.toFixed(1)} ms`}
        </p>
      )}
      <Fold look="bare" summary="Correct it">
        <AdapterForm key={adapter.version} kit={adapter} />
      </Fold>
    </li>
  )
}

function Adapters({ adapters }: { adapters: Kept['adapters'] }) {
  const none = adapters.length === 0
  return (
    <>
      {none && (
        <Empty title="No adapter yet">
          <p>
            Write down the pin row of your adapter as it is after its level jumper is set, and what its 3V3 pin can
            give. The wiring plan needs both.
          </p>
        </Empty>
      )}
      <ul className="grid gap-3 lg:grid-cols-2">
        {adapters.map((a) => (
          <AdapterSheet key={a.id} adapter={a} />
        ))}
      </ul>
      <Fold look="sheet" summary="Add an adapter" startOpen={none}>
        <div className="max-w-3xl">
          <AdapterForm />
        </div>
      </Fold>
    </>
  )
}

function Lines({ lines }: { lines: Kept['lines'] }) {
  return (
    <>
      <h2 id="lines" className="text-[1.15rem]">
        Lines for your own tools <span className="font-normal text-ink-2">{lines.length}</span>
      </h2>
      <section className="sheet grid gap-3 p-4">
        <p className="text-ink-2">
          What you type to start a tool of yours; at Write it is filled in with port, file and offset. None ships.
        </p>
        {lines.map((l) => (
          <Fold
            key={l.id}
            look="bare"
            summary={
              <>
                <strong>{l.name}</strong> <span className="pin break-all text-ink-2">{l.text}</span>
              </>
            }
          >
            <div className="max-w-3xl">
              <LineForm key={l.version} line={l} />
            </div>
          </Fold>
        ))}
        <Fold look="bare" summary="Keep a line" startOpen={lines.length === 0}>
          <div className="max-w-3xl">
            <LineForm />
          </div>
        </Fold>
      </section>
    </>
  )
}

type Met = Awaited<ReturnType<typeof markings>>

function MarkingsTable({ met }: { met: Met }) {
  return (
    <>
      <div className="overflow-x-auto">
        <table className="plain">
          <thead>
            <tr>
              <th>Printed</th>
              <th>Found to be</th>
              <th>On units</th>
              <th>Entered by hand</th>
            </tr>
          </thead>
          <tbody>
            {met.map((m) => (
              <tr key={m.key}>
                <td className="pin font-semibold">{m.text}</td>
                <td>{countsSentence(countsOf(m)) || 'not established'}</td>
                <td>{m.units.map((u) => u.number).join(', ') || '–'}</td>
                <td>{countsSentence(m.own) || '–'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p>
        <a className="underline" href="/api/export/markings">
          Save them as CSV
        </a>
      </p>
    </>
  )
}

function Markings({ met, prior }: { met: Met; prior: Awaited<ReturnType<typeof priorOf>> }) {
  return (
    <>
      <h2 className="text-[1.15rem]">
        Markings met here <span className="font-normal text-ink-2">{met.length}</span>
      </h2>
      <section className="sheet grid gap-3 p-4">
        {met.length === 0 ? (
          <p className="text-ink-2">
            None yet. What is printed on a chip is typed in at Identify; once its family is established it counts for
            the next one like it.
          </p>
        ) : (
          <MarkingsTable met={met} />
        )}
        <Fold look="bare" summary="Enter finds of before, or of friends">
          <div className="max-w-3xl">
            <MarkingForm />
          </div>
        </Fold>
        <Fold look="bare" summary={`Chances of the families before any evidence${prior ? ', entered here' : ''}`}>
          <div className="max-w-3xl">
            <PriorForm key={JSON.stringify(prior)} prior={prior} />
          </div>
        </Fold>
      </section>
    </>
  )
}

export default async function Kit() {
  const { kit, met, prior, rows, named } = await inSnapshot(database(), (tx) =>
    together({
      kit: kitOf(tx),
      met: markings(tx),
      prior: priorOf(tx),
      rows: boardRows(tx),
      named: boardsByModule(tx),
    }),
  )
  const { adapters } = kit
  return (
    <main className="grid gap-4 px-4 py-3.5 sm:px-5">
      <h1 className="text-[1.4rem]">
        Kit{' '}
        <span className="font-normal text-ink-2">
          {adapters.length} serial {adapters.length === 1 ? 'adapter' : 'adapters'}
        </span>
      </h1>
      <Around />
      <WhichServes adapters={adapters} rows={rows} />
      <Adapters adapters={adapters} />
      <Modules modules={kit.modules} named={named} />
      <Lines lines={kit.lines} />
      <Markings met={met} prior={prior} />
      <OneFile />
    </main>
  )
}
