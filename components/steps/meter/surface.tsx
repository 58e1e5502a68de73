'use client'
import type { Finding } from '@fresh-coat/core/edge/finding'
import { fitMeter, type MeterFit } from '@fresh-coat/core/metering/fit'
import { nextLoad } from '@fresh-coat/core/metering/next-load'
import { fitInputOf, ratedAmpsOf, supplyVoltsOf } from '@fresh-coat/core/steps/meter/facts'
import { type ReactNode, useState } from 'react'
import { ErrorPlot, type ErrorPoint } from '@/components/drawings/error-plot'
import { Choice, NumberField, Tick } from '@/components/forms/fields'
import { Card, Count, Counts, Standing } from '@/components/frame/card'
import { useKept } from '@/components/frame/frame-context'
import { StepSheet } from '@/components/frame/sheet'
import Link from '@/components/link'
import { amount, buttonClass, Key, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { mostPoints, nextId, PastePairs, type Point, PointsTable, Zeros } from './points'
import { MeterSay, units } from './say'

type Props = SurfaceProps<'meter'>

const whyWords = {
  forced: 'as you chose',
  'aicc-and-loocv': 'it fits better and predicts better',
  'too-few-points': 'too few points for an offset',
  'simpler-is-as-good': 'the simpler one is as good',
}

/** The fit of the points that are whole; what is wrong with them otherwise. */
function useFit({ view, record, choices }: Props): { fit: MeterFit | null; fault: string } {
  const instrument = choices.instruments.find((i) => i.id === record.data.instrumentId)
  const input = instrument ? fitInputOf(view, instrument) : null
  const outcome = input && input.points.length > 0 ? fitMeter(input) : null
  return {
    fit: outcome?.ok ? outcome.value : null,
    fault: outcome && !outcome.ok ? (outcome.faults[0]?.message ?? '') : '',
  }
}

function plotted(points: readonly Point[], fit: MeterFit | null): ErrorPoint[] {
  return points.flatMap((p) => {
    if (p.indicated === null || p.reference === null) return []
    const f = fit?.points.find((x) => x.id === p.id) ?? fit?.verify.find((x) => x.id === p.id)
    const before = p.reference === 0 ? null : ((p.indicated - p.reference) / p.reference) * 100
    return [
      {
        id: p.id,
        x: p.reference,
        before: f ? f.errBeforePct : before,
        after: f?.errAfterPct ?? null,
        within: f && p.reference !== 0 ? (f.U / p.reference) * 100 : null,
        verify: p.role === 'verify',
      },
    ]
  })
}

/** Both displays read in the same moment, and taken together. */
function TakePoint({ record, unit, children }: { record: Props['record']; unit: string; children?: ReactNode }) {
  const { data, patch } = record
  const [typed, setTyped] = useKept('meter point', {
    indicated: null as number | null,
    reference: null as number | null,
    role: 'fit' as Point['role'],
    n: 0,
  })
  const full = data.points.length >= mostPoints
  const whole = typed.indicated !== null && typed.reference !== null
  const take = () => {
    if (!whole || full) return
    patch({
      points: [
        ...data.points,
        { id: nextId(data.points), indicated: typed.indicated, reference: typed.reference, role: typed.role },
      ],
    })
    setTyped({ indicated: null, reference: null, role: 'fit', n: typed.n + 1 })
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
      <Choice
        label="Used to"
        compact
        value={typed.role}
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

/** The factor as it stands, and the way to keep it. */
function Result({ fit, unit, save }: { fit: MeterFit; unit: string; save: () => void }) {
  const offset =
    fit.model === 'gainOffset' ? ` ${fit.offset < 0 ? '−' : '+'} ${Math.abs(fit.offset).toFixed(3)} ${unit}` : ''
  return (
    <div className="grid gap-2 border-t border-rule pt-2.5" aria-live="polite">
      <p>
        <span className="text-ink-2">True is shown times</span>
        <span className="block font-title text-[1.9rem] leading-tight font-bold">
          {fit.gain.toFixed(5)}
          {offset}
        </span>
        <span className="text-[0.9rem] text-ink-2">
          {fit.model === 'gain' ? 'gain' : 'gain and offset'}: {whyWords[fit.why]}; least it can show:{' '}
          {fit.minDetectable === null ? 'read zero three times to know' : `${fit.minDetectable.toPrecision(3)} ${unit}`}
        </span>
      </p>
      <button type="button" className={`${buttonClass('plain')} justify-self-start`} onClick={save}>
        Save this calibration
      </button>
    </div>
  )
}

function Verdict({ fit, unit, fault }: { fit: MeterFit | null; unit: string; fault: string }) {
  if (fault) return <p className="font-semibold text-oxide">{fault}</p>
  const v = fit?.verify[0]
  if (!fit) return null
  if (!v)
    return (
      <p className="text-ink-2">
        After-errors are agreement with the reference, not truth. Keep one point out of the fit, to verify.
      </p>
    )
  const severity = v.verdict === 'pass' ? (v.guarded === 'pass' ? 'ok' : 'watch') : 'error'
  return (
    <p className="flex items-baseline gap-2.5">
      <Tag severity={severity}>{v.verdict ?? 'no limit'}</Tag>
      <span>
        Verify point {v.id}: {v.errAfterPct?.toFixed(3)} % after, limit {v.limit?.toPrecision(3)} {unit}. With the
        uncertainty of the reference: {v.guarded}.
      </span>
    </p>
  )
}

function Saved({ view, unit }: { view: Props['view']; unit: string }) {
  const [last] = view.calibrations
  if (!last) return null
  return (
    <Counts title="Saved">
      <Count
        name="Factor"
        note={`${last.model === 'gain' ? 'gain only' : `offset ${last.offset.toFixed(3)} ${unit}`}, ${last.at.slice(0, 10)}${last.firmware ? `, on ${last.firmware}` : ''}`}
      >
        {last.gain.toFixed(5)}
      </Count>
      <Count name="Again">{last.due ?? 'no date set'}</Count>
    </Counts>
  )
}

function NoMeter({ view, record, assessment }: Props) {
  const here = assessment.steps.find((s) => s.id === 'meter')
  return (
    <StepSheet
      title="Meter"
      drawing={
        <p className="rounded-[12px] border border-dashed border-rule p-8 text-center text-ink-2">
          {view.board?.hasMeter === false ? 'This board has no meter on record.' : 'It has no meter.'}
        </p>
      }
      card={
        <Standing conditions={here?.conditions ?? []}>
          {view.board?.hasMeter !== false && (
            <Tick label="It has no meter" checked onChange={(noMeter) => record.patch({ noMeter })} />
          )}
        </Standing>
      }
    />
  )
}

function PointCard({
  props,
  fit,
  next,
}: {
  props: Props
  fit: MeterFit | null
  next: { name: string; watts: number } | null
}) {
  const { record, choices, act, view } = props
  const { data } = record
  const unit = units[data.quantity]
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
      lead={`Point ${data.points.length + 1}${next ? `, spreads them furthest` : ''}`}
      ask={next ? `${next.name}, about ${amount(next.watts)} W` : 'Another load, or one kept to verify'}
      how="Warm for 5 minutes. Read both displays in the same moment."
    >
      <TakePoint record={record} unit={unit} />
      {fit && <Result fit={fit} unit={unit} save={() => void act('save-calibration', { unitId: view.id })} />}
      <Saved view={view} unit={unit} />
    </Card>
  )
}

/** Loads on hand that this unit may carry, of the kind that is used. */
function loadsFor({ view, record: { data }, choices }: Props) {
  const amps = ratedAmpsOf(view)
  const most = amps === null ? Number.POSITIVE_INFINITY : amps * supplyVoltsOf(view)
  return choices.loads.filter((l) => l.watts <= most && (l.kind === data.loadKind || data.loadKind === 'other'))
}

/** The error plot is the page: points come from the card, the fit moves as they come. */
export function MeterSurface(props: Props) {
  const { view, record, choices, assessment, act } = props
  const { data } = record
  const [chosen, setChosen] = useState<string | null>(null)
  const { fit, fault } = useFit(props)
  if (view.board?.hasMeter === false || data.noMeter) return <NoMeter {...props} />
  const unit = units[data.quantity]
  const taken = data.points.flatMap((p) => (p.reference === null ? [] : [p.reference]))
  const next = data.quantity === 'P' ? nextLoad(loadsFor(props), taken) : null
  const here = assessment.steps.find((s) => s.id === 'meter')
  const point = data.points.find((p) => p.id === chosen)
  return (
    <StepSheet
      title="Calibrate the meter"
      say={<MeterSay record={record} choices={choices} />}
      drawing={
        <ErrorPlot
          points={plotted(data.points, fit)}
          limitPct={data.limitPct}
          unit={unit}
          next={next && { name: next.name, x: next.watts }}
          chosen={chosen}
          onChoose={setChosen}
        />
      }
      twin={<PointsTable record={record} fit={fit} unit={unit} />}
      findings={(fit?.findings ?? []) as Finding[]}
      verdict={<Verdict fit={fit} unit={unit} fault={fault} />}
      card={
        here?.ready && !point ? (
          <Standing conditions={here.conditions}>
            {fit && <Result fit={fit} unit={unit} save={() => void act('save-calibration', { unitId: view.id })} />}
            <Saved view={view} unit={unit} />
          </Standing>
        ) : point ? (
          <ChosenPoint record={record} point={point} done={() => setChosen(null)} unit={unit} />
        ) : (
          <PointCard props={props} fit={fit} next={next} />
        )
      }
      more={[
        here?.ready && { name: 'Take another point', content: <TakePoint record={record} unit={unit} /> },
        { name: 'Paste pairs', content: <PastePairs record={record} /> },
        {
          id: 'zeros',
          name: data.zeros.length > 0 ? `Readings at zero: ${data.zeros.length}` : 'Readings at zero',
          content: <Zeros record={record} unit={unit} />,
        },
        view.board?.hasMeter == null && {
          name: 'It has no meter',
          content: (
            <Tick label="It has no meter" checked={data.noMeter} onChange={(noMeter) => record.patch({ noMeter })} />
          ),
        },
      ]}
    />
  )
}

/** A point that was pressed on the plot: kept to verify, used for the fit, or dropped. */
function ChosenPoint({
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
