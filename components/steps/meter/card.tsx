'use client'
import { dayOf, dayWords } from '@fresh-coat/core/edge/day'
import type { MeterFit } from '@fresh-coat/core/metering/fit'
import { type NextPoint, wantedZeros } from '@fresh-coat/core/metering/next-point'
import { calibrateAgain, newestCalibrations } from '@fresh-coat/core/steps/meter/quantity'
import { type ReactNode, useState } from 'react'
import { Choice, NumberField } from '@/components/forms/fields'
import { Card, Count, Counts } from '@/components/frame/card'
import { useKept } from '@/components/frame/frame-context'
import Link from '@/components/link'
import { amount, buttonClass, Key } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { LiveReading } from './live'
import { mostPoints, nextId, type Point } from './points'
import { units } from './say'

type Props = SurfaceProps<'meter'>
export type Next = NextPoint<Props['choices']['loads'][number]>

/** The card of Meter: the next point, a zero, a point that was pressed, and what the fit says. */

const whyWords = {
  forced: 'as you chose',
  'aicc-and-loocv': 'it fits better and predicts better',
  'too-few-points': 'too few points for an offset',
  'simpler-is-as-good': 'the simpler one is as good',
}

/** Both displays read in the same moment, and taken together. */
export function TakePoint({
  view,
  record,
  unit,
  role = 'fit',
  children,
}: {
  view: Props['view']
  record: Props['record']
  unit: string
  /** What this one is for, unless a person says otherwise. */
  role?: Point['role']
  children?: ReactNode
}) {
  const { data, patch } = record
  const [typed, setTyped] = useKept(`meter point ${data.quantity}`, {
    indicated: null as number | null,
    reference: null as number | null,
    role: null as Point['role'] | null,
    n: 0,
  })
  const used = typed.role ?? role
  const full = data.points.length >= mostPoints
  const whole = typed.indicated !== null && typed.reference !== null
  const take = () => {
    if (!whole || full) return
    patch({
      points: [
        ...data.points,
        { id: nextId(data.points), indicated: typed.indicated, reference: typed.reference, role: used },
      ],
    })
    setTyped({ indicated: null, reference: null, role: null, n: typed.n + 1 })
  }
  return (
    <form
      className="grid gap-2.5"
      onSubmit={(e) => {
        e.preventDefault()
        take()
      }}
    >
      <div key={typed.n} className="grid grid-cols-2 gap-3">
        <NumberField
          label="The unit shows"
          unit={unit}
          min={0}
          max={1e6}
          value={typed.indicated}
          onChange={(indicated) => setTyped({ ...typed, indicated })}
        />
        <NumberField
          label="The reference shows"
          unit={unit}
          min={0}
          max={1e6}
          value={typed.reference}
          onChange={(reference) => setTyped({ ...typed, reference })}
        />
      </div>
      {view.topic !== null && (
        <LiveReading
          number={view.number}
          quantity={data.quantity}
          unit={unit}
          step={data.indicatedResolution}
          use={(indicated) => setTyped({ ...typed, indicated, n: typed.n + 1 })}
        />
      )}
      <Choice
        label="Used to"
        compact
        value={used}
        options={[
          { value: 'fit', label: 'fit' },
          { value: 'verify', label: 'verify' },
        ]}
        onChange={(role) => setTyped({ ...typed, role })}
      />
      <button type="submit" className={`${buttonClass('plain')} min-h-[3rem]`} disabled={!whole || full}>
        Take this point<Key>Enter</Key>
      </button>
      {children}
    </form>
  )
}

const offsetWords = (offset: number, unit: string) =>
  ` ${offset < 0 ? '−' : '+'} ${Math.abs(offset).toFixed(3)} ${unit}`

/** The factor as it stands, and the way to keep it. */
export function Result({
  fit,
  unit,
  save,
  below = false,
}: {
  fit: MeterFit
  unit: string
  save: (() => void) | null
  /** It stands under the next point, and leaves the room to it. */
  below?: boolean
}) {
  return (
    <div
      className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 gap-y-2 border-t border-rule pt-2.5"
      aria-live="polite"
    >
      <p className={below ? '' : 'col-span-2'}>
        <span className="text-ink-2">True is shown times</span>
        <span className={`block font-title leading-tight font-bold ${below ? 'text-[1.4rem]' : 'text-[1.9rem]'}`}>
          {fit.gain.toFixed(5)}
          {fit.model === 'gainOffset' && offsetWords(fit.offset, unit)}
        </span>
      </p>
      {save && below && <SaveIt save={save} />}
      <p className="col-span-2 text-[0.9rem] text-ink-2">
        {fit.model === 'gain' ? 'gain' : 'gain and offset'}: {whyWords[fit.why]}; least it can show:{' '}
        {fit.minDetectable === null ? 'read zero three times to know' : `${fit.minDetectable.toPrecision(3)} ${unit}`}
      </p>
      {save && !below && <SaveIt save={save} large />}
    </div>
  )
}

function SaveIt({ save, large = false }: { save: () => void; large?: boolean }) {
  return (
    <button
      type="button"
      className={`${buttonClass('plain')} ${large ? 'col-span-2 min-h-[3rem]' : ''}`}
      onClick={save}
    >
      Save this calibration
    </button>
  )
}

/** What lies on the bench went into a calibration: the next one begins with an empty bench. */
export function Again({ record, day }: { record: Props['record']; day: string }) {
  return (
    <div className="grid gap-2 border-t border-rule pt-2.5">
      <p className="text-ink-2">
        The points of {dayWords(day)} stay with the calibration they went into. A unit that was told its factor counts
        otherwise since: another calibration begins with an empty bench.
      </p>
      <button
        type="button"
        className={`${buttonClass('plain')} justify-self-start`}
        onClick={() => record.patch(calibrateAgain())}
      >
        Calibrate it again
      </button>
    </div>
  )
}

export function Saved({ view, quantity }: { view: Props['view']; quantity: keyof typeof units }) {
  const unit = units[quantity]
  const last = newestCalibrations(view).find((c) => c.quantity === quantity)
  if (!last) return null
  return (
    <Counts title="Saved">
      <Count
        name="Factor"
        note={`${last.model === 'gain' ? 'gain only' : `offset ${last.offset.toFixed(3)} ${unit}`}, ${dayWords(dayOf(last.at, view.zone))}${last.firmware ? `, on ${last.firmware}` : ''}`}
      >
        {last.gain.toFixed(5)}
      </Count>
      <Count name="Again">{last.due ? dayWords(last.due) : 'no date set'}</Count>
    </Counts>
  )
}

/** The calibration that holds, in one line: beside the factor of what lies on the bench. */
export function HeldBefore({ view, quantity }: { view: Props['view']; quantity: keyof typeof units }) {
  const last = newestCalibrations(view).find((c) => c.quantity === quantity)
  if (!last) return null
  return (
    <p className="text-[0.9rem] text-ink-2">
      Saved on {dayWords(dayOf(last.at, view.zone))}
      {last.firmware ? `, on ${last.firmware}` : ''}: <span className="pin">{last.gain.toFixed(5)}</span>
      {last.model === 'gainOffset' && offsetWords(last.offset, units[quantity])}
      {last.due === null ? '' : `, again ${dayWords(last.due)}`}
    </p>
  )
}

const askOf = (next: Next, unit: string): { ask: string; lead: string; how: string } => {
  const both = 'Warm for 5 minutes. Read both displays in the same moment.'
  const named = (load: { name: string; watts: number } | null, other: string) =>
    load ? `${load.name}, about ${amount(load.watts)} W` : other
  switch (next.kind) {
    case 'spread':
      return { ask: named(next.load, 'Another load, far from those taken'), lead: 'spreads them furthest', how: both }
    case 'verify':
      return {
        ask: named(next.load, 'One more, between those taken'),
        lead: 'kept out of the fit, to verify it',
        how: both,
      }
    case 'repeat':
      return {
        ask: `The first load again, about ${amount(next.reference)} ${unit}`,
        lead: 'has anything drifted?',
        how: both,
      }
    case 'zeros':
      return {
        ask: 'Relay off: what does the unit show?',
        lead: `reading ${next.taken + 1} of ${wantedZeros} at zero`,
        how: 'Some seconds between them.',
      }
    default:
      return { ask: 'That is enough', lead: 'spread, verified, drift and zero', how: 'Save it with the unit.' }
  }
}

/** Readings with the relay off, one after the other. */
function TakeZero({
  view,
  record: { data, patch },
  unit,
}: {
  view: Props['view']
  record: Props['record']
  unit: string
}) {
  const [typed, setTyped] = useState<{ value: number | null; n: number }>({ value: null, n: 0 })
  return (
    <form
      className="grid gap-2.5"
      onSubmit={(e) => {
        e.preventDefault()
        if (typed.value === null) return
        patch({ zeros: [...data.zeros, typed.value] })
        setTyped({ value: null, n: typed.n + 1 })
      }}
    >
      <NumberField
        key={typed.n}
        label="It shows"
        unit={unit}
        min={0}
        max={1e6}
        value={typed.value}
        onChange={(value) => setTyped({ ...typed, value })}
      />
      {view.topic !== null && (
        <LiveReading
          number={view.number}
          quantity={data.quantity}
          unit={unit}
          step={data.indicatedResolution}
          use={(value) => setTyped({ value, n: typed.n + 1 })}
        />
      )}
      <button type="submit" className={`${buttonClass('plain')} min-h-[3rem]`} disabled={typed.value === null}>
        Take it<Key>Enter</Key>
      </button>
      {data.zeros.length > 0 && <p className="pin">{data.zeros.join('  ')}</p>}
    </form>
  )
}

export function PointCard({ props, fit, next }: { props: Props; fit: MeterFit | null; next: Next }) {
  const { record, choices, act, view } = props
  const { data } = record
  const unit = units[data.quantity]
  const said = askOf(next, unit)
  if (!choices.instruments.some((i) => i.id === data.instrumentId))
    return (
      <Card
        ask="Which reference meter?"
        how={
          choices.instruments.length === 0 ? (
            <Link href="/meters" className="underline underline-offset-4">
              Add it under Meters
            </Link>
          ) : (
            'Nothing is calibrated without something to trust.'
          )
        }
        answers={choices.instruments.map((i) => ({
          label: i.name,
          hint: `${i.gainPct} % + ${i.digits} digits`,
          pick: () => record.patch({ instrumentId: i.id }),
        }))}
      />
    )
  return (
    <Card
      lead={
        next.kind === 'zeros' || next.kind === 'enough' ? said.lead : `Point ${data.points.length + 1}, ${said.lead}`
      }
      ask={said.ask}
      how={said.how}
    >
      {next.kind === 'zeros' ? (
        <TakeZero view={view} record={record} unit={unit} />
      ) : (
        next.kind !== 'enough' && (
          <TakePoint
            key={next.kind}
            view={view}
            record={record}
            unit={unit}
            role={next.kind === 'verify' ? 'verify' : 'fit'}
          />
        )
      )}
      {fit && (
        <Result
          fit={fit}
          unit={unit}
          save={() => void act('save-calibration', { unitId: view.id })}
          below={next.kind !== 'enough'}
        />
      )}
      <HeldBefore view={view} quantity={data.quantity} />
    </Card>
  )
}

/** A point that was pressed on the plot: kept to verify, used for the fit, or dropped. */
export function ChosenPoint({
  record: { data, patch },
  point,
  unit,
  done,
}: {
  record: Props['record']
  point: Point
  unit: string
  done: () => void
}) {
  const move = (role: Point['role']) => {
    patch({ points: data.points.map((p) => (p.id === point.id ? { ...p, role } : p)) })
    done()
  }
  return (
    <Card
      lead={point.role === 'verify' ? 'kept to verify' : 'used for the fit'}
      ask={`Point ${point.id}: ${point.reference} ${unit}`}
      how={`The unit showed ${point.indicated} ${unit}.`}
      answers={[
        {
          label: point.role === 'fit' ? 'Keep it to verify' : 'Use it for the fit',
          pick: () => move(point.role === 'fit' ? 'verify' : 'fit'),
        },
        {
          label: 'Drop it',
          grave: true,
          pick: () => {
            patch({ points: data.points.filter((p) => p.id !== point.id) })
            done()
          },
        },
        { label: 'Leave it as it is', pick: done },
      ]}
    />
  )
}
