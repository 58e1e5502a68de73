'use client'
import { buttonClass } from '@/components/paint/paint'
import { copyByHand, useCopy } from './copy'

const mostLines = 300

/** Text to paste elsewhere, with a press that copies all of it. Of a very long one only its beginning stands there. */
export function CopyText({ text, none = '' }: { text: string; none?: string }) {
  const { copy, said } = useCopy()
  const lines = text.split('\n')
  const more = lines.length - mostLines
  return (
    <>
      <pre className="pin overflow-x-auto rounded-[10px] bg-bar px-4 py-3 whitespace-pre-wrap text-[#d5e2dd] select-all">
        {(more > 0 ? lines.slice(0, mostLines).join('\n') : text) || none}
      </pre>
      {more > 0 && <p className="text-ink-2">and {more} more lines: the press below copies all of them.</p>}
      <button
        type="button"
        className={`${buttonClass()} justify-self-start`}
        disabled={text === ''}
        onClick={() => copy(text)}
      >
        {text !== '' && said(text) === 'copied' ? 'Copied' : 'Copy all of it'}
      </button>
      {said(text) === 'refused' && <p role="alert">{copyByHand}</p>}
    </>
  )
}
