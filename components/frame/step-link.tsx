'use client'
import { type StepId, stepIds } from '@fresh-coat/core/unit/way'
import type { AnchorHTMLAttributes, MouseEvent } from 'react'
import { usePrefetchStep } from './unit-data'

/** Changes the address to another step of the same unit; its data is there already, or comes by itself. */
export function goToStep(number: number, step: StepId): void {
  window.history.pushState(null, '', `/units/${number}/${step}`)
  window.scrollTo(0, 0)
}

const plainClick = (e: MouseEvent) => e.button === 0 && !e.metaKey && !e.ctrlKey && !e.shiftKey && !e.altKey

/** A link to a step of the unit on screen: loads it when a hand comes near, and turns to it without loading a page. */
export function StepLink({
  number,
  step,
  children,
  ...rest
}: { number: number; step: StepId } & AnchorHTMLAttributes<HTMLAnchorElement>) {
  const ahead = usePrefetchStep(number)
  return (
    <a
      {...rest}
      href={`/units/${number}/${step}`}
      onPointerEnter={() => ahead(step)}
      onFocus={() => ahead(step)}
      onClick={(e) => {
        if (!plainClick(e) || !stepIds.includes(step)) return
        e.preventDefault()
        goToStep(number, step)
      }}
    >
      {children}
    </a>
  )
}
