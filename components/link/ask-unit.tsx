import { type ConsoleWords, type Question, questionWords, wantedBy } from '@fresh-coat/core/link/questions'
import { useState } from 'react'
import { TextField } from '@/components/forms/fields'
import { buttonClass, Tag } from '@/components/paint/paint'
import { desk } from './desk'
import type { Answered } from './desk-listen'
import type { DeskView } from './desk-store'

/** What its firmware can be asked, as its profile says: one press each, and the answer judged. */

/** What is for finding out which pin does what, at Pins. */
const atPins = new Set(['level', 'drive', 'rest'])

const numbersOf = (text: string): Record<string, number> | null =>
  /^[0-9]{1,3}$/.test(text) ? { n: Number(text) } : null

export function AskUnit({
  view,
  words,
  release,
  answered,
}: {
  view: DeskView
  words: ConsoleWords
  release: string | null
  answered: (question: Question, answer: Answered) => void
}) {
  const [no, setNo] = useState('')
  const [last, setLast] = useState<Answered | null>(null)
  const offered = words.questions.filter((q) => !atPins.has(q.what))
  const numbered = offered.some((q) => wantedBy(q).length > 0)
  const ask = async (question: Question) => {
    const vars = wantedBy(question).length > 0 ? numbersOf(no) : {}
    if (!vars) return
    const answer = await desk.ask({ question, vars, ends: words.ends, release }).catch(() => null)
    if (!answer) return
    setLast(answer)
    answered(question, answer)
  }
  return (
    <div className="grid gap-3">
      <fieldset className="grid gap-2">
        <legend className="mb-1 text-[0.9rem] font-semibold text-ink-2">Ask it</legend>
        {numbered && (
          <TextField
            className="max-w-[11rem]"
            label="Number of the relay"
            mono
            value={no}
            maxLength={3}
            onChange={setNo}
          />
        )}
        <div className="flex flex-wrap gap-2">
          {offered.map((q) => (
            <button
              key={q.what}
              type="button"
              className={buttonClass('plain')}
              disabled={view.asking !== null || (wantedBy(q).length > 0 && numbersOf(no) === null)}
              onClick={() => void ask(q)}
            >
              {questionWords[q.what]}
            </button>
          ))}
        </div>
      </fieldset>
      <p role="status" className="min-h-6">
        {view.asking ? (
          'Asked…'
        ) : last ? (
          <>
            <Tag severity={last.severity}>{last.severity === 'ok' ? 'it says' : 'look'}</Tag> {last.words}
          </>
        ) : null}
      </p>
    </div>
  )
}
