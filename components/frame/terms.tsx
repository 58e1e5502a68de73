'use client'
import { piecesOf } from '@fresh-coat/core/glossary'
import { Popover } from 'radix-ui'
import type { ReactNode } from 'react'

/** A text whose words of the trade explain themselves, in one sentence, where they stand. */
export function Explained({ children }: { children: ReactNode }) {
  if (typeof children !== 'string') return children
  return piecesOf(children).map((piece, i) =>
    piece.entry ? (
      <Popover.Root key={i}>
        <Popover.Trigger
          aria-label={`${piece.text}: what is that?`}
          className="cursor-help underline decoration-ink-3 decoration-dotted underline-offset-4"
        >
          {piece.text}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            side="top"
            sideOffset={6}
            collisionPadding={12}
            className="sheet z-[60] max-w-[20rem] border-ink-3 px-3.5 py-2.5"
          >
            <strong>{piece.entry.term}</strong>: {piece.entry.says}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    ) : (
      piece.text
    ),
  )
}
