'use client'
import { useEffect, useState } from 'react'
import { TextField } from '@/components/forms/fields'
import { buttonClass } from '@/components/paint/paint'
import { bridgeOf, setWay, useWay, type Way, wayWords } from './way'

const same = (a: Way, b: Way): boolean => JSON.stringify(a) === JSON.stringify(b)

/** Where the adapter hangs: chosen once for this browser. */
export function WayForm() {
  const way = useWay()
  const [text, setText] = useState(way.kind === 'bridge' ? `${way.host}:${way.port}` : '')
  const [adapters, setAdapters] = useState<{ path: string; about: string }[] | null>(null)
  useEffect(() => {
    void fetch('/api/field')
      .then((r) => r.json())
      .then((r: { ok: boolean; value?: { path: string; about: string }[] }) => setAdapters(r.value ?? []))
      .catch(() => setAdapters([]))
  }, [])
  const bridge = bridgeOf(text)
  const choices: { way: Way; name: string; about: string }[] = [
    { way: { kind: 'browser' }, name: 'A port of this browser', about: 'It asks which one, each time.' },
    ...(adapters ?? []).map(({ path, about }) => ({ way: { kind: 'adapter' as const, path }, name: path, about })),
  ]
  return (
    <>
      <p>
        Now: <strong>{wayWords(way)}</strong>.
      </p>
      <ul className="grid gap-2">
        {choices.map(({ way: other, name, about }) => (
          <li key={name}>
            <button
              type="button"
              aria-pressed={same(way, other)}
              className={`${buttonClass('plain')} w-full !justify-start gap-3 ${same(way, other) ? '!bg-ok-soft' : ''}`}
              onClick={() => setWay(other)}
            >
              <span className={other.kind === 'adapter' ? 'pin' : ''}>{name}</span>
              <span className="font-normal text-ink-2">
                {other.kind === 'adapter' ? `at the machine that runs the app${about ? `: ${about}` : ''}` : about}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <form
        className="grid gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          if (bridge) setWay(bridge)
        }}
      >
        <TextField
          label="Or a serial bridge: host and port"
          mono
          value={text}
          maxLength={260}
          placeholder="10.0.0.7:3333"
          onChange={setText}
          hint="It speaks at the rate it was set to, and only this one is opened: nothing is looked for on your network."
        />
        <button
          type="submit"
          className={`${buttonClass('main')} justify-self-start`}
          disabled={bridge === null || same(way, bridge)}
        >
          Use this bridge
        </button>
      </form>
    </>
  )
}
