'use client'
import { within } from '@fresh-coat/core/edge/within'
import type { Condition } from '@fresh-coat/core/unit/condition'
import { createContext, type ReactNode, useContext, useEffect, useState } from 'react'
import { Key, Tag } from '@/components/paint/paint'
import { Explained } from './terms'

/** The card at the right of a step: one question in large words, its answers with their digits, and what counts. */

export interface Answer {
  label: ReactNode
  /** What it looks like. */
  picture?: ReactNode
  /** What it would mean, in small. */
  hint?: ReactNode
  pick: () => void
  chosen?: boolean
  /** It would make things worse or stop them. */
  grave?: boolean
  disabled?: boolean
  /** Others may be chosen too: the question stays. */
  keeps?: boolean
}

/** Answers as large targets, each with its digit. */
export function Answers({
  answers,
  from = 1,
  columns = false,
}: {
  answers: readonly Answer[]
  from?: number
  /** Two beside each other, also where they are few. */
  columns?: boolean
}) {
  return (
    <ul className={`grid gap-2 ${columns || answers.length > 7 ? 'grid-cols-2' : ''}`}>
      {answers.map((a, i) => {
        const digit = from + i
        const key = digit > 10 ? null : String(digit % 10)
        return (
          <li key={`${digit} ${String(a.label)}`}>
            <button
              type="button"
              {...(key ? { 'data-key': key } : {})}
              aria-pressed={a.chosen ?? false}
              disabled={a.disabled ?? false}
              className={`flex min-h-[2.8rem] w-full items-center gap-3.5 rounded-[10px] border px-3 py-1.5 text-left text-[1.02rem] font-semibold disabled:opacity-55 ${a.grave ? 'border-oxide' : 'border-ink'} ${a.chosen ? 'bg-ok-soft' : 'bg-sheet hover:bg-ok-soft'}`}
              onClick={a.pick}
            >
              {key && (
                <kbd className="pin min-w-[1.9rem] rounded-[5px] border border-rule px-1.5 py-0.5 text-center">
                  {key}
                </kbd>
              )}
              {a.picture}
              <span className="min-w-0 flex-1">{a.label}</span>
              {a.hint && <span className="max-w-[50%] text-[0.87rem] font-normal text-ink-2">{a.hint}</span>}
            </button>
          </li>
        )
      })}
    </ul>
  )
}

/** What counts for this step: a few facts under the answers. */
export function Counts({ title = 'It counts', children }: { title?: string; children: ReactNode }) {
  return (
    <section className="grid gap-1">
      <h3 className="text-[1rem]">{title}</h3>
      <dl>{children}</dl>
    </section>
  )
}

export function Count({ name, children, note }: { name: string; children: ReactNode; note?: ReactNode }) {
  return (
    <div className="grid grid-cols-[5.8rem_1fr] gap-x-3 border-b border-rule-2 py-1.5">
      <dt className="text-ink-2">{name}</dt>
      <dd className="min-w-0 break-words">
        {children}
        {note && <div className="text-[0.87rem] text-ink-3">{note}</div>}
      </dd>
    </div>
  )
}

/** The one next thing, large. */
export function Card({
  lead,
  ask,
  how,
  answers,
  columns = false,
  children,
}: {
  /** Above the question, small: where one stands. */
  lead?: ReactNode
  ask: ReactNode
  how?: ReactNode
  answers?: readonly Answer[]
  columns?: boolean
  children?: ReactNode
}) {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] content-start gap-3">
      <div aria-live="polite" className="grid gap-1">
        {lead && <p className="text-[0.93rem] text-ink-2">{lead}</p>}
        <h2 className="font-title text-[1.65rem] leading-[1.15] font-semibold text-balance">{ask}</h2>
        {how && (
          <div className="max-w-[46ch] leading-snug text-ink">
            <Explained>{how}</Explained>
          </div>
        )}
      </div>
      {answers && answers.length > 0 && <Answers answers={answers} columns={columns} />}
      {children}
    </div>
  )
}

/** True where what was said stands in a list already: what holds is then not said twice. */
const SaidAlready = createContext(false)

/** What holds and what is missing before a step is done, as the card of a step with nothing more to ask. */
export function Standing({
  conditions,
  lead,
  children,
}: {
  conditions: readonly Condition[]
  lead?: ReactNode
  children?: ReactNode
}) {
  const open = conditions.find((c) => !c.met)
  const said = useContext(SaidAlready)
  return (
    <Card
      {...(lead ? { lead } : {})}
      ask={open ? open.text : 'Everything for this step is there.'}
      {...(open ? { how: open.next } : {})}
    >
      <ul className="grid gap-1.5" aria-label="Done when">
        {conditions
          .filter((c) => c !== open && !(said && c.met))
          .map((c) => (
            <li key={c.text} className="flex gap-2.5">
              <Tag severity={c.met ? 'ok' : 'watch'}>{c.met ? 'ok' : 'open'}</Tag>
              <span>{c.text}</span>
            </li>
          ))}
      </ul>
      {children}
    </Card>
  )
}

/** One thing that can be asked of a person. */
export interface Ask {
  id: string
  /** In the list of what was said: "Route". */
  name: string
  ask: string
  lead?: ReactNode
  how?: ReactNode
  /** What was said, in words; null while nobody has. */
  said: ReactNode | null
  answers?: readonly Answer[]
  /** Fields, where an answer is typed. */
  field?: ReactNode
  /** Not asked by itself: only from the list. */
  optional?: boolean
}

const isOpen = (ask: Ask) => ask.said === null && !ask.optional

/** More than this many are said in running text, so that the card stays on one screen. */
const mostRows = 5

/** What was said, each of which can be said anew. */
function Said({
  asks,
  again,
  brief,
}: {
  asks: readonly Ask[]
  again: (id: string) => void
  /** There is little room: in running text. */
  brief: boolean
}) {
  if (brief || asks.length > mostRows)
    return (
      <ul className="flex flex-wrap gap-x-3 gap-y-1 text-[0.93rem]" aria-label="Said so far">
        {asks.map((a) => (
          <li key={a.id} className="min-w-0">
            <button type="button" className="max-w-full text-left hover:bg-sheet" onClick={() => again(a.id)}>
              <span className="text-ink-2">{a.name}: </span>
              <span className="underline decoration-rule underline-offset-4">{a.said}</span>
            </button>
          </li>
        ))}
      </ul>
    )
  return (
    <ul className="grid" aria-label="Said so far">
      {asks.map((a) => (
        <li key={a.id} className="border-b border-rule-2">
          <button
            type="button"
            className="grid w-full grid-cols-[6.4rem_1fr] gap-x-3 py-1.5 text-left hover:bg-sheet"
            onClick={() => again(a.id)}
          >
            <span className="text-ink-2">{a.name}</span>
            <span className="min-w-0 break-words underline decoration-rule underline-offset-4">{a.said}</span>
          </button>
        </li>
      ))}
    </ul>
  )
}

/**
 * Questions one at a time: the first that nobody answered, and below it what was said, each of which can be said anew.
 * A question with a field stays until Enter, or "Next": what is being typed must not jump away.
 */
export function Questions({
  asks,
  rest,
  at,
  onAt,
  children,
}: {
  asks: readonly Ask[]
  /** When nothing is left to ask. */
  rest: ReactNode
  /** The question a drawing asks for, and what hears that another one is asked. */
  at?: string | null
  onAt?: (id: string | null) => void
  children?: ReactNode
}) {
  const [own, setOwn] = useState<string | null>(null)
  const pinned = at === undefined ? own : at
  const setPinned = onAt ?? setOwn
  /** Questions that were passed over with nothing said: they come again when nothing else is open. */
  const [passed, setPassed] = useState<readonly string[]>([])
  const open = asks.filter(isOpen)
  const now = asks.find((a) => a.id === pinned) ?? open.find((a) => !passed.includes(a.id)) ?? open[0] ?? null
  const stays = now?.field !== undefined ? now.id : null
  useEffect(() => {
    if (pinned === null && stays !== null) setPinned(stays)
  }, [pinned, stays, setPinned])
  const go = (answer: Answer): Answer => ({
    ...answer,
    pick: () => {
      answer.pick()
      // A field of the same question is filled in next.
      if (answer.keeps && now) setPinned(now.id)
      else if (now?.field === undefined) setPinned(null)
    },
  })
  const said = asks.filter((a) => a !== now && a.said !== null)
  const unsaid = asks.filter((a) => a !== now && a.said === null && a.optional && a.ask !== '')
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] content-start gap-3.5">
      {now ? (
        <Card
          ask={now.ask}
          {...(now.lead ? { lead: now.lead } : {})}
          {...(now.how ? { how: now.how } : {})}
          {...(now.answers ? { answers: now.answers.map(go) } : {})}
        >
          {now.field !== undefined && (
            <form
              className="grid gap-3"
              onSubmit={(e) => {
                e.preventDefault()
                if (isOpen(now)) setPassed([...passed, now.id])
                setPinned(null)
              }}
            >
              {now.field}
              <button
                type="submit"
                data-key="Enter"
                className="min-h-[2.6rem] justify-self-start rounded-[9px] border border-ink bg-sheet px-4 font-semibold"
              >
                Next<Key>Enter</Key>
              </button>
            </form>
          )}
        </Card>
      ) : (
        <SaidAlready value={said.length > 0}>{rest}</SaidAlready>
      )}
      {said.length > 0 && <Said asks={said} again={setPinned} brief={(now?.answers?.length ?? 0) > 4} />}
      {unsaid.length > 0 && (
        <p className="flex flex-wrap gap-x-3 gap-y-1 text-[0.93rem] text-ink-2">
          Also:
          {unsaid.map((a) => (
            <button key={a.id} type="button" className="underline underline-offset-4" onClick={() => setPinned(a.id)}>
              {within(a.name)}
            </button>
          ))}
        </p>
      )}
      {children}
    </div>
  )
}
