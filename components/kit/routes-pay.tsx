'use client'
import {
  type ComparedRoute,
  comparedAt,
  RouteAssumption,
  type RouteAssumptions,
  type RouteCriterion,
  routeCriteria,
  type SiteRoutes,
  siteRoutes,
} from '@fresh-coat/core/calculators/routes-of-site'
import { within } from '@fresh-coat/core/edge/within'
import { type Money, moneyWords, type RouteCost } from '@fresh-coat/core/unit/cost'
import { type RouteId, routeIds, routes } from '@fresh-coat/core/unit/way'
import { LearningDots } from '@/components/drawings/learning-dots'
import { RouteBars } from '@/components/drawings/route-bars'
import { CommandForm } from '@/components/forms/command-form'
import { NumberField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { Tag } from '@/components/paint/paint'
import { Scrolls } from '@/components/tables/scrolls'

/** Which route pays, drawn first; what is assumed stands below and can be changed, what the record says is taken from it. */

const criterionWords: Record<RouteCriterion, string> = {
  noAccount: 'needs no account of a vendor',
  ownFirmware: 'runs firmware of one’s own',
  enclosed: 'comes in a case',
  certified: 'is certified as it is used',
  button: 'has a button of its own',
  reversible: 'can be taken back',
}
const inputWords: Record<string, string> = {
  hourValue: 'what an hour is worth',
  unitPrice: 'its price',
  fixedCost: 'what is bought once',
  minutesFirst: 'the minutes of the first',
  learningRate: 'how fast one learns',
  minMinutes: 'the least minutes',
  failProb: 'how many die',
  failCost: 'what a dead one costs',
}
const names = Object.fromEntries(routeIds.map((id) => [id, routes[id].name])) as Record<RouteId, string>
const nameOf = (id: string) => names[id as RouteId] ?? id

function inputName(input: string): string {
  const [route, field] = input.includes('.') ? input.split('.') : ['', input]
  return `${inputWords[field ?? ''] ?? field}${route ? `, ${within(nameOf(route))}` : ''}`
}

function BreakEvens({ comparison }: Pick<SiteRoutes, 'comparison'>) {
  // Between two that neither is ever the best, the turn says nothing about what to do.
  const best = new Set(comparison.results.map((r) => r.best))
  const later = (b: (typeof comparison.breakEven)[number]) => (b.cheaperAtOne === b.a ? b.b : b.a)
  const turns = comparison.breakEven.filter(
    (b) => b.breakEvenN !== null && b.cheaperAtOne !== null && best.has(later(b)),
  )
  if (turns.length === 0) return null
  return (
    <ul className="grid gap-1">
      {turns.slice(0, 4).map((b) => {
        return (
          <li key={`${b.a} ${b.b}`}>
            <strong>{nameOf(later(b))}</strong> pays from {b.breakEvenN} units on, against{' '}
            {within(nameOf(b.cheaperAtOne ?? ''))}.
          </li>
        )
      })}
    </ul>
  )
}

/** What a quarter more or less of each figure does to the best route; what would make another one best is marked. */
function Tornado({ comparison, words }: Pick<SiteRoutes, 'comparison'> & { words: (n: number) => string }) {
  const rows = comparison.tornado.slice(0, 7)
  const most = Math.max(1e-9, ...rows.map((r) => r.swing))
  return (
    <ul className="grid gap-1.5" aria-label="What it hangs on">
      {rows.map((r) => (
        <li
          key={r.input}
          className="grid grid-cols-[minmax(0,1fr)_5rem_5rem] items-center gap-3 sm:grid-cols-[minmax(0,17rem)_minmax(0,1fr)_6rem]"
        >
          <span className={r.changesBest ? 'font-semibold' : ''}>{inputName(r.input)}</span>
          <span className="h-3 rounded-[3px] bg-sheet-2">
            <span
              className={`block h-3 rounded-[3px] ${r.changesBest ? 'bg-ochre-line' : 'bg-prussian'}`}
              style={{ width: `${(100 * r.swing) / most}%` }}
            />
          </span>
          <span className="pin text-right">{words(r.swing)}</span>
        </li>
      ))}
    </ul>
  )
}

const percent = (share: number) => `${Math.round(share * 100)} %`

/** What one's own units say of a route: how fast one learns, and how many died on the way. */
function OwnRecord({ route, own }: { route: ComparedRoute; own: RouteCost | undefined }) {
  if (!own) return null
  const tried = own.units + own.died
  const losses =
    own.died > 0 || route.losses === 'record'
      ? `${own.died} of ${tried} died on the way${route.losses === 'record' ? '' : '; from ten on that is counted with'}.`
      : ''
  if (!route.curve && !losses) return null
  return (
    <section className="grid gap-1">
      <h2 className="text-[1.05rem]">
        {nameOf(route.id)}{' '}
        <span className="font-normal text-ink-2">
          {route.curve &&
            (route.curve.rate < 0.995
              ? `each doubling of their number takes ${percent(route.curve.rate)} of the time. `
              : 'no unit goes quicker than the ones before. ')}
          {losses}
        </span>
      </h2>
      {route.curve && (
        <Scrolls label={`Minutes of each unit, ${nameOf(route.id)}`}>
          <LearningDots name={nameOf(route.id)} taken={own.taken} curve={route.curve} />
        </Scrolls>
      )}
    </section>
  )
}

function Compared({
  found,
  money,
  record,
}: {
  found: SiteRoutes | null
  money: Money
  record: Partial<Record<RouteId, RouteCost>>
}) {
  const words = (n: number) => moneyWords(n, money)
  if (!found) return <p>Two routes need a price and minutes: then they are compared.</p>
  const { comparison, compared, left } = found
  const own = compared.filter((c) => c.minutes === 'record' || c.price === 'record')
  return (
    <div className="grid gap-4" role="status">
      <Scrolls label="What each route costs">
        <RouteBars results={comparison.results} names={names} words={words} />
      </Scrolls>
      {comparison.findings.map((f) => (
        <p key={f.code} className="flex gap-2.5">
          <Tag severity="watch">close</Tag> Too close to call: a quarter more or less of what is marked below makes
          another route the cheapest.
        </p>
      ))}
      <BreakEvens comparison={comparison} />
      {compared.map((c) => (
        <OwnRecord key={c.id} route={c} own={record[c.id]} />
      ))}
      <Tornado comparison={comparison} words={words} />
      <p className="text-ink-2">
        {own.length > 0
          ? `From your own record: ${own.map((c) => nameOf(c.id).toLowerCase()).join(', ')}. `
          : 'Nothing of it is from your own record yet: three proven units of a route are wanted. '}
        {left.length > 0 &&
          `Not compared, nobody has said what they cost: ${left.map((id) => nameOf(id).toLowerCase()).join(', ')}. `}
        {money.hourWorth === null && 'An hour counts for nothing here: set its worth under Network.'}
      </p>
    </div>
  )
}

function Assumed({ a, put }: { a: RouteAssumption; put: (to: Partial<RouteAssumption>) => void }) {
  return (
    <div className="grid gap-3 sm:grid-cols-3 lg:grid-cols-6">
      <NumberField label="One costs" min={0} value={a.unitPrice} onChange={(unitPrice) => put({ unitPrice })} />
      <NumberField label="Bought once" min={0} value={a.fixedCost} onChange={(n) => put({ fixedCost: n ?? 0 })} />
      <NumberField
        label="The first takes"
        unit="min"
        min={0}
        value={a.minutesFirst}
        onChange={(n) => put({ minutesFirst: n !== null && n > 0 ? n : null })}
      />
      <NumberField
        label="Each doubling takes"
        unit="%"
        min={50}
        max={100}
        value={Math.round(a.learningRate * 1000) / 10}
        onChange={(n) => n !== null && n >= 50 && n <= 100 && put({ learningRate: n / 100 })}
      />
      <NumberField
        label="Never below"
        unit="min"
        min={0}
        value={a.minMinutes}
        onChange={(n) => put({ minMinutes: n ?? 0 })}
      />
      <NumberField
        label="Of a hundred die"
        min={0}
        max={95}
        value={a.failPct}
        onChange={(n) => n !== null && n <= 95 && put({ failPct: n })}
      />
      <div className="flex flex-wrap gap-x-5 sm:col-span-3 lg:col-span-6">
        {routeCriteria.map((c) => (
          <Tick
            key={c}
            label={criterionWords[c]}
            checked={a.criteria[c] === true}
            onChange={(is) => put({ criteria: { ...a.criteria, [c]: is } })}
          />
        ))}
      </div>
    </div>
  )
}

export function RoutesPay({
  assumed,
  record,
  money,
}: {
  assumed: RouteAssumptions
  record: Partial<Record<RouteId, RouteCost>>
  money: Money
}) {
  return (
    <main className="grid content-start gap-4 px-4 py-3.5 sm:px-5">
      <h1 className="text-[1.5rem]">
        Which route pays{' '}
        <span className="font-normal text-ink-2">money and hours together, for {comparedAt.join(', ')} units</span>
      </h1>
      <CommandForm
        command="set-route-costs"
        empty={{ assumed } as { [key: string]: unknown; assumed: RouteAssumptions }}
        submit="Keep these figures"
      >
        {(v, set) => {
          const put = (change: Partial<RouteAssumptions>) => set({ assumed: { ...v.assumed, ...change } })
          return (
            <>
              <section className="sheet grid gap-4 p-5">
                <Compared found={siteRoutes(v.assumed, record, money.hourWorth ?? 0)} money={money} record={record} />
              </section>
              <fieldset className="flex flex-wrap gap-x-6">
                <legend className="font-semibold">It must</legend>
                {routeCriteria.map((c) => (
                  <Tick
                    key={c}
                    label={criterionWords[c]}
                    checked={v.assumed.must.includes(c)}
                    onChange={(is) =>
                      put({ must: routeCriteria.filter((x) => (x === c ? is : v.assumed.must.includes(x))) })
                    }
                  />
                ))}
              </fieldset>
              {routeIds.map((id) => {
                const a = v.assumed.routes[id] ?? RouteAssumption.parse({})
                return (
                  <Fold
                    key={id}
                    summary={`${names[id]}: ${a.unitPrice === null || a.minutesFirst === null ? 'nobody has said what it costs' : `${moneyWords(a.unitPrice, money)}, ${a.minutesFirst} min for the first`}`}
                  >
                    <Assumed a={a} put={(to) => put({ routes: { ...v.assumed.routes, [id]: { ...a, ...to } } })} />
                  </Fold>
                )
              })}
            </>
          )
        }}
      </CommandForm>
    </main>
  )
}
