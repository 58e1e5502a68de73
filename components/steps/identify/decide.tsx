import { type Family, families } from '@fresh-coat/core/families/families'
import { AreaField, NumberField, SelectField } from '@/components/forms/fields'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Record = SurfaceProps<'identify'>['record']

/** A person's decision, with the reason that is shown beside it from then on. */
export function Decide({ record: { data, patch }, first }: { record: Record; first: Family }) {
  const { decision } = data
  if (decision === null)
    return (
      <button
        type="button"
        className={`${buttonClass()} justify-self-start`}
        onClick={() => patch({ decision: { family: first, reason: '' } })}
      >
        Decide without more checks
      </button>
    )
  return (
    <>
      <SelectField
        label="Family"
        value={decision.family}
        options={families.map((f) => ({ value: f, label: f }))}
        onChange={(family) => family && patch({ decision: { ...decision, family: family as Family } })}
      />
      <AreaField
        label="Reason, at least 15 characters"
        rows={3}
        mono={false}
        maxLength={500}
        value={decision.reason}
        onChange={(reason) => patch({ decision: { ...decision, reason } })}
      />
      <button
        type="button"
        className={`${buttonClass('quiet')} justify-self-start`}
        onClick={() => patch({ decision: null })}
      >
        Take the decision back
      </button>
    </>
  )
}

/** How many units with the same marking turned out to be which family. */
export function MarkingCounts({
  counts,
  onChange,
}: {
  counts: { [family: string]: number }
  onChange: (counts: { [family: string]: number }) => void
}) {
  return (
    <>
      <p className="text-ink-2">
        How many units with the same marking turned out to be which family. For a known board this is filled in from its
        units.
      </p>
      <div className="grid grid-cols-2 gap-2">
        {families.map((f) => (
          <NumberField
            key={f}
            label={f}
            min={0}
            max={100000}
            whole
            value={counts[f] ?? null}
            onChange={(n) => {
              const { [f]: _, ...rest } = counts
              onChange(n ? { ...rest, [f]: n } : rest)
            }}
          />
        ))}
      </div>
    </>
  )
}
