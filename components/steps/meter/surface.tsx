'use client'
import { dayOf } from '@fresh-coat/core/edge/day'
import type { Finding } from '@fresh-coat/core/edge/finding'
import { fitMeter, type MeterFit } from '@fresh-coat/core/metering/fit'
import { nextPoint } from '@fresh-coat/core/metering/next-point'
import { fitInputOf, ratedAmpsOf, supplyVoltsOf } from '@fresh-coat/core/steps/meter/facts'
import { savedFrom } from '@fresh-coat/core/steps/meter/quantity'
import { useState } from 'react'
import { ErrorPlot, type ErrorPoint } from '@/components/drawings/error-plot'
import { Tick } from '@/components/forms/fields'
import { Standing } from '@/components/frame/card'
import { StepSheet } from '@/components/frame/sheet'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Again, ChosenPoint, HeldBefore, PointCard, Result, Saved, TakePoint } from './card'
import { Energy } from './energy'
import { PastePairs, type Point, PointsTable, Zeros } from './points'
import { Pulse } from './pulse'
import { RawValues } from './raw-values'
import { MeterSay, units } from './say'
import { Told } from './told'

type Props = SurfaceProps<'meter'>

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
  const next = nextPoint(data.quantity, data.points, data.zeros.length, loadsFor(props))
  const load = next.kind === 'spread' || next.kind === 'verify' ? next.load : null
  const here = assessment.steps.find((s) => s.id === 'meter')
  const point = data.points.find((p) => p.id === chosen)
  const savedAs = savedFrom(view, data)
  const savedOn = savedAs && dayOf(savedAs.at, view.zone)
  // A calibration that still holds does not end the one that is going on: its points are asked for until they are enough.
  const settled = savedAs !== null || (here?.ready === true && next.kind === 'enough')
  // Points of another day would stand beside readings of a unit that was told a factor since.
  const addable = (here?.ready || next.kind === 'enough') && (!savedOn || savedOn === view.today)
  return (
    <StepSheet
      title="Calibrate the meter"
      say={<MeterSay record={record} choices={choices} />}
      drawing={
        <ErrorPlot
          points={plotted(data.points, fit)}
          limitPct={data.limitPct}
          unit={unit}
          next={load && { name: load.name, x: load.watts }}
          chosen={chosen}
          onChoose={setChosen}
        />
      }
      twin={<PointsTable record={record} fit={fit} unit={unit} />}
      findings={(fit?.findings ?? []) as Finding[]}
      verdict={<Verdict fit={fit} unit={unit} fault={fault} />}
      card={
        settled && !point ? (
          <Standing conditions={here?.conditions ?? []}>
            {fit && (
              <Result
                fit={fit}
                unit={unit}
                save={savedAs ? null : () => void act('save-calibration', { unitId: view.id })}
              />
            )}
            {fit ? <HeldBefore view={view} quantity={data.quantity} /> : <Saved view={view} quantity={data.quantity} />}
            {savedOn && <Again record={record} day={savedOn} />}
          </Standing>
        ) : point ? (
          <ChosenPoint record={record} point={point} done={() => setChosen(null)} unit={unit} />
        ) : (
          <PointCard props={props} fit={fit} next={next} />
        )
      }
      more={[
        addable && { name: 'Take another point', content: <TakePoint view={view} record={record} unit={unit} /> },
        fit !== null && {
          id: 'told',
          name: 'What to tell the unit',
          content: <Told {...props} fit={fit} unit={unit} />,
        },
        { id: 'pulse', name: 'Pulses and frames', wide: true, content: <Pulse record={record} /> },
        { id: 'energy', name: 'Energy and stand-by', content: <Energy view={view} record={record} /> },
        { name: 'Paste pairs', content: <PastePairs record={record} /> },
        {
          id: 'raw',
          name:
            data.snapshots.length > 0 ? `Raw values: ${data.snapshots.length} snapshots` : 'Which raw value is which',
          wide: true,
          content: <RawValues view={view} record={record} choices={choices} />,
        },
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
