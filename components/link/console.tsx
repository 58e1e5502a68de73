'use client'
import { type HeardLine, hexRows } from '@fresh-coat/core/link/heard'
import { useEffect, useRef, useState } from 'react'

/** What came over the line: as lines, with the time of each, or as bytes. */

const looks = { text: 'Lines', times: 'With times', hex: 'Bytes' } as const
type Look = keyof typeof looks

const secondsOf = (ms: number): string => (ms / 1000).toFixed(2).padStart(7, ' ')
const shownLines = 400

function Lines({ lines, times }: { lines: readonly HeardLine[]; times: boolean }) {
  return lines.slice(-shownLines).map((l, i) => (
    <span key={i} className={l.from === 'us' ? 'block text-[#e7c66b]' : 'block'}>
      {times && <span className="text-[#8fa8a0]">{secondsOf(l.atMs)} </span>}
      {l.from === 'us' ? '› ' : ''}
      {l.text || ' '}
    </span>
  ))
}

function Bytes({ tail, before }: { tail: Uint8Array; before: number }) {
  return hexRows(tail, before).map((row) => (
    <span key={row.at} className="block whitespace-pre">
      <span className="text-[#8fa8a0]">{row.at.toString(16).padStart(6, '0')} </span>
      {row.hex.padEnd(48)}
      {row.text}
    </span>
  ))
}

export interface LiveText {
  lines: readonly HeardLine[]
  tail: Uint8Array
  before: number
}

/** @param kept the text in the record, while nothing is listened to */
export function Console({ kept, live }: { kept: string; live: LiveText | null }) {
  const [look, setLook] = useState<Look>('text')
  const box = useRef<HTMLPreElement>(null)
  const last = live?.lines.length ?? 0
  // biome-ignore lint/correctness/useExhaustiveDependencies: what came last stays in sight
  useEffect(() => {
    if (box.current) box.current.scrollTop = box.current.scrollHeight
  }, [last, look])
  const keptLines = kept
    .split(/\r?\n/)
    .filter((l) => l.trim() !== '')
    .slice(-9)
  const empty = live ? 'Nothing has come yet.' : 'No boot text yet: paste what the console printed through the reset.'
  const none = live ? live.lines.length === 0 : keptLines.length === 0
  return (
    <div className="grid gap-2">
      {live && (
        <fieldset className="flex flex-wrap gap-1.5">
          <legend className="sr-only">How it is shown</legend>
          {(Object.keys(looks) as Look[]).map((l) => (
            <button
              key={l}
              type="button"
              aria-pressed={l === look}
              className={`min-h-8 rounded-[6px] px-2.5 text-[0.87rem] ${l === look ? 'bg-ink text-sheet' : 'text-ink-2 underline underline-offset-4'}`}
              onClick={() => setLook(l)}
            >
              {looks[l]}
            </button>
          ))}
        </fieldset>
      )}
      <pre
        ref={box}
        role="log"
        aria-live="off"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so that the keys must reach it
        tabIndex={0}
        aria-label="What it says"
        className="pin max-h-[15.5rem] min-h-[7rem] overflow-auto rounded-[10px] bg-bar px-4 py-3 leading-[1.5] whitespace-pre-wrap text-[#d5e2dd]"
      >
        {none && empty}
        {!none && !live && keptLines.join('\n')}
        {!none && live && look !== 'hex' && <Lines lines={live.lines} times={look === 'times'} />}
        {!none && live && look === 'hex' && <Bytes tail={live.tail} before={live.before} />}
      </pre>
    </div>
  )
}
