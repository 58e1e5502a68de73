import { type CoatDone, coatSpan, painted } from '@fresh-coat/core/unit/coats'
import { useId } from 'react'
import { coatPaint } from './paint'

/** The wet edges of a stripe, a little uneven. */
const edgeOf = (to: number) =>
  `M0 3C${to * 0.2} 1 ${to * 0.4} 5 ${to * 0.6} 2.500S${to * 0.9} 4 ${to} 2.500V21.500C${to * 0.8} 23.500 ${to * 0.5} 20 ${to * 0.3} 22.500S${to * 0.1} 21 0 22z`

/** A unit's coats as one stripe of paint, as far as it is painted; coats of which nothing is asked count as painted. */
export function Stripe({ coats, pale = false }: { coats: readonly CoatDone[]; pale?: boolean }) {
  const share = painted(coats)
  const id = useId()
  return (
    <svg viewBox="0 0 1000 25" preserveAspectRatio="none" className="block size-full" aria-hidden="true">
      <clipPath id={id}>
        <path d={edgeOf(Math.max(4, share * 1000))} />
      </clipPath>
      <StripePieces coats={coats} clip={`url(#${id})`} pale={pale} />
    </svg>
  )
}

/** Each coat's piece, one behind the other up to the wet edge. */
function StripePieces({ coats, clip, pale }: { coats: readonly CoatDone[]; clip: string; pale: boolean }) {
  let at = 0
  return (
    <g clipPath={clip} opacity={pale ? 0.85 : 1}>
      {coats.map((c) => {
        const { from, to } = coatSpan(c.id)
        const w = (to - from) * (c.of === 0 ? 1 : c.done / c.of) * 1000
        const x = at
        at += w
        return w === 0 ? null : <rect key={c.id} x={x} width={w + 1} height="25" fill={coatPaint[c.id]} />
      })}
    </g>
  )
}
