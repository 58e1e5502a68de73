'use client'
import { foldAlike } from '@fresh-coat/core/edge/alike'
import type { Finding } from '@fresh-coat/core/edge/finding'
import { type ReactNode, useState } from 'react'
import { FindingRow } from '@/components/paint/paint'
import { Drawer } from './drawer'
import { useFrame } from './frame-context'
import { Explained } from './terms'

/** Something rare: one line that opens a drawer. */
export interface More {
  /** What it is, while its name says how much is in it: a drawer stays open when the name changes. */
  id?: string
  name: string
  /** Wide drawers hold tables. */
  wide?: boolean
  content: ReactNode
}

/** A line, or nothing where there is no use for it. */
export type SheetMore = More | false | null | undefined

export interface SheetProps {
  title: string
  /** What else can be said, as a sentence whose underlined words open. */
  say?: ReactNode
  drawing: ReactNode
  /** The same in words: a table or a list, one key away. */
  twin?: ReactNode
  /** Judged: the first two stand under the drawing, the others open. */
  findings?: readonly Finding[]
  /** When nothing was found, or beside the findings. */
  verdict?: ReactNode
  card: ReactNode
  more?: readonly SheetMore[]
}

const shownFindings = 2

/** A line that opens a drawer. */
function MoreLine({ item, className = '' }: { item: More; className?: string }) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <button
        type="button"
        className={`underline decoration-rule underline-offset-4 hover:decoration-ink ${className}`}
        onClick={() => setOpen(true)}
      >
        {item.name}
      </button>
      {open && (
        <Drawer title={item.name} wide={item.wide ?? false} open onOpenChange={setOpen}>
          {item.content}
        </Drawer>
      )}
    </>
  )
}

/** One or two findings, the worst first; the rest opens. */
function Verdict({ findings, verdict }: Pick<SheetProps, 'findings' | 'verdict'>) {
  const alike = foldAlike(findings ?? [])
  const rest = alike.slice(shownFindings)
  if (alike.length === 0 && !verdict) return null
  return (
    <div data-part="verdict" className="grid gap-2 empty:hidden" aria-live="polite">
      {verdict}
      {alike.length > 0 && (
        <ul className={`grid gap-x-8 gap-y-2 ${alike.length > 1 ? 'md:grid-cols-2' : ''}`} aria-label="Checks">
          {alike.slice(0, shownFindings).map((f, i) => (
            <FindingRow key={`${f.code}-${i}`} finding={f} />
          ))}
        </ul>
      )}
      {rest.length > 0 && (
        <MoreLine
          className="justify-self-start"
          item={{
            name: `${rest.length} more ${rest.length === 1 ? 'check' : 'checks'}`,
            content: (
              <ul className="grid gap-3">
                {alike.map((f, i) => (
                  <FindingRow key={`${f.code}-${i}`} finding={f} />
                ))}
              </ul>
            ),
          }}
        />
      )}
    </div>
  )
}

/** Title, sentence, and the drawing or the same in words. */
function Drawing({ title, say, drawing, twin }: Pick<SheetProps, 'title' | 'say' | 'drawing' | 'twin'>) {
  const [words, setWords] = useState(false)
  return (
    <>
      <div className="flex items-start justify-between gap-4">
        <div className="min-w-0">
          <h2 className="text-[1.35rem] leading-tight">{title}</h2>
          {say && (
            <p className="mt-1 max-w-[84ch] leading-[1.6] text-ink-2">
              <Explained>{say}</Explained>
            </p>
          )}
        </div>
        {twin && (
          <button
            type="button"
            data-key="v"
            aria-pressed={words}
            className="no-print shrink-0 rounded-[7px] border border-rule bg-sheet px-2 py-0.5 text-[0.87rem] whitespace-nowrap text-ink-2"
            onClick={() => setWords(!words)}
          >
            {words ? 'as a drawing' : 'in words'} <kbd className="pin">v</kbd>
          </button>
        )}
      </div>
      <div data-part="drawing" className="grid min-h-[240px] min-w-0 flex-1 grid-cols-[minmax(0,1fr)]">
        <div
          data-drawing
          className={`min-h-0 min-w-0 ${words ? 'overflow-auto pb-1' : 'flex flex-col justify-center max-lg:overflow-x-auto max-md:[&>svg]:min-w-[560px]'}`}
        >
          {words ? twin : drawing}
        </div>
      </div>
    </>
  )
}

/**
 * A step on one screen: the drawing at the left, judged below it; at the right the one next thing, or the gate in front of
 * it. What is rare opens.
 */
export function StepSheet({ title, say, drawing, twin, findings, verdict, card, more }: SheetProps) {
  const { gateLine, gateCard, notices } = useFrame()
  const lines = (more ?? []).filter((m): m is More => Boolean(m))
  return (
    <>
      <div
        data-part="sheet"
        className="flex min-w-0 flex-col gap-2.5 bg-sheet px-4 py-3.5 sm:px-[22px] max-lg:order-2 lg:min-h-0 lg:overflow-y-auto"
      >
        {notices}
        {gateLine}
        <Drawing title={title} say={say} drawing={drawing} twin={twin} />
        <Verdict {...(findings ? { findings } : {})} verdict={verdict} />
        {lines.length > 0 && (
          <p className="no-print flex flex-wrap gap-x-5 gap-y-1 text-[0.93rem] text-ink-2">
            {lines.map((item) => (
              <MoreLine key={item.id ?? item.name} item={item} />
            ))}
          </p>
        )}
      </div>
      <section
        data-part="card"
        aria-label="Next"
        tabIndex={-1}
        className="min-w-0 border-rule bg-sheet-2 px-5 py-4 outline-none max-lg:border-b lg:min-h-0 lg:overflow-y-auto lg:border-l"
      >
        {gateCard ?? card}
      </section>
    </>
  )
}
