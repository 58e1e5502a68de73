import { countedName, type OpeningItem } from '@fresh-coat/core/open/opening'

/** One thing on its way back in, as the last ones out come first. */
export interface GoingBack {
  id: string
  name: string
  /** How many are back, and of how many. */
  back: number
  of: number
  note: string
}

/** Fasteners backwards, then the loose parts that go in before the case shuts. */
export function goingBack(
  items: readonly OpeningItem[],
  parts: readonly string[],
  restored: { readonly [id: string]: number },
  partsBack: readonly string[],
): GoingBack[] {
  return [
    ...[...new Set(parts)].map((p) => ({
      id: `part ${p}`,
      name: p,
      back: partsBack.includes(p) ? 1 : 0,
      of: 1,
      note: 'a loose part',
    })),
    ...[...items].reverse().map((f) => ({
      id: f.id,
      name: [countedName(f.kind, f.count), f.place].filter(Boolean).join(', '),
      back: restored[f.id] ?? 0,
      of: f.count,
      note: f.restore === 'same' ? f.driver : f.restore === 'glue' ? 'needs glue' : 'needs a new part',
    })),
  ]
}

/** Every piece a filled square once it is back, an open one while it lies on the bench. */
function Pieces({ back, of }: { back: number; of: number }) {
  const shown = Math.min(of, 12)
  return (
    <span className="flex gap-1" aria-hidden="true">
      {Array.from({ length: shown }, (_, i) => (
        <span
          key={i}
          className={`size-4 rounded-[3px] border-2 border-ink ${i < back ? 'bg-verdigris' : 'bg-sheet'}`}
        />
      ))}
      {of > shown && <span className="text-[0.87rem]">+{of - shown}</span>}
    </span>
  )
}

/** The way back: what came out goes in, last out first in; a pressed row is back. */
export function ClosingDrawing({
  list,
  empty,
  next,
  onToggle,
}: {
  list: readonly GoingBack[]
  /** What is said where nothing is known to come back. */
  empty: string
  next: string | null
  onToggle: (thing: GoingBack) => void
}) {
  if (list.length === 0)
    return <p className="rounded-[12px] border border-dashed border-rule p-8 text-center text-ink-2">{empty}</p>
  const all = list.reduce((n, t) => n + t.of, 0)
  const back = list.reduce((n, t) => n + Math.min(t.back, t.of), 0)
  return (
    <div className="grid content-center gap-4 md:grid-cols-[9rem_minmax(0,1fr)]">
      <div className="grid content-center justify-items-center gap-1">
        <span className="font-title text-[3.6rem] leading-none font-extrabold">{all - back}</span>
        <span className="text-center text-ink-2">still out of {all}</span>
      </div>
      <ol className="grid content-center gap-1.5" aria-label="The way back, last out first in">
        {list.map((t, i) => {
          const done = t.back >= t.of
          return (
            <li key={t.id}>
              <button
                type="button"
                aria-pressed={done}
                onClick={() => onToggle(t)}
                className={`grid w-full grid-cols-[2rem_minmax(0,1fr)_auto] items-center gap-3 rounded-[10px] border-2 px-3 py-1.5 text-left ${t.id === next ? 'border-ochre-line bg-ochre-soft' : done ? 'border-verdigris bg-ok-soft' : 'border-rule'}`}
              >
                <span className="font-title text-[1.2rem] font-extrabold">{i + 1}</span>
                <span>
                  <strong>{t.name}</strong>
                  {t.note && <span className="text-ink-2"> · {t.note}</span>}
                </span>
                <span className="flex items-center gap-2">
                  <Pieces back={t.back} of={t.of} />
                  <span className="min-w-[3.6rem] text-right">
                    {t.back} of {t.of}
                  </span>
                </span>
              </button>
            </li>
          )
        })}
      </ol>
    </div>
  )
}
