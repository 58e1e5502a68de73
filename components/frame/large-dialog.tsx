'use client'
import { Dialog } from 'radix-ui'
import type { KeyboardEvent, ReactNode } from 'react'
import { Key } from '@/components/paint/paint'

/** The whole screen, legible at arm's length, worked by a pedal: what is said in the middle, two large targets at its foot. */
export function LargeDialog({
  title,
  aside,
  open,
  onOpenChange,
  onKeyDown,
  foot,
  children,
}: {
  title: string
  /** Beside the title: how far one is. */
  aside?: ReactNode
  open: boolean
  onOpenChange: (open: boolean) => void
  onKeyDown: (e: KeyboardEvent) => void
  foot: ReactNode
  children: ReactNode
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          // No button has the focus at first: a pedal whose space is held or heard twice must never press Close.
          onOpenAutoFocus={(e) => {
            e.preventDefault()
            const view = e.currentTarget as HTMLElement
            ;(view.querySelector<HTMLElement>('input') ?? view).focus()
          }}
          className="fixed inset-0 z-50 grid outline-none grid-rows-[auto_1fr_auto] bg-sheet"
          onKeyDown={onKeyDown}
        >
          <div className="flex items-center gap-4 bg-bar px-5 py-3 text-[#eaf2ee]">
            <Dialog.Title className="flex-1 text-[1.3rem]">{title}</Dialog.Title>
            {aside}
            <Dialog.Close className="min-h-[2.6rem] rounded-[9px] border border-white/40 px-4">
              Close<Key>Esc</Key>
            </Dialog.Close>
          </div>
          <div className="grid content-center gap-6 overflow-y-auto px-[6vw] py-6" aria-live="assertive">
            {children}
          </div>
          <div className="grid grid-cols-2 gap-3 border-t border-rule bg-sheet-2 p-4">{foot}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
