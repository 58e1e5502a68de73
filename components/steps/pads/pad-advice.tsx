import { howTo, measureName } from '@fresh-coat/core/pads/how'
import { measureOf } from '@fresh-coat/core/pads/readings'
import type { PadSolution } from '@fresh-coat/core/pads/solve'
import { FindingRow, Tag } from '@/components/paint/paint'

const roleWord = (r: string) => (r === 'UNKNOWN' ? 'no role' : r)

/** What to measure next and how, what disagrees, and whether power is allowed yet. */
export function PadAdvice({
  solution,
  faults,
}: {
  solution: PadSolution | null
  faults: readonly { pad: number; reading: string; message: string }[]
}) {
  const next = solution?.next ?? []
  const first = next[0]
  const how = first ? howTo[first.measure] : null
  return (
    <div className="grid content-start gap-3" aria-live="polite">
      {faults.map((f) => (
        <p key={`${f.pad}-${f.reading}`} role="alert" className="flex gap-2.5">
          <Tag severity="error" />
          <span>
            Pad {f.pad + 1}: {f.message} <span className="text-ink-2">It is kept, and left out of the answer.</span>
          </span>
        </p>
      ))}
      {solution?.conflicts.map((c) => (
        <ul key={`${c.pad}-${c.measure}`}>
          <FindingRow
            finding={{
              code: 'pad-conflict',
              severity: 'error',
              message: `Pad ${c.pad + 1}: ${measureName(c.measure)} says ${roleWord(c.better)}, ${c.against ? `but ${measureName(c.against)} says ${roleWord(c.role)}` : `but the rest of the row makes it ${roleWord(c.role)}`}.`,
              because: `One of the two is wrong: “${c.value}” fits ${roleWord(c.better)} ${c.ratio.toFixed(0)} times better.`,
              next: 'Take both again before you go on.',
            }}
          />
        </ul>
      ))}
      {solution?.labelsSwapped && (
        <p className="flex gap-2.5">
          <Tag severity="ok">note</Tag>
          The print is written from the other side: “TX” says where the adapter’s TX goes. Worth a note, no alarm.
        </p>
      )}
      {first && how && (
        <div className="rounded-[10px] border border-ink p-3">
          <p className="font-title text-[1.12rem] font-semibold">
            Next: pad {first.pad + 1}, {measureName(first.measure)}
          </p>
          <dl className="mt-1.5 grid grid-cols-[4.6rem_1fr] gap-x-3 gap-y-0.5">
            <dt className="text-ink-2">Setting</dt>
            <dd>{how.setting}</dd>
            {how.black !== '–' && (
              <>
                <dt className="text-ink-2">Black on</dt>
                <dd>{how.black}</dd>
                <dt className="text-ink-2">Red on</dt>
                <dd>{how.red}</dd>
              </>
            )}
            <dt className="text-ink-2">Enter</dt>
            <dd>{how.enter}</dd>
            <dt className="text-ink-2">Power</dt>
            <dd>{how.powered ? '3.3 V from bench supply or adapter; never the mains' : 'none'}</dd>
          </dl>
        </div>
      )}
      {next.length > 1 && (
        <p className="text-ink-2">
          Then:{' '}
          {next
            .slice(1, 4)
            .map(
              (n) =>
                `pad ${n.pad + 1} ${measureName(n.measure)} (${n.bits.toFixed(2)} bit, ${measureOf(n.measure).minutes} min)`,
            )
            .join('; ')}
          .
        </p>
      )}
    </div>
  )
}
