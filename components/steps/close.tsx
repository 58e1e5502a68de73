'use client'
import { NumberField, Tick } from '../fields'
import type { SurfaceProps } from './context'
import { Block, StepHeading } from './heading'

export function CloseSurface({ view, record }: SurfaceProps<'close'>) {
  const { data, patch } = record
  const { fasteners, parts } = view.records.open.data
  const clips = fasteners.some((f) => f.kind === 'clip')
  return (
    <>
      <StepHeading title="Close it up">
        The way back, last out first in. Solder wires off before closing. Glue that was broken has to be glued again,
        and set, before any mains.
      </StepHeading>
      <Block title="Fasteners">
        {fasteners.length === 0 && <p className="text-ink-2">None were written down at Open.</p>}
        <div className="grid gap-2">
          {[...fasteners.keys()].reverse().map((i) => {
            const f = fasteners[i] as (typeof fasteners)[number]
            return (
              <div key={i} className="grid grid-cols-[1fr_9rem] items-end gap-3 border-b border-rule-2 pb-2">
                <p>
                  <strong>
                    {f.count} × {f.kind.replace('_', ' ')}
                  </strong>
                  {f.place && `, ${f.place}`}
                  {f.hiddenUnder !== 'none' && ` (under the ${f.hiddenUnder})`}
                  {f.restore !== 'same' && (
                    <span className="text-ochre">: {f.restore === 'glue' ? 'needs glue' : 'needs a new part'}</span>
                  )}
                </p>
                <NumberField
                  label={`Back, of ${f.count}`}
                  value={data.restored[String(i)] ?? null}
                  min={0}
                  max={f.count}
                  whole
                  onChange={(n) => patch({ restored: { ...data.restored, [String(i)]: n ?? 0 } })}
                />
              </div>
            )
          })}
        </div>
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
      {parts.length > 0 && (
        <Block title="Parts kept">
          {parts.map((p) => (
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
    </>
  )
}
