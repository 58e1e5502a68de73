import notes from '@fresh-coat/core/steps/handwork.json'

export type Handwork = keyof typeof notes

/** What careful hands do at a piece of work, in their order; a drawer of the step that needs it. */
export const handwork = (what: Handwork) => ({
  id: `handwork-${what}`,
  name: notes[what].title,
  content: (
    <ol className="grid list-decimal gap-2 pl-6">
      {notes[what].lines.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ol>
  ),
})
