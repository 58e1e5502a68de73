'use client'
import { useState } from 'react'
import { buttonClass } from '@/components/paint/paint'

/** Text to paste elsewhere, with a press that copies all of it. */
export function CopyText({ text, none = '' }: { text: string; none?: string }) {
  const [copied, setCopied] = useState('')
  const copy = () =>
    void navigator.clipboard
      ?.writeText(text)
      .then(() => setCopied(text))
      .catch(() => setCopied(''))
  return (
    <>
      <pre className="pin overflow-x-auto rounded-[10px] bg-bar px-4 py-3 whitespace-pre-wrap text-[#d5e2dd] select-all">
        {text || none}
      </pre>
      <button type="button" className={`${buttonClass()} justify-self-start`} disabled={text === ''} onClick={copy}>
        {copied === text && text !== '' ? 'Copied' : 'Copy all of it'}
      </button>
    </>
  )
}
