'use client'
import { backupOf, type TwinBackup } from '@fresh-coat/core/steps/backup/facts'
import type { UnitView } from '@fresh-coat/core/unit/view'
import Link from '@/components/link'
import { Tag, twoDigits } from '@/components/paint/paint'
import { useComparison } from './use-read'

/** The twin whose read is worth most: proven ones first, then the lowest number. */
const bestTwin = (twins: readonly TwinBackup[]): TwinBackup | null =>
  [...twins]
    .filter((t) => t.file.held !== false)
    .sort((a, b) => Number(b.state === 'verified') - Number(a.state === 'verified') || a.number - b.number)[0] ?? null

/**
 * The program of a unit held against that of a twin: where two units of one board run different programs, the maker has
 * changed something and said nothing, and what the board taught is looked at again.
 */
export function TwinProgram({ view, twins }: { view: UnitView; twins: readonly TwinBackup[] }) {
  const { first } = backupOf(view)
  const twin = bestTwin(twins)
  const comparison = useComparison(first && twin ? { first, second: twin.file } : { first: null, second: null })
  if (!first || !twin || !comparison) return null
  const compare = (
    <Link className="underline underline-offset-4" href={`/images/compare?a=${first.id}&b=${twin.file.id}`}>
      see where
    </Link>
  )
  if (comparison.verdict === 'bad-contact')
    return (
      <p className="flex gap-2.5">
        <Tag severity="watch">twin</Tag>
        <span>
          A few bits differ from the read of unit {twoDigits(twin.number)}, of the same board: one of the two reads
          holds a fault; {compare}.
        </span>
      </p>
    )
  if (comparison.verdict !== 'different')
    return (
      <p className="flex gap-2.5">
        <Tag severity="ok">twin</Tag> Same program as unit {twoDigits(twin.number)}, of the same board.
      </p>
    )
  return (
    <p className="flex gap-2.5">
      <Tag severity="watch">twin</Tag>
      <span>
        Its program differs from that of unit {twoDigits(twin.number)}, of the same board: a silent revision, perhaps.
        Look at both before its pins are trusted; {compare}.
      </span>
    </p>
  )
}
