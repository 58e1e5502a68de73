import type { RouteComparison } from '@fresh-coat/core/calculators/route-compare'

const width = 900
const left = 210
const row = 24
const head = 30
const room = width - left - 120

/** For one unit, five and twenty: what each route costs in all, the cheapest first; what misses a wish is hatched. */
export function RouteBars({
  results,
  names,
  words,
}: {
  results: RouteComparison['results']
  names: Readonly<Record<string, string>>
  words: (amount: number) => string
}) {
  const each = (results[0]?.routes.length ?? 0) * row + head
  return (
    <svg
      viewBox={`0 0 ${width} ${results.length * each}`}
      className="w-full min-w-[620px]"
      role="img"
      aria-label={results
        .map(
          (r) =>
            `For ${r.n}: ${r.routes.map((x) => `${names[x.id]} ${words(x.total)}${x.eligible ? '' : ', left out'}`).join(', ')}`,
        )
        .join('. ')}
    >
      <defs>
        <pattern id="left-out" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="6" height="6" fill="var(--sheet)" />
          <path d="M0 0V6" stroke="var(--ink-3)" strokeWidth="2" />
        </pattern>
      </defs>
      {results.map((r, block) => {
        const most = Math.max(1e-9, ...r.routes.map((x) => x.total))
        return (
          <g key={r.n} transform={`translate(0 ${block * each})`}>
            <text x={0} y={20} fontSize="16" fontWeight="700" fill="var(--ink)">
              {r.n === 1 ? 'One unit' : `${r.n} units`}
            </text>
            {r.routes.map((x, i) => {
              const y = head + i * row
              const best = x.id === r.best
              const long = (x.total / most) * room
              return (
                <g key={x.id}>
                  <text
                    x={left - 10}
                    y={y + 14}
                    textAnchor="end"
                    fontSize="13"
                    fontWeight={best ? 700 : 400}
                    fill="var(--ink)"
                  >
                    {names[x.id]}
                  </text>
                  <rect
                    x={left}
                    y={y + 2}
                    width={Math.max(2, long)}
                    height={row - 8}
                    rx="3"
                    fill={!x.eligible ? 'url(#left-out)' : best ? 'var(--verdigris)' : 'var(--unpainted)'}
                    stroke="var(--ink)"
                    strokeWidth={best ? 1.5 : 0.5}
                  />
                  <text x={left + long + 8} y={y + 14} className="pin" fontSize="13" fill="var(--ink)">
                    {words(x.total)}
                  </text>
                </g>
              )
            })}
          </g>
        )
      })}
    </svg>
  )
}
