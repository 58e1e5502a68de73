'use client'
import dynamic from 'next/dynamic'
import { type ReactNode, useRef, useState } from 'react'
import { ahead } from './fetch-ahead'
import type { Place } from './popup-sheet'

// What places it beside its button comes after the page: a page has many such buttons, and few are ever pressed.
const load = ahead(() => import('./popup-sheet').then((m) => m.PopupSheet))
const Sheet = dynamic(load, { ssr: false })

/** A button that opens a small sheet beside itself. */
export function Popup({
  label,
  trigger,
  className,
  name,
  sheet,
  place = {},
  children,
}: {
  /** What the button is called, where its words do not say it. */
  label: string
  trigger: ReactNode
  className: string
  name?: string
  /** Look of the sheet. */
  sheet: string
  place?: Place
  children: ReactNode | ((close: () => void) => ReactNode)
}) {
  const button = useRef<HTMLButtonElement>(null)
  const [open, setOpen] = useState(false)
  const close = () => setOpen(false)
  return (
    <>
      <button
        ref={button}
        type="button"
        aria-haspopup="dialog"
        aria-expanded={open}
        aria-label={label}
        className={className}
        onClick={() => setOpen(!open)}
      >
        {trigger}
      </button>
      {open && (
        <Sheet anchor={button} close={close} name={name} className={sheet} place={place}>
          {typeof children === 'function' ? children(close) : children}
        </Sheet>
      )}
    </>
  )
}
