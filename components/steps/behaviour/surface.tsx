'use client'
import { channelsOf, templateOf } from '@fresh-coat/core/steps/pins/facts'
import { Choice, TextField, Tick } from '@/components/forms/fields'
import type { SurfaceProps } from '@/components/steps/context'
import { StepHeading } from '@/components/steps/heading'

export function BehaviourSurface({ view, record, gates }: SurfaceProps<'behaviour'>) {
  const { data, patch } = record
  const channels = channelsOf(view)
  const template = templateOf(view)
  return (
    <>
      <StepHeading title="Set what it does, and try it">
        Case closed. A latch, heater or motor is tried with its load disconnected first.
      </StepHeading>
      {gates}
      {channels.length === 0 && (
        <p className="rounded-[10px] border border-dashed border-rule p-4 text-ink-2">
          The pin template has no outputs yet.
        </p>
      )}
      <div className="grid gap-3">
        {channels.map((ch) => {
          const known = data.channels.find((c) => c.ch === ch) ?? { ch, onPower: 'off' as const, tried: false }
          const set = (change: Partial<typeof known>) =>
            patch({
              channels: [...data.channels.filter((c) => c.ch !== ch), { ...known, ...change }].sort(
                (a, b) => a.ch - b.ch,
              ),
            })
          const pins = template?.pins.filter((p) => (p.ch ?? 1) === ch).map((p) => `${p.pin} ${p.fn}`)
          return (
            <section key={ch} className="grid gap-2 rounded-[10px] border border-rule p-3.5">
              <h3 className="text-[1.05rem]">
                Channel {ch} <span className="pin ml-2 font-normal text-ink-2">{pins?.join(', ')}</span>
              </h3>
              <Choice
                label="After a power cut it is"
                value={known.onPower}
                options={[
                  { value: 'off', label: 'Off' },
                  { value: 'on', label: 'On' },
                  { value: 'last', label: 'As before' },
                ]}
                onChange={(onPower) => set({ onPower, tried: false })}
              />
              <Tick
                label="Tried on the unit: switches, and comes up as set"
                checked={known.tried}
                onChange={(tried) => set({ tried })}
              />
            </section>
          )
        })}
      </div>
      <TextField
        label="What else it does: buttons, holds, timers"
        value={data.note}
        maxLength={2000}
        onChange={(note) => patch({ note })}
      />
    </>
  )
}
