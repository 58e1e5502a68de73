'use client'
import { channelsOf, templateOf } from '@fresh-coat/core/steps/pins/facts'
import { type DrawnOutput, OutputsDrawing } from '@/components/drawings/outputs-drawing'
import { TextField } from '@/components/forms/fields'
import { type Ask, Questions, Standing } from '@/components/frame/card'
import { StepSheet } from '@/components/frame/sheet'
import type { SurfaceProps } from '@/components/steps/context'

type Props = SurfaceProps<'behaviour'>
type Channel = Props['record']['data']['channels'][number]

const powerWords = { off: 'Off', on: 'On', last: 'As before' }
const untried = (ch: number): Channel => ({ ch, onPower: 'off', tried: false })

function outputsOf({ view, record: { data } }: Props): DrawnOutput[] {
  const template = templateOf(view)
  return channelsOf(view).map((ch) => {
    const known = data.channels.find((c) => c.ch === ch) ?? untried(ch)
    const pins = template?.pins.filter((p) => (p.ch ?? 1) === ch).map((p) => `${p.pin} ${p.fn}`) ?? []
    return { ...known, name: `Channel ${ch}`, pins: pins.join(', ') }
  })
}

/** Per output: what it is after a power cut, then whether it was tried. */
function channelAsks({ record: { data, patch } }: Props, ch: number): Ask[] {
  const known = data.channels.find((c) => c.ch === ch)
  const set = (change: Partial<Channel>) =>
    patch({
      channels: [...data.channels.filter((c) => c.ch !== ch), { ...(known ?? untried(ch)), ...change }].sort(
        (a, b) => a.ch - b.ch,
      ),
    })
  return [
    {
      id: `set ${ch}`,
      name: `Channel ${ch}`,
      ask: `After a power cut, channel ${ch} is`,
      how: 'A lamp may come on by itself; a heater, motor or latch may not.',
      said: known ? powerWords[known.onPower] : null,
      answers: (['off', 'on', 'last'] as const).map((onPower) => ({
        label: powerWords[onPower],
        pick: () => set({ onPower, tried: false }),
        chosen: known?.onPower === onPower,
      })),
    },
    {
      id: `tried ${ch}`,
      name: 'Tried',
      ask: `Channel ${ch}, on the unit: does it switch, and come up as set?`,
      how: 'Case closed. A latch, heater or motor is tried with its load disconnected first.',
      said: known?.tried ? `channel ${ch} tried` : null,
      answers: [
        { label: 'Yes, tried', pick: () => set({ tried: true }), chosen: known?.tried === true },
        { label: 'No, not as set', pick: () => set({ tried: false }), grave: true },
      ],
    },
  ]
}

/** What it does after a power cut, per output, and whether that was tried. */
export function BehaviourSurface(props: Props) {
  const { record, assessment } = props
  const { data, patch } = record
  const outputs = outputsOf(props)
  const here = assessment.steps.find((s) => s.id === 'behaviour')
  const asks: Ask[] = [
    ...outputs.flatMap((o) => channelAsks(props, o.ch)),
    {
      id: 'note',
      name: 'Else',
      ask: 'What else does it do?',
      said: data.note || null,
      optional: true,
      field: (
        <TextField
          label="What else it does: buttons, holds, timers"
          value={data.note}
          maxLength={2000}
          onChange={(note) => patch({ note })}
        />
      ),
    },
  ]
  return (
    <StepSheet
      title="What it will do"
      say="Nothing here switches the unit: say how it is set, then try it."
      drawing={
        outputs.length === 0 ? (
          <p className="rounded-[12px] border border-dashed border-rule p-8 text-center text-ink-2">
            The pin template has no outputs yet.
          </p>
        ) : (
          <OutputsDrawing outputs={outputs} />
        )
      }
      card={<Questions asks={asks} rest={<Standing conditions={here?.conditions ?? []} />} />}
    />
  )
}
