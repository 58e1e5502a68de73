'use client'
import { fastenerKinds, terminalLegends } from '@fresh-coat/core/journey/records'
import { dischargeOf, isolationQuestions, judgeIsolation } from '@fresh-coat/core/open/isolation'
import { useState } from 'react'
import { Choice, NumberField, SelectField, TextField, Tick } from '../fields'
import { buttonClass, Tag } from '../paint'
import { Photos } from '../photos'
import type { SurfaceProps } from './context'
import { Block, StepHeading } from './heading'

const plain = (s: string) => s.replaceAll('_', ' ')

export function OpenSurface({ view, record, gates }: SurfaceProps<'open'>) {
  const { data, patch } = record
  const [part, setPart] = useState('')
  const isolation = judgeIsolation(data.isolation)
  const discharge = data.capacitorUf === null ? null : dischargeOf(data.capacitorUf, data.bleederOhms)
  const mains = view.board?.mains !== false
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
        <Photos view={view} />
      </Block>
      <Block title="Fasteners, in the order they come out">
        {data.fasteners.map((f, i) => {
          const set = (change: Partial<typeof f>) =>
            patch({ fasteners: data.fasteners.map((x, j) => (j === i ? { ...x, ...change } : x)) })
          return (
            <div key={i} className="grid grid-cols-2 items-end gap-2 md:grid-cols-[9rem_6rem_1fr_8rem_8rem_auto]">
              <SelectField
                label="Kind"
                value={f.kind}
                options={fastenerKinds.map((k) => ({ value: k, label: plain(k) }))}
                onChange={(kind) => kind && set({ kind })}
              />
              <NumberField
                label="Count"
                value={f.count}
                min={1}
                max={200}
                whole
                onChange={(count) => count && set({ count })}
              />
              <TextField label="Where" value={f.place} maxLength={200} onChange={(place) => set({ place })} />
              <SelectField
                label="Hidden under"
                value={f.hiddenUnder}
                options={(['none', 'sticker', 'foot', 'label', 'cap'] as const).map((k) => ({ value: k, label: k }))}
                onChange={(hiddenUnder) => hiddenUnder && set({ hiddenUnder })}
              />
              <SelectField
                label="Put back"
                value={f.restore}
                options={(['same', 'glue', 'new_part'] as const).map((k) => ({ value: k, label: plain(k) }))}
                onChange={(restore) => restore && set({ restore })}
              />
              <button
                type="button"
                className={buttonClass('quiet')}
                onClick={() => patch({ fasteners: data.fasteners.filter((_, j) => j !== i) })}
              >
                Remove
              </button>
            </div>
          )
        })}
        <button
          type="button"
          className={`${buttonClass()} justify-self-start`}
          onClick={() =>
            patch({
              fasteners: [
                ...data.fasteners,
                { kind: 'screw', count: 1, place: '', hiddenUnder: 'none', restore: 'same' },
              ],
            })
          }
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
            {data.parts.map((p) => (
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
      </Block>
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
    </>
  )
}
