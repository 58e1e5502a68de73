import type { ReactNode } from 'react'

/** What is too wide for a narrow screen, in a frame that scrolls sideways by finger and by keyboard. */
export function Scrolls({
  label,
  children,
  className = '',
}: {
  label: string
  children: ReactNode
  className?: string
}) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard
    <section className="overflow-x-auto" aria-label={label} tabIndex={0}>
      <div className={className}>{children}</div>
    </section>
  )
}
