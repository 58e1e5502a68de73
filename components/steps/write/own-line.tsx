import { fillLines } from '@fresh-coat/core/flash/own-line'
import { useState } from 'react'
import { copyByHand, useCopy } from '@/components/forms/copy'
import { SelectField, TextField } from '@/components/forms/fields'
import Link from '@/components/link'
import { buttonClass } from '@/components/paint/paint'

const portKey = 'fresh-coat:port'
const storedPort = (): string => {
  try {
    return localStorage.getItem(portKey) ?? ''
  } catch {
    return ''
  }
}

export interface LineValues {
  file: string
  offset: string
  baud: string
  bytes: string
  sha256: string
}

/** A person's own line for their tool, filled in with what is to be written, to be copied. */
export function OwnLine({
  lines,
  values,
}: {
  lines: readonly { id: string; name: string; text: string }[]
  /** What is written; of a set that is written by parts, each file. */
  values: readonly LineValues[]
}) {
  const [id, setId] = useState(lines[0]?.id ?? null)
  const [port, setPort] = useState(storedPort)
  const { copy, said } = useCopy()
  const line = lines.find((l) => l.id === id) ?? null
  if (lines.length === 0)
    return (
      <p>
        None is kept yet.{' '}
        <Link href="/kit#lines" className="underline underline-offset-4">
          Keep a line of your own under Kit
        </Link>
        : it is filled in here with port, file and offset. None ships with the app.
      </p>
    )
  const filled =
    line &&
    fillLines(
      line.text,
      values.map((v) => ({ ...v, port: port.trim() })),
    )
  const keepPort = (text: string) => {
    setPort(text)
    try {
      localStorage.setItem(portKey, text)
    } catch {
      // It is then asked again at the next visit.
    }
  }
  return (
    <>
      <SelectField
        label="Line"
        value={id}
        options={lines.map((l) => ({ value: l.id, label: l.name }))}
        onChange={(next) => setId(next)}
      />
      <TextField label="Port, as this computer calls it" mono value={port} maxLength={120} onChange={keepPort} />
      {filled && (
        <>
          <pre className="pin rounded-[8px] bg-bar p-3 break-all whitespace-pre-wrap text-[#eaf2ee] select-all">
            {filled.text}
          </pre>
          {filled.missing.length > 0 && <p className="text-ochre">Not known yet: {filled.missing.join(', ')}.</p>}
          {filled.unknown.length > 0 && (
            <p className="text-ochre">Nothing here is called {filled.unknown.map((w) => `{${w}}`).join(', ')}.</p>
          )}
          <button
            type="button"
            className={`${buttonClass('main')} justify-self-start`}
            onClick={() => copy(filled.text)}
          >
            {said(filled.text) === 'copied' ? 'Copied' : 'Copy it'}
          </button>
          {said(filled.text) === 'refused' && <p role="alert">{copyByHand}</p>}
        </>
      )}
    </>
  )
}
