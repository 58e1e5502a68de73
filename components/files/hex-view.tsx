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

const noAnswer = 'The server does not answer.'
/** The row that a byte stands in. */
const rowOf = (at: number): number => Math.floor(at / rowBytes) * rowBytes

interface Bytes {
  piece: Piece | null
  /** The same with nothing covered, once somebody wanted to see it. */
  shown: string | null
  fault: string
  setFault: (fault: string) => void
  reveal: () => Promise<void>
}

/** What stands from an offset on, asked for when the window moves; what was shown on purpose is covered again then. */
function useBytes(fileId: string, offset: number): Bytes {
  const [piece, setPiece] = useState<Piece | null>(null)
  const [fault, setFault] = useState('')
  const [shown, setShown] = useState<{ offset: number; hex: string } | null>(null)
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
        if (wanted) setFault(`${noAnswer} Choose the place again when it is back.`)
      }
    }
    void ask()
    return () => {
      wanted = false
    }
  }, [fileId, offset])
  const reveal = async () => {
    const result = await send('reveal-bytes', { fileId, offset, length: shownBytes })
    if (result.state === 'ok') setShown({ offset, hex: result.value.hex as string })
    else setFault('They could not be shown: the server does not answer.')
  }
  return { piece, shown: shown?.offset === offset ? shown.hex : null, fault, setFault, reveal }
}

/** One field and its button. */
function Ask({
  label,
  placeholder,
  longest,
  className,
  word,
  fits,
  ask,
}: {
  label: string
  placeholder?: string
  longest: number
  className: string
  word: string
  fits: (text: string) => boolean
  ask: (text: string) => void
}) {
  const [text, setText] = useState('')
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        if (fits(text)) ask(text)
      }}
    >
      <TextField
        label={label}
        mono
        value={text}
        maxLength={longest}
        placeholder={placeholder}
        onChange={setText}
        className={className}
      />
      <button type="submit" className={buttonClass()} disabled={!fits(text)}>
        {word}
      </button>
    </form>
  )
}

interface Hits {
  offsets: number[]
  more: boolean
}

function Found({ hits, go }: { hits: Hits; go: (to: number) => void }) {
  const { offsets, more } = hits
  return (
    <p aria-live="polite" className="flex flex-wrap items-center gap-2">
      <span>{offsets.length === 0 ? 'Not in this file.' : `${more ? 'More than ' : ''}${offsets.length} found:`}</span>
      {offsets.slice(0, 12).map((at) => (
        <button key={at} type="button" className="pin underline" onClick={() => go(rowOf(at))}>
          {hexNumber(at)}
        </button>
      ))}
    </p>
  )
}

interface Row {
  at: number
  bytes: readonly number[]
  isMarked: (at: number) => boolean
  isCovered: (at: number) => boolean
}

/** Sixteen bytes in figures, and as text where they are some. */
function ByteRow({ at, bytes, isMarked, isCovered }: Row) {
  const look = (i: number) =>
    `${i === 8 ? 'ml-2' : ''} ${isMarked(at + i) ? 'bg-oxide-soft font-bold text-oxide' : ''} ${isCovered(at + i) ? 'bg-ochre-soft text-ochre' : ''}`
  const sign = (b: number, i: number) =>
    isCovered(at + i) ? '•' : b >= 0x20 && b <= 0x7e ? String.fromCharCode(b) : '·'
  return (
    <tr>
      <th scope="row" className="pr-4 text-left font-normal text-ink-3">
        {at.toString(16).toUpperCase().padStart(6, '0')}
      </th>
      <td>
        {bytes.map((b, i) => (
          <span key={at + i} className={look(i)}>
            {isCovered(at + i) ? '••' : b.toString(16).toUpperCase().padStart(2, '0')}{' '}
          </span>
        ))}
      </td>
      <td className="pl-3">{bytes.map(sign).join('')}</td>
    </tr>
  )
}

/** What looks like a key is covered until it is shown on purpose. */
function Covered({ piece, shown, reveal }: { piece: Piece; shown: boolean; reveal: () => Promise<void> }) {
  const { length } = piece.covered
  if (length === 0) return null
  return (
    <p className="flex flex-wrap items-center gap-3">
      <span className="text-ochre">
        {length} {length === 1 ? 'string' : 'strings'} here look like a password or key
        {shown ? '.' : ': covered.'}
      </span>
      {!shown && (
        <button type="button" className={buttonClass('quiet')} onClick={() => void reveal()}>
          Show them on purpose; it is noted
        </button>
      )}
    </p>
  )
}

interface Props {
  fileId: string
  /** What it is called where several stand beside each other. */
  name?: string
  offset: number
  onOffset: (offset: number) => void
  /** Bytes to point out, from the start of the file. */
  marks?: readonly number[]
}

/** A window on the bytes of a kept file. */
export function HexView({ fileId, offset, onOffset, marks = [], name = '' }: Props) {
  const { piece, shown, fault, setFault, reveal } = useBytes(fileId, offset)
  const [hits, setHits] = useState<Hits | null>(null)
  const total = piece?.total ?? 0
  const go = (to: number) => onOffset(Math.max(0, Math.min(to, Math.max(0, total - 1))))
  const search = async (query: string) => {
    setHits(null)
    const result = await send('search-bytes', { fileId, query })
    if (result.state === 'away') return setFault(`${noAnswer} Search again when it is back.`)
    if (result.state === 'refused') return setFault(`${result.error.message} ${result.error.next}`)
    const found = result.value as unknown as Hits
    setFault('')
    setHits(found)
    if (found.offsets[0] !== undefined) onOffset(rowOf(found.offsets[0]))
  }
  const bytes = [...(bytesOfHex(shown ?? piece?.hex ?? '') ?? [])]
  const rows = Array.from({ length: Math.ceil(bytes.length / rowBytes) }, (_, r) => r * rowBytes)
  const isCovered = (at: number) =>
    shown === null && (piece?.covered ?? []).some((c) => at >= c.offset && at < c.offset + c.length)
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <Ask
          {...{ label: 'Go to', placeholder: '0x8000', longest: 12, className: 'w-[8rem]', word: 'Go' }}
          fits={(text) => readOffset(text) !== null}
          ask={(text) => go(rowOf(readOffset(text) ?? 0))}
        />
        <Ask
          {...{ label: 'Find text, or 0x bytes', longest: 256, className: 'w-[14rem]', word: 'Find' }}
          fits={(text) => text !== ''}
          ask={(text) => void search(text)}
        />
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
      {hits && <Found hits={hits} go={go} />}
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
              <ByteRow
                key={r}
                at={offset + r}
                bytes={bytes.slice(r, r + rowBytes)}
                isMarked={(at) => marks.includes(at)}
                isCovered={isCovered}
              />
            ))}
          </tbody>
        </table>
      </section>
      {piece && <Covered piece={piece} shown={shown !== null} reveal={reveal} />}
    </div>
  )
}
