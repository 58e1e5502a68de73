'use client'
import { useRouter } from 'next/navigation'
import { useCallback, useState } from 'react'
import { send } from '@/components/send'

/** What is kept of a run of practice. */
interface Score {
  [key: string]: unknown
  kind: string
  family: string
  score: number
  data: Record<string, unknown>
}

/** Keeps the score of a run. One that could not be kept waits, and is said: see NotKept. */
export function useKeepScore() {
  const router = useRouter()
  const [waiting, setWaiting] = useState<{ score: Score; why: string } | null>(null)
  const keep = useCallback(
    async (score: Score) => {
      const sent = await send('keep-practice', score)
      setWaiting(
        sent.state === 'ok'
          ? null
          : { score, why: sent.state === 'refused' ? sent.error.message : 'The server does not answer.' },
      )
      if (sent.state === 'ok') router.refresh()
    },
    [router],
  )
  const forget = useCallback(() => setWaiting(null), [])
  return { waiting, keep, forget }
}

/** The score that could not be kept, and the way to try it again. */
export function NotKept({ waiting, keep }: Pick<ReturnType<typeof useKeepScore>, 'waiting' | 'keep'>) {
  return (
    waiting && (
      <p role="alert" className="text-oxide">
        The score could not be kept. {waiting.why}{' '}
        <button type="button" className="underline underline-offset-4" onClick={() => void keep(waiting.score)}>
          Keep it now
        </button>
      </p>
    )
  )
}
