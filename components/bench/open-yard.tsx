'use client'
import { useCallback, useEffect, useRef, useState } from 'react'
import { buttonClass } from '@/components/paint/paint'

interface Yard {
  state: 'none' | 'making' | 'ready' | 'failed'
  url: string
}

const askMs = 1000

/** Lantern Yard, one press away: a made-up theatre with units at every step, in a database of its own. */
export function OpenYard() {
  const [yard, setYard] = useState<Yard>({ state: 'none', url: '' })
  const pressed = useRef(false)
  const ask = useCallback(async (method: 'GET' | 'POST') => {
    try {
      const response = await fetch('/api/lantern-yard', { method })
      setYard((await response.json()) as Yard)
    } catch {
      setYard({ state: 'failed', url: '' })
    }
  }, [])
  useEffect(() => {
    if (yard.state !== 'making') return
    const timer = setTimeout(() => void ask('GET'), askMs)
    return () => clearTimeout(timer)
  }, [yard, ask])
  useEffect(() => {
    // One press is enough: whoever is still here goes there.
    if (yard.state === 'ready' && pressed.current) window.location.assign(yard.url)
  }, [yard])
  if (yard.state === 'ready')
    return (
      <a href={yard.url} className={buttonClass('plain')}>
        Lantern Yard is ready: go there
      </a>
    )
  return (
    <span className="grid gap-1">
      <button
        type="button"
        className={buttonClass('plain')}
        disabled={yard.state === 'making'}
        onClick={() => {
          pressed.current = true
          void ask('POST')
        }}
      >
        {yard.state === 'making' ? 'Making it, about half a minute…' : 'Look around Lantern Yard'}
      </button>
      {yard.state === 'failed' && (
        <span role="status" className="text-[0.93rem] text-oxide">
          It did not start. Nothing of yours was touched; `bin/start --demo` starts it by hand.
        </span>
      )}
    </span>
  )
}
