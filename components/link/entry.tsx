import type { Instruction } from '@fresh-coat/core/boot/entry'

const mostShown = 5

/** The way into download mode of this board, short: it is in the hands while it is read. */
export function Entry({ steps }: { steps: readonly Instruction[] }) {
  if (steps.length === 0) return null
  return (
    <ol className="grid gap-1">
      {steps.slice(0, mostShown).map((s, i) => (
        <li key={s.id} className="grid grid-cols-[1.4rem_1fr]">
          <span className="pin text-ink-3">{i + 1}</span>
          <span>{s.say}</span>
        </li>
      ))}
    </ol>
  )
}
