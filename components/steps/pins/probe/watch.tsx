import { inputsOf, type Stage, withLevels } from '@fresh-coat/core/pins/session'
import { useState } from 'react'
import { Card, Count, Counts } from '@/components/frame/card'
import { buttonClass, Key } from '@/components/paint/paint'
import type { At } from './words'

/** Before anything is driven: what the pins read by themselves, and what changes when a button is held. */

const asks: Record<Exclude<Stage, 'drive'>, { ask: string; how: string; none: string }> = {
  'pulled-up': {
    ask: 'Pulled up: which read low?',
    how: 'Set every pin to an input with its pull-up on, hold nothing, and look at the levels.',
    none: 'All read high',
  },
  'pulled-down': {
    ask: 'Pulled down: which read high?',
    how: 'The same with the pull-down on, or with none where the chip has none. What reads the same both times is held by something.',
    none: 'All read low',
  },
  press: {
    ask: 'Hold a button: which pin changed?',
    how: 'One button at a time, with the pull-ups on. Choose every pin that changed while it was held.',
    none: 'No more buttons',
  },
}

function Pressed({ at }: { at: At }) {
  const inputs = inputsOf(at.session)
  if (inputs.length === 0) return null
  return (
    <Counts title="Buttons so far">
      {inputs.map(({ pin, active, changed }, i) => (
        <Count key={i} name={`Button ${i + 1}`} note={pin === null ? 'Several at once prove none: hold it alone.' : ''}>
          {pin === null ? changed.join(', ') : `${pin}, ${active} while held`}
        </Count>
      ))}
    </Counts>
  )
}

export function WatchCard({ at, stage }: { at: At; stage: Exclude<Stage, 'drive'> }) {
  const [chosen, setChosen] = useState<readonly string[]>([])
  const { session, plan, put, sitting } = at
  const { ask, how, none } = asks[stage]
  const tell = () => {
    setChosen([])
    if (stage === 'pulled-up') put({ lowPulledUp: [...chosen] })
    else if (stage === 'pulled-down') put(withLevels(session, { highPulledDown: [...chosen] }))
    else if (chosen.length === 0) put({ pressed: true })
    else put({ presses: [...session.presses, { changed: [...chosen], sitting }] })
  }
  const back = () => {
    setChosen([])
    if (stage === 'pulled-down') put({ lowPulledUp: null })
    else if (session.presses.length > 0) put({ presses: session.presses.slice(0, -1) })
    else put({ highPulledDown: null })
  }
  return (
    <Card
      lead={stage === 'press' ? 'Inputs, before anything is driven' : 'Levels, before anything is driven'}
      ask={ask}
      how={how}
      columns
      answers={plan.candidates.map((pin) => ({
        label: <span className="pin">{pin}</span>,
        chosen: chosen.includes(pin),
        keeps: true,
        pick: () => setChosen(chosen.includes(pin) ? chosen.filter((p) => p !== pin) : [...chosen, pin]),
      }))}
    >
      <div className="flex flex-wrap gap-2">
        <button type="button" data-key="Enter" className={buttonClass('main')} onClick={tell}>
          {chosen.length === 0 ? none : chosen.join(', ')}
          <Key>Enter</Key>
        </button>
        {stage !== 'pulled-up' && (
          <button type="button" className={buttonClass('quiet')} onClick={back}>
            Take the last answer back
          </button>
        )}
        {stage === 'pulled-up' && (
          <button type="button" className={buttonClass('quiet')} onClick={() => put({ unread: true })}>
            It shows no levels
          </button>
        )}
      </div>
      <Pressed at={at} />
    </Card>
  )
}
