import { hazardList, hazardsOf } from '@fresh-coat/core/open/hazards'
import type { UnitView } from '@fresh-coat/core/unit/view'

/** What can hurt in this unit, in words and at its place on the photo where somebody marked it; what nobody looked for is said so. */
export function HazardPhoto({ view, wordsOnly = false }: { view: UnitView; wordsOnly?: boolean }) {
  if (view.board?.mains === false) return null
  const hazards = hazardsOf(view)
  const marks = view.records.open.data.marks.filter((m) => m.kind === 'hazard')
  const photo = wordsOnly ? undefined : view.files.find((f) => f.kind === 'photo' && f.id === marks[0]?.fileId)
  const words =
    hazards === null
      ? 'Nobody has looked yet for what in it can hurt.'
      : hazards.length > 0
        ? `In it: ${hazardList(hazards)}.`
        : 'Nothing else that can hurt was seen in it.'
  return (
    <figure className="grid gap-2">
      {photo && (
        // An upright photo of a telephone is no taller than a wide one: the confirmation stands under it.
        <div className="relative w-fit max-w-full justify-self-center overflow-hidden rounded-[8px] border border-ink">
          {/* biome-ignore lint/performance/noImgElement: served from our own store, shown as it is */}
          <img
            src={`/api/files/${photo.id}?view`}
            alt={`Where it is: ${words}`}
            className="block max-h-56 max-w-full"
          />
          {marks
            .filter((m) => m.fileId === photo.id)
            .map((m) => (
              <span
                key={m.id}
                title={m.label}
                className="stripes absolute h-7 w-7 -translate-x-1/2 -translate-y-1/2 rounded-[6px] border-[3px] border-ink"
                style={{ left: `${m.x * 100}%`, top: `${m.y * 100}%` }}
              />
            ))}
        </div>
      )}
      <figcaption>{words}</figcaption>
    </figure>
  )
}
