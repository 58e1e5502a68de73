'use client'
import { itemSentence } from '@fresh-coat/core/open/opening'
import { closeFindings } from '@fresh-coat/core/steps/close/conditions'
import { closingQuestions, nothingWasRecorded } from '@fresh-coat/core/steps/close/questions'
import { Choice, NumberField, Tick } from '@/components/forms/fields'
import { buttonClass, Findings, shortMoment } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'

export function CloseSurface({ view, record }: SurfaceProps<'close'>) {
  const { data, patch } = record
  const { fasteners, parts } = view.records.open.data
  const clips = fasteners.some((f) => f.kind === 'clip')
  const glued = fasteners.some((f) => f.restore === 'glue')
  return (
    <>
      <StepHeading title="Close it up">
        The way back, last out first in. Solder wires off before closing. Glue that was broken has to be glued again,
        and set, before any mains.
      </StepHeading>
      <Findings findings={closeFindings(view)} empty="Everything that came off is back: 0 left over." />
      {nothingWasRecorded(view) && view.route !== 'built' && <CountedNow view={view} record={record} />}
      <Questions view={view} record={record} />
      {fasteners.length > 0 && (
        <Block title="Fasteners">
          <div className="grid gap-2">
            {[...fasteners].reverse().map((f) => (
              <div key={f.id} className="grid grid-cols-[1fr_9rem] items-end gap-3 border-b border-rule-2 pb-2">
                <p>
                  <strong>{itemSentence(f)}</strong>
                  {f.restore !== 'same' && (
                    <span className="text-ochre">: {f.restore === 'glue' ? 'needs glue' : 'needs a new part'}</span>
                  )}
                </p>
                <NumberField
                  label={`Back, of ${f.count}`}
                  value={data.restored[f.id] ?? null}
                  min={0}
                  max={f.count}
                  whole
                  onChange={(n) => patch({ restored: { ...data.restored, [f.id]: n ?? 0 } })}
                />
              </div>
            ))}
          </div>
          {fasteners.length > 0 && (
            <button
              type="button"
              className={`${buttonClass('quiet')} justify-self-start`}
              onClick={() => patch({ restored: Object.fromEntries(fasteners.map((f) => [f.id, f.count])) })}
            >
              I have counted: all of them are back
            </button>
          )}
          {clips && (
            <NumberField
              label="Clips broken"
              value={data.clipsBroken}
              min={0}
              max={500}
              whole
              onChange={(n) => patch({ clipsBroken: n ?? 0 })}
              className="max-w-[9rem]"
            />
          )}
        </Block>
      )}
      {parts.length > 0 && (
        <Block title="Parts kept">
          {[...new Set(parts)].map((p) => (
            <Tick
              key={p}
              label={`${p} is back in`}
              checked={data.partsBack.includes(p)}
              onChange={(on) =>
                patch({ partsBack: on ? [...data.partsBack, p] : data.partsBack.filter((x) => x !== p) })
              }
            />
          ))}
        </Block>
      )}
      {glued && (
        <Block title="Glue">
          <div className="flex flex-wrap items-end gap-4">
            <button
              type="button"
              className={buttonClass()}
              onClick={() => patch({ gluedAt: new Date().toISOString() })}
            >
              Glued just now
            </button>
            <NumberField
              label="It sets in"
              unit="h"
              min={0}
              max={1000}
              value={data.glueHours}
              onChange={(glueHours) => patch({ glueHours })}
              className="w-[9rem]"
            />
            <p className="pb-2 text-ink-2">
              {data.gluedAt ? `Glued ${shortMoment(data.gluedAt)}.` : 'Not glued yet.'}
              {data.gluedAt &&
                data.glueHours !== null &&
                ` Set from ${shortMoment(new Date(Date.parse(data.gluedAt) + data.glueHours * 3_600_000).toISOString())}.`}
            </p>
          </div>
        </Block>
      )}
    </>
  )
}

/** Where Open holds nothing, Close counts itself. */
function CountedNow({ view, record: { data, patch } }: Pick<SurfaceProps<'close'>, 'view' | 'record'>) {
  const count = (label: string, field: 'fastenersOut' | 'fastenersBack' | 'looseParts') => (
    <NumberField
      label={label}
      value={data[field]}
      min={0}
      max={500}
      whole
      onChange={(n) => patch({ [field]: n })}
      className="max-w-[11rem]"
    />
  )
  return (
    <Block title="Counted now: nothing was written down at Open">
      <div className="flex flex-wrap items-end gap-4">
        {count('Fasteners that came out', 'fastenersOut')}
        {count('Fasteners that are back', 'fastenersBack')}
        {count('Parts left over', 'looseParts')}
      </div>
      {view.board?.mains !== false && (
        <Choice
          label="Did the case come apart without force, blade or heat?"
          value={data.unharmed}
          options={[
            { value: 'yes', label: 'Yes, unharmed' },
            { value: 'no', label: 'No' },
          ]}
          onChange={(unharmed) => patch({ unharmed })}
        />
      )}
    </Block>
  )
}

/** Only answers open the way to the mains. */
function Questions({ view, record: { data, patch } }: Pick<SurfaceProps<'close'>, 'view' | 'record'>) {
  const questions = closingQuestions(view)
  if (questions.length === 0) return null
  return (
    <Block title="Before it may go on the mains">
      {questions.map((q) => (
        <Choice
          key={q.id}
          label={q.ask}
          value={data.answers[q.id] ?? null}
          options={[
            { value: 'yes', label: 'Yes' },
            { value: 'no', label: 'No' },
          ]}
          onChange={(answer) => patch({ answers: { ...data.answers, [q.id]: answer } })}
        />
      ))}
    </Block>
  )
}
