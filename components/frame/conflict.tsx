import { fieldInWords, valueInWords } from '@fresh-coat/core/unit/in-words'
import { useState } from 'react'
import { buttonClass } from '@/components/paint/paint'

const anchor = 'two-versions'

/** Brings the choice into view, wherever on the page a person is: nothing goes on until it is made. */
export const goToConflict = (): void => document.getElementById(anchor)?.focus()

interface Props {
  mine: Record<string, unknown>
  theirs: Record<string, unknown>
  fields: readonly string[]
  /** The fields that are taken from the version saved meanwhile; the others stay as they are here. */
  choose: (taken: readonly string[]) => void
}

/** One field, with both of its values as answers. */
function Field({
  field,
  mine,
  theirs,
  taken,
  take,
}: {
  field: string
  mine: string
  theirs: string
  taken: boolean
  take: (theirs: boolean) => void
}) {
  const side = (label: string, value: string, on: boolean, pick: () => void) => (
    <label
      className={`block cursor-pointer rounded-[8px] border-2 px-2.5 py-1 has-focus-visible:outline-3 has-focus-visible:outline-ochre-line ${on ? 'border-ink bg-sheet' : 'border-rule'}`}
    >
      <input type="radio" name={`two-versions ${field}`} className="sr-only" checked={on} onChange={pick} />
      <span className="block text-[0.87rem] text-ink-2">{label}</span>
      <span className="break-words">{value}</span>
    </label>
  )
  return (
    <fieldset className="grid gap-1.5 sm:grid-cols-2">
      <legend className="mb-1 font-semibold">{fieldInWords(field)}</legend>
      {side('here', mine, !taken, () => take(false))}
      {side('saved meanwhile', theirs, taken, () => take(true))}
    </fieldset>
  )
}

/** Both versions of a record on screen, in words, until a person has chosen field by field. */
export function Conflict({ mine, theirs, fields, choose }: Props) {
  const [taken, setTaken] = useState<readonly string[]>([])
  return (
    <section
      id={anchor}
      tabIndex={-1}
      role="alert"
      className="grid scroll-mt-4 gap-3 rounded-[10px] border border-ochre-line bg-ochre-soft p-4"
    >
      <div>
        <h2 className="text-[1.05rem]">Two versions of this step</h2>
        <p>
          Somebody saved it in the meantime, perhaps you in another tab. Both are kept until you choose; what only one
          of you changed is in both.
        </p>
      </div>
      {fields.map((field) => (
        <Field
          key={field}
          field={field}
          mine={valueInWords(mine[field])}
          theirs={valueInWords(theirs[field])}
          taken={taken.includes(field)}
          take={(on) => setTaken(on ? [...taken, field] : taken.filter((f) => f !== field))}
        />
      ))}
      <div className="flex flex-wrap gap-2">
        <button type="button" className={buttonClass('main')} onClick={() => choose(taken)}>
          {taken.length === 0 ? 'Keep what is here' : 'Keep what I chose'}
        </button>
        <button type="button" className={buttonClass('plain')} onClick={() => choose(fields)}>
          Take the saved one
        </button>
      </div>
    </section>
  )
}
