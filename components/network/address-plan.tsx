'use client'
import { type ExportFormat, exportFormats, exportOf } from '@fresh-coat/core/network/exports'
import type { Why } from '@fresh-coat/core/network/plan'
import { type AddressBoard, type AddressesShown, addressBoard } from '@fresh-coat/core/network/site-board'
import { planOfSite, readTaken, type SitePlan, type SiteUnit } from '@fresh-coat/core/network/site-plan'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useRef, useState } from 'react'
import { SubnetMap } from '@/components/drawings/subnet-map'
import { CommandForm } from '@/components/forms/command-form'
import { CopyText } from '@/components/forms/copy-text'
import { AreaField, TextField } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { Rows } from '@/components/forms/rows'
import Link from '@/components/link'
import { type Packed, usePacked } from '@/components/packed'
import { Findings, numbersOf, twoDigits } from '@/components/paint/paint'
import { ask } from '@/components/send'
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
const formatWords: Record<ExportFormat, string> = {
  dnsmasq: 'Lines for dnsmasq',
  isc: 'Blocks for a dhcpd',
  csv: 'A table',
}

function Exports({ board, whole }: { board: AddressBoard; whole: (format: ExportFormat) => Promise<string> }) {
  const [format, setFormat] = useState<ExportFormat>('dnsmasq')
  const { text, lines } = board.exports[format]
  return (
    <section className="grid gap-2" aria-labelledby="router">
      <h2 id="router" className="text-[1.15rem]">
        What the router is told
      </h2>
      <fieldset className="flex flex-wrap gap-2">
        <legend className="sr-only">Written how?</legend>
        {exportFormats.map((f) => (
          <button
            key={f}
            type="button"
            aria-pressed={format === f}
            className={`min-h-[2.4rem] rounded-[8px] border px-3 ${format === f ? 'border-ink bg-ink text-sheet' : 'border-ink-3 bg-sheet'}`}
            onClick={() => setFormat(f)}
          >
            {formatWords[f]}
          </button>
        ))}
      </fieldset>
      <CopyText text={text} none="No unit has an address in this plan." whole={{ lines, ask: () => whole(format) }} />
      <p className="text-ink-2">
        A reservation alone moves nobody: a unit takes its new address at its next renewal, or when it restarts. When it
        is heard there, note it at Join.
      </p>
    </section>
  )
}

/** Those that move come first; with more than are shown the whole of it is in the table to copy. */
function Table({ board: { rows, all } }: { board: AddressBoard }) {
  const more = all - rows.length
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
          {rows.map((r) => (
            <tr key={r.id}>
              <td>
                <Link href={`/units/${r.number}/join`} className="underline underline-offset-4">
                  {twoDigits(r.number)} {r.name}
                </Link>
              </td>
              <td className="pin">{r.now ?? '?'}</td>
              <td className={`pin ${r.now === r.planned ? '' : 'font-bold text-ochre'}`}>{r.planned ?? 'none'}</td>
              <td>{whyWords[r.why]}</td>
              <td className="pin">{r.hostname}</td>
              <td className="pin">{r.mac}</td>
            </tr>
          ))}
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

const unitsKey = ['units-to-plan']
const askUnits = () => ask<SiteUnit[]>('/api/network/units')

/** The plan of what is typed: as it came with the page until somebody types, then worked out here from all units. */
function usePlan(site: SitePlan, kept: AddressBoard | null, most: AddressesShown) {
  const client = useQueryClient()
  const [typed, setTyped] = useState<SitePlan | null>(null)
  const [near, setNear] = useState(false)
  const { data: units, error } = useQuery({ queryKey: unitsKey, queryFn: askUnits, enabled: near, retry: 1 })
  const fresh = useMemo(() => (typed && units ? addressBoard(typed, units, most) : undefined), [typed, units, most])
  const now = typed ?? site
  const behind = typed !== null && !units ? (error?.message ?? 'Asking which units there are…') : ''
  const board = fresh === undefined ? kept : fresh
  // While something is typed that cannot be planned, the last that could stays: nothing moves under the hand.
  const good = useRef({ board: kept?.fault === '' ? kept : null, site })
  if (board?.fault === '') good.current = { board, site: behind ? site : now }
  return {
    good: board === null ? { board: null, site } : good.current,
    /** A hand is on the form: what its typing needs is asked for. */
    near: () => setNear(true),
    type: setTyped,
    board,
    /** What is typed is not in the drawing yet; with words where it will not come. */
    behind,
    whole: async (format: ExportFormat): Promise<string> => {
      const { site: planned } = good.current
      const outcome = planOfSite(planned, await client.fetchQuery({ queryKey: unitsKey, queryFn: askUnits }))
      return outcome?.ok ? exportOf(format, outcome.value.assignments, planned.leaseTime || null) : ''
    },
  }
}

/** Every address, who moves, and what has to be said about it. */
function Drawn({ board, site }: { board: AddressBoard; site: SitePlan }) {
  return (
    <>
      <Scrolls label={`Addresses of ${site.subnet}`}>
        <SubnetMap
          subnet={site.subnet}
          pool={site.pool}
          groups={site.groups}
          taken={readTaken(site.taken).taken.map((t) => t.ip)}
          units={board.drawn}
        />
      </Scrolls>
      <p className="text-[0.93rem] text-ink-2">
        Grey: given out by the router. Blue rim: the range of a place. Dots: others. Ochre: to move there.
      </p>
      {board.found.length > 0 && <Findings findings={board.found} label="What the plan says" />}
    </>
  )
}

const counted = ({ all, moves }: AddressBoard): string =>
  `${all} ${all === 1 ? 'unit' : 'units'}, ${moves === 0 ? 'all where they are to be' : `${moves} to move`}`

export interface AddressesGiven {
  site: SitePlan
  /** Of what is kept; null while no network is. */
  board: AddressBoard | null
  shown: AddressesShown
  /** Units that are in no plan any more, and what it takes; null: all are in it. */
  beyond: { units: number; takes: number; above: number } | null
}

export function AddressPlan({ given }: { given: Packed<AddressesGiven> }) {
  const { site, board: kept, shown, beyond } = usePacked(given)
  const { good, near, type, board, behind, whole } = usePlan(site, kept, shown)
  const drawn = good.board
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
          {board && board.fault !== '' ? (
            <span role="alert" className="text-[1rem] font-normal text-oxide">
              {board.fault} What you typed is still here.
            </span>
          ) : (
            <span className="text-[1rem] font-normal text-ink-2">{board ? counted(board) : ''}</span>
          )}
        </h1>
        {behind && (
          <p role="status" className="text-ochre">
            {behind} The drawing is of what is kept; what you typed is below.
          </p>
        )}
        {board === null && (
          <p className="text-ink-2">
            Write down the network below: then every unit gets an address of its own for good.
          </p>
        )}
        {drawn && <Drawn board={drawn} site={good.site} />}
        {beyond && (
          <p className="text-ochre">
            {beyond.units} more units, of numbers above {beyond.above}, are not in this plan: it takes {beyond.takes}.
          </p>
        )}
        {board && board.waiting.all > 0 && (
          <p className="text-ink-2">
            Without a MAC nothing can be promised to {numbersOf(board.waiting)}: it is noted at Join.
          </p>
        )}
      </section>
      {drawn && drawn.all > 0 && <Table board={drawn} />}
      {drawn && <Exports board={drawn} whole={whole} />}
      <section className="grid max-w-3xl gap-3" aria-labelledby="network">
        <h2 id="network" className="text-[1.15rem]">
          The network
        </h2>
        <div className="sheet p-4" onFocusCapture={near}>
          <PlanForm site={site} typed={type} />
        </div>
      </section>
    </main>
  )
}
