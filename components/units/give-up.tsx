'use client'
import { dayWords } from '@fresh-coat/core/edge/day'
import { type Ended, type EndingKind, endedSentence } from '@fresh-coat/core/unit/ended'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { useState } from 'react'
import { CommandForm } from '@/components/forms/command-form'
import { Choice, TextField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { buttonClass } from '@/components/paint/paint'

/** In place of the card: nothing is done on a unit that goes no further, until somebody takes it up again. */
export function GivenUp({ ended, again }: { ended: Ended; again: () => void }) {
  return (
    <section aria-label="Given up" className="grid content-start gap-4">
      <p className="text-ink-2">Given up</p>
      <h2 className="font-title text-[1.65rem] leading-[1.15] font-semibold">
        {endedSentence({ ...ended, on: dayWords(ended.on) })}
      </h2>
      <p>Its record is kept, and its number stays on its case. Nothing of it is due.</p>
      <button type="button" className={buttonClass('plain')} onClick={again}>
        Take it up again
      </button>
    </section>
  )
}

const options: { value: EndingKind; label: string }[] = [
  { value: 'died', label: 'It died' },
  { value: 'put-away', label: 'Put away' },
  { value: 'given-away', label: 'Given away' },
]
const about: Record<EndingKind, string> = {
  died: 'Before it was ever in service it counts among the losses of its route.',
  'put-away': 'It works, and nobody uses it for now.',
  'given-away': 'It goes to other hands, without what it knows of yours.',
}
interface Ending {
  [key: string]: unknown
  unitId: string
  how: EndingKind
  why: string
  wiped: boolean
}

/** Ends the way of a unit, where it stands: everything else of it stays as it is. */
export function GiveUp({ view }: { view: UnitView }) {
  const [empty] = useState<Ending>({ unitId: view.id, how: 'died', why: '', wiped: false })
  if (view.ended) return null
  return (
    <Fold summary="This unit goes no further">
      <CommandForm
        command="give-up"
        empty={empty}
        submit="Give it up"
        disabled={(v) => (v.how === 'died' && v.why.trim() === '') || (v.how === 'given-away' && !v.wiped)}
      >
        {(v, set) => (
          <>
            <Choice label="How it ends" value={v.how} options={options} onChange={(how) => set({ how })} />
            <p className="text-ink-2">{about[v.how]}</p>
            <TextField
              label={v.how === 'died' ? 'What it died of' : 'Why, or where it went'}
              value={v.why}
              maxLength={500}
              onChange={(why) => set({ why })}
            />
            {v.how === 'given-away' && (
              <Tick
                label="It is wiped: no password of the network or the broker is left in its flash"
                checked={v.wiped}
                onChange={(wiped) => set({ wiped })}
              />
            )}
          </>
        )}
      </CommandForm>
    </Fold>
  )
}
