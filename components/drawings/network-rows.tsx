import type { Candidate, NetworkEntry } from '@fresh-coat/core/network/match'
import { percentOf } from '@/components/paint/paint'
import { reasonWords } from '@/components/steps/join/words'

/** How probable it is, as a bar with its per cent. */
function Chance({ p }: { p: number }) {
  return (
    <span className="grid grid-cols-[1fr_4.6rem] items-center gap-2">
      <span className="h-3 overflow-hidden rounded-[3px] bg-unpainted" aria-hidden="true">
        <span className="block h-full bg-prussian" style={{ width: `${Math.max(1, p * 100)}%` }} />
      </span>
      <span className="pin text-right">{percentOf(p)}</span>
    </span>
  )
}

/** Devices on the network: those that may be this unit on top, each with why; the rest counted. */
export function NetworkRows({
  candidates,
  entries,
  chosen,
  onChoose,
}: {
  candidates: readonly Candidate[]
  entries: readonly NetworkEntry[]
  /** The address that was taken. */
  chosen: string
  onChoose: (candidate: Candidate, at: number) => void
}) {
  const named = new Set(candidates.map((c) => c.mac ?? c.ip))
  const rest = entries.filter((e) => !named.has(e.mac ?? e.ip))
  return (
    <div className="grid content-center gap-3">
      <ol className="grid gap-1.5" aria-label="Devices that may be it">
        {candidates.slice(0, 6).map((c, i) => (
          <li key={`${c.mac}-${c.ip}`}>
            <button
              type="button"
              disabled={!c.ip}
              aria-pressed={c.ip === chosen && chosen !== ''}
              className={`grid w-full items-center gap-x-4 gap-y-0.5 rounded-[10px] border-2 px-3.5 py-2 text-left sm:grid-cols-[11rem_minmax(0,1fr)_11rem] ${c.ip === chosen && chosen !== '' ? 'border-verdigris bg-ok-soft' : i === 0 ? 'border-ink bg-sheet' : 'border-rule bg-sheet-2'}`}
              onClick={() => onChoose(c, i)}
            >
              <span>
                <span className="pin block text-[1.1rem] font-bold">{c.ip ?? 'no address'}</span>
                <span className="pin text-ink-2">{c.mac ?? 'no MAC'}</span>
              </span>
              <span className="min-w-0">
                <span className="block truncate font-semibold" dir="auto">
                  {c.hostname ?? 'no name'}
                </span>
                <span className="text-[0.93rem] text-ink-2">
                  {c.reasons.map((r) => reasonWords[r] ?? r).join(', ')}
                </span>
              </span>
              <Chance p={c.probability} />
            </button>
          </li>
        ))}
      </ol>
      {rest.length > 0 && (
        <p className="text-ink-2">
          {rest.length} more on the list:{' '}
          <span className="pin">
            {rest
              .slice(0, 6)
              .map((e) => e.ip ?? e.mac)
              .join('  ')}
          </span>
          {rest.length > 6 && ' …'}
        </p>
      )}
    </div>
  )
}
