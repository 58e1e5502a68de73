import type { Family } from '@fresh-coat/core/families/families'
import { percentOf } from '@/components/paint/paint'

/** The posterior of the families as bars, largest first; the line marks the 95 % that identify. */
export function PosteriorBars({ posterior }: { posterior: Record<Family, number> }) {
  const rows = Object.entries(posterior)
  return (
    <div
      className="relative"
      role="img"
      aria-label={`Posterior: ${rows.map(([f, p]) => `${f} ${percentOf(p)}`).join(', ')}`}
    >
      {rows.map(([family, p], i) => (
        <div key={family} className="grid grid-cols-[5.6rem_1fr_4.6rem] items-center gap-2 py-[3px]">
          <span className={i === 0 ? 'font-semibold' : ''}>{family}</span>
          <span className="relative h-[18px] rounded-[4px] bg-unpainted">
            <span
              className={`absolute inset-y-0 left-0 rounded-[4px] transition-[width] duration-200 ${i === 0 ? 'bg-ink' : 'bg-ink-3'}`}
              style={{ width: `${Math.max(0.4, p * 100)}%` }}
            />
            <span className="absolute inset-y-[-3px] left-[95%] w-[2px] bg-ochre-line" />
          </span>
          <span className="pin whitespace-nowrap text-right">{percentOf(p)}</span>
        </div>
      ))}
    </div>
  )
}
