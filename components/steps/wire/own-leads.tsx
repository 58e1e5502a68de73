import { type Finding, finding } from '@fresh-coat/core/edge/finding'
import { nextOwnLead, ownLeads } from '@fresh-coat/core/steps/wire/own-leads'
import { regulatorOf } from '@fresh-coat/core/steps/wire/regulator'
import { NumberField } from '@/components/forms/fields'
import type { Ask } from '@/components/frame/card'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = SurfaceProps<'wire'>

/** Ties of a bare module and a regulator's leads: made before any lead of the adapter brings power. */
export function ownLeadAsk({ view, record: { data, patch } }: Props): Ask[] {
  const all = ownLeads(view)
  if (all.length === 0) return []
  const next = nextOwnLead(view)
  const made = all.filter((l) => data.ties.includes(l.id)).length
  const why = next?.kind === 'regulator' ? 'a regulator of your own' : 'the module stands alone'
  return [
    {
      id: `own ${next?.id ?? ''}`,
      name: 'Own leads',
      lead: next ? `${next.kind === 'tie' ? 'Tie' : 'Lead'} ${made + 1} of ${all.length}: ${why}` : '',
      ask: next?.words ?? '',
      how: next?.because ?? '',
      said: next ? null : `all ${all.length} made`,
      optional: next === null,
      ...(next
        ? {
            answers: [
              {
                label: next.kind === 'tie' ? 'It is tied' : 'It is joined',
                pick: () => patch({ ties: [...data.ties, next.id] }),
              },
            ],
          }
        : {}),
    },
  ]
}

/** A module without its ties starts by luck: said until the last one is made. */
export const ownLeadFindings = (view: Props['view']): Finding[] => {
  const open = nextOwnLead(view)
  return open?.kind === 'tie' ? [finding('en-floating', 'error', open.without, open.because, `Tie ${open.words}.`)] : []
}

/** Leads of their own as they stand, each to be taken back or made by a press. */
export function OwnLeads({ view, record: { data, patch } }: Pick<Props, 'view' | 'record'>) {
  const all = ownLeads(view)
  if (all.length === 0) return null
  return (
    <ul className="flex flex-wrap gap-2" aria-label="Leads of their own">
      {all.map((l) => {
        const made = data.ties.includes(l.id)
        return (
          <li key={l.id}>
            <button
              type="button"
              aria-pressed={made}
              className={`rounded-[8px] border-2 px-2.5 py-0.5 ${made ? 'border-verdigris bg-ok-soft' : 'border-dashed border-ochre-line'}`}
              onClick={() => patch({ ties: made ? data.ties.filter((id) => id !== l.id) : [...data.ties, l.id] })}
            >
              {l.words}
            </button>
          </li>
        )
      })}
    </ul>
  )
}

/** The three figures of a regulator that decide whether it holds. */
export function RegulatorFields({ record: { data, patch } }: Pick<Props, 'record'>) {
  const r = data.regulator
  const put = (change: Partial<NonNullable<typeof r>>) => {
    const next = { dropoutV: 1.1, iMaxMA: 800, thetaJA: 90, ...r, ...change }
    patch({ regulator: next })
  }
  return (
    <div className="grid gap-3">
      {r === null && (
        <p className="text-ink-2">
          Three figures of its data sheet.{' '}
          <button type="button" className="underline underline-offset-4" onClick={() => put({})}>
            Start from those of a common one: 1.1 V, 800 mA, 90 °C per W
          </button>
        </p>
      )}
      {r !== null && (
        <>
          <NumberField
            label="Drops at least"
            unit="V"
            min={0}
            max={20}
            value={r.dropoutV}
            onChange={(v) => v !== null && put({ dropoutV: v })}
          />
          <NumberField
            label="Gives at most"
            unit="mA"
            min={1}
            max={20_000}
            value={r.iMaxMA}
            onChange={(v) => v !== null && put({ iMaxMA: v })}
          />
          <NumberField
            label="Gets warmer by"
            unit="°C per W"
            min={1}
            max={1000}
            value={r.thetaJA}
            onChange={(v) => v !== null && put({ thetaJA: v })}
          />
        </>
      )}
    </div>
  )
}

const round = (x: number) => Math.round(x)

/** What the regulator comes to with this family's figures. */
export function RegulatorVerdict({ view }: Pick<Props, 'view'>) {
  const check = regulatorOf(view)
  if (!check) return null
  return (
    <p className="flex gap-2.5">
      <Tag severity={check.verdict === 'ok' ? 'ok' : check.verdict === 'caution' ? 'watch' : 'error'}>regulator</Tag>
      <span>
        {round(check.avgMA)} mA on average, {round(check.peakMA)} mA in bursts; {round(check.tjC)} °C inside at 35 °C
        around it. {round(check.spareMA)} mA to spare.
      </span>
    </p>
  )
}
