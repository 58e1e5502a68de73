'use client'
import { factsOf, type KnownFamily } from '@fresh-coat/core/families/families'
import { type MergeChoice, mergeChoices, mergeTemplates } from '@fresh-coat/core/pins/merge'
import { isIdle, type PinTemplate } from '@fresh-coat/core/pins/template'
import { naturalOrder } from '@fresh-coat/core/pins/words'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { type DrawnPin, ModuleDrawing } from '@/components/drawings/module-drawing'
import { Tick } from '@/components/forms/fields'
import { buttonClass, Tag } from '@/components/paint/paint'
import { ask } from '@/components/send'
import type { Editing } from './editing'
import { fnWords } from './words'

interface BoardTemplate {
  id: string
  name: string
  template: PinTemplate
}

const fieldWords = { active: 'active', pull: 'pull', start: 'at the start' } as const
const what = (c: Pick<MergeChoice, 'fn' | 'ch'>) => `${fnWords[c.fn]}${c.ch ? `, channel ${c.ch}` : ''}`
function choiceWords(c: MergeChoice): string {
  const fields = c.fields.map((f) => `${fieldWords[f.field]} ${f.theirs}, here ${f.ours}`).join('; ')
  switch (c.kind) {
    case 'moved':
      return `${what(c)}: on ${c.theirs} there, on ${c.ours} here${fields ? `; ${fields}` : ''}`
    case 'new':
      return `${c.theirs}: ${what(c)} there, not here`
    case 'gone':
      return `${c.ours}: ${what(c)} here, not there`
    default:
      return `${c.theirs}, ${what(c)}: ${fields}`
  }
}
const takeWords: Record<MergeChoice['kind'], string> = {
  moved: 'Move it',
  new: 'Add it',
  gone: 'Take it off',
  differs: 'Take theirs',
}

/** Pins of a template as the module shows them; where the two differ stands out. */
function drawnOf(template: PinTemplate, family: KnownFamily, apart: ReadonlySet<string>): DrawnPin[] {
  return Object.keys(factsOf(family).pins)
    .sort(naturalOrder)
    .map((pin) => {
      const p = template.pins.find((x) => x.pin === pin)
      const does = p && !isIdle(p.fn) ? what({ fn: p.fn, ch: p.ch ?? null }) : ''
      return { pin, does, sure: does ? 'assumed' : '', wrong: apart.has(pin), closed: false }
    })
}

function SideBySide({
  ours,
  theirs,
  name,
  family,
  taken,
}: {
  ours: PinTemplate
  theirs: PinTemplate
  name: string
  family: KnownFamily
  taken: readonly MergeChoice[]
}) {
  const choices = mergeChoices(ours, theirs)
  const here = new Set(choices.flatMap((c) => c.ours ?? []))
  const there = new Set(choices.flatMap((c) => c.theirs ?? []))
  return (
    <div className="grid grid-cols-2 gap-5">
      <figure className="grid gap-2">
        <figcaption className="font-semibold">This unit{taken.length > 0 ? ', with what you take' : ''}</figcaption>
        <ModuleDrawing
          pins={drawnOf(mergeTemplates(ours, theirs, taken).template, family, here)}
          chip={family}
          chosen={null}
          bare
        />
      </figure>
      <figure className="grid gap-2">
        <figcaption className="font-semibold">{name}</figcaption>
        <ModuleDrawing pins={drawnOf(theirs, family, there)} chip={family} chosen={null} bare />
      </figure>
    </div>
  )
}

function Merge({
  ours,
  other,
  family,
  edit,
}: {
  ours: PinTemplate
  other: BoardTemplate
  family: KnownFamily
  edit: Editing
}) {
  const [ids, setIds] = useState<ReadonlySet<string>>(new Set())
  const choices = mergeChoices(ours, other.template)
  if (choices.length === 0)
    return (
      <p className="flex gap-2.5">
        <Tag severity="ok" /> The pins of {other.name} are the same.
      </p>
    )
  const taken = choices.filter((c) => ids.has(c.id))
  const { template, displaced } = mergeTemplates(ours, other.template, taken)
  const toggle = (id: string, on: boolean) => setIds(new Set(on ? [...ids, id] : [...ids].filter((x) => x !== id)))
  return (
    <>
      <SideBySide ours={ours} theirs={other.template} name={other.name} family={family} taken={taken} />
      <ul className="grid gap-1" aria-label="Where they differ">
        {choices.map((c) => (
          <li
            key={c.id}
            className="grid grid-cols-[8.5rem_minmax(0,1fr)] items-center gap-3 border-b border-rule-2 py-1"
          >
            <Tick label={takeWords[c.kind]} checked={ids.has(c.id)} onChange={(on) => toggle(c.id, on)} />
            <span>{choiceWords(c)}</span>
          </li>
        ))}
      </ul>
      {displaced.map((p) => (
        <p key={p.pin} className="flex gap-2.5">
          <Tag severity="watch" /> {what({ fn: p.fn, ch: p.ch ?? null })} gives way at {p.pin}: nothing says where it
          is.
        </p>
      ))}
      <p className="text-ink-2">What you take starts as assumed: what was seen there was seen on another board.</p>
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className={buttonClass('main')}
          disabled={taken.length === 0}
          onClick={() => {
            edit.replace(template)
            setIds(new Set())
          }}
        >
          {taken.length === 0 ? 'Choose what to take' : `Take ${taken.length === 1 ? 'it' : `these ${taken.length}`}`}
        </button>
        <button
          type="button"
          className={buttonClass('quiet')}
          onClick={() => setIds(new Set(choices.map((c) => c.id)))}
        >
          Choose all
        </button>
      </div>
    </>
  )
}

/** Another board's or revision's pins beside this one's, brought together difference by difference. */
export function MergePins({
  boardId,
  family,
  template,
  edit,
}: {
  boardId: string | null
  family: KnownFamily
  template: PinTemplate | null
  edit: Editing
}) {
  const [otherId, setOtherId] = useState<string | null>(null)
  const { data, error, isPending } = useQuery({
    queryKey: ['board-templates', family],
    queryFn: () => ask<BoardTemplate[]>(`/api/boards/templates?family=${family}`),
    retry: 1,
  })
  if (isPending) return <p className="text-ink-2">Looking for boards of {family}…</p>
  if (error) return <p className="text-oxide">{error.message}</p>
  const own = data.find((b) => b.id === boardId)
  const boards = [
    ...data.filter((b) => b.id !== boardId),
    ...(own ? [{ ...own, name: `${own.name}, as it was kept last` }] : []),
  ]
  if (boards.length === 0) return <p>No other board of {family} has its pins recorded.</p>
  const other = boards.find((b) => b.id === otherId)
  return (
    <>
      <fieldset className="flex flex-wrap gap-2">
        <legend className="sr-only">Beside which board?</legend>
        {boards.map((b) => (
          <button
            key={b.id}
            type="button"
            aria-pressed={b.id === otherId}
            className={`min-h-[2.4rem] rounded-[8px] border px-3 ${b.id === otherId ? 'border-ink bg-ink text-sheet' : 'border-ink-3 bg-sheet'}`}
            onClick={() => setOtherId(b.id)}
          >
            {b.name}
          </button>
        ))}
      </fieldset>
      {other && <Merge key={other.id} ours={template ?? edit.empty} other={other} family={family} edit={edit} />}
    </>
  )
}
