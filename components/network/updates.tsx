'use client'
import type { CampaignPolicy } from '@fresh-coat/core/fleet/campaign'
import type { BoardUnit, CampaignBoard } from '@fresh-coat/core/fleet/campaign-board'
import { type Survival, usualMost } from '@fresh-coat/core/fleet/survival'
import { ringsCalendar } from '@fresh-coat/core/fleet/waves'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { ReleaseRates } from '@/components/drawings/release-rates'
import { RingLines } from '@/components/drawings/ring-lines'
import { CommandButton } from '@/components/forms/command-button'
import { useRefresh } from '@/components/frame/use-refresh'
import Link from '@/components/link'
import { useAir, useNow } from '@/components/live/use-air'
import { useFollow, useUntil } from '@/components/live/use-follow'
import { type Packed, usePacked } from '@/components/packed'
import { buttonClass, Notice, numbersOf, Tag, twoDigits } from '@/components/paint/paint'
import { Scrolls } from '@/components/tables/scrolls'
import { AskUnit } from './pick-unit'
import { RingCalendar } from './ring-calendar'
import { UpdateUnit } from './update-unit'
import { freshPolicy, PolicyForm, type SpecialUnit } from './updates-form'

/** One firmware to one version, ring by ring: drawn over time, begun by a press, judged by what is heard. */

const followMs = 5000

const reasonWords: Record<string, string> = {
  current: 'there already',
  held: 'left alone',
  newer: 'on something newer',
  manual: 'by hand, on the spot: what it runs through would be cut',
  'blocked-by': 'behind one that is left out',
  cycle: 'in a circle: each waits for the other',
}

const verdictWords = { go: 'go on', wait: 'wait', stop: 'stop' } as const

/** How the release fares on those that run it, before it goes to the next: from what was heard. */
function Fares({ survival }: { survival: Survival }) {
  const [found] = survival.findings
  return (
    <section className="sheet grid gap-2 p-4" aria-label="How it fares">
      <p className="flex flex-wrap items-baseline gap-2.5">
        <Tag severity={survival.verdict === 'go' ? 'ok' : survival.verdict === 'stop' ? 'error' : 'watch'}>
          {verdictWords[survival.verdict]}
        </Tag>
        <span>
          {found
            ? `${found.message} ${found.because} ${found.next}`
            : `${survival.of} starts again by itself seldom enough.`}
        </span>
      </p>
      <Scrolls label="Restarts a day of each release">
        <ReleaseRates survival={survival} most={usualMost} />
      </Scrolls>
    </section>
  )
}

type Names = Readonly<Record<number, string>>
const named = (names: Names, number: number): string => `${twoDigits(number)} ${names[number] ?? ''}`.trimEnd()

interface ToChoose {
  board: CampaignBoard
  names: Names
  /** Number of the unit that is looked at. */
  chosen: number | null
  choose: (number: number) => void
}

/** Units to choose from: those whose turn is not over first, and any other by its number. */
function UnitsOfUpdate({ board: { list, all }, names, chosen, choose }: ToChoose) {
  return (
    <div className="flex flex-wrap items-end gap-2">
      <ul className="flex flex-wrap gap-2" aria-label="Units of the update">
        {list.map((u) => (
          <li key={u.number}>
            <button
              type="button"
              aria-pressed={chosen === u.number}
              className={buttonClass(chosen === u.number ? 'main' : 'quiet')}
              onClick={() => choose(u.number)}
            >
              {named(names, u.number)}
            </button>
          </li>
        ))}
      </ul>
      {all > list.length && (
        <AskUnit label={`Another of the ${all}, by its number`} ask={choose}>
          Show it
        </AskUnit>
      )}
    </div>
  )
}

/** Who is in no ring, by why. */
function LeftOut({ skipped, names }: { skipped: CampaignBoard['skipped']; names: Names }) {
  if (skipped.length === 0) return null
  return (
    <ul className="grid gap-1" aria-label="In no ring">
      {skipped.map((s) => (
        <li key={s.why} className="flex gap-2.5">
          <Tag severity={s.why === 'current' || s.why === 'held' ? 'ok' : 'watch'}>{String(s.all)}</Tag>
          <span>
            {s.all === 1 && s.numbers[0] !== undefined ? named(names, s.numbers[0]) : numbersOf(s)}{' '}
            <span className="text-ink-2">{reasonWords[s.why] ?? s.why}</span>
          </span>
        </li>
      ))}
    </ul>
  )
}

interface Room {
  policy: CampaignPolicy | null
  board: CampaignBoard | null
  survival: Survival | null
  firmwares: readonly { name: string; units: number }[]
  special: readonly SpecialUnit[]
  /** Of every unit that the board shows, by its number. */
  names: Names
}

/** The unit that is looked at, as the page has it already; null: it is to be asked for. */
function onBoard(board: CampaignBoard | null, number: number | null): (BoardUnit & { why: string }) | null {
  if (!board || number === null) return null
  if (board.chosen?.number === number) return board.chosen
  for (const { units, why } of board.rings) {
    const unit = units.find((u) => u.number === number)
    if (unit) return { ...unit, why }
  }
  return null
}

/** Which unit is looked at stands in the address: a reload and a link show it too. */
function useChosen(board: CampaignBoard | null, asked: number | null) {
  const router = useRouter()
  const [waits, follow] = useTransition()
  const [chosen, setChosen] = useState(asked)
  const choose = (number: number) => {
    setChosen(number)
    const address = `?unit=${number}`
    if (onBoard(board, number)) window.history.replaceState(null, '', address)
    else follow(() => router.replace(address, { scroll: false }))
  }
  return { chosen, choose, waits, unit: onBoard(board, chosen) }
}

function Drawn({
  policy,
  now,
  ...units
}: ToChoose & {
  policy: CampaignPolicy
  now: number
}) {
  const { board, chosen, choose } = units
  return (
    <>
      <Scrolls label="Rings over time">
        <RingLines
          rings={board.rings}
          blackouts={policy.blackouts.map((b) => ({ from: Date.parse(b.from), to: Date.parse(b.to), what: b.what }))}
          now={now}
          chosen={chosen}
          onChoose={choose}
        />
      </Scrolls>
      <UnitsOfUpdate {...units} />
    </>
  )
}

const unitsInRings = ({ all, rings, begun }: CampaignBoard): string =>
  `${all} ${all === 1 ? 'unit' : 'units'} in ${rings.length} ${rings.length === 1 ? 'ring' : 'rings'}; ${begun} begun`

/** What is done with the whole of it. */
function WholeUpdate({ policy, board }: { policy: CampaignPolicy; board: CampaignBoard }) {
  const ics = board.rings.length > 0 ? ringsCalendar(board.rings, Date.parse(policy.start)) : ''
  return (
    <div className="flex flex-wrap items-baseline gap-4">
      {ics && (
        <a
          className="underline underline-offset-4"
          download={`updates-${policy.version}.ics`}
          href={`data:text/calendar;charset=utf-8,${encodeURIComponent(ics)}`}
        >
          Into a calendar
        </a>
      )}
      <CommandButton command="end-campaign" input={{}} look="quiet">
        Put this update away
      </CommandButton>
    </div>
  )
}

function HowItGoes({ policy, firmwares, special }: Pick<Room, 'policy' | 'firmwares' | 'special'>) {
  return (
    <section className="grid gap-3" aria-labelledby="policy">
      <h2 id="policy" className="text-[1.15rem]">
        {policy ? 'How it goes' : 'Plan an update'}
      </h2>
      <div className="sheet p-4">
        {firmwares.length === 0 ? (
          <p className="text-ink-2">No unit in service says what firmware it runs.</p>
        ) : (
          <PolicyForm
            key={JSON.stringify(policy)}
            policy={policy ?? freshPolicy(firmwares[0]?.name ?? '')}
            firmwares={firmwares}
            special={special}
          />
        )}
      </div>
    </section>
  )
}

/** @param given the room, and the number that somebody asked for */
export function Updates({ given }: { given: Packed<{ room: Room; asked: number | null }> }) {
  const { room, asked } = usePacked(given)
  const { policy, board, survival, names } = room
  const refresh = useRefresh()
  // What is heard judges an update: the page follows, at its own pace where many speak.
  useAir({ rows: [], link: null }, 0, useFollow(refresh, followMs))
  useUntil(refresh, board?.until ?? null)
  const clock = useNow(5000)
  const now = clock ?? (policy ? Date.parse(policy.start) : 0)
  const { chosen, choose, waits, unit } = useChosen(board, asked)
  return (
    <main className="grid gap-4 px-4 py-3.5 sm:px-5">
      <p>
        <Link href="/network" className="underline underline-offset-4">
          Network
        </Link>
      </p>
      <section className="sheet grid gap-3 p-4" aria-labelledby="updates">
        <h1 id="updates" className="text-[1.4rem]">
          {policy ? `${policy.firmware} to ${policy.version}` : 'Updates'}{' '}
          <span className="text-[1rem] font-normal text-ink-2">{board ? unitsInRings(board) : 'none is planned'}</span>
        </h1>
        {!policy && (
          <p className="text-ink-2">
            Plan below who goes first, when, and when it stops by itself. Nothing is updated by the app: it says whose
            turn it is, and judges by what it hears.
          </p>
        )}
        {board?.fault && <Notice severity="error" title={board.fault} />}
        {policy && board && board.rings.length > 0 && (
          <Drawn board={board} policy={policy} names={names} now={now} chosen={chosen} choose={choose} />
        )}
        {board && <LeftOut skipped={board.skipped} names={names} />}
        {board && board.unknown.all > 0 && (
          <p className="text-ochre">Nobody knows what {numbersOf(board.unknown)} runs: note it at Watch.</p>
        )}
      </section>
      {chosen !== null && !unit && board && (
        <p role="status" className={waits ? 'text-ink-2' : 'text-ochre'}>
          {waits ? `Asking for ${twoDigits(chosen)}…` : `No unit of this update has the number ${chosen}.`}
        </p>
      )}
      {unit && <UpdateUnit key={unit.id} unit={unit} name={names[unit.number] ?? ''} now={now} done={refresh} />}
      {survival && <Fares survival={survival} />}
      {policy && board && board.rings.length > 0 && clock !== null && (
        <Scrolls label="Rings by their days">
          <RingCalendar policy={policy} rings={board.rings} now={now} />
        </Scrolls>
      )}
      {policy && board && <WholeUpdate policy={policy} board={board} />}
      <HowItGoes policy={policy} firmwares={room.firmwares} special={room.special} />
    </main>
  )
}
