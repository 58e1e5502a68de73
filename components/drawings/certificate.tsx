import { dayWords } from '@fresh-coat/core/edge/day'
import type { Proof } from '@fresh-coat/core/steps/watch/proven'
import type { CoatProgress } from '@fresh-coat/core/unit/coats'
import { PaintBand, twoDigits } from '@/components/paint/paint'

/** The finished coat: what was proven of the unit and when, under its painted bands. */
export function Certificate({
  number,
  name,
  board,
  coats,
  proofs,
  sentence,
  taught,
}: {
  number: number
  name: string
  board: string
  coats: readonly CoatProgress[]
  proofs: readonly Proof[]
  /** In service since when, or what is missing. */
  sentence: string
  /** Minutes taken, and what its board learned. */
  taught: string
}) {
  return (
    <article
      aria-label={`What was proven of unit ${number}`}
      className="grid content-center gap-4 rounded-[14px] border-2 border-ink bg-sheet-2 p-5"
    >
      <header className="flex items-center gap-4">
        <span className="grid size-[84px] shrink-0 place-items-center rounded-[16px] border-4 border-ink bg-sheet font-title text-[3.2rem] leading-none font-extrabold">
          {twoDigits(number)}
        </span>
        <div className="min-w-0">
          <p className="truncate font-title text-[1.7rem] leading-tight font-bold" dir="auto">
            {name}
          </p>
          <p className="text-ink-2">{board}</p>
          <p className="font-semibold">{sentence}</p>
        </div>
      </header>
      <div className="grid grid-cols-5 gap-1.5" aria-hidden="true">
        {coats.map((c) => (
          <PaintBand key={c.id} coat={c.id} share={c.of === 0 ? 1 : c.done / c.of} />
        ))}
      </div>
      <dl className="grid gap-x-8 sm:grid-cols-2">
        {proofs.map((p) => (
          <div key={p.step} className="grid grid-cols-[4.6rem_minmax(0,1fr)_auto] gap-x-3 border-b border-rule-2 py-1">
            <dt className="font-semibold">{p.title}</dt>
            <dd className="min-w-0 break-words">
              {p.standing === 'open' || p.standing === 'stale' ? (
                <span className="text-ochre">{p.standing === 'open' ? 'open' : `no longer: ${p.what}`}</span>
              ) : (
                [p.what, p.standing === 'decided' ? 'decided, with a reason' : ''].filter(Boolean).join('; ')
              )}
            </dd>
            <dd className="text-[0.93rem] whitespace-nowrap text-ink-2">{p.day ? dayWords(p.day) : ''}</dd>
          </div>
        ))}
      </dl>
      {taught && <p className="text-ink-2">{taught}</p>}
    </article>
  )
}
