'use client'
import { sizeWords } from '@fresh-coat/core/bytes/text'
import type { Marking } from '@fresh-coat/core/identify/markings'
import {
  kindName,
  mayTake,
  type Offer,
  offersOf,
  sureMarkings,
  takenAtOnce,
  valueWords,
} from '@fresh-coat/core/paste/offer'
import { longestPaste, type PasteReading, readPaste } from '@fresh-coat/core/paste/paste'
import { linesOf } from '@fresh-coat/core/paste/words'
import type { ToolWords as KeptWords, UnitView } from '@fresh-coat/core/unit/view'
import { type StepId, stepOf } from '@fresh-coat/core/unit/way'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useMemo, useRef, useState } from 'react'
import { ChooseFile } from '@/components/files/choose-file'
import { TextField } from '@/components/forms/fields'
import { buttonClass, Notice, shortMoment, Tag } from '@/components/paint/paint'
import type { Refusal } from '@/components/send'
import { Drawer } from './drawer'

/** What a tool printed, pasted at any step: its facts are marked, offered to the steps that want them, and kept. */

const outcomeWords: Record<NonNullable<PasteReading['outcome']>, string> = {
  verified: 'It ended well, and compared.',
  done: 'It ended well; nothing was compared.',
  port: 'The port could not be had: the chip was never reached.',
  'no-answer': 'The chip did not answer.',
  'bad-bytes': 'The bytes do not agree.',
  lost: 'The link was lost on the way.',
}

const draftKey = (unitId: string) => `fresh-coat:words:${unitId}`

/** The pasted text of a unit, which outlives a reload until it is kept. */
function useDraft(unitId: string, pasted: string | null) {
  const [text, setText] = useState(() => {
    if (pasted !== null) return pasted
    try {
      return localStorage.getItem(draftKey(unitId)) ?? ''
    } catch {
      return ''
    }
  })
  useEffect(() => {
    try {
      if (text === '') localStorage.removeItem(draftKey(unitId))
      else localStorage.setItem(draftKey(unitId), text)
    } catch {
      // It then lasts as long as the page.
    }
  }, [text, unitId])
  return [text, setText] as const
}

async function fetchMarkings(): Promise<Marking[]> {
  const response = await fetch('/api/markings')
  if (!response.ok) throw new Error('the markings did not come')
  return ((await response.json()) as { value: Marking[] }).value
}

const around = 1
const mostLines = 120

interface ShownLine {
  n: number
  text: string
  says: string[]
}

/** The lines that say something, each with its neighbours. */
function tellingLines(text: string, reading: PasteReading): ShownLine[] {
  const says = new Map<number, string[]>()
  const note = (line: number, what: string) => says.set(line, [...(says.get(line) ?? []), what])
  for (const fact of reading.facts) note(fact.line, `${kindName(fact.kind)} ${valueWords(fact)}`)
  if (reading.outcomeLine !== null) note(reading.outcomeLine, 'how it ended')
  const lines = linesOf(text)
  const wanted = new Set([...says.keys()].flatMap((n) => [n - around, n, n + around]))
  return [...wanted]
    .filter((n) => n >= 1 && n <= lines.length)
    .sort((a, b) => a - b)
    .slice(0, mostLines)
    .map((n) => ({ n, text: lines[n - 1] ?? '', says: says.get(n) ?? [] }))
}

function Marked({ text, reading }: { text: string; reading: PasteReading }) {
  const lines = tellingLines(text, reading)
  const all = linesOf(text).length
  if (lines.length === 0)
    return <p className="text-ink-2">{all} lines, and none of them says anything that a step could use.</p>
  return (
    <ol
      aria-label="Lines that say something"
      className="grid max-h-[38vh] overflow-auto rounded-[10px] border border-rule bg-sheet-2 py-2"
    >
      {lines.map((line, i) => (
        <li key={line.n} className="contents">
          {i > 0 && line.n > (lines[i - 1]?.n ?? 0) + 1 && <span className="px-3 text-ink-3">…</span>}
          <span
            className={`grid grid-cols-[2rem_minmax(0,1fr)] gap-x-3 px-3 sm:grid-cols-[3rem_minmax(0,1fr)_minmax(0,auto)] ${line.says.length ? 'bg-ok-soft' : ''}`}
          >
            <span className="pin text-right text-ink-3">{line.n}</span>
            <span className={`pin break-all whitespace-pre-wrap ${line.says.length ? 'font-semibold' : 'text-ink-3'}`}>
              {line.text.slice(0, 400)}
            </span>
            <span className="text-[0.93rem] text-verdigris max-sm:col-start-2 sm:text-right">
              {line.says.join(', ')}
            </span>
          </span>
        </li>
      ))}
    </ol>
  )
}

const stateWords = (offer: Offer): string => {
  if (offer.at === 'attempt') return 'goes into the attempt'
  const step = stepOf(offer.at).title
  if (offer.state === 'new') return offer.several ? `${step} lacks it; two stand here` : `${step} lacks it`
  if (offer.state === 'same') return `${step} has it`
  if (offer.state === 'differs') return `${step} has ${offer.has}`
  return `kept with the text`
}

const idOf = (offer: Pick<Offer, 'kind' | 'value'>) => `${offer.kind} ${offer.value}`

function OfferRow({ offer, taken, onTake }: { offer: Offer; taken: boolean; onTake: (taken: boolean) => void }) {
  return (
    <li className="grid grid-cols-[1.6rem_7rem_minmax(0,1fr)] items-baseline gap-x-3 border-b border-rule-2 py-1.5 sm:grid-cols-[1.6rem_8rem_minmax(0,1fr)_auto]">
      {mayTake(offer) ? (
        <input
          type="checkbox"
          className="size-5 self-center accent-(--verdigris)"
          checked={taken}
          aria-label={`Take ${kindName(offer.kind)} ${valueWords(offer)}`}
          onChange={(e) => onTake(e.target.checked)}
        />
      ) : (
        <span />
      )}
      <span className="text-ink-2">{kindName(offer.kind)}</span>
      <span className="pin min-w-0 font-semibold break-all">{valueWords(offer)}</span>
      <span className={`max-sm:col-start-3 ${offer.state === 'differs' ? 'text-oxide' : 'text-ink-2'}`}>
        {stateWords(offer)}
      </span>
    </li>
  )
}

/** Earlier words of this unit, so that nobody pastes them twice. */
function Earlier({ words }: { words: readonly KeptWords[] }) {
  if (words.length === 0) return null
  return (
    <section className="grid gap-1">
      <h3 className="text-[1rem]">Kept before</h3>
      <ul className="grid gap-1">
        {words.map((w) => (
          <li key={w.id} className="flex flex-wrap gap-x-3">
            <a className="underline underline-offset-4" href={`/api/words/${w.id}`} target="_blank" rel="noreferrer">
              {shortMoment(w.at)}, {stepOf(w.step).title}
            </a>
            <span className="text-ink-2">
              {[w.tool, w.system, w.outcome && outcomeWords[w.outcome]].filter(Boolean).join(', ')}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Source({ text, onText, fault }: { text: string; onText: (text: string) => void; fault: string }) {
  const area = useRef<HTMLTextAreaElement>(null)
  useEffect(() => area.current?.focus(), [])
  return (
    <div className="grid gap-2">
      <label className="grid gap-1">
        <span className="font-semibold">What it printed, as it came</span>
        <textarea
          ref={area}
          className="field pin resize-y"
          rows={10}
          spellCheck={false}
          value={text}
          onChange={(e) => onText(e.target.value)}
        />
      </label>
      <div className="flex flex-wrap items-center gap-3">
        <ChooseFile
          accept=".txt,.log,text/plain"
          onFiles={async ([file]) => file && onText(await file.slice(0, 2 * longestPaste).text())}
        >
          Or a file it was saved in
        </ChooseFile>
      </div>
      {fault && (
        <p role="alert" className="font-semibold text-oxide">
          {fault}
        </p>
      )}
    </div>
  )
}

export function ToolWords({
  view,
  step,
  pasted,
  act,
  refusal,
  onOpenChange,
}: {
  view: UnitView
  step: StepId
  /** What was pasted on the page; null where it was opened by hand. */
  pasted: string | null
  act: (command: string, input: Record<string, unknown>) => Promise<boolean>
  /** Why the last command was refused: the page that says so lies behind this. */
  refusal: Refusal | null
  onOpenChange: (open: boolean) => void
}) {
  const [text, setText] = useDraft(view.id, pasted)
  const last = view.words[0]
  const [tool, setTool] = useState(last?.tool ?? '')
  const [system, setSystem] = useState(last?.system ?? '')
  /** Ticked and unticked by hand; the rest is as it is offered. */
  const [byHand, setByHand] = useState<{ [id: string]: boolean }>({})
  const { data: markings } = useQuery({ queryKey: ['markings'], queryFn: fetchMarkings, staleTime: 60_000 })
  const read = useMemo(
    () => (text.trim() === '' ? null : readPaste({ text, markings: sureMarkings(markings ?? [], view.number) })),
    [text, markings, view.number],
  )
  const reading = read?.ok ? read.value : null
  const offers = useMemo(() => (reading ? offersOf(view, reading) : []), [reading, view])
  const isTaken = (offer: Offer) => byHand[idOf(offer)] ?? takenAtOnce(offer)
  const take = offers.filter((o) => mayTake(o) && isTaken(o)).map(({ kind, value }) => ({ kind, value }))
  const keep = async () => {
    if (!(await act('keep-words', { unitId: view.id, step, text, tool, system, take }))) return
    setText('')
    onOpenChange(false)
  }
  return (
    <Drawer title="A tool’s words" open onOpenChange={onOpenChange} wide>
      {!reading && (
        <>
          <p className="max-w-[64ch] text-ink-2">
            Paste what any tool printed. What it says is marked, and goes to the step that wants it; nothing is guessed.
          </p>
          <Source
            text={text}
            onText={setText}
            fault={
              read && !read.ok
                ? `${read.faults[0]?.message ?? 'It cannot be read.'} The most is ${sizeWords(longestPaste)}; paste the part around its end.`
                : ''
            }
          />
        </>
      )}
      {reading && <Marked text={text} reading={reading} />}
      {reading && (
        <button type="button" className={`${buttonClass('quiet')} justify-self-start`} onClick={() => setText('')}>
          Another text
        </button>
      )}
      {reading && offers.length > 0 && (
        <ul aria-label="Facts found">
          {offers.slice(0, 24).map((offer) => (
            <OfferRow
              key={`${idOf(offer)} ${offer.line}`}
              offer={offer}
              taken={isTaken(offer)}
              onTake={(taken) => setByHand({ ...byHand, [idOf(offer)]: taken })}
            />
          ))}
        </ul>
      )}
      {reading?.conflict && (
        <p className="flex gap-2.5">
          <Tag severity="error" /> Two markings of different families stand in it: look which chip it was.
        </p>
      )}
      {reading?.outcome && (
        <p className="flex gap-2.5">
          <Tag severity={['verified', 'done'].includes(reading.outcome) ? 'ok' : 'watch'}>ended</Tag>
          {outcomeWords[reading.outcome]} The next attempt that you log is filled in with it.
        </p>
      )}
      {reading && (
        <>
          <div className="grid gap-3 sm:grid-cols-2">
            <TextField label="The tool, as you call it" value={tool} maxLength={80} onChange={setTool} />
            <TextField label="It ran on" value={system} maxLength={80} onChange={setSystem} />
          </div>
          <button type="button" className={`${buttonClass('main')} justify-self-start`} onClick={() => void keep()}>
            {take.length === 0
              ? 'Keep it'
              : `Keep it, and take ${take.length === 1 ? 'one fact' : `${take.length} facts`}`}
          </button>
        </>
      )}
      {refusal && (
        <Notice severity="error" title={refusal.message}>
          {refusal.kept} {refusal.next}
        </Notice>
      )}
      <Earlier words={view.words} />
    </Drawer>
  )
}
