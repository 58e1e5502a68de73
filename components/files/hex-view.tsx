'use client'
import { bytesOfHex, hexNumber } from '@fresh-coat/core/bytes/text'
import { useEffect, useState } from 'react'
import { TextField } from '@/components/forms/fields'
import { buttonClass } from '@/components/paint/paint'
import { send } from '@/components/send'

interface Piece {
  total: number
  offset: number
  hex: string
  covered: { offset: number; length: number }[]
}

const rowBytes = 16
const shownBytes = 256

const readOffset = (text: string): number | null => {
  const t = text.trim()
  return /^(0x[0-9a-f]{1,8}|\d{1,10})$/i.test(t) ? Number(t) : null
}

/** A window on the bytes of a kept file. What looks like a key is covered until it is shown on purpose. */
export function HexView({
  fileId,
  offset,
  onOffset,
  marks = [],
  name = '',
}: {
  fileId: string
  /** What it is called where several stand beside each other. */
  name?: string
  offset: number
  onOffset: (offset: number) => void
  /** Bytes to point out, from the start of the file. */
  marks?: readonly number[]
}) {
  const [piece, setPiece] = useState<Piece | null>(null)
  const [fault, setFault] = useState('')
  const [shown, setShown] = useState<{ offset: number; hex: string } | null>(null)
  const [where, setWhere] = useState('')
  const [query, setQuery] = useState('')
  const [hits, setHits] = useState<{ offsets: number[]; more: boolean } | null>(null)

  useEffect(() => {
    let wanted = true
    setShown(null)
    const ask = async () => {
      try {
        const answer = await fetch(`/api/files/${fileId}/bytes?from=${offset}&length=${shownBytes}`)
        const result = await answer.json()
        if (!wanted) return
        setFault(result.ok ? '' : result.error.message)
        if (result.ok) setPiece(result.value)
      } catch {
        if (wanted) setFault('The server does not answer. Choose the place again when it is back.')
      }
    }
    void ask()
    return () => {
      wanted = false
    }
  }, [fileId, offset])

  const search = async () => {
    setHits(null)
    const result = await send('search-bytes', { fileId, query })
    if (result.state === 'away') return setFault('The server does not answer. Search again when it is back.')
    if (result.state === 'refused') return setFault(`${result.error.message} ${result.error.next}`)
    const found = result.value as unknown as { offsets: number[]; more: boolean }
    setFault('')
    setHits(found)
    if (found.offsets[0] !== undefined) onOffset(Math.floor(found.offsets[0] / rowBytes) * rowBytes)
  }
  const reveal = async () => {
    const result = await send('reveal-bytes', { fileId, offset, length: shownBytes })
    if (result.state === 'ok') setShown({ offset, hex: result.value.hex as string })
    else setFault('They could not be shown: the server does not answer.')
  }

  const hex = shown?.offset === offset ? shown.hex : (piece?.hex ?? '')
  const bytes = bytesOfHex(hex) ?? new Uint8Array()
  const isCovered = (at: number) =>
    shown === null && (piece?.covered ?? []).some((c) => at >= c.offset && at < c.offset + c.length)
  const rows = Array.from({ length: Math.ceil(bytes.length / rowBytes) }, (_, r) => r * rowBytes)
  const total = piece?.total ?? 0
  const go = (to: number) => onOffset(Math.max(0, Math.min(to, Math.max(0, total - 1))))
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <form
          className="flex items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            const to = readOffset(where)
            if (to !== null) go(Math.floor(to / rowBytes) * rowBytes)
          }}
        >
          <TextField
            label="Go to"
            mono
            value={where}
            maxLength={12}
            placeholder="0x8000"
            onChange={setWhere}
            className="w-[8rem]"
          />
          <button type="submit" className={buttonClass()} disabled={readOffset(where) === null}>
            Go
          </button>
        </form>
        <form
          className="flex items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            void search()
          }}
        >
          <TextField
            label="Find text, or 0x bytes"
            mono
            value={query}
            maxLength={256}
            onChange={setQuery}
            className="w-[14rem]"
          />
          <button type="submit" className={buttonClass()} disabled={query === ''}>
            Find
          </button>
        </form>
        <button type="button" className={buttonClass()} disabled={offset === 0} onClick={() => go(offset - shownBytes)}>
          Back
        </button>
        <button
          type="button"
          className={buttonClass()}
          disabled={offset + shownBytes >= total}
          onClick={() => go(offset + shownBytes)}
        >
          Next
        </button>
      </div>
      {fault && (
        <p role="alert" className="font-semibold text-oxide">
          {fault}
        </p>
      )}
      {hits && (
        <p aria-live="polite" className="flex flex-wrap items-center gap-2">
          <span>
            {hits.offsets.length === 0
              ? 'Not in this file.'
              : `${hits.more ? 'More than ' : ''}${hits.offsets.length} found:`}
          </span>
          {hits.offsets.slice(0, 12).map((at) => (
            <button
              key={at}
              type="button"
              className="pin underline"
              onClick={() => go(Math.floor(at / rowBytes) * rowBytes)}
            >
              {hexNumber(at)}
            </button>
          ))}
        </p>
      )}
      <section
        className="overflow-x-auto rounded-[9px] border border-rule bg-sheet-2 p-3"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region must be reachable by keyboard
        tabIndex={0}
        aria-label={`Bytes${name ? ` of ${name}` : ''} from ${hexNumber(offset)}`}
      >
        <table className="pin whitespace-pre">
          <caption className="sr-only">Bytes from {hexNumber(offset)}</caption>
          <tbody>
            {rows.map((r) => (
              <tr key={r}>
                <th scope="row" className="pr-4 text-left font-normal text-ink-3">
                  {(offset + r).toString(16).toUpperCase().padStart(6, '0')}
                </th>
                <td>
                  {[...bytes.subarray(r, r + rowBytes)].map((b, i) => {
                    const at = offset + r + i
                    const marked = marks.includes(at)
                    return (
                      <span
                        key={at}
                        className={`${i === 8 ? 'ml-2' : ''} ${marked ? 'bg-oxide-soft font-bold text-oxide' : ''} ${isCovered(at) ? 'bg-ochre-soft text-ochre' : ''}`}
                      >
                        {isCovered(at) ? '••' : b.toString(16).toUpperCase().padStart(2, '0')}{' '}
                      </span>
                    )
                  })}
                </td>
                <td className="pl-3">
                  {[...bytes.subarray(r, r + rowBytes)]
                    .map((b, i) =>
                      isCovered(offset + r + i) ? '•' : b >= 0x20 && b <= 0x7e ? String.fromCharCode(b) : '·',
                    )
                    .join('')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {piece && piece.covered.length > 0 && (
        <p className="flex flex-wrap items-center gap-3">
          <span className="text-ochre">
            {piece.covered.length} {piece.covered.length === 1 ? 'string' : 'strings'} here look like a password or key
            {shown ? '.' : ': covered.'}
          </span>
          {!shown && (
            <button type="button" className={buttonClass('quiet')} onClick={() => void reveal()}>
              Show them on purpose; it is noted
            </button>
          )}
        </p>
      )}
    </div>
  )
}
