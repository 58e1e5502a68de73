'use client'
import { hexNumber } from '@fresh-coat/core/bytes/text'
import type { FoundString, StringsPage } from '@fresh-coat/core/dump/strings'
import { useState } from 'react'
import { TextField } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { buttonClass } from '@/components/paint/paint'

/** Text in a kept file; what looks like a key is covered. */
export function StringsList({ fileId }: { fileId: string }) {
  const [query, setQuery] = useState('')
  const [list, setList] = useState<FoundString[]>([])
  const [next, setNext] = useState<number | null>(0)
  const [said, setSaid] = useState('')
  const ask = async (from: number, so: FoundString[]) => {
    try {
      const answer = await fetch(`/api/files/${fileId}/strings?from=${from}&q=${encodeURIComponent(query)}`)
      const result = (await answer.json()) as
        | { ok: true; value: StringsPage }
        | { ok: false; error: { message: string } }
      if (!result.ok) return setSaid(result.error.message)
      const all = [...so, ...result.value.strings]
      setList(all)
      setNext(result.value.next)
      setSaid(
        all.length === 0
          ? 'No such text of eight characters or more.'
          : `${all.length} shown${result.value.next === null ? '' : ', there are more'}.`,
      )
    } catch {
      setSaid('The server does not answer. Ask again when it is back.')
    }
  }
  return (
    <Fold summary="Text in it">
      <form
        className="flex flex-wrap items-center gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          void ask(0, [])
        }}
      >
        <TextField
          label="That holds"
          hint="• finds what is covered."
          value={query}
          maxLength={200}
          onChange={setQuery}
          className="w-[16rem]"
        />
        <button type="submit" className={buttonClass()}>
          List it
        </button>
        <p className="text-ink-2" aria-live="polite">
          {said}
        </p>
      </form>
      {list.length > 0 && (
        <ul className="grid max-h-[50vh] gap-0.5 overflow-y-auto">
          {list.map((s) => (
            <li key={s.offset} className="grid grid-cols-[6rem_1fr] gap-2">
              <span className="pin text-ink-3">{hexNumber(s.offset)}</span>
              <span className={`pin break-all ${s.covered ? 'text-ochre' : ''}`}>{s.text}</span>
            </li>
          ))}
        </ul>
      )}
      {list.length > 0 && next !== null && (
        <button
          type="button"
          className={`${buttonClass('quiet')} justify-self-start`}
          onClick={() => void ask(next, list)}
        >
          More
        </button>
      )}
    </Fold>
  )
}
