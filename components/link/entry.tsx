import type { Instruction } from '@fresh-coat/core/boot/entry'

/** What the page does itself, or has behind its gate already. */
const notByHand: ReadonlySet<string> = new Set(['mains', 'tool', 'lines', 'call', 'start', 'free', 'again'])

/** The way into download mode of this board, short: what the hands do, while it is called. */
export function Entry({ steps }: { steps: readonly Instruction[] }) {
  const byHand = steps.filter((s) => !notByHand.has(s.id))
  if (byHand.length === 0) return null
  return (
    <ol className="grid gap-1">
      {byHand.map((s, i) => (
        <li key={s.id} className="grid grid-cols-[1.4rem_1fr]">
          <span className="pin text-ink-3">{i + 1}</span>
          <span>{s.say}</span>
        </li>
      ))}
    </ol>
  )
}
