'use client'
import { useState } from 'react'
import { buttonClass } from '@/components/paint/paint'
import { copyByHand, useCopy } from './copy'

const mostLines = 300

/** Of a text that is not all here: how many lines it has, and the whole of it. */
interface Whole {
  lines: number
  ask: () => Promise<string>
}

/** Text to paste elsewhere, with a press that copies all of it. Of a very long one only its beginning stands there. */
export function CopyText({ text, none = '', whole }: { text: string; none?: string; whole?: Whole }) {
  const { copy, said } = useCopy()
  const [away, setAway] = useState('')
  const lines = text.replace(/\n$/, '').split('\n')
  const here = Math.min(lines.length, mostLines)
  const more = whole ? Math.max(0, whole.lines - here) : lines.length - mostLines
  const press = () => {
    setAway('')
    if (!whole || more === 0) return copy(text)
    whole.ask().then(
      (all) => copy(all, text),
      (cause: Error) => setAway(`${cause.message} Nothing was copied.`),
    )
  }
  return (
    <>
      <pre className="pin overflow-x-auto rounded-[10px] bg-bar px-4 py-3 whitespace-pre-wrap text-[#d5e2dd] select-all">
        {(lines.length > mostLines ? lines.slice(0, mostLines).join('\n') : text) || none}
      </pre>
      {more > 0 && (
        <p className="text-ink-2">
          and {more} more {more === 1 ? 'line' : 'lines'}: the press below copies all of it.
        </p>
      )}
      <button type="button" className={`${buttonClass()} justify-self-start`} disabled={text === ''} onClick={press}>
        {text !== '' && said(text) === 'copied' ? 'Copied' : 'Copy all of it'}
      </button>
      {said(text) === 'refused' && <p role="alert">{copyByHand}</p>}
      {away && (
        <p role="alert" className="text-oxide">
          {away}
        </p>
      )}
    </>
  )
}
