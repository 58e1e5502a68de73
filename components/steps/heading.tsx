import type { ReactNode } from 'react'

export function StepHeading({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div>
      <h2 className="text-[1.45rem] leading-tight">{title}</h2>
      {children && <p className="mt-0.5 max-w-[62ch] text-ink-2">{children}</p>}
    </div>
  )
}

export function Block({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="grid grid-cols-[minmax(0,1fr)] gap-2.5">
      <h3 className="text-[1.05rem]">{title}</h3>
      {children}
    </section>
  )
}
