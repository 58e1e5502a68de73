'use client'

/** The 256 addresses of a subnet as a grid of 32 to a row; ours carry their case number, reserved ones a solid rim. */
export function AddressMap({
  subnet,
  units,
}: {
  subnet: string
  units: readonly { ip: string; number: number; name: string; reserved: boolean }[]
}) {
  const columns = 32
  const w = 30
  const h = 24
  const byLast = new Map<number, (typeof units)[number][]>()
  for (const u of units) {
    const last = Number(u.ip.slice(subnet.length + 1))
    byLast.set(last, [...(byLast.get(last) ?? []), u])
  }
  const words = units.map((u) => `unit ${u.number} at ${u.ip}${u.reserved ? ', reserved' : ''}`).join('; ')
  return (
    <figure className="sheet grid gap-2 p-4">
      <figcaption>
        <span className="pin font-semibold">{subnet}.0/24</span>{' '}
        <span className="text-ink-2">Solid rim: reserved. Dashed: not yet. Struck: two units on one address.</span>
      </figcaption>
      <div className="overflow-x-auto">
        <svg
          viewBox={`0 0 ${columns * w + 44} ${8 * h + 4}`}
          className="w-full min-w-[640px]"
          role="img"
          aria-label={`Addresses of ${subnet}.0/24: ${words}`}
        >
          {Array.from({ length: 256 }, (_, last) => {
            const here = byLast.get(last) ?? []
            const x = 42 + (last % columns) * w
            const y = 2 + Math.floor(last / columns) * h
            const first = here[0]
            return (
              <g key={last}>
                {last % columns === 0 && (
                  <text x="34" y={y + 16} textAnchor="end" className="pin" fontSize="11" fill="var(--ink-3)">
                    .{last}
                  </text>
                )}
                <rect
                  x={x + 1}
                  y={y + 1}
                  width={w - 3}
                  height={h - 3}
                  rx="4"
                  fill={first ? 'var(--ok-soft)' : 'var(--sheet-2)'}
                  stroke={first ? 'var(--ink)' : 'var(--rule-2)'}
                  strokeWidth={first ? 1.8 : 1}
                  strokeDasharray={first && !first.reserved ? '3 2.5' : undefined}
                />
                {first && (
                  <text
                    x={x + w / 2 - 0.5}
                    y={y + 16}
                    textAnchor="middle"
                    fontSize="12.5"
                    fontWeight="700"
                    className="font-title"
                    fill="var(--ink)"
                  >
                    {String(first.number).padStart(2, '0')}
                  </text>
                )}
                {here.length > 1 && (
                  <path d={`M${x + 1} ${y + h - 2} L${x + w - 2} ${y + 1}`} stroke="var(--oxide)" strokeWidth="2.5" />
                )}
              </g>
            )
          })}
        </svg>
      </div>
    </figure>
  )
}
