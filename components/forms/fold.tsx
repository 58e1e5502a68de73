'use client'
import { type ReactNode, useEffect, useRef, useState } from 'react'

const looks = {
  box: 'rounded-[10px] border border-rule p-3',
  sheet: 'sheet p-4',
  rule: 'mt-5 border-t border-rule-2 pt-3',
  bare: '',
} as const

/**
 * A part that can be folded away. It opens and closes only by hand: what is typed inside never folds it. What is inside is made
 * when it is opened first, and stays from then on with what is typed there: a page costs what it shows.
 */
export function Fold({
  summary,
  startOpen = false,
  opened,
  look = 'box',
  children,
}: {
  summary: ReactNode
  startOpen?: boolean
  /** Told when it is opened by hand: what is long is fetched then. */
  opened?: () => void
  look?: keyof typeof looks
  children: ReactNode
}) {
  const [open, setOpen] = useState(startOpen)
  const [made, setMade] = useState(startOpen)
  const part = useRef<HTMLDetailsElement>(null)
  const was = useRef(startOpen)
  const turned = (is: boolean) => {
    setOpen(is)
    if (is) setMade(true)
    if (is && !was.current) opened?.()
    was.current = is
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, for what was opened before the page had come to life: nobody was told
  useEffect(() => {
    if (part.current?.open) turned(true)
  }, [])
  return (
    <details
      ref={part}
      suppressHydrationWarning
      className={looks[look]}
      open={open}
      onToggle={(e) => turned(e.currentTarget.open)}
    >
      <summary className={look === 'bare' && typeof summary !== 'string' ? '' : 'font-semibold'}>{summary}</summary>
      {made && <div className="mt-3 grid gap-3">{children}</div>}
    </details>
  )
}
