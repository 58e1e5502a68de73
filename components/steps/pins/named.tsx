'use client'
import { asAssumed, type NamedPin, offeredPins } from '@fresh-coat/core/pins/from-dump'
import { useQuery } from '@tanstack/react-query'
import { buttonClass, Tag } from '@/components/paint/paint'
import { ask } from '@/components/send'
import type { Editing } from './editing'
import { fnWords } from './words'

interface Named {
  name: string
  pins: NamedPin[]
}

const place = (p: NamedPin) => `0x${p.offset.toString(16).toUpperCase()}`
const meaning = (p: NamedPin) => `${fnWords[p.fn]}${p.ch === null ? '' : ` ${p.ch}`}`

function List({ pins, note }: { pins: readonly NamedPin[]; note: (p: NamedPin) => string }) {
  return (
    <ul>
      {pins.map((p) => (
        <li
          key={`${p.pin} ${p.offset}`}
          className="grid grid-cols-[4.6rem_minmax(0,1fr)_auto] gap-x-3 border-b border-rule-2 py-1.5"
        >
          <span className="pin">{p.pin}</span>
          <span className="min-w-0">
            {meaning(p)} <span className="pin block break-all text-ink-2">{p.text}</span>
          </span>
          <span className="text-[0.93rem] text-ink-2">{note(p)}</span>
        </li>
      ))}
    </ul>
  )
}

/** Pins that the stock firmware names: offered as assumed, with the place they came from, and proven by nobody. */
export function NamedPins({
  number,
  usable,
  edit,
}: {
  number: number
  usable: ReadonlySet<string>
  edit: Pick<Editing, 'pins' | 'take'>
}) {
  const { data, error, isPending } = useQuery({
    queryKey: ['named-pins', number],
    queryFn: () => ask<Named>(`/api/units/${number}/named-pins`),
    staleTime: 600_000,
    retry: 1,
  })
  if (isPending) return <p className="text-ink-2">Looking through its text…</p>
  if (error) return <p className="text-oxide">{error.message}</p>
  const { pins, contradicted, impossible } = offeredPins(data.pins, usable)
  const known = new Set(edit.pins.map((p) => p.pin))
  const fresh = pins.filter((p) => !known.has(p.pin))
  if (data.pins.length === 0) return <p>The text in {data.name} names no pin with a function.</p>
  return (
    <>
      <p className="text-ink-2">
        Text in {data.name} names these. A name in a file is no wire on a board: they are taken as assumed, and each is
        seen doing its work before it counts. Nothing leaves this computer.
      </p>
      <List pins={pins} note={(p) => (known.has(p.pin) ? 'in the list already' : `at ${place(p)}`)} />
      <button
        type="button"
        className={`${buttonClass('main')} justify-self-start`}
        disabled={fresh.length === 0}
        onClick={() => edit.take(asAssumed(fresh))}
      >
        {fresh.length === 0
          ? 'Nothing new to take'
          : `Take ${fresh.length === 1 ? 'it' : `these ${fresh.length}`} as assumed`}
      </button>
      {contradicted.length > 0 && (
        <section className="grid gap-1">
          <p className="flex gap-2.5">
            <Tag severity="watch" /> Named two ways; nobody can tell which holds, so none is offered.
          </p>
          <List pins={contradicted} note={(p) => `at ${place(p)}`} />
        </section>
      )}
      {impossible.length > 0 && (
        <p className="text-ink-2">
          Not a usable pin of this family: {[...new Set(impossible.map((p) => p.pin))].join(', ')}.
        </p>
      )}
    </>
  )
}
