'use client'
import { useRouter } from 'next/navigation'
import { startTransition, useCallback, useEffect, useState } from 'react'
import { buttonClass } from '@/components/paint/paint'

type State = 'asking' | 'server-away' | 'database-away' | 'fault'

/** Who does not answer, asked of the server itself: a page must not blame the database for a fault of the program. */
async function askHealth(): Promise<State> {
  try {
    const answer = await fetch('/api/health', { cache: 'no-store' })
    return answer.ok ? 'fault' : 'database-away'
  } catch {
    return 'server-away'
  }
}

const words: Record<State, { title: string; text: string; next: string }> = {
  asking: { title: 'This page could not be read', text: 'Asking the server why.', next: '' },
  'server-away': {
    title: 'The server does not answer',
    text: 'Nothing was changed, and what you typed is kept in this browser.',
    next: 'See whether bin/start is still running. The page comes back by itself when it does.',
  },
  'database-away': {
    title: 'The database does not answer',
    text: 'Nothing was changed, and what you typed is kept in this browser.',
    next: 'The page comes back by itself when it does.',
  },
  fault: {
    title: 'This page could not be made',
    text: 'Server and database answer, so it is a fault of the program. What was saved is safe.',
    next: 'The log of bin/start tells more. Try again, or go to another page.',
  },
}

const againMs = 2500

export default function PageError({ error, reset }: { error: Error & { digest?: string }; reset: () => void }) {
  const router = useRouter()
  const [state, setState] = useState<State>('asking')
  const again = useCallback(
    () =>
      startTransition(() => {
        router.refresh()
        reset()
      }),
    [router, reset],
  )
  useEffect(() => {
    let wanted = true
    let before: State = 'asking'
    const look = async () => {
      const now = await askHealth()
      if (!wanted) return
      // It was away and is back.
      if (now === 'fault' && before !== 'asking' && before !== 'fault') again()
      before = now
      setState(now)
    }
    void look()
    const timer = setInterval(() => void look(), againMs)
    return () => {
      wanted = false
      clearInterval(timer)
    }
  }, [again])
  const { title, text, next } = words[state]
  return (
    <main className="mx-auto max-w-xl p-6">
      <div role="alert" className="sheet grid justify-items-start gap-3 p-6">
        <h1 className="text-[1.4rem]">{title}</h1>
        <p>{text}</p>
        {next && <p>{next}</p>}
        {state === 'fault' && error.digest && <p className="pin text-ink-2">fault {error.digest}</p>}
        <button type="button" className={buttonClass('main')} onClick={again}>
          Try again
        </button>
      </div>
    </main>
  )
}
