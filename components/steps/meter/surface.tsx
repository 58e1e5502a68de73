'use client'
import { fitMeter } from '@fresh-coat/core/metering/fit'
import { readPairs } from '@fresh-coat/core/metering/pairs'
import { fitInputOf } from '@fresh-coat/core/steps/meter/facts'
import { useState } from 'react'
import { ErrorPlot } from '@/components/drawings/error-plot'
import { AreaField, Choice, NumberField, readNumber, SelectField, TextField, Tick } from '@/components/forms/fields'
import Link from '@/components/link'
import { buttonClass, Fact, Findings, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'

const mostPoints = 60
const units = { P: 'W', I: 'A', V: 'V' }
const whyWords = {
  forced: 'as you chose',
  'aicc-and-loocv': 'it fits better and predicts better',
  'too-few-points': 'too few points for an offset',
  'simpler-is-as-good': 'the simpler one is as good',
}

export function MeterSurface({ view, record, choices, act, gates }: SurfaceProps<'meter'>) {
  const { data, patch } = record
  const [paste, setPaste] = useState('')
  const [unread, setUnread] = useState<string[]>([])
  const unit = units[data.quantity]
  const instrument = choices.instruments.find((i) => i.id === data.instrumentId)
  const input = instrument ? fitInputOf(view, instrument) : null
  const outcome = input && input.points.length > 0 ? fitMeter(input) : null
  const fit = outcome?.ok ? outcome.value : null
  const last = view.calibrations[0]
  const newPoint = (): string => {
    const n = Math.max(0, ...data.points.map((p) => Number(p.id.replace(/\D/g, '')) || 0)) + 1
    return `p${n}`
  }
  const takePaste = () => {
    const { pairs, unread } = readPairs(paste)
    let n = Number(newPoint().slice(1))
    const room = mostPoints - data.points.length
    patch({
      points: [
        ...data.points,
        ...pairs
          .slice(0, room)
          .map(({ indicated, reference }) => ({ id: `p${n++}`, indicated, reference, role: 'fit' as const })),
      ],
    })
    // What was not taken stays in the field, and is named.
    setPaste([...unread.map((u) => u.text), ...pairs.slice(room).map((p) => p.text)].join('\n'))
    setUnread([
      ...unread.map((u) => `Line ${u.line} is no pair of numbers: ${u.text}`),
      ...(pairs.length > room
        ? [`Only ${mostPoints} points are kept: ${pairs.length - room} are left in the field.`]
        : []),
    ])
  }
  if (view.board?.hasMeter === false || data.noMeter)
    return (
      <>
        <StepHeading title="Meter">This board has no meter on record.</StepHeading>
        <Tick
          label="It has no meter"
          checked={data.noMeter || view.board?.hasMeter === false}
          onChange={(noMeter) => patch({ noMeter })}
        />
      </>
    )
  return (
    <>
      <StepHeading title="Calibrate the meter">
        Case closed, a resistive load warmed up for 5 minutes, reference and unit read in the same moment. Keep one
        point out of the fit, to verify.
      </StepHeading>
      {gates}
      <div className="grid gap-3 sm:grid-cols-3">
        <SelectField
          label="Reference meter"
          value={data.instrumentId}
          options={choices.instruments.map((i) => ({
            value: i.id,
            label: `${i.name} (${i.gainPct} % + ${i.digits} digits)`,
          }))}
          onChange={(instrumentId) => patch({ instrumentId })}
          hint={
            choices.instruments.length === 0 ? (
              <Link href="/meters" className="underline">
                Add it under Meters
              </Link>
            ) : (
              ''
            )
          }
        />
        <Choice
          label="Quantity"
          value={data.quantity}
          options={[
            { value: 'P', label: 'Power' },
            { value: 'I', label: 'Current' },
            { value: 'V', label: 'Voltage' },
          ]}
          onChange={(quantity) => patch({ quantity })}
        />
        <Choice
          label="Load"
          value={data.loadKind}
          options={[
            { value: 'resistive', label: 'Resistive' },
            { value: 'charger', label: 'Charger' },
            { value: 'motor', label: 'Motor' },
            { value: 'other', label: 'Other' },
          ]}
          onChange={(loadKind) => patch({ loadKind })}
        />
        <Tick label="Warmed up 5 minutes or more" checked={data.warm} onChange={(warm) => patch({ warm })} />
        <NumberField
          label="Step of the unit’s display"
          unit={unit}
          min={0}
          max={1000}
          value={data.indicatedResolution}
          onChange={(n) => n !== null && patch({ indicatedResolution: n })}
        />
        <Choice
          label="Model"
          value={data.model}
          options={[
            { value: 'auto', label: 'The data decide' },
            { value: 'gain', label: 'Gain' },
            { value: 'gainOffset', label: 'Gain and offset' },
          ]}
          onChange={(model) => patch({ model })}
        />
        <NumberField
          label="Limit"
          unit="%"
          min={0}
          max={100}
          value={data.limitPct}
          onChange={(n) => n !== null && patch({ limitPct: n })}
        />
        <NumberField
          label="or at least"
          unit={unit}
          min={0}
          max={10000}
          value={data.limitAbs}
          onChange={(n) => n !== null && patch({ limitAbs: n })}
        />
        <NumberField
          label="Check again in"
          unit="months"
          min={1}
          max={120}
          whole
          value={data.recheckMonths}
          onChange={(n) => n !== null && patch({ recheckMonths: n })}
        />
      </div>
      <Block title="Points">
        {choices.loads.length > 0 && (
          <p className="text-ink-2">
            Loads on hand: {choices.loads.map((l) => `${l.name}, ${l.watts} W`).join('; ')}. Spread the points over
            them.
          </p>
        )}
        <div className="overflow-x-auto">
          <table className="plain">
            <thead>
              <tr>
                <th>Point</th>
                <th>Unit shows, {unit}</th>
                <th>Reference shows, {unit}</th>
                <th>For</th>
                <th>Error before</th>
                <th>after</th>
                <th>Truth within ±</th>
                <th>
                  <span className="sr-only">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {data.points.map((p, i) => {
                const f = fit?.points.find((x) => x.id === p.id) ?? fit?.verify.find((x) => x.id === p.id)
                const set = (change: Partial<typeof p>) =>
                  patch({ points: data.points.map((x, j) => (j === i ? { ...x, ...change } : x)) })
                return (
                  <tr key={p.id}>
                    <td className="pin">{p.id}</td>
                    <td className="min-w-[7rem]">
                      <NumberField
                        bare
                        label={`${p.id}: unit shows`}
                        min={0}
                        max={1e6}
                        value={p.indicated}
                        onChange={(indicated) => set({ indicated })}
                      />
                    </td>
                    <td className="min-w-[7rem]">
                      <NumberField
                        bare
                        label={`${p.id}: reference shows`}
                        min={0}
                        max={1e6}
                        value={p.reference}
                        onChange={(reference) => set({ reference })}
                      />
                    </td>
                    <td>
                      <select
                        aria-label={`${p.id}: used to`}
                        className="field !w-auto"
                        value={p.role}
                        onChange={(e) => set({ role: e.target.value as 'fit' | 'verify' })}
                      >
                        <option value="fit">fit</option>
                        <option value="verify">verify</option>
                      </select>
                    </td>
                    <td className="pin">{f?.errBeforePct != null ? `${f.errBeforePct.toFixed(2)} %` : ''}</td>
                    <td className="pin">{f?.errAfterPct != null ? `${f.errAfterPct.toFixed(3)} %` : ''}</td>
                    <td className="pin">{f ? `${f.U.toPrecision(3)} ${unit}` : ''}</td>
                    <td>
                      <button
                        type="button"
                        className={buttonClass('quiet')}
                        aria-label={`Remove ${p.id}`}
                        onClick={() => patch({ points: data.points.filter((_, j) => j !== i) })}
                      >
                        Remove
                      </button>
                    </td>
                  </tr>
                )
              })}
            </tbody>
          </table>
        </div>
        <div className="flex flex-wrap items-end gap-2">
          <button
            type="button"
            className={buttonClass()}
            onClick={() =>
              patch({ points: [...data.points, { id: newPoint(), indicated: null, reference: null, role: 'fit' }] })
            }
          >
            Add a point
          </button>
          <div className="min-w-[16rem]">
            <AreaField
              label="Or paste pairs, one a line: unit, reference"
              rows={2}
              value={paste}
              maxLength={5000}
              onChange={setPaste}
            />
          </div>
          <button type="button" className={buttonClass('quiet')} disabled={paste.trim() === ''} onClick={takePaste}>
            Take them
          </button>
          {unread.length > 0 && (
            <ul role="status" className="text-[0.93rem] text-oxide">
              {unread.slice(0, 6).map((line) => (
                <li key={line}>{line}</li>
              ))}
              {unread.length > 6 && <li>and {unread.length - 6} more</li>}
            </ul>
          )}
          <ZeroField zeros={data.zeros} unit={unit} onChange={(zeros) => patch({ zeros })} />
        </div>
      </Block>
      {outcome && !outcome.ok && <p className="font-semibold text-oxide">{outcome.faults[0]?.message}</p>}
      {fit && (
        <div className="grid grid-cols-[minmax(0,1fr)] gap-4" aria-live="polite">
          <p className="text-[1.1rem]">
            True = <strong className="pin">{fit.gain.toFixed(5)}</strong> × shown
            {fit.model === 'gainOffset' && ` ${fit.offset < 0 ? '−' : '+'} ${Math.abs(fit.offset).toFixed(3)} ${unit}`}{' '}
            <span className="text-ink-2">
              ({fit.model === 'gain' ? 'gain' : 'gain and offset'}: {whyWords[fit.why]})
            </span>
          </p>
          <ErrorPlot
            points={[...fit.points, ...fit.verify].map((p) => ({
              x: (input?.points ?? []).find((w) => w.id === p.id)?.reference ?? 0,
              before: p.errBeforePct,
              after: p.errAfterPct,
            }))}
            limitPct={data.limitPct}
            unit={unit}
          />
          <p className="text-ink-2">
            After-errors are agreement with the reference, not truth: truth is within ±U, which holds the whole class of
            the reference.
          </p>
          {fit.verify.map((v) => (
            <p key={v.id} className="flex gap-2.5">
              <Tag severity={v.verdict === 'pass' ? (v.guarded === 'pass' ? 'ok' : 'watch') : 'error'}>
                {v.verdict ?? 'no limit'}
              </Tag>
              Verify point {v.id}: {v.errAfterPct?.toFixed(3)} % after, limit {v.limit?.toPrecision(3)} {unit}. With the
              uncertainty: {v.guarded}.
            </p>
          ))}
          <Findings findings={fit.findings} empty="No warning: a sound calibration." />
          <p>
            Least it can show:{' '}
            {fit.minDetectable === null
              ? 'read zero three times to know'
              : `${fit.minDetectable.toPrecision(3)} ${unit}`}
            . Next re-check {fit.due}.
          </p>
          <button
            type="button"
            className={`${buttonClass('plain')} justify-self-start`}
            onClick={() => void act('save-calibration', { unitId: view.id })}
          >
            Save this calibration
          </button>
        </div>
      )}
      {last && (
        <Block title="Saved">
          <dl>
            <Fact
              name="Factor"
              evidence={`${last.model === 'gain' ? 'gain only' : `offset ${last.offset.toFixed(3)} ${unit}`}, ${last.at.slice(0, 10)}${last.firmware ? `, on ${last.firmware}` : ''}`}
            >
              <span className="pin">{last.gain.toFixed(5)}</span>
            </Fact>
            <Fact name="Re-check due">{last.due ?? '–'}</Fact>
          </dl>
        </Block>
      )}
    </>
  )
}

function ZeroField({ zeros, unit, onChange }: { zeros: number[]; unit: string; onChange: (zeros: number[]) => void }) {
  const [text, setText] = useState(zeros.join('  '))
  const parts = text.trim() === '' ? [] : text.trim().split(/[\s;]+/)
  const bad = parts.some((p) => readNumber(p) === null)
  return (
    <TextField
      label={`Readings with the relay off, ${unit}`}
      mono
      value={text}
      className="min-w-[13rem]"
      onChange={(next) => {
        setText(next)
        const list =
          next.trim() === ''
            ? []
            : next
                .trim()
                .split(/[\s;]+/)
                .map(readNumber)
        if (list.every((n): n is number => n !== null)) onChange(list.slice(0, 60))
      }}
      hint={
        bad ? (
          <span className="font-semibold text-oxide">Numbers with spaces between.</span>
        ) : (
          'Five of them, with spaces between.'
        )
      }
    />
  )
}
