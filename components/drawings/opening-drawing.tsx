import { countedName, itemSentence, type OpeningItem } from '@fresh-coat/core/open/opening'
import type { ReactNode } from 'react'
import { Word } from '@/components/frame/drawer'

type At = [x: number, y: number]

const corners: At[] = [
  [36, 36],
  [264, 36],
  [36, 264],
  [264, 264],
]
const seam: At[] = [
  [8, 90],
  [292, 90],
  [8, 210],
  [292, 210],
  [100, 292],
  [200, 292],
]

/** Where on the face a fastener is drawn: by the words people use for places; what no word places stands in a row below the middle. */
export function placesOf(item: OpeningItem, index: number): At[] {
  const words = `${item.place} ${item.note}`.toLowerCase()
  if (/corner/.test(words)) return corners.slice(0, Math.min(4, item.count))
  if (/seam|edge|side|around/.test(words) || item.kind === 'heat_seal' || item.kind === 'glue')
    return seam.slice(0, Math.max(1, Math.min(6, item.count)))
  if (/middle|cent(re|er)/.test(words)) return [[150, 150]]
  if (/socket|pin|plug/.test(words)) return [[150, 84]]
  if (/bottom|back|foot/.test(words)) return [[150, 268]]
  return Array.from({ length: Math.min(5, item.count) }, (_, i) => [60 + i * 45, 208 + (index % 3) * 26])
}

/** A fastener as its head is seen. */
function Head({ kind, x, y, out }: { kind: OpeningItem['kind']; x: number; y: number; out: boolean }) {
  const look = { fill: out ? 'var(--sheet)' : 'var(--copper)', stroke: 'var(--ink)', strokeWidth: 1.8 }
  if (kind === 'screw')
    return (
      <g>
        <circle cx={x} cy={y} r="13" {...look} />
        <path d={`M${x - 7} ${y}h14M${x} ${y - 7}v14`} stroke="var(--ink)" strokeWidth="2.4" />
      </g>
    )
  if (kind === 'clip') return <path d={`M${x - 12} ${y + 7}v-14h16l8 7l-8 7z`} {...look} />
  if (kind === 'glue' || kind === 'heat_seal')
    return <path d={`M${x - 15} ${y}c5-8 9 8 15 0s9 8 15 0`} {...look} fill="none" strokeWidth="4" />
  if (kind === 'press_fit')
    return <rect x={x - 12} y={y - 12} width="24" height="24" rx="12" {...look} strokeDasharray="4 3" />
  return <rect x={x - 12} y={y - 8} width="24" height="16" rx="2" {...look} />
}

function Fastener({ item, index, out, now }: { item: OpeningItem; index: number; out: boolean; now: boolean }) {
  const places = placesOf(item, index)
  return (
    <g opacity={out ? 0.55 : 1}>
      {places.map(([x, y], i) => (
        <g key={`${x} ${y}`}>
          {item.hiddenUnder !== 'none' && (
            <rect
              x={x - 24}
              y={y - 18}
              width="48"
              height="36"
              rx="5"
              fill="var(--sheet)"
              stroke="var(--ink-3)"
              strokeDasharray="5 3"
              transform={`rotate(-8 ${x} ${y})`}
            />
          )}
          <Head kind={item.kind} x={x} y={y} out={out} />
          {now && <circle cx={x} cy={y} r="21" fill="none" stroke="var(--ochre-line)" strokeWidth="4" />}
          {out && <path d={`M${x - 16} ${y + 16}L${x + 16} ${y - 16}`} stroke="var(--oxide)" strokeWidth="3" />}
          {i === 0 && (
            <text
              x={x + 17}
              y={y - 11}
              className="font-title"
              fontSize="19"
              fontWeight="800"
              fill="var(--ink)"
              stroke="var(--sheet-2)"
              strokeWidth="4"
              paintOrder="stroke"
            >
              {index + 1}
            </text>
          )}
        </g>
      ))}
    </g>
  )
}

export interface Terminal {
  place: string
  legend: string
}

/** The face of the case with its fasteners where they hide, those that are out struck through. */
function Face({
  items,
  taken,
  next,
}: {
  items: readonly OpeningItem[]
  taken: readonly string[]
  next: string | null
}) {
  return (
    <svg
      viewBox="-8 -8 316 316"
      className="h-full max-h-[340px] min-h-0 w-full"
      role="img"
      aria-label={`The case: ${items.map((f, i) => `${i + 1} ${itemSentence(f)}${taken.includes(f.id) ? ', out' : ''}`).join('; ') || 'no fastener is written down'}`}
    >
      <rect x="4" y="4" width="292" height="292" rx="34" fill="var(--sheet-2)" stroke="var(--ink)" strokeWidth="2.5" />
      <rect x="16" y="16" width="268" height="268" rx="24" fill="none" stroke="var(--rule)" strokeWidth="2" />
      {items.map((f, i) => (
        <Fastener key={f.id} item={f} index={i} out={taken.includes(f.id)} now={f.id === next} />
      ))}
    </svg>
  )
}

/** The terminals in a row, each with what the cover says it is. */
function Terminals({ terminals, open }: { terminals: readonly Terminal[]; open: ReactNode }) {
  return (
    <section className="flex flex-wrap items-center gap-2" aria-label="Terminals">
      {terminals.map((t, i) => (
        <span
          key={`${i} ${t.place}`}
          className="grid min-w-[5.4rem] justify-items-center rounded-[8px] border border-ink-3 bg-sheet-2 px-2 py-1"
        >
          <svg viewBox="0 0 24 24" className="size-6" aria-hidden="true">
            <circle cx="12" cy="12" r="10" fill="var(--copper)" stroke="var(--ink)" strokeWidth="1.5" />
            <path d="M6 18L18 6" stroke="var(--ink)" strokeWidth="2.4" />
          </svg>
          <strong>{t.legend.replaceAll('_', ' ')}</strong>
          <span className="max-w-[9rem] text-center text-[0.87rem] leading-tight text-ink-2">{t.place}</span>
        </span>
      ))}
      <Word name="Terminals" open={open} faulty={terminals.length === 0}>
        {terminals.length === 0 ? 'No legend is written down' : 'correct'}
      </Word>
    </section>
  )
}

/** The case exploded: its fasteners in order, where they hide, what is out struck through; below it the terminals. */
export function OpeningDrawing({
  items,
  taken,
  next,
  onToggle,
  terminals,
  terminalFields,
}: {
  items: readonly OpeningItem[]
  taken: readonly string[]
  next: string | null
  onToggle: (id: string) => void
  /** Null when the unit has none. */
  terminals: readonly Terminal[] | null
  terminalFields: ReactNode
}) {
  return (
    <div className="grid h-full min-h-0 content-center gap-3">
      <div className="grid min-h-0 items-center gap-6 sm:grid-cols-[minmax(12rem,1fr)_minmax(14rem,1.1fr)]">
        <Face items={items} taken={taken} next={next} />
        <ol className="grid content-center gap-1" aria-label="In this order">
          {items.map((f, i) => {
            const out = taken.includes(f.id)
            return (
              <li key={f.id}>
                <button
                  type="button"
                  aria-pressed={out}
                  onClick={() => onToggle(f.id)}
                  className={`grid w-full grid-cols-[2rem_1fr] items-baseline rounded-[9px] border-2 px-2 py-1 text-left ${f.id === next ? 'border-ochre-line bg-ochre-soft' : 'border-transparent hover:border-rule'}`}
                >
                  <span className="font-title text-[1.3rem] font-extrabold">{i + 1}</span>
                  <span className={out ? 'text-ink-2 line-through decoration-oxide decoration-2' : ''}>
                    <strong>{countedName(f.kind, f.count)}</strong>
                    {f.place && `, ${f.place}`}
                    {f.hiddenUnder !== 'none' && `, under the ${f.hiddenUnder}`}
                    {f.requires.length > 0 && (
                      <span className="text-[0.87rem] text-ink-2">
                        {' '}
                        after {f.requires.map((id) => items.findIndex((x) => x.id === id) + 1).join(' and ')}
                      </span>
                    )}
                  </span>
                </button>
              </li>
            )
          })}
          {items.length === 0 && <li className="text-ink-2">No fastener is written down yet.</li>}
        </ol>
      </div>
      {terminals && <Terminals terminals={terminals} open={terminalFields} />}
    </div>
  )
}
