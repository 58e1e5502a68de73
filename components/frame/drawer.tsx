'use client'
import { Dialog, Popover } from 'radix-ui'
import type { ReactNode } from 'react'
import { Key } from '@/components/paint/paint'

/** A sheet that slides over the card from the right: things that are wanted rarely, and what is known. */
export function Drawer({
  title,
  open,
  onOpenChange,
  wide = false,
  children,
}: {
  title: string
  open: boolean
  onOpenChange: (open: boolean) => void
  wide?: boolean
  children: ReactNode
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed top-0 right-0 bottom-0 z-50 grid ${wide ? 'w-[min(56rem,96vw)]' : 'w-[min(34rem,94vw)]'} grid-rows-[auto_minmax(0,1fr)] border-l border-rule bg-sheet`}
        >
          <div className="flex items-center justify-between gap-4 border-b border-rule px-5 py-3">
            <Dialog.Title className="text-[1.3rem]">{title}</Dialog.Title>
            <Dialog.Close className="min-h-[2.4rem] rounded-[8px] border border-ink px-3 font-semibold">
              Close<Key>Esc</Key>
            </Dialog.Close>
          </div>
          <div className="grid auto-rows-max grid-cols-[minmax(0,1fr)] content-start gap-4 overflow-y-auto px-5 py-4">
            {children}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

/** Underlined words in a sentence that open what can be said there. */
export function Word({
  children,
  name,
  open: field,
  faulty = false,
}: {
  /** What it is now, in words. */
  children: ReactNode
  /** What the words are about: "Adapter". */
  name: string
  /** The fields. */
  open: ReactNode
  /** Nobody has said it yet, or it does not fit. */
  faulty?: boolean
}) {
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`${name}: change`}
        className={`border-b-2 font-semibold ${faulty ? 'border-ochre-line text-ochre' : 'border-ink-3 text-ink'} hover:border-ink`}
      >
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={12}
          aria-label={name}
          className="sheet z-[60] grid max-h-[70vh] w-[min(24rem,92vw)] gap-3 overflow-y-auto border-ink-3 p-4"
        >
          {field}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
