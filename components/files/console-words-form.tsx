import {
  ConsoleWords,
  type Question,
  type QuestionKind,
  questionFindings,
  questionKinds,
  questionWords,
} from '@fresh-coat/core/link/questions'
import { readPattern } from '@fresh-coat/core/topics/pattern'
import { useState } from 'react'
import { AreaField, Choice, NumberField, TextField } from '@/components/forms/fields'
import { buttonClass, FindingRow } from '@/components/paint/paint'

/** What a firmware can be asked over its console: the line that is said, and the lines that answer it. */

const none: ConsoleWords = ConsoleWords.parse({})
const faultOf = (text: string): string | null => {
  const read = readPattern(text.trim())
  return typeof read === 'string' ? read : null
}
const linesOf = (text: string): string[] => text.split('\n').filter((l) => l.trim() !== '')

function QuestionFields({ question, onChange }: { question: Question; onChange: (q: Question | null) => void }) {
  // As it is typed: a line that was just begun is no answer yet, and stays.
  const [answers, setAnswers] = useState(question.answers.join('\n'))
  const faults = [faultOf(question.say), ...question.answers.map(faultOf)].filter((f) => f !== null)
  return (
    <li className="grid gap-2 border-t border-rule pt-3 sm:grid-cols-2">
      <TextField
        label={`${questionWords[question.what]} is said as`}
        mono
        value={question.say}
        maxLength={200}
        onChange={(say) => onChange({ ...question, say })}
        hint={faults.length > 0 && <span className="font-semibold text-oxide">{faults[0]}</span>}
      />
      <AreaField
        label="Lines that answer it"
        rows={2}
        value={answers}
        maxLength={1600}
        onChange={(text) => {
          setAnswers(text)
          onChange({ ...question, answers: linesOf(text).slice(0, 8) })
        }}
      />
      <button type="button" className="justify-self-start underline underline-offset-4" onClick={() => onChange(null)}>
        Take this one out
      </button>
    </li>
  )
}

export function ConsoleWordsForm({
  words,
  onChange,
}: {
  words: ConsoleWords | null
  onChange: (words: ConsoleWords | null) => void
}) {
  const now = words ?? none
  const set = (change: Partial<ConsoleWords>) => onChange({ ...now, ...change })
  const put = (what: QuestionKind, q: Question | null) =>
    set({ questions: now.questions.flatMap((old) => (old.what === what ? (q ? [q] : []) : [old])) })
  const left = questionKinds.filter((k) => now.questions.every((q) => q.what !== k))
  return (
    <details className="border-t border-rule pt-3">
      <summary className="font-semibold">
        What it can be asked over its console{' '}
        <span className="font-normal text-ink-2">
          {now.questions.length === 0 ? 'nothing yet' : `${now.questions.length} questions`}
        </span>
      </summary>
      <div className="mt-3 grid gap-3">
        <p className="max-w-[70ch] text-ink-2">
          Lines as this firmware has them. <span className="pin">{'{n:int}'}</span> is the number of a relay or pin,{' '}
          <span className="pin">{'{state}'}</span> what it answers, <span className="pin">{'{version}'}</span> its
          version.
        </p>
        <div className="grid gap-3 sm:grid-cols-3">
          <NumberField label="Rate" unit="baud" value={now.rate} onChange={(rate) => rate !== null && set({ rate })} />
          <Choice
            label="A line ends with"
            value={now.ends}
            options={[
              { value: 'crlf', label: 'CR LF' },
              { value: 'lf', label: 'LF' },
              { value: 'cr', label: 'CR' },
            ]}
            onChange={(ends) => ends && set({ ends })}
          />
          <TextField
            label="Line that names its access point"
            mono
            value={now.accessPoint[0] ?? ''}
            maxLength={200}
            placeholder="air of my own: {name}"
            onChange={(text) => set({ accessPoint: text.trim() === '' ? [] : [text] })}
          />
        </div>
        <ul className="grid gap-3">
          {now.questions.map((q) => (
            <QuestionFields key={q.what} question={q} onChange={(next) => put(q.what, next)} />
          ))}
        </ul>
        {left.length > 0 && (
          <fieldset className="flex flex-wrap gap-2">
            <legend className="mb-1 text-[0.9rem] font-semibold text-ink-2">Add a question</legend>
            {left.map((what) => (
              <button
                key={what}
                type="button"
                className={buttonClass('plain')}
                onClick={() =>
                  set({ questions: [...now.questions, { what, say: 'say', answers: [], withinMs: 3000 }] })
                }
              >
                {questionWords[what]}
              </button>
            ))}
          </fieldset>
        )}
        {questionFindings(now).map((f) => (
          <FindingRow key={f.message} finding={f} />
        ))}
      </div>
    </details>
  )
}
