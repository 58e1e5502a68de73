'use client'
import { piecesOf } from '@fresh-coat/core/glossary'
import type { ReactNode } from 'react'
import { Popup } from './popup'

/** A text whose words of the trade explain themselves, in one sentence, where they stand. */
export function Explained({ children }: { children: ReactNode }) {
  if (typeof children !== 'string') return children
  return piecesOf(children).map((piece, i) =>
    piece.entry ? (
      <Popup
        key={i}
        label={`${piece.text}: what is that?`}
        trigger={piece.text}
        className="cursor-help underline decoration-ink-3 decoration-dotted underline-offset-4"
        sheet="sheet z-[60] max-w-[20rem] border-ink-3 px-3.5 py-2.5"
        place={{ side: 'top', sideOffset: 6 }}
      >
        <strong>{piece.entry.term}</strong>: {piece.entry.says}
      </Popup>
    ) : (
      piece.text
    ),
  )
}
