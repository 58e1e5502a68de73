'use client'
import type { Finding } from '@fresh-coat/core/edge/finding'
import type { NetPlan, Why } from '@fresh-coat/core/network/plan'
import { planOfSite, readTaken, type SitePlan, type SiteUnit } from '@fresh-coat/core/network/site-plan'
import { useMemo, useState } from 'react'
import { SubnetMap } from '@/components/drawings/subnet-map'
import { CommandForm } from '@/components/forms/command-form'
import { CopyText } from '@/components/forms/copy-text'
import { AreaField, TextField } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { Rows } from '@/components/forms/rows'
import { foldAlike } from '@/components/frame/alike'
import Link from '@/components/link'
import { Findings, Notice, numbersOf, twoDigits } from '@/components/paint/paint'
import { Scrolls } from '@/components/tables/scrolls'

/** Which address each unit has for good: drawn as it would be, with what the router is told. The form stands below its result. */

const whyWords: Record<Why, string> = {
  kept: 'keeps its own',
  own: 'already promised to it',
  group: 'the range of its place',
  spill: 'the range of its place is full',
  general: 'the lowest that is free',
  duplicate: 'its MAC is another unit’s',
  'no-address': 'nothing is free',
}
const formats = {
  dnsmasq: 'Lines for dnsmasq',
  isc: 'Blocks for a dhcpd',
  csv: 'A table',
} as const
type Format = keyof typeof formats

function Exports({ plan }: { plan: NetPlan }) {
  const [format, setFormat] = useState<Format>('dnsmasq')
  return (
    <section className="grid gap-2" aria-labelledby="router">
      <h2 id="router" className="text-[1.15rem]">
        What the router is told
      </h2>
      <fieldset className="flex flex-wrap gap-2">
        <legend className="sr-only">Written how?</legend>
        {(Object.keys(formats) as Format[]).map((f) => (
          <button
            key={f}
            type="button"
            aria-pressed={format === f}
            className={`min-h-[2.4rem] rounded-[8px] border px-3 ${format === f ? 'border-ink bg-ink text-sheet' : 'border-ink-3 bg-sheet'}`}
            onClick={() => setFormat(f)}
          >
            {formats[f]}
          </button>
        ))}
      </fieldset>
      <CopyText text={plan.exports[format]} none="No unit has an address in this plan." />
      <p className="text-ink-2">
        A reservation alone moves nobody: a unit takes its new address at its next renewal, or when it restarts. When it
        is heard there, note it at Join.
      </p>
    </section>
  )
}

/** Above it, alike ones are one that says how many there are: each is in the table too. */
const mostFound = 24

/** Those that move come first; with more than this many the whole of it is in the table to copy. */
const mostRows = 100

function Table({ plan, of }: { plan: NetPlan; of: ReadonlyMap<string, SiteUnit> }) {
  const moves = (a: NetPlan['assignments'][number]) => of.get(a.id)?.address !== a.ip
  const rows =
    plan.assignments.length <= mostRows
      ? plan.assignments
      : [...plan.assignments.filter(moves), ...plan.assignments.filter((a) => !moves(a))].slice(0, mostRows)
  const more = plan.assignments.length - rows.length
  return (
    <Scrolls label="The plan, unit by unit">
      <table className="plain">
        <thead>
          <tr>
            <th>Unit</th>
            <th>Now</th>
            <th>Planned</th>
            <th>Because</th>
            <th>Host name</th>
            <th>MAC</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((a) => {
            const unit = of.get(a.id)
            return (
              <tr key={a.id}>
                <td>
                  <Link href={`/units/${a.number}/join`} className="underline underline-offset-4">
                    {twoDigits(a.number)} {unit?.name}
                  </Link>
                </td>
                <td className="pin">{unit?.address || '?'}</td>
                <td className={`pin ${unit?.address === a.ip ? '' : 'font-bold text-ochre'}`}>{a.ip ?? 'none'}</td>
                <td>{whyWords[a.why]}</td>
                <td className="pin">{a.hostname}</td>
                <td className="pin">{a.mac}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {more > 0 && <p className="p-2 text-ink-2">and {more} more: they are all in the table to copy below.</p>}
    </Scrolls>
  )
}

function PlanForm({ site, typed }: { site: SitePlan; typed: (site: SitePlan) => void }) {
  return (
    <CommandForm command="set-addresses" empty={site as SitePlan & Record<string, unknown>} submit="Keep this network">
      {(v, put) => {
        const set = (change: Partial<SitePlan>) => {
          put(change)
          typed({ ...v, ...change })
        }
        return (
          <>
            <div className="grid gap-3 sm:grid-cols-3">
              <TextField
                label="Network"
                mono
                value={v.subnet}
                maxLength={18}
                placeholder="192.168.71.0/24"
                onChange={(subnet) => set({ subnet })}
              />
              <TextField
                label="Router"
                mono
                value={v.gateway}
                maxLength={15}
                placeholder="192.168.71.1"
                onChange={(gateway) => set({ gateway })}
              />
              <TextField
                label="A lease lasts"
                mono
                value={v.leaseTime}
                maxLength={10}
                placeholder="12h"
                onChange={(leaseTime) => set({ leaseTime })}
              />
              <TextField
                label="The router gives out, from"
                mono
                value={v.pool.from}
                maxLength={15}
                onChange={(from) => set({ pool: { ...v.pool, from } })}
              />
              <TextField
                label="to"
                mono
                value={v.pool.to}
                maxLength={15}
                onChange={(to) => set({ pool: { ...v.pool, to } })}
              />
            </div>
            <Fold summary={`Ranges for places: ${v.groups.length}`} startOpen={v.groups.length > 0}>
              <Rows
                rows={v.groups}
                columns="sm:grid-cols-[minmax(0,1fr)_10rem_10rem_auto]"
                most={60}
                another="A range for a place"
                fresh={() => ({ place: '', from: '', to: '' })}
                onChange={(groups) => set({ groups })}
              >
                {(g, one) => (
                  <>
                    <TextField label="Place" value={g.place} maxLength={120} onChange={(place) => one({ place })} />
                    <TextField label="from" mono value={g.from} maxLength={15} onChange={(from) => one({ from })} />
                    <TextField label="to" mono value={g.to} maxLength={15} onChange={(to) => one({ to })} />
                  </>
                )}
              </Rows>
            </Fold>
            <AreaField
              label="Addresses of others: address, MAC where it is known, whose; one to a line"
              rows={4}
              value={v.taken}
              maxLength={20_000}
              onChange={(taken) => set({ taken })}
              hint={
                readTaken(v.taken).unread.length > 0
                  ? `Not read: ${readTaken(v.taken).unread.slice(0, 3).join('; ')}`
                  : ''
              }
            />
          </>
        )
      }}
    </CommandForm>
  )
}

export function AddressPlan({
  site,
  units,
  beyond = 0,
}: {
  site: SitePlan
  units: readonly SiteUnit[]
  /** Units that are in no plan any more. */
  beyond?: number
}) {
  const [now, setNow] = useState(site)
  const outcome = useMemo(() => planOfSite(now, units), [now, units])
  const plan = outcome?.ok ? outcome.value : null
  const waiting = units.filter((u) => u.mac === '')
  const of = useMemo(() => new Map(units.map((u) => [u.id, u])), [units])
  const placed = (plan?.assignments ?? []).map((a) => {
    const unit = of.get(a.id)
    return { number: a.number, name: unit?.name ?? '', now: unit?.address || null, planned: a.ip }
  })
  const moves = placed.filter((u) => u.now !== u.planned).length
  /** A finding of one unit begins with which. */
  const named = (f: Finding): Finding => {
    const unit = 'unit' in f && typeof f.unit === 'string' ? of.get(f.unit) : undefined
    return unit ? { ...f, message: `${twoDigits(unit.number)} ${unit.name}: ${f.message}` } : f
  }
  const found = (plan?.findings ?? []).map(named)
  return (
    <main className="grid gap-4 px-4 py-3.5 sm:px-5">
      <p>
        <Link href="/network" className="underline underline-offset-4">
          Network
        </Link>
      </p>
      <section className="sheet grid gap-3 p-4" aria-labelledby="plan">
        <h1 id="plan" className="text-[1.4rem]">
          Address plan{' '}
          <span className="text-[1rem] font-normal text-ink-2">
            {plan ? `${placed.length} units, ${moves === 0 ? 'all where they are to be' : `${moves} to move`}` : ''}
          </span>
        </h1>
        {!plan && !outcome && (
          <p className="text-ink-2">
            Write down the network below: then every unit gets an address of its own for good.
          </p>
        )}
        {outcome && !outcome.ok && (
          <Notice severity="error" title={outcome.faults[0]?.message ?? 'This network cannot be planned.'}>
            What you typed is still here.
          </Notice>
        )}
        {plan && (
          <>
            <Scrolls label={`Addresses of ${now.subnet}`}>
              <SubnetMap
                subnet={now.subnet}
                pool={now.pool}
                groups={now.groups}
                taken={readTaken(now.taken).taken.map((t) => t.ip)}
                units={placed}
              />
            </Scrolls>
            <p className="text-[0.93rem] text-ink-2">
              Grey: given out by the router. Blue rim: the range of a place. Dots: others. Ochre: to move there.
            </p>
            {found.length > 0 && (
              <Findings findings={found.length > mostFound ? foldAlike(found) : found} label="What the plan says" />
            )}
          </>
        )}
        {beyond > 0 && (
          <p className="text-ochre">
            {beyond} more units, of numbers above {units.at(-1)?.number}, are not in this plan: it takes {units.length}.
          </p>
        )}
        {waiting.length > 0 && (
          <p className="text-ink-2">
            Without a MAC nothing can be promised to {numbersOf(waiting)}: it is noted at Join.
          </p>
        )}
      </section>
      {plan && plan.assignments.length > 0 && <Table plan={plan} of={of} />}
      {plan && <Exports plan={plan} />}
      <section className="grid max-w-3xl gap-3" aria-labelledby="network">
        <h2 id="network" className="text-[1.15rem]">
          The network
        </h2>
        <div className="sheet p-4">
          <PlanForm site={site} typed={setNow} />
        </div>
      </section>
    </main>
  )
}
