'use client'
import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'
import { Key } from '@/components/paint/paint'

export interface DrawerProps {
  title: string
  open: boolean
  onOpenChange: (open: boolean) => void
  wide?: boolean
  children: ReactNode
}

/** A sheet that slides over the card from the right: things that are wanted rarely, and what is known. */
export function DrawerSheet({ title, open, onOpenChange, wide = false, children }: DrawerProps) {
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
