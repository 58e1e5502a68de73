'use client'
import { checkRating } from '@fresh-coat/core/load/rating'
import type { LoadKind } from '@fresh-coat/core/steps/arrive/record'
import { routeIds, routes } from '@fresh-coat/core/unit/way'
import { useState } from 'react'
import { Choice, NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import Link from '@/components/link'
import { boardLabel, buttonClass, Findings, twoDigits } from '@/components/paint/paint'
import { send } from '@/components/send'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'
import { NameAndPlace } from '@/components/units/name-and-place'

export function ArriveSurface({ view, record, choices, act }: SurfaceProps<'arrive'>) {
  const { data, patch } = record
  const rated = data.ratedAmps ?? view.board?.ratedAmps ?? null
  return (
    <>
      <StepHeading title={`Number ${twoDigits(view.number)} arrives`}>
        Write the number on its case, plug it in once as it was sold, and choose its way.
      </StepHeading>
      <Block title="What it is">
        <div className="grid gap-3 sm:grid-cols-2">
          <SelectField
            label="Board"
            value={view.board?.id ?? null}
            none="Not named yet"
            options={choices.boards.map((b) => ({ value: b.id, label: boardLabel(b) }))}
            onChange={(boardId) => void act('edit-unit', { unitId: view.id, version: view.version, boardId })}
            hint="Two revisions of one product are two boards."
          />
          <NameAndPlace view={view} act={act} />
        </div>
        {view.board === null && <NewBoard view={view} act={act} />}
      </Block>
      <Block title="Route">
        <fieldset>
          <legend className="sr-only">Route</legend>
          <div className="grid gap-1.5 sm:grid-cols-2">
            {routeIds.map((r) => (
              <label key={r} className="cursor-pointer">
                <input
                  type="radio"
                  name="route"
                  className="peer sr-only"
                  checked={data.route === r}
                  onChange={() => patch({ route: r })}
                />
                <span className="block h-full rounded-[9px] border border-rule bg-sheet px-3.5 py-2 peer-checked:border-2 peer-checked:border-ink peer-checked:bg-sheet-2 peer-focus-visible:outline-3 peer-focus-visible:outline-ochre-line">
                  <span className="font-semibold">{routes[r].name}</span>
                  <span className="block text-[0.93rem] text-ink-2">{routes[r].about}</span>
                </span>
              </label>
            ))}
          </div>
        </fieldset>
      </Block>
      <Block title="Tried as sold">
        <Choice
          label="Plugged in once, case closed, before anything else"
          value={data.triedAsSold}
          options={[
            { value: 'works', label: 'It works' },
            { value: 'faulty', label: 'Faulty' },
          ]}
          onChange={(triedAsSold) => patch({ triedAsSold })}
        />
      </Block>
      <Block title="What it will work">
        <WhatItWorks view={view} record={record} />
      </Block>
      <Block title="Load against rating">
        <div className="grid grid-cols-3 gap-3">
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
          <NumberField
            label="Supply"
            unit="V"
            min={1}
            max={400}
            value={data.mainsVolts}
            onChange={(mainsVolts) => patch({ mainsVolts })}
            hint={`Empty counts as ${view.mainsVolts} V, the mains of the site.`}
          />
          <NumberField
            label="What it will carry"
            unit="W"
            min={0}
            max={20000}
            value={data.loadWatts}
            onChange={(loadWatts) => patch({ loadWatts })}
          />
        </div>
        {data.loadWatts !== null && rated !== null && rated > 0 && (
          <Findings findings={[checkRating(data.loadWatts, data.mainsVolts ?? view.mainsVolts, rated)]} />
        )}
      </Block>
    </>
  )
}

const loadWords: Record<LoadKind | 'undecided', string> = {
  lamp: 'A lamp',
  heater: 'A heater',
  motor: 'A motor',
  'latch-unlocks': 'A latch that opens when its supply goes',
  'latch-locks': 'A latch that stays shut without supply',
  modem: 'A modem or router',
  pump: 'A pump',
  fan: 'A fan',
  other: 'Something else',
  undecided: 'Not decided yet',
}

const yesNo = (label: string, value: boolean | null, onChange: (value: boolean) => void, no = 'No') => (
  <Choice
    label={label}
    value={value === null ? null : value ? 'yes' : 'no'}
    options={[
      { value: 'yes', label: 'Yes' },
      { value: 'no', label: no },
    ]}
    onChange={(answer) => onChange(answer === 'yes')}
  />
)

/** What hangs on it decides what a fault or a power cut may do. */
function WhatItWorks({ view, record: { data, patch } }: Pick<SurfaceProps<'arrive'>, 'view' | 'record'>) {
  const latch = data.load === 'latch-unlocks' || data.load === 'latch-locks'
  return (
    <div className="grid gap-3">
      <SelectField
        label="It will work"
        value={data.load}
        none="Nobody has said"
        options={(Object.keys(loadWords) as (LoadKind | 'undecided')[]).map((value) => ({
          value,
          label: loadWords[value],
        }))}
        onChange={(load) => patch({ load: load as typeof data.load })}
      />
      {latch &&
        yesNo('Do people leave by what it locks?', data.wayOut, (wayOut) => patch({ wayOut }), 'No, a cupboard or box')}
      {latch &&
        data.wayOut === true &&
        yesNo('Does it open by hand from inside, without power and without the app?', data.opensByHand, (opensByHand) =>
          patch({ opensByHand }),
        )}
      {latch && data.wayOut !== false && (
        <p className="text-ink-2">A latch on a way out: the local fire code decides, whatever this page says.</p>
      )}
      {view.board?.fixedWiring &&
        yesNo(
          'Does it hang in fixed wiring now?',
          data.mounted,
          (mounted) => patch({ mounted }),
          'No, it lies on the bench',
        )}
    </div>
  )
}

function NewBoard({ view, act }: Pick<SurfaceProps<'arrive'>, 'view' | 'act'>) {
  const [b, setB] = useState({ maker: '', product: '', revision: '', mains: true, fixedWiring: false, hasMeter: false })
  const create = async () => {
    const made = await send('create-board', b)
    // A board that exists already is refused in words: the same command says so on the page.
    if (made.state === 'ok') await act('edit-unit', { unitId: view.id, version: view.version, boardId: made.value.id })
    else await act('create-board', b)
  }
  return (
    <details className="rounded-[10px] border border-rule p-3">
      <summary className="font-semibold">A board nobody has seen here: name it</summary>
      <div className="mt-3 grid gap-3 sm:grid-cols-3">
        <TextField label="Maker" value={b.maker} maxLength={120} onChange={(maker) => setB({ ...b, maker })} />
        <TextField label="Product" value={b.product} maxLength={120} onChange={(product) => setB({ ...b, product })} />
        <TextField
          label="Revision"
          value={b.revision}
          maxLength={60}
          onChange={(revision) => setB({ ...b, revision })}
        />
      </div>
      <div className="mt-2 flex flex-wrap gap-x-6">
        <Tick label="Runs on mains" checked={b.mains} onChange={(mains) => setB({ ...b, mains })} />
        <Tick
          label="Belongs into fixed wiring"
          checked={b.fixedWiring}
          onChange={(fixedWiring) => setB({ ...b, fixedWiring })}
        />
        <Tick label="Has a power meter" checked={b.hasMeter} onChange={(hasMeter) => setB({ ...b, hasMeter })} />
      </div>
      <div className="mt-2 flex items-center gap-4">
        <button
          type="button"
          className={buttonClass('plain')}
          disabled={!b.maker.trim() || !b.product.trim()}
          onClick={() => void create()}
        >
          Name this board
        </button>
        <Link href="/boards" className="underline underline-offset-4">
          All boards
        </Link>
      </div>
    </details>
  )
}
