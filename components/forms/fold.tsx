'use client'
import { type ReactNode, useState } from 'react'

/** A part that can be folded away. It opens and closes only by hand: what is typed inside never folds it. */
export function Fold({
  summary,
  startOpen = false,
  opened,
  children,
}: {
  summary: ReactNode
  startOpen?: boolean
  /** Told when it is opened by hand: what is long is fetched then. */
  opened?: () => void
  children: ReactNode
}) {
  const [open, setOpen] = useState(startOpen)
  return (
    <details
      className="rounded-[10px] border border-rule p-3"
      open={open}
      onToggle={(e) => {
        setOpen(e.currentTarget.open)
        if (e.currentTarget.open) opened?.()
      }}
    >
      <summary className="font-semibold">{summary}</summary>
      <div className="mt-3 grid gap-3">{children}</div>
    </details>
  )
}
