'use client'
import { testedChannels } from '@fresh-coat/core/steps/hub/states'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { buttonClass } from '@/components/paint/paint'

/** The hub that stands in for a real one, in the demo: it shows what it hears, and switches the unit over the broker like any other. */

async function ask(body: object): Promise<{ shows: boolean | null } | string> {
  try {
    const response = await fetch('/api/practice/air', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
    const answer = (await response.json()) as {
      value?: { shows: boolean | null }
      error?: { message: string; next: string }
    }
    return answer.value ?? `${answer.error?.message} ${answer.error?.next}`
  } catch {
    return 'The server does not answer.'
  }
}

/** Are there stand-ins? Only the demo has some. */
export function useStandIns(): boolean {
  const { data } = useQuery({
    queryKey: ['stand-ins'],
    queryFn: async () => {
      const response = await fetch('/api/practice/air')
      return ((await response.json()) as { value: { there: boolean } }).value.there
    },
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  })
  return data === true
}

function Channel({ view, channel, hub }: { view: UnitView; channel: string; hub: string }) {
  const [said, setSaid] = useState('')
  const [shows, setShows] = useState<boolean | null>(null)
  const go = async (body: object) => {
    const answer = await ask({ number: view.number, channel, ...body })
    if (typeof answer === 'string') setSaid(answer)
    else {
      setSaid('')
      setShows(answer.shows)
    }
  }
  return (
    <div className="grid gap-2">
      <p>
        {hub} shows channel {channel}:{' '}
        <strong>{shows === null ? 'nothing heard of it yet' : shows ? 'on' : 'off'}</strong>
      </p>
      <span className="flex flex-wrap gap-2">
        <button type="button" className={buttonClass()} onClick={() => void go({ act: 'look' })}>
          What does it show?
        </button>
        <button type="button" className={buttonClass()} onClick={() => void go({ act: 'switch', on: true })}>
          Switch it on from {hub}
        </button>
        <button type="button" className={buttonClass()} onClick={() => void go({ act: 'switch', on: false })}>
          Switch it off from {hub}
        </button>
        <button type="button" className={buttonClass()} onClick={() => void go({ act: 'press' })}>
          Press its button
        </button>
      </span>
      {said && (
        <p role="alert" className="text-oxide">
          {said}
        </p>
      )}
    </div>
  )
}

export function StandInHub({ view, hub }: { view: UnitView; hub: string }) {
  const [said, setSaid] = useState('')
  return (
    <div className="grid gap-4">
      <p className="text-ink-2">
        A hub and a unit that stand in for real ones. They speak over the broker of the demo; what they do is heard like
        anything else, and nothing of it is a test until you say what you saw.
      </p>
      {testedChannels(view).map((c) => (
        <Channel key={c} view={view} channel={String(c ?? 1)} hub={hub} />
      ))}
      <button
        type="button"
        className={`${buttonClass('quiet')} justify-self-start`}
        onClick={() =>
          void ask({ number: view.number, act: 'appear' }).then((a) =>
            setSaid(typeof a === 'string' ? a : 'It comes on the air under its topic within seconds.'),
          )
        }
      >
        Where nobody plays this unit yet: let it come on the air
      </button>
      {said && <p aria-live="polite">{said}</p>}
    </div>
  )
}
