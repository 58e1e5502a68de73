'use client'
import { type ReactNode, useState } from 'react'

/** A part that can be folded away. It opens and closes only by hand: what is typed inside never folds it. */
export function Fold({
  summary,
  startOpen = false,
  children,
}: {
  summary: ReactNode
  startOpen?: boolean
  children: ReactNode
}) {
  const [open, setOpen] = useState(startOpen)
  return (
    <details
      className="rounded-[10px] border border-rule p-3"
      open={open}
      onToggle={(e) => setOpen(e.currentTarget.open)}
    >
      <summary className="font-semibold">{summary}</summary>
      <div className="mt-3 grid gap-3">{children}</div>
    </details>
  )
}
