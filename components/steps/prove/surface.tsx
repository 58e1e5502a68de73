'use client'
import { powerCutOf, withCut } from '@fresh-coat/core/steps/prove/cut'
import { drillFindings } from '@fresh-coat/core/steps/prove/drills'
import { PowerCutDrawing } from '@/components/drawings/power-cut'
import { NumberField, TextField } from '@/components/forms/fields'
import { type Ask, Questions, Standing } from '@/components/frame/card'
import { StepSheet } from '@/components/frame/sheet'
import type { SurfaceProps } from '@/components/steps/context'
import { Drills, HeardAway, PowerCutPredicted } from '@/components/steps/prove/drills'

type Props = SurfaceProps<'prove'>

const powerWords = { off: 'off', on: 'on', last: 'as before' }

function asksOf({ view, record: { data, patch } }: Props): Ask[] {
  const cut = powerCutOf(view)
  const say = (said: Parameters<typeof withCut>[1]) => patch({ powerCut: withCut(view, said) })
  return [
    {
      id: 'back',
      name: 'Came back',
      lead: 'Supply off for 10 s, then on again',
      ask: 'How did it come back?',
      how: 'It comes back in the wanted state, joins by itself, and the hub agrees. Then it is in service.',
      said: cut?.cameBack ?? null,
      answers: [
        {
          label: 'As wanted',
          pick: () => say({ cameBack: 'as wanted' }),
          chosen: cut?.cameBack === 'as wanted',
        },
        {
          label: 'Otherwise',
          pick: () => say({ cameBack: 'otherwise' }),
          chosen: cut?.cameBack === 'otherwise',
          grave: true,
        },
      ],
    },
    {
      id: 'seconds',
      name: 'Off for',
      ask: 'How long was it off, and how soon on the network?',
      said: cut ? `${cut.seconds} s` : null,
      optional: true,
      field: (
        <>
          <NumberField
            label="Supply was off for"
            unit="s"
            min={0}
            max={100000}
            value={cut?.seconds ?? null}
            onChange={(seconds) => seconds !== null && say({ seconds })}
          />
          {view.topic !== null && <HeardAway view={view} use={(rejoinSeconds) => say({ rejoinSeconds })} />}
          <NumberField
            label="On the network again after"
            unit="s"
            min={0}
            max={100000}
            value={cut?.rejoinSeconds ?? null}
            onChange={(rejoinSeconds) => say({ rejoinSeconds })}
          />
        </>
      ),
    },
    {
      id: 'note',
      name: 'Note',
      ask: 'What is worth knowing of it?',
      said: data.note || null,
      optional: true,
      field: <TextField label="Note" value={data.note} maxLength={1000} onChange={(note) => patch({ note })} />,
    },
  ]
}

/** A power cut, and how it came back: the last proof before service. */
export function ProveSurface(props: Props) {
  const { view, record, assessment } = props
  const cut = powerCutOf(view)
  const here = assessment.steps.find((s) => s.id === 'prove')
  const tried = new Set(record.data.drills.map((d) => d.drill)).size
  const set = view.records.behaviour.data.channels.map((c) => `channel ${c.ch} ${powerWords[c.onPower]}`)
  return (
    <StepSheet
      title="Cut its power, and see it come back"
      drawing={
        <PowerCutDrawing
          cut={{
            seconds: cut?.seconds ?? null,
            cameBack: cut?.cameBack ?? null,
            rejoinSeconds: cut?.rejoinSeconds ?? null,
            wanted:
              set.length > 0
                ? `set to come back: ${set.slice(0, 3).join(', ')}`
                : 'nobody has set how it is to come back',
          }}
        />
      }
      findings={drillFindings(view)}
      verdict={<PowerCutPredicted view={view} />}
      more={[
        {
          id: 'drills',
          name: tried > 0 ? `What else may go away: ${tried} tried` : 'What else may go away',
          wide: true,
          content: <Drills {...props} />,
        },
      ]}
      card={<Questions asks={asksOf(props)} rest={<Standing conditions={here?.conditions ?? []} />} />}
    />
  )
}
