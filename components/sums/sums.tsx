'use client'
import { type ReadSum, readSum, type SumKind, sumKinds, workSum, writeSum } from '@fresh-coat/core/calculators/sums'
import { useEffect, useState } from 'react'
import { useCopy } from '@/components/forms/copy'
import { NumberField } from '@/components/forms/fields'
import { buttonClass, Tag } from '@/components/paint/paint'

/** A line is typed, its result stands above what it is made of; every number can be changed, and the line follows. */

function Result({ read }: { read: ReadSum }) {
  const result = workSum(read)
  if (typeof result === 'string')
    return (
      <p className="font-title text-[1.5rem] font-semibold" role="status">
        {result}
      </p>
    )
  return (
    <div className="grid gap-3" role="status">
      <p className="font-title text-[clamp(1.8rem,4.5vw,2.9rem)] leading-[1.1] font-bold">{result.answer}</p>
      {result.findings.map((f) => (
        <p key={f.code} className="flex gap-2.5">
          <Tag severity={f.severity} />
          <span>
            {f.message} {f.next}
          </span>
        </p>
      ))}
      <dl className="grid max-w-[34rem]">
        {result.rows.map(([name, value]) => (
          <div key={name} className="grid grid-cols-[minmax(0,1fr)_auto] gap-4 border-b border-rule-2 py-1.5">
            <dt className="text-ink-2">{name}</dt>
            <dd className="pin">{value}</dd>
          </div>
        ))}
      </dl>
    </div>
  )
}

/** What it is made of; what nobody said is the usual, and can be changed. */
function Made({ read, put }: { read: ReadSum; put: (text: string) => void }) {
  const { kind, values } = read
  return (
    <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
      {kind.fields.map((f) => (
        <NumberField
          key={`${kind.id} ${f.id}`}
          label={f.label}
          unit={f.unit}
          value={values[f.id] ?? null}
          hint={f.usual !== undefined && values[f.id] === f.usual ? 'the usual' : ''}
          // Of what has a usual value an emptied field is only being typed anew.
          onChange={(value) =>
            (value !== null || f.usual === undefined) && put(writeSum({ kind, values: { ...values, [f.id]: value } }))
          }
        />
      ))}
    </div>
  )
}

function Kinds({ now, choose }: { now: SumKind | null; choose: (text: string) => void }) {
  return (
    <ul className="grid gap-2 sm:grid-cols-2 lg:grid-cols-4" aria-label="What can be worked out">
      {sumKinds.map((k) => (
        <li key={k.id}>
          <button
            type="button"
            aria-pressed={now?.id === k.id}
            className={`grid w-full gap-0.5 rounded-[10px] border px-3 py-2 text-left ${now?.id === k.id ? 'border-ink bg-ok-soft' : 'border-rule bg-sheet hover:bg-ok-soft'}`}
            onClick={() => choose(k.example)}
          >
            <span className="font-semibold">{k.name}</span>
            <span className="pin text-[0.93rem] text-ink-2">{k.example}</span>
          </button>
        </li>
      ))}
    </ul>
  )
}

export function Sums({ begun }: { begun: string }) {
  const [text, setText] = useState(begun)
  const { copy, said } = useCopy()
  const read = readSum(text)
  const address = text.trim() === '' ? '/sums' : `/sums?q=${encodeURIComponent(text.trim())}`
  useEffect(() => {
    window.history.replaceState(null, '', address)
  }, [address])
  return (
    <main className="grid content-start gap-5 px-4 py-4 sm:px-5">
      <h1 className="text-[1.5rem]">Sums</h1>
      <section className="sheet grid gap-4 p-5">
        {read ? (
          <Result read={read} />
        ) : (
          <p className="font-title text-[1.5rem] font-semibold text-ink-2" role="status">
            {text.trim() === '' ? 'Type a sum, or take one below' : 'No word of this names a sum'}
          </p>
        )}
        <label className="grid gap-1">
          <span className="text-[0.9rem] font-semibold text-ink-2">The sum</span>
          <input
            className="field pin text-[1.15rem]"
            value={text}
            maxLength={200}
            autoComplete="off"
            placeholder={sumKinds[0]?.example}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        {read && <Made read={read} put={setText} />}
        {read && (
          <button
            type="button"
            className={`${buttonClass('quiet')} justify-self-start`}
            onClick={() => copy(`${window.location.origin}${address}`, address)}
          >
            {said(address) === 'copied' ? 'Its link is copied' : 'Copy its link, to keep with a unit'}
          </button>
        )}
        {said(address) === 'refused' && (
          <p role="alert">This browser lets no page copy: its link is what stands in the line of addresses above.</p>
        )}
      </section>
      <Kinds now={read?.kind ?? null} choose={setText} />
    </main>
  )
}
