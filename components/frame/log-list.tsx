import { clockOf, shortMoment } from '@/components/paint/paint'

export interface LogEntry {
  id: number
  at: string
  sentence: string
  undone: boolean
}

/** What happened lately, newest first; what was undone is struck through. */
export function LogList({ log }: { log: readonly LogEntry[] }) {
  return (
    <ol className="mt-1">
      {log.map((l) => (
        <li
          key={l.id}
          className={`grid grid-cols-[3.4rem_1fr] py-1 text-[0.93rem] ${l.undone ? 'line-through opacity-70' : ''}`}
        >
          <time className="text-ink-3" dateTime={l.at} title={shortMoment(l.at)} suppressHydrationWarning>
            {clockOf(l.at)}
          </time>
          <span dir="auto">{l.sentence}</span>
        </li>
      ))}
    </ol>
  )
}
