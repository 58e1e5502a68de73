import type { Condition } from '@fresh-coat/core/unit/condition'
import { Tag } from '@/components/paint/paint'

/** What holds and what is missing before a step is done. */
export function DoneWhen({ conditions }: { conditions: readonly Condition[] }) {
  return (
    <section aria-labelledby="done-when" className="border-t border-rule-2 pt-3">
      <h2 id="done-when" className="mb-1.5 text-[1rem]">
        Done when
      </h2>
      <ul className="grid gap-1 md:grid-cols-2">
        {conditions.map((c) => (
          <li key={c.text} className="flex gap-2.5">
            <Tag severity={c.met ? 'ok' : 'watch'}>{c.met ? 'ok' : 'open'}</Tag>
            <span>
              {c.text} {!c.met && <span className="text-ink-2">{c.next}</span>}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
