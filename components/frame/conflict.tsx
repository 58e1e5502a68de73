import { buttonClass } from '@/components/paint/paint'

const anchor = 'two-versions'

/** Brings the choice into view, wherever on the page a person is: nothing goes on until it is made. */
export const goToConflict = (): void => document.getElementById(anchor)?.focus()

const show = (x: unknown) => (typeof x === 'string' ? x : JSON.stringify(x))

/** Both versions of a record on screen, field by field, until a person chooses. */
export function Conflict({
  mine,
  theirs,
  fields,
  keepMine,
  takeOther,
}: {
  mine: Record<string, unknown>
  theirs: Record<string, unknown>
  fields: readonly string[]
  keepMine: () => void
  takeOther: () => void
}) {
  return (
    <section
      id={anchor}
      tabIndex={-1}
      role="alert"
      className="scroll-mt-4 rounded-[10px] border border-ochre-line bg-ochre-soft p-4"
    >
      <h2 className="text-[1.05rem]">Two versions of this step</h2>
      <p>
        Somebody saved it in the meantime, perhaps you in another tab. Both are kept until you choose; what only one of
        you changed is in both.
      </p>
      <div className="my-3 overflow-x-auto">
        <table className="plain">
          <thead>
            <tr>
              <th>Field</th>
              <th>Here</th>
              <th>Saved meanwhile</th>
            </tr>
          </thead>
          <tbody>
            {fields.map((field) => (
              <tr key={field}>
                <td>{field}</td>
                <td className="pin max-w-[20rem] break-words">{show(mine[field])}</td>
                <td className="pin max-w-[20rem] break-words">{show(theirs[field])}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="flex flex-wrap gap-2">
        <button type="button" className={buttonClass('main')} onClick={keepMine}>
          Keep what is here
        </button>
        <button type="button" className={buttonClass('plain')} onClick={takeOther}>
          Take the saved one
        </button>
      </div>
    </section>
  )
}
