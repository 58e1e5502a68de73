import { sectorBytes } from '@fresh-coat/core/dump/sectors'
import { cellsFor, RowAddresses, spanArea } from './sector-map'

/** The chip while it is written: what stands in it by now, what is erased and waits, and what is left alone. */
export function WriteMap({
  flashBytes,
  offset,
  bytes,
  confirmed,
  erased,
  whole,
}: {
  flashBytes: number
  offset: number
  bytes: number
  /** Bytes from `offset` on that the chip confirmed. */
  confirmed: number
  /** Erasing has begun. */
  erased: boolean
  /** All of the chip is erased, not only the sectors that are written. */
  whole: boolean
}) {
  const sectors = Math.ceil(flashBytes / sectorBytes)
  const cells = cellsFor(sectors)
  const { columns, left, w, h } = cells
  const rows = Math.ceil(sectors / columns)
  const first = Math.floor(offset / sectorBytes)
  const last = Math.ceil((offset + bytes) / sectorBytes)
  const until = first + Math.floor(confirmed / sectorBytes) + (confirmed >= bytes && bytes % sectorBytes > 0 ? 1 : 0)
  const kib = (n: number) => `${Math.round((n * sectorBytes) / 1024)} KiB`
  const legend = [
    { name: 'written and confirmed', fill: 'var(--prussian)', amount: kib(until - first) },
    { name: erased ? 'erased, waits' : 'will be written', fill: 'var(--ochre-soft)', amount: kib(last - until) },
    whole
      ? {
          name: erased ? 'erased, stays empty' : 'will be erased',
          fill: erased ? 'var(--unpainted)' : 'var(--sheet)',
          amount: kib(sectors - (last - first)),
        }
      : { name: 'left as it is', fill: 'var(--sheet)', amount: kib(sectors - (last - first)) },
  ]
  const label = `The chip, ${kib(sectors)}: ${legend.map((l) => `${l.amount} ${l.name}`).join(', ')}`
  return (
    <figure className="grid gap-2">
      <svg viewBox={`0 0 ${left + columns * w + 2} ${rows * h + 2}`} className="w-full" role="img" aria-label={label}>
        <RowAddresses rows={rows} cells={cells} />
        <path d={spanArea(0, sectors, cells)} fill="var(--sheet)" stroke="var(--rule)" />
        {erased && whole && <path d={spanArea(0, sectors, cells)} fill="var(--unpainted)" stroke="var(--rule)" />}
        <path d={spanArea(first, last, cells)} fill="var(--ochre-soft)" stroke="var(--rule)" />
        {until > first && <path d={spanArea(first, until, cells)} fill="var(--prussian)" />}
      </svg>
      <figcaption className="flex flex-wrap gap-x-4 gap-y-1 text-[0.9rem] text-ink-2" aria-hidden="true">
        {legend.map((l) => (
          <span key={l.name} className="inline-flex items-center gap-1.5">
            <span className="size-[15px] rounded-[3px] border border-rule" style={{ background: l.fill }} />
            {l.amount} {l.name}
          </span>
        ))}
      </figcaption>
    </figure>
  )
}
