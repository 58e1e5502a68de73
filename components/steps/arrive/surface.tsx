'use client'
import { unitLoadFindings } from '@fresh-coat/core/load/of-unit'
import { type LotBoard, lotFindings, lotWords } from '@fresh-coat/core/steps/arrive/lot'
import type { LoadKind } from '@fresh-coat/core/steps/arrive/record'
import { costWords, moneyWords } from '@fresh-coat/core/unit/cost'
import { routeIds, routes, steps } from '@fresh-coat/core/unit/way'
import { CaseDrawing, type CaseFacts } from '@/components/drawings/case-drawing'
import { NumberField, SelectField, TextField } from '@/components/forms/fields'
import { type Ask, Questions, Standing } from '@/components/frame/card'
import { Word } from '@/components/frame/drawer'
import { StepSheet } from '@/components/frame/sheet'
import Link from '@/components/link'
import { boardLabel, twoDigits } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { NameAndPlace } from '@/components/units/name-and-place'
import { LoadCheckPart } from './load-check'
import { NewBoard } from './new-board'
import { useLot } from './use-lot'
import { loadShort, loadWords } from './words'

type Props = SurfaceProps<'arrive'>

const ratedOf = ({ view, record }: Pick<Props, 'view' | 'record'>) =>
  record.data.ratedAmps ?? view.board?.ratedAmps ?? null

function caseFacts({ view, record: { data } }: Pick<Props, 'view' | 'record'>, rated: number | null): CaseFacts {
  const volts = data.mainsVolts ?? view.mainsVolts
  const [maker = '', ...product] = (view.board?.name ?? '').split(' ')
  return {
    number: view.number,
    maker,
    product: view.board ? product.join(' ') : 'board not named yet',
    place: view.place,
    volts,
    ratedAmps: rated,
    load: data.load,
    loadWords: data.load ? loadShort[data.load] : 'What will hang on it?',
    loadWatts: data.loadWatts,
    loadAmps: data.loadWatts === null ? null : data.loadWatts / volts,
    mains: view.board?.mains !== false,
  }
}

/** "14 steps; the last 3: 52 min, 9.50 €": what a route costs, from the record. */
function routeCost(route: (typeof routeIds)[number], { view, choices }: Props): string {
  const asks = steps.length - 1 - routes[route].skips.length
  return [`${asks} steps`, costWords(choices.routes[route], view.money)].filter(Boolean).join('; ')
}

const yesNo = (
  id: string,
  name: string,
  ask: string,
  value: boolean | null,
  onChange: (value: boolean) => void,
  no = 'No',
): Ask => ({
  id,
  name,
  ask,
  said: value === null ? null : value ? 'Yes' : no,
  answers: [
    { label: 'Yes', pick: () => onChange(true), chosen: value === true },
    { label: no, pick: () => onChange(false), chosen: value === false },
  ],
})

/** What a latch, or fixed wiring, asks on top. */
function specialAsks({ view, record: { data, patch } }: Props): Ask[] {
  const latch = data.load === 'latch-unlocks' || data.load === 'latch-locks'
  const asks: Ask[] = []
  if (latch)
    asks.push({
      ...yesNo(
        'wayOut',
        'Way out',
        'Do people leave by what it locks?',
        data.wayOut,
        (wayOut) => patch({ wayOut }),
        'No, a cupboard or box',
      ),
      how: 'A latch on a way out: the local fire code decides, whatever this page says.',
    })
  if (latch && data.wayOut === true)
    asks.push(
      yesNo(
        'byHand',
        'By hand',
        'Does it open by hand from inside, without power and without the app?',
        data.opensByHand,
        (opensByHand) => patch({ opensByHand }),
      ),
    )
  if (view.board?.fixedWiring)
    asks.push(
      yesNo(
        'mounted',
        'Mounted',
        'Does it hang in fixed wiring now?',
        data.mounted,
        (mounted) => patch({ mounted }),
        'No, it lies on the bench',
      ),
    )
  return asks
}

function boardAsk({ view, choices, act }: Props): Ask {
  return {
    id: 'board',
    name: 'Board',
    ask: 'Which board is it?',
    how: 'Two revisions of one product are two boards. What its other units taught is then known here too.',
    said: view.board?.name ?? null,
    field: (
      <>
        <SelectField
          label="Board"
          value={view.board?.id ?? null}
          none="Not named yet"
          options={choices.boards.map((b) => ({ value: b.id, label: boardLabel(b) }))}
          onChange={(boardId) => void act('edit-unit', { unitId: view.id, version: view.version, boardId })}
        />
        <details>
          <summary className="underline underline-offset-4">Nobody has seen it here: name it</summary>
          <div className="mt-3">
            <NewBoard view={view} act={act} />
          </div>
        </details>
      </>
    ),
  }
}

function asksOf(props: Props): Ask[] {
  const { view } = props
  const { data, patch } = props.record
  return [
    boardAsk(props),
    {
      id: 'route',
      name: 'Route',
      ask: 'How does it get its firmware?',
      how: (
        <Link href="/kit/routes" className="underline underline-offset-4">
          Which route pays
        </Link>
      ),
      said: data.route ? routes[data.route].name : null,
      answers: routeIds.map((r) => ({
        label: (
          <>
            {routes[r].name}
            <span className="block text-[0.87rem] leading-tight font-normal text-ink-2">
              {routes[r].about} <span className="text-ink">{routeCost(r, props)}.</span>
            </span>
          </>
        ),
        pick: () => patch({ route: r }),
        chosen: data.route === r,
      })),
    },
    {
      id: 'tried',
      name: 'As sold',
      ask: 'Plugged in once as it was sold: does it work?',
      how: `Write ${twoDigits(view.number)} on its case first. Case closed, before anything else.`,
      said: data.triedAsSold === null ? null : data.triedAsSold === 'works' ? 'It works' : 'Faulty',
      answers: [
        { label: 'It works', pick: () => patch({ triedAsSold: 'works' }), chosen: data.triedAsSold === 'works' },
        { label: 'Faulty', pick: () => patch({ triedAsSold: 'faulty' }), chosen: data.triedAsSold === 'faulty' },
      ],
      optional: data.route === 'built',
    },
    {
      id: 'load',
      name: 'Works',
      ask: 'What will it work?',
      said: data.load ? loadWords[data.load] : null,
      answers: (Object.keys(loadWords) as (LoadKind | 'undecided')[]).map((load) => ({
        label: loadWords[load],
        pick: () => patch({ load }),
        chosen: data.load === load,
      })),
    },
    ...specialAsks(props),
    {
      id: 'watts',
      name: 'Carries',
      ask: 'How much will it carry?',
      said: data.loadWatts === null ? null : `${data.loadWatts} W`,
      optional: true,
      field: (
        <NumberField
          label="What it will carry"
          unit="W"
          min={0}
          max={20000}
          value={data.loadWatts}
          onChange={(loadWatts) => patch({ loadWatts })}
        />
      ),
    },
  ]
}

/** Where it was bought, and what the other units of its lot turned out to be. */
function SellerAndLot({ data, patch, lot }: Pick<Props['record'], 'data' | 'patch'> & { lot: readonly LotBoard[] }) {
  return (
    <>
      <TextField label="Seller" value={data.seller} maxLength={80} onChange={(seller) => patch({ seller })} />
      <TextField
        label="Lot, as its box says"
        value={data.lot}
        maxLength={80}
        onChange={(next) => patch({ lot: next })}
        hint={lotWords(lot) || 'One lot is mostly one revision.'}
      />
    </>
  )
}

/** Number, name, rating and supply, as words that open. */
function Say({ view, record: { data, patch }, act, lot }: Props & { lot: readonly LotBoard[] }) {
  const rated = ratedOf({ view, record: { data } as Props['record'] })
  return (
    <>
      It is called{' '}
      <Word name="Name and place" open={<NameAndPlace view={view} act={act} />}>
        <span dir="auto">{view.name.length > 40 ? `${view.name.slice(0, 39)}…` : view.name}</span>
      </Word>
      {view.place ? `, at ${view.place}` : ''}; its case is rated{' '}
      <Word
        name="Rated"
        faulty={rated === null}
        open={
          <NumberField
            label="Rated"
            unit="A"
            min={0}
            max={100}
            value={data.ratedAmps}
            onChange={(ratedAmps) => patch({ ratedAmps })}
            hint={
              data.ratedAmps === null && view.board?.ratedAmps
                ? `The board says ${view.board.ratedAmps} A.`
                : 'The lower of case and relay.'
            }
          />
        }
      >
        {rated === null ? 'nobody knows what' : `${rated} A`}
      </Word>{' '}
      at{' '}
      <Word
        name="Supply"
        open={
          <NumberField
            label="Supply"
            unit="V"
            min={1}
            max={400}
            value={data.mainsVolts}
            onChange={(mainsVolts) => patch({ mainsVolts })}
            hint={`Empty counts as ${view.mainsVolts} V, the mains of the site.`}
          />
        }
      >
        {data.mainsVolts ?? view.mainsVolts} V
      </Word>
      ;{data.paid === null ? '' : ' it cost'}{' '}
      <Word
        name="Paid"
        open={
          <NumberField
            label="Paid for it, as it came"
            unit={view.money.currency}
            min={0}
            max={100000}
            value={data.paid}
            onChange={(paid) => patch({ paid })}
            hint="Counts in what this route costs. The sign and the worth of an hour are set under Network."
          />
        }
      >
        {data.paid === null ? 'its price is not written down' : moneyWords(data.paid, view.money)}
      </Word>
      ; it came from{' '}
      <Word name="Seller and lot" open={<SellerAndLot data={data} patch={patch} lot={lot} />}>
        {[data.seller, data.lot && `lot ${data.lot}`].filter(Boolean).join(', ') || 'a seller nobody wrote down'}
      </Word>
      .
    </>
  )
}

/** A new unit: its number, its board, its route, and what it will work. */
export function ArriveSurface(props: Props) {
  const { view, record, assessment } = props
  const { data } = record
  const rated = ratedOf(props)
  const facts = caseFacts(props, rated)
  const lot = useLot(data.lot, data.seller, view.number)
  const here = assessment.steps.find((s) => s.id === 'arrive')
  return (
    <StepSheet
      title={`Number ${twoDigits(view.number)} arrives`}
      say={<Say {...props} lot={lot} />}
      drawing={<CaseDrawing facts={facts} />}
      findings={[...lotFindings(view.board?.id ?? null, lot), ...unitLoadFindings(view)]}
      card={<Questions asks={asksOf(props)} rest={<Standing conditions={here?.conditions ?? []} />} />}
      more={[{ id: 'load', name: 'Load check', content: <LoadCheckPart view={view} record={record} /> }]}
    />
  )
}
