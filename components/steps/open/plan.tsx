import {
  blankItem,
  fastenerKinds,
  hidingPlaces,
  itemSentence,
  kindName,
  type OpeningItem,
  openingHelp,
  restoreWays,
} from '@fresh-coat/core/open/opening'
import { freshId, mostFasteners, mostParts } from '@fresh-coat/core/steps/open/record'
import { useState } from 'react'
import { NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Record = SurfaceProps<'open'>['record']
const plain = (s: string) => s.replaceAll('_', ' ')

/** What one step of the opening plan is. */
function ItemFields({ item, set }: { item: OpeningItem; set: (change: Partial<OpeningItem>) => void }) {
  return (
    <>
      <SelectField
        label="Kind"
        value={item.kind}
        options={fastenerKinds.map((k) => ({ value: k, label: kindName(k) }))}
        onChange={(kind) => kind && set({ kind })}
      />
      <NumberField
        label="Count"
        value={item.count}
        min={1}
        max={200}
        whole
        onChange={(count) => count && set({ count })}
      />
      <TextField label="Where" value={item.place} maxLength={200} onChange={(place) => set({ place })} />
      <SelectField
        label="Hidden under"
        value={item.hiddenUnder}
        options={hidingPlaces.map((k) => ({ value: k, label: k === 'none' ? 'nothing' : k }))}
        onChange={(hiddenUnder) => hiddenUnder && set({ hiddenUnder })}
      />
      <TextField label="Driver or tool" value={item.driver} maxLength={60} onChange={(driver) => set({ driver })} />
      <SelectField
        label="Put back"
        value={item.restore}
        options={restoreWays.map((k) => ({ value: k, label: plain(k) }))}
        onChange={(restore) => restore && set({ restore })}
      />
      <TextField label="The trick with it" value={item.note} maxLength={300} onChange={(note) => set({ note })} />
    </>
  )
}

function NeedsFirst({
  item,
  items,
  set,
}: {
  item: OpeningItem
  items: readonly OpeningItem[]
  set: (change: Partial<OpeningItem>) => void
}) {
  const others = items.map((other, i) => ({ other, i })).filter(({ other }) => other.id !== item.id)
  return (
    <fieldset className="sm:col-span-2">
      <legend className="text-[0.9rem] font-semibold text-ink-2">Needs first</legend>
      <div className="flex flex-wrap gap-x-4">
        {others.map(({ other, i }) => (
          <Tick
            key={other.id}
            label={`${i + 1} ${kindName(other.kind)}`}
            checked={item.requires.includes(other.id)}
            onChange={(on) =>
              set({ requires: on ? [...item.requires, other.id] : item.requires.filter((x) => x !== other.id) })
            }
          />
        ))}
        {others.length === 0 && <span className="text-ink-2">There is no other yet.</span>}
      </div>
    </fieldset>
  )
}

/** Changes of the plan as the record takes them. */
function planOf({ data, patch }: Record) {
  return {
    set: (id: string, change: Partial<OpeningItem>) =>
      patch({ fasteners: data.fasteners.map((f) => (f.id === id ? { ...f, ...change } : f)) }),
    moveUp: (i: number) => {
      const list = [...data.fasteners]
      const [item] = list.splice(i, 1)
      if (item) list.splice(i - 1, 0, item)
      patch({ fasteners: list })
    },
    remove: (id: string) =>
      patch({
        fasteners: data.fasteners
          .filter((x) => x.id !== id)
          .map((x) => ({ ...x, requires: x.requires.filter((r) => r !== id) })),
        taken: data.taken.filter((x) => x !== id),
      }),
    add: (): string => {
      const id = freshId(data.fasteners)
      patch({ fasteners: [...data.fasteners, blankItem(id)] })
      return id
    },
  }
}

/** The plan of opening: add, correct, put in order. */
export function PlanEditor({ record }: { record: Record }) {
  const { fasteners } = record.data
  const plan = planOf(record)
  const [editing, setEditing] = useState<string | null>(null)
  return (
    <>
      <ol className="grid gap-1.5">
        {fasteners.map((f, i) => (
          <li key={f.id} className="rounded-[9px] border border-rule-2 px-3 py-1.5">
            <div className="flex flex-wrap items-center gap-x-3">
              <span className="font-title w-5 text-[1.15rem] font-bold">{i + 1}</span>
              <span className="min-w-[10rem] flex-1">{itemSentence(f)}</span>
              <button
                type="button"
                className={`${buttonClass('quiet')} !px-2`}
                disabled={i === 0}
                aria-label={`Move step ${i + 1} up`}
                onClick={() => plan.moveUp(i)}
              >
                Up
              </button>
              <button
                type="button"
                className={`${buttonClass('quiet')} !px-2`}
                aria-expanded={editing === f.id}
                aria-label={`Correct step ${i + 1}`}
                onClick={() => setEditing(editing === f.id ? null : f.id)}
              >
                {editing === f.id ? 'Done' : 'Correct'}
              </button>
            </div>
            {editing === f.id && (
              <div className="grid gap-2 pt-2 pb-1 sm:grid-cols-2">
                <ItemFields item={f} set={(change) => plan.set(f.id, change)} />
                <NeedsFirst item={f} items={fasteners} set={(change) => plan.set(f.id, change)} />
                <button
                  type="button"
                  className={`${buttonClass('quiet')} justify-self-start`}
                  onClick={() => plan.remove(f.id)}
                >
                  Remove this step
                </button>
              </div>
            )}
          </li>
        ))}
      </ol>
      <button
        type="button"
        className={`${buttonClass()} justify-self-start`}
        disabled={fasteners.length >= mostFasteners}
        onClick={() => setEditing(plan.add())}
      >
        Add a fastener
      </button>
    </>
  )
}

/** Loose parts that lie on the bench: they have to be back at the end. */
export function LooseParts({ record: { data, patch } }: { record: Record }) {
  const [part, setPart] = useKept('loose part', '')
  const full = data.parts.length >= mostParts
  return (
    <section className="grid gap-2">
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          if (full) return
          if (part.trim() && !data.parts.includes(part.trim())) patch({ parts: [...data.parts, part.trim()] })
          setPart('')
        }}
      >
        <TextField
          label="Loose parts to keep: button cap, light pipe, spring, sheet"
          value={part}
          maxLength={200}
          onChange={setPart}
          className="min-w-[14rem] flex-1"
        />
        <button type="submit" className={buttonClass()} disabled={full}>
          Keep
        </button>
      </form>
      <ul className="flex flex-wrap gap-2">
        {[...new Set(data.parts)].map((p) => (
          <li key={p} className="rounded-[8px] border border-rule bg-sheet-2 px-2.5 py-1">
            {p}{' '}
            <button
              type="button"
              className="ml-1 underline"
              aria-label={`Remove ${p}`}
              onClick={() => patch({ parts: data.parts.filter((x) => x !== p) })}
            >
              remove
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What people meet on the way in, and what to do then. */
export const OpeningHelp = () => (
  <dl className="grid gap-2">
    {openingHelp.map((h) => (
      <div key={h.finding}>
        <dt className="font-semibold">{h.finding}</dt>
        <dd className="max-w-[70ch] text-ink-2">{h.judgement}</dd>
      </div>
    ))}
  </dl>
)
