import { dayWords } from '@fresh-coat/core/edge/day'
import type { DueGroup, DueGroups } from '@fresh-coat/core/fleet/due'
import Link from '@/components/link'
import { Tag } from '@/components/paint/paint'

/** What falls due, by how near it is: in the browser made of its data, which is a fraction of what is drawn. */

function Group({ title, group: { things, all }, over = false }: { title: string; group: DueGroup; over?: boolean }) {
  if (things.length === 0) return null
  return (
    <section className="grid content-start gap-1" aria-label={title}>
      <h2 className="text-[1.1rem]">{title}</h2>
      <ul>
        {things.map((t) => (
          <li key={`${t.day} ${t.of} ${t.what}`} className="border-b border-rule">
            <Link href={t.href} className="grid grid-cols-[7.5rem_1fr] gap-x-3 py-1.5 leading-snug hover:underline">
              <span className={over ? 'text-ochre' : 'text-ink-2'}>{dayWords(t.day)}</span>
              <span>
                <strong>{t.of}</strong>{' '}
                <span className="text-ink-2">
                  {t.what} {over && <Tag severity="watch">over</Tag>}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {all > things.length && (
        <p className="text-ink-2">and {all - things.length} more: all of them are in the file for a calendar.</p>
      )}
    </section>
  )
}

export function DueLists({ groups: { overdue, week, later } }: { groups: DueGroups }) {
  return (
    <div className="grid gap-5 md:grid-cols-3">
      <Group title="Over" group={overdue} over />
      <Group title="Within a week" group={week} />
      <Group title="Later" group={later} />
    </div>
  )
}
