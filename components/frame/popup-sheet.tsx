'use client'
import { Popover } from 'radix-ui'
import type { ReactNode, RefObject } from 'react'

export interface Place {
  side?: 'top' | 'bottom'
  align?: 'start' | 'center' | 'end'
  sideOffset?: number
}

/** What a press opened, beside what was pressed: placed where there is room, closed by Escape or a press elsewhere. */
export function PopupSheet({
  anchor,
  close,
  name,
  className,
  place,
  children,
}: {
  anchor: RefObject<HTMLButtonElement | null>
  close: () => void
  /** What it is called, where its trigger does not say it. */
  name?: string | undefined
  className: string
  place: Place
  children: ReactNode
}) {
  return (
    <Popover.Root open onOpenChange={(is) => !is && close()}>
      <Popover.Anchor virtualRef={anchor as RefObject<HTMLButtonElement>} />
      <Popover.Portal>
        <Popover.Content
          {...place}
          collisionPadding={12}
          aria-label={name}
          className={className}
          // A press on what opened it closes it there, and not twice.
          onInteractOutside={(e) => {
            if (anchor.current?.contains(e.target as Node)) e.preventDefault()
          }}
          onCloseAutoFocus={(e) => {
            e.preventDefault()
            anchor.current?.focus()
          }}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
