'use client'
import { asksFirst } from '@fresh-coat/core/live/wish'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { useState } from 'react'
import { SureFirst } from '@/components/live/sure-first'
import { useUnitOnAir } from '@/components/live/unit-air'
import { useNow } from '@/components/live/use-air'
import { channelsOf, since } from '@/components/live/words'
import { buttonClass } from '@/components/paint/paint'
import { send } from '@/components/send'

const pauseMs = 1200

/**
 * A unit that speaks on the air under its own topic is asked to click, there and back, so that the one that was found is the one
 * that lies here. What can hurt asks first.
 */
export function MakeItClick({ view }: { view: UnitView }) {
  const { data } = useUnitOnAir(view.number)
  const now = useNow()
  const [asked, setAsked] = useState(false)
  const [said, setSaid] = useState('')
  const row = data?.row
  if (!data?.listening || !row || now === null) return null
  const [first] = channelsOf(row.fields)
  const ip = row.fields.ip
  const why = asksFirst(view)
  const go = async () => {
    if (!first) return
    setAsked(false)
    setSaid('Asked to click…')
    for (const on of [!first.on, first.on]) {
      const left = on === first.on ? ` It may have been left ${first.on ? 'off' : 'on'}.` : ''
      const sent = await send('switch-unit', { unitId: view.id, channel: first.channel, on, sure: why !== null })
      if (sent.state !== 'ok')
        return setSaid(
          `${sent.state === 'refused' ? `${sent.error.message} ${sent.error.next}` : 'The server does not answer.'}${left}`,
        )
      await new Promise((resolve) => setTimeout(resolve, pauseMs))
    }
    setSaid('It was asked to click, there and back. Did the one in front of you?')
  }
  return (
    <div className="grid gap-2 text-[0.93rem]" aria-live="polite">
      <p>
        On the air under its topic{row.heardAt !== null && `, ${since(now - row.heardAt)} ago`}
        {ip && (
          <>
            , from <span className="pin">{String(ip.value)}</span>
          </>
        )}
        .
      </p>
      {first && !asked && (
        <button
          type="button"
          className={`${buttonClass()} justify-self-start`}
          onClick={() => (why ? setAsked(true) : void go())}
        >
          Make it click, there and back
        </button>
      )}
      {asked && why && (
        <SureFirst why={why} go={() => void go()} leave={() => setAsked(false)}>
          Somebody looks: let it click
        </SureFirst>
      )}
      {said && <p>{said}</p>}
    </div>
  )
}
