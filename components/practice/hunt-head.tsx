import type { ReactNode } from 'react'
import { NumberField } from '@/components/forms/fields'
import { buttonClass } from '@/components/paint/paint'

/** Which virtual thing it is: its number can be typed, and another one drawn. The same number is the same thing everywhere. */
export function HuntHead({
  thing,
  seed,
  start,
  children,
}: {
  /** "board", "module", "plug" */
  thing: string
  seed: number
  start: (seed: number) => void
  children?: ReactNode
}) {
  return (
    <div className="flex flex-wrap items-end gap-4">
      <NumberField
        label={`${thing.charAt(0).toUpperCase()}${thing.slice(1)} number`}
        value={seed}
        min={1}
        max={9999}
        whole
        onChange={(n) => n && start(n)}
        className="w-[9rem]"
      />
      <button type="button" className={buttonClass()} onClick={() => start(1 + Math.floor(Math.random() * 9999))}>
        Another {thing}
      </button>
      {children}
    </div>
  )
}
