'use client'
import { type Campaign, type CampaignUnit, campaignNow, mayBegin } from '@fresh-coat/core/fleet/campaign'
import { survivalOf } from '@fresh-coat/core/fleet/heard-releases'
import { type ReleaseRecord, type Survival, usualMost } from '@fresh-coat/core/fleet/survival'
import { ringsCalendar } from '@fresh-coat/core/fleet/waves'
import { useCallback, useMemo, useRef, useState } from 'react'
import { ReleaseRates } from '@/components/drawings/release-rates'
import { type RingLine, RingLines } from '@/components/drawings/ring-lines'
import { CommandButton } from '@/components/forms/command-button'
import { useRefresh } from '@/components/frame/use-refresh'
import Link from '@/components/link'
import { useAir, useNow } from '@/components/live/use-air'
import { buttonClass, Notice, numbersOf, Tag, twoDigits } from '@/components/paint/paint'
import { Scrolls } from '@/components/tables/scrolls'
import { PickUnit } from './pick-unit'
import { RingCalendar } from './ring-calendar'
import { UpdateUnit } from './update-unit'
import { freshPolicy, PolicyForm } from './updates-form'

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

const mostNamed = 30

/** Units to choose from: those whose turn is not over first, and any other by its number. */
function UnitsOfUpdate({
  rings,
  chosen,
  choose,
}: {
  rings: readonly RingLine[]
  chosen: number | null
  choose: (number: number) => void
}) {
  const all = rings.flatMap((r) => r.units)
  const shown =
    all.length <= mostNamed ? all : [...all].sort((a, b) => Number(a.state === 'ok') - Number(b.state === 'ok'))
  return (
    <div className="flex flex-wrap items-end gap-2">
      <ul className="flex flex-wrap gap-2" aria-label="Units of the update">
        {shown.slice(0, mostNamed).map((u) => (
          <li key={u.number}>
            <button
              type="button"
              aria-pressed={chosen === u.number}
              className={buttonClass(chosen === u.number ? 'main' : 'quiet')}
              onClick={() => choose(u.number)}
            >
              {twoDigits(u.number)} {u.name}
            </button>
          </li>
        ))}
      </ul>
      {all.length > mostNamed && (
        <PickUnit label={`Another of the ${all.length}, by its number`} units={all} pick={(u) => choose(u.number)}>
          Show it
        </PickUnit>
      )}
    </div>
  )
}

/** Who is in no ring, by why. */
function LeftOut({
  skipped,
  of,
}: {
  skipped: readonly { id: string; reason: string }[]
  of: ReadonlyMap<string, CampaignUnit>
}) {
  const whyOf = (s: { reason: string }) => s.reason.replace(/:.*/, '')
  const whys = [...new Set(skipped.map(whyOf))]
  if (skipped.length === 0) return null
  return (
    <ul className="grid gap-1" aria-label="In no ring">
      {whys.map((why) => {
        const some = skipped.filter((s) => whyOf(s) === why)
        const units = some.flatMap((s) => of.get(s.id) ?? [])
        const [only] = units
        return (
          <li key={why} className="flex gap-2.5">
            <Tag severity={why === 'current' || why === 'held' ? 'ok' : 'watch'}>{String(some.length)}</Tag>
            <span>
              {units.length === 1 && only ? `${twoDigits(only.number)} ${only.name}` : numbersOf(units)}{' '}
              <span className="text-ink-2">{reasonWords[why] ?? why}</span>
            </span>
          </li>
        )
      })}
    </ul>
  )
}

export function Updates({
  campaign,
  units,
  firmwares,
  releases,
}: {
  campaign: Campaign | null
  units: readonly CampaignUnit[]
  firmwares: readonly { name: string; units: number }[]
  /** Of the firmware that is updated, how each release fared. */
  releases: readonly ReleaseRecord[]
}) {
  const refresh = useRefresh()
  // What is heard judges an update: the page follows, at its own pace where many speak.
  const refreshedAt = useRef(0)
  const follow = useCallback(() => {
    if (Date.now() - refreshedAt.current < followMs) return
    refreshedAt.current = Date.now()
    refresh()
  }, [refresh])
  useAir({ rows: [], link: null }, 0, follow)
  const clock = useNow(5000)
  const [chosen, setChosen] = useState<number | null>(null)
  const now = clock ?? (campaign ? Date.parse(campaign.policy.start) : 0)
  const seen = useMemo(() => (campaign ? campaignNow(campaign, units, now) : null), [campaign, units, now])
  const survival = useMemo(
    () => (campaign ? survivalOf(releases, campaign.policy.version) : null),
    [campaign, releases],
  )
  const waves = seen?.plan.ok ? seen.plan.value.waves : []
  const of = new Map(units.map((u) => [u.id, u]))
  const rings = waves.map((w) => ({
    name: w.ring,
    status: w.status,
    notBefore: Date.parse(w.notBefore),
    units: w.units.flatMap(({ id, start }) => {
      const u = of.get(id)
      return u
        ? [
            {
              number: u.number,
              name: u.name,
              start: Date.parse(start),
              state: seen?.went.get(id)?.state ?? ('waiting' as const),
            },
          ]
        : []
    }),
  }))
  const unit = units.find((u) => u.number === chosen)
  const ics =
    campaign && waves.length > 0 && clock !== null ? ringsCalendar(waves, Date.parse(campaign.policy.start)) : ''
  const begun = campaign ? Object.keys(campaign.begun).length : 0
  return (
    <main className="grid gap-4 px-4 py-3.5 sm:px-5">
      <p>
        <Link href="/network" className="underline underline-offset-4">
          Network
        </Link>
      </p>
      <section className="sheet grid gap-3 p-4" aria-labelledby="updates">
        <h1 id="updates" className="text-[1.4rem]">
          {campaign ? `${campaign.policy.firmware} to ${campaign.policy.version}` : 'Updates'}{' '}
          <span className="text-[1rem] font-normal text-ink-2">
            {campaign
              ? `${rings.reduce((n, r) => n + r.units.length, 0)} units in ${rings.length} rings; ${begun} begun`
              : 'none is planned'}
          </span>
        </h1>
        {!campaign && (
          <p className="text-ink-2">
            Plan below who goes first, when, and when it stops by itself. Nothing is updated by the app: it says whose
            turn it is, and judges by what it hears.
          </p>
        )}
        {seen && !seen.plan.ok && (
          <Notice severity="error" title={seen.plan.faults[0]?.message ?? 'It cannot be planned.'} />
        )}
        {rings.length > 0 && campaign && (
          <>
            <Scrolls label="Rings over time">
              <RingLines
                rings={rings}
                blackouts={campaign.policy.blackouts.map((b) => ({
                  from: Date.parse(b.from),
                  to: Date.parse(b.to),
                  what: b.what,
                }))}
                now={now}
                chosen={chosen}
                onChoose={setChosen}
              />
            </Scrolls>
            <UnitsOfUpdate rings={rings} chosen={chosen} choose={setChosen} />
          </>
        )}
        {seen?.plan.ok && <LeftOut skipped={seen.plan.value.skipped} of={of} />}
        {(seen?.unknown.length ?? 0) > 0 && (
          <p className="text-ochre">Nobody knows what {numbersOf(seen?.unknown ?? [])} runs: note it at Watch.</p>
        )}
      </section>
      {unit && seen && (
        <UpdateUnit
          key={unit.id}
          unit={unit}
          how={seen.went.get(unit.id) ?? { state: 'waiting' }}
          turn={rings.flatMap((r) => r.units).find((u) => u.number === unit.number)?.start ?? null}
          why={mayBegin(waves, unit.id, now, survival)}
          now={now}
          done={refresh}
        />
      )}
      {survival && <Fares survival={survival} />}
      {campaign && waves.length > 0 && clock !== null && (
        <Scrolls label="Rings by their days">
          <RingCalendar policy={campaign.policy} waves={waves} begun={new Set(Object.keys(campaign.begun))} now={now} />
        </Scrolls>
      )}
      {campaign && (
        <div className="flex flex-wrap items-baseline gap-4">
          {ics && (
            <a
              className="underline underline-offset-4"
              download={`updates-${campaign.policy.version}.ics`}
              href={`data:text/calendar;charset=utf-8,${encodeURIComponent(ics)}`}
            >
              Into a calendar
            </a>
          )}
          <CommandButton command="end-campaign" input={{}} look="quiet">
            Put this update away
          </CommandButton>
        </div>
      )}
      <section className="grid gap-3" aria-labelledby="policy">
        <h2 id="policy" className="text-[1.15rem]">
          {campaign ? 'How it goes' : 'Plan an update'}
        </h2>
        <div className="sheet p-4">
          {firmwares.length === 0 ? (
            <p className="text-ink-2">No unit in service says what firmware it runs.</p>
          ) : (
            <PolicyForm
              key={JSON.stringify(campaign?.policy ?? null)}
              policy={campaign?.policy ?? freshPolicy(firmwares[0]?.name ?? '')}
              firmwares={firmwares}
              units={units}
            />
          )}
        </div>
      </section>
    </main>
  )
}
