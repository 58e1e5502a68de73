'use client'
import dynamic from 'next/dynamic'
import type { ReactNode } from 'react'
import type { DrawerProps } from './drawer-sheet'
import { ahead } from './fetch-ahead'
import { Popup } from './popup'

// Most drawers of a page are never opened: what draws them comes when the first one is.
const Sheet = dynamic(
  ahead(() => import('./drawer-sheet').then((m) => m.DrawerSheet)),
  { ssr: false },
)

/** A sheet that slides over the card from the right: things that are wanted rarely, and what is known. */
export const Drawer = (props: DrawerProps) => (props.open ? <Sheet {...props} /> : null)

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
    <Popup
      label={`${name}: change`}
      trigger={children}
      className={`border-b-2 font-semibold ${faulty ? 'border-ochre-line text-ochre' : 'border-ink-3 text-ink'} hover:border-ink`}
      name={name}
      sheet="sheet z-[60] grid max-h-[70vh] w-[min(24rem,92vw)] gap-3 overflow-y-auto border-ink-3 p-4"
      place={{ sideOffset: 6 }}
    >
      {field}
    </Popup>
  )
}
