'use client'
import { dischargeOf, isolationQuestions, judgeIsolation } from '@fresh-coat/core/open/isolation'
import {
  blankItem,
  fastenerKinds,
  hidingPlaces,
  itemSentence,
  kindName,
  type OpeningItem,
  openingHelp,
  restoreWays,
} from '@fresh-coat/core/open/opening'
import { missingPhotos, openFindings } from '@fresh-coat/core/steps/open/conditions'
import { freshId, terminalLegends } from '@fresh-coat/core/steps/open/record'
import { useState } from 'react'
import { PhotoMarks } from '@/components/drawings/photo-marks'
import { AreaField, Choice, NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { buttonClass, Findings, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'
import { Photos } from './photos'

const plain = (s: string) => s.replaceAll('_', ' ')

export function OpenSurface({ view, record, gates, act }: SurfaceProps<'open'>) {
  const { data, patch } = record
  const isolation = judgeIsolation(data.isolation)
  const discharge = data.capacitorUf === null ? null : dischargeOf(data.capacitorUf, data.bleederOhms)
  const mains = view.board?.mains !== false
  const photos = view.files.filter((f) => f.kind === 'photo')
  const missing = missingPhotos(view)
  const known = view.board?.openMinutes.filter((m) => m.unit !== view.number) ?? []
  return (
    <>
      <StepHeading title="Open it, and be able to close it again">
        Once the cover is off nothing on the board says which terminal is which: write the legends down and take photos
        first.
      </StepHeading>
      {gates}
      <Block title="Terminals, read from the cover">
        <Tick
          label="It has no terminals (plug and socket only, or low voltage with a connector)"
          checked={data.noTerminals}
          onChange={(noTerminals) => patch({ noTerminals })}
        />
        {!data.noTerminals && (
          <div className="grid gap-2">
            {data.terminals.map((t, i) => (
              <div key={i} className="grid grid-cols-[1fr_11rem_auto] items-end gap-2">
                <TextField
                  label={`Terminal ${i + 1}, as printed or placed`}
                  value={t.place}
                  maxLength={200}
                  onChange={(place) =>
                    patch({ terminals: data.terminals.map((x, j) => (j === i ? { ...x, place } : x)) })
                  }
                />
                <SelectField
                  label="Is"
                  value={t.legend}
                  options={terminalLegends.map((l) => ({ value: l, label: plain(l) }))}
                  onChange={(legend) =>
                    patch({
                      terminals: data.terminals.map((x, j) => (j === i ? { ...x, legend: legend ?? 'unknown' } : x)),
                    })
                  }
                />
                <button
                  type="button"
                  className={buttonClass('quiet')}
                  onClick={() => patch({ terminals: data.terminals.filter((_, j) => j !== i) })}
                >
                  Remove
                </button>
              </div>
            ))}
            <button
              type="button"
              className={`${buttonClass()} justify-self-start`}
              onClick={() => patch({ terminals: [...data.terminals, { place: '', legend: 'unknown' }] })}
            >
              Add a terminal
            </button>
          </div>
        )}
      </Block>
      <Block title="Photos">
        <p className="flex gap-2.5" aria-live="polite">
          <Tag severity={missing.length === 0 ? 'ok' : 'watch'}>{missing.length === 0 ? 'ok' : 'open'}</Tag>
          {missing.length === 0
            ? 'The photos that are needed are there.'
            : `Still wanted: ${missing.map(plain).join(', ')}.`}
        </p>
        <Photos view={view} wanted={missing} act={act} />
        {photos.length > 0 && (
          <Fold
            summary={`Marks on the photos${data.marks.length > 0 ? `: ${data.marks.length}` : ''}`}
            startOpen={data.marks.length > 0}
          >
            <PhotoMarks photos={photos} marks={data.marks} onChange={(marks) => patch({ marks })} />
          </Fold>
        )}
      </Block>
      <OpeningPlan view={view} record={record} />
      {mains && (
        <>
          <Block title="Isolation">
            <div className="grid gap-1">
              {isolationQuestions.map((q) => (
                <div key={q.id} className="border-b border-rule-2 pb-1">
                  <Choice
                    compact
                    label={q.ask}
                    value={data.isolation[q.id] ?? null}
                    options={[
                      { value: 'yes', label: 'Yes' },
                      { value: 'no', label: 'No' },
                      { value: 'unknown', label: 'Don’t know' },
                    ]}
                    onChange={(v) => patch({ isolation: { ...data.isolation, [q.id]: v } })}
                  />
                </div>
              ))}
            </div>
            <p className="flex gap-2.5" aria-live="polite">
              <Tag severity={isolation.verdict === 'isolated' ? 'ok' : 'watch'}>{isolation.verdict}</Tag>
              <span>
                {isolation.reasons.join('; ')}.
                {isolation.verdict !== 'isolated' &&
                  ' Every pad, wire and added sensor is live when plugged in: no touchable metal, no connector brought out, never an earthed instrument or USB on it.'}
              </span>
            </p>
          </Block>
          <Block title="Discharge">
            <div className="grid grid-cols-2 gap-3">
              <NumberField
                label="Mains-side capacitor"
                unit="µF"
                min={0}
                max={10000}
                value={data.capacitorUf}
                onChange={(capacitorUf) => patch({ capacitorUf })}
              />
              <NumberField
                label="Bleeder resistor"
                unit="Ω"
                min={0}
                max={1e9}
                value={data.bleederOhms}
                onChange={(bleederOhms) => patch({ bleederOhms })}
                hint="Empty counts as none: 10 MΩ leakage."
              />
            </div>
            {discharge && 'seconds' in discharge && (
              <p aria-live="polite">
                Falls to 30 V in {discharge.seconds.toFixed(1)} s and holds {discharge.joules.toFixed(3)} J. Wait at
                least {Math.ceil(discharge.waitSeconds)} s, then measure. Never short a capacitor with a tool.
              </p>
            )}
            {discharge && 'code' in discharge && <p className="font-semibold text-oxide">{discharge.message}</p>}
          </Block>
        </>
      )}
      <Block title="How it went">
        <div className="grid gap-3 sm:grid-cols-[10rem_1fr]">
          <NumberField
            label="Took"
            unit="min"
            min={0}
            max={10000}
            value={data.minutes}
            onChange={(minutes) => patch({ minutes })}
            hint={
              known.length > 0 ? `Before: ${known.map((m) => `${m.minutes} min (${m.unit})`).join(', ')}.` : undefined
            }
          />
          <AreaField
            label="Damage, and what you would do differently"
            mono={false}
            rows={2}
            maxLength={1000}
            value={data.damage}
            onChange={(damage) => patch({ damage })}
          />
        </div>
        <Tick label="Opened by force" checked={data.forced} onChange={(forced) => patch({ forced })} />
      </Block>
    </>
  )
}

/** What comes out in which order, ticked off as it does; the way back is made from the same list. */
function OpeningPlan({ view, record }: Pick<SurfaceProps<'open'>, 'view' | 'record'>) {
  const { data, patch } = record
  const [part, setPart] = useState('')
  const [editing, setEditing] = useState<string | null>(null)
  const fromBoard = view.board?.fasteners && view.board.fasteners.length > 0 && record.data.fasteners.length > 0
  const set = (id: string, change: Partial<OpeningItem>) =>
    patch({ fasteners: data.fasteners.map((f) => (f.id === id ? { ...f, ...change } : f)) })
  const moveUp = (i: number) => {
    const list = [...data.fasteners]
    const [item] = list.splice(i, 1)
    if (item) list.splice(i - 1, 0, item)
    patch({ fasteners: list })
  }
  return (
    <Block title="What comes out, in this order">
      {fromBoard && (
        <p className="text-ink-2">As its board is on record. Tick each as it comes out; correct what differs.</p>
      )}
      <Findings findings={openFindings(view)} label="Order of opening" />
      <ol className="grid gap-1.5">
        {data.fasteners.map((f, i) => (
          <li key={f.id} className="rounded-[9px] border border-rule-2 px-3 py-1.5">
            <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <span className="pin w-5 text-ink-3">{i + 1}</span>
              <div className="min-w-[12rem] flex-1">
                <Tick
                  label={
                    <>
                      {itemSentence(f)}
                      {f.restore !== 'same' && <span className="text-ochre">; back with {plain(f.restore)}</span>}
                      {f.requires.length > 0 && (
                        <span className="text-ink-2">
                          ; needs{' '}
                          {f.requires
                            .map((id) => data.fasteners.findIndex((x) => x.id === id) + 1)
                            .filter((n) => n > 0)
                            .join(' and ')}{' '}
                          first
                        </span>
                      )}
                      {f.note && <span className="block text-[0.9rem] text-ink-2">{f.note}</span>}
                    </>
                  }
                  checked={data.taken.includes(f.id)}
                  onChange={(on) => patch({ taken: on ? [...data.taken, f.id] : data.taken.filter((x) => x !== f.id) })}
                />
              </div>
              <button
                type="button"
                className={`${buttonClass('quiet')} !px-2`}
                disabled={i === 0}
                aria-label={`Move step ${i + 1} up`}
                onClick={() => moveUp(i)}
              >
                Up
              </button>
              <button
                type="button"
                className={`${buttonClass('quiet')} !px-2`}
                aria-expanded={editing === f.id}
                aria-label={`Correct step ${i + 1}`}
                onClick={() => setEditing(editing === f.id ? null : f.id)}
              >
                {editing === f.id ? 'Done' : 'Correct'}
              </button>
            </div>
            {editing === f.id && (
              <div className="grid gap-2 pt-2 pb-1 sm:grid-cols-3">
                <SelectField
                  label="Kind"
                  value={f.kind}
                  options={fastenerKinds.map((k) => ({ value: k, label: kindName(k) }))}
                  onChange={(kind) => kind && set(f.id, { kind })}
                />
                <NumberField
                  label="Count"
                  value={f.count}
                  min={1}
                  max={200}
                  whole
                  onChange={(count) => count && set(f.id, { count })}
                />
                <TextField
                  label="Driver or tool"
                  value={f.driver}
                  maxLength={60}
                  onChange={(driver) => set(f.id, { driver })}
                />
                <TextField label="Where" value={f.place} maxLength={200} onChange={(place) => set(f.id, { place })} />
                <SelectField
                  label="Hidden under"
                  value={f.hiddenUnder}
                  options={hidingPlaces.map((k) => ({ value: k, label: k === 'none' ? 'nothing' : k }))}
                  onChange={(hiddenUnder) => hiddenUnder && set(f.id, { hiddenUnder })}
                />
                <SelectField
                  label="Put back"
                  value={f.restore}
                  options={restoreWays.map((k) => ({ value: k, label: plain(k) }))}
                  onChange={(restore) => restore && set(f.id, { restore })}
                />
                <TextField
                  label="The trick with it"
                  value={f.note}
                  maxLength={300}
                  onChange={(note) => set(f.id, { note })}
                />
                <fieldset className="sm:col-span-2">
                  <legend className="text-[0.9rem] font-semibold text-ink-2">Needs first</legend>
                  <div className="flex flex-wrap gap-x-4">
                    {data.fasteners.map((other, j) =>
                      other.id === f.id ? null : (
                        <Tick
                          key={other.id}
                          label={`${j + 1} ${kindName(other.kind)}`}
                          checked={f.requires.includes(other.id)}
                          onChange={(on) =>
                            set(f.id, {
                              requires: on ? [...f.requires, other.id] : f.requires.filter((x) => x !== other.id),
                            })
                          }
                        />
                      ),
                    )}
                    {data.fasteners.length === 1 && <span className="text-ink-2">There is no other yet.</span>}
                  </div>
                </fieldset>
                <button
                  type="button"
                  className={`${buttonClass('quiet')} justify-self-start`}
                  onClick={() =>
                    patch({
                      fasteners: data.fasteners
                        .filter((x) => x.id !== f.id)
                        .map((x) => ({ ...x, requires: x.requires.filter((r) => r !== f.id) })),
                      taken: data.taken.filter((x) => x !== f.id),
                    })
                  }
                >
                  Remove this step
                </button>
              </div>
            )}
          </li>
        ))}
      </ol>
      <button
        type="button"
        className={`${buttonClass()} justify-self-start`}
        onClick={() => {
          const id = freshId(data.fasteners)
          patch({
            fasteners: [...data.fasteners, blankItem(id)],
          })
          setEditing(id)
        }}
      >
        Add a fastener
      </button>
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          if (part.trim() && !data.parts.includes(part.trim())) patch({ parts: [...data.parts, part.trim()] })
          setPart('')
        }}
      >
        <TextField
          label="Loose parts to keep: button cap, light pipe, spring, sheet"
          value={part}
          maxLength={200}
          onChange={setPart}
          className="min-w-[18rem] flex-1"
        />
        <button type="submit" className={buttonClass()}>
          Keep
        </button>
      </form>
      {data.parts.length > 0 && (
        <ul className="flex flex-wrap gap-2">
          {[...new Set(data.parts)].map((p) => (
            <li key={p} className="rounded-[8px] border border-rule bg-sheet-2 px-2.5 py-1">
              {p}{' '}
              <button
                type="button"
                className="ml-1 underline"
                aria-label={`Remove ${p}`}
                onClick={() => patch({ parts: data.parts.filter((x) => x !== p) })}
              >
                remove
              </button>
            </li>
          ))}
        </ul>
      )}
      <details className="rounded-[10px] border border-rule p-3">
        <summary className="font-semibold">It does not come apart</summary>
        <dl className="mt-2 grid gap-2">
          {openingHelp.map((h) => (
            <div key={h.finding}>
              <dt className="font-semibold">{h.finding}</dt>
              <dd className="max-w-[70ch] text-ink-2">{h.judgement}</dd>
            </div>
          ))}
        </dl>
      </details>
    </Block>
  )
}
