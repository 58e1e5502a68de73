import type { Pace } from '@fresh-coat/core/fleet/bench-time'
import { itemSentence } from '@fresh-coat/core/open/opening'
import type { PhotoMark } from '@fresh-coat/core/steps/open/record'
import { troubleSentence, troubleShares } from '@fresh-coat/core/trouble/statistics'
import { causeRemedy, causeSays } from '@fresh-coat/core/trouble/troubleshoot'
import type { BoardKnowledge, UnitFile } from '@fresh-coat/core/unit/view'
import type { ReactNode } from 'react'
import { PaceBars } from '@/components/drawings/pace-bars'
import { MarkedPhoto } from '@/components/drawings/photo-marks'
import Link from '@/components/link'
import { CaseNumber, twoDigits } from '@/components/paint/paint'

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="sheet grid min-w-0 content-start gap-2.5 p-4">
      <h2 className="text-[1.1rem]">{title}</h2>
      {children}
    </section>
  )
}

function Photos({ photos, marks }: { photos: readonly UnitFile[]; marks: readonly PhotoMark[] }) {
  const marked = photos.filter((p) => marks.some((m) => m.fileId === p.id)).slice(0, 2)
  const plain = photos.filter((p) => !marks.some((m) => m.fileId === p.id)).slice(0, 12)
  return (
    <>
      {marked.map((p) => (
        <MarkedPhoto key={p.id} photo={p} marks={[...marks]} />
      ))}
      {plain.length > 0 && (
        <ul className="flex flex-wrap gap-3">
          {plain.map((p) => (
            <li key={p.id}>
              {/* biome-ignore lint/performance/noImgElement: served from our own store, shown as it is */}
              <img
                src={`/api/files/${p.id}?view`}
                alt={(p.tag ?? p.name).replaceAll('_', ' ')}
                className="h-28 w-40 rounded-[8px] border border-rule object-cover"
              />
            </li>
          ))}
        </ul>
      )}
    </>
  )
}

/** How it opens, in order, with its terminals, parts and photos. */
export function HowItOpens({
  b,
  photos,
  marks,
}: {
  b: BoardKnowledge
  photos: readonly UnitFile[]
  marks: readonly PhotoMark[]
}) {
  const items = b.fasteners ?? []
  return (
    <Section title="How it opens">
      {items.length === 0 && <p className="text-ink-2">No opening record yet.</p>}
      <ol className="grid">
        {items.map((f, i) => (
          <li key={f.id} className="grid grid-cols-[1.8rem_1fr] border-b border-rule-2 py-1">
            <span className="font-title font-bold">{i + 1}</span>
            <span>
              {itemSentence(f)}
              {f.restore !== 'same' && `; back with ${f.restore.replaceAll('_', ' ')}`}
              {f.note && <span className="block text-[0.9rem] text-ink-2">{f.note}</span>}
            </span>
          </li>
        ))}
      </ol>
      {b.openMinutes.length > 0 && (
        <p className="text-ink-2">
          Took {b.openMinutes.map((m) => `${m.minutes} min (${twoDigits(m.unit)})`).join(', ')}.
        </p>
      )}
      {b.parts && b.parts.length > 0 && <p>Parts to keep: {b.parts.join(', ')}.</p>}
      {b.terminals && b.terminals.length > 0 && (
        <p>Terminals: {b.terminals.map((t) => `${t.place} is ${t.legend.replaceAll('_', ' ')}`).join('; ')}.</p>
      )}
      <Photos photos={photos} marks={marks} />
    </Section>
  )
}

/** What troubles of its units turned out to be. */
export function WhatWentWrong({ causes }: { causes: BoardKnowledge['causes'] }) {
  const troubles = troubleShares(causes)
  return (
    <Section title="What goes wrong on it">
      {troubles.length === 0 ? (
        <p className="text-ink-2">Nothing on record. “Trouble” at any step of a unit begins a search.</p>
      ) : (
        <>
          <p>{troubleSentence(causes)}</p>
          <ul className="grid gap-1">
            {troubles.map((t) => (
              <li key={t.cause} className="grid grid-cols-[4rem_1fr] gap-3">
                <span className="whitespace-nowrap">
                  {t.n} of {t.of}
                </span>
                <span>
                  {t.cause === 'other' ? 'something else' : causeSays(t.cause)}
                  {t.cause !== 'other' && (
                    <span className="block text-[0.9rem] text-ink-2">{causeRemedy(t.cause)}</span>
                  )}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </Section>
  )
}

export const TimePerUnit = ({ pace }: { pace: Pace }) => (
  <Section title="Time per unit">
    <PaceBars pace={pace} />
  </Section>
)

/** The units made from it, by their numbers. */
export function UnitsOfBoard({ b }: { b: BoardKnowledge }) {
  return (
    <>
      <ul className="flex flex-wrap gap-2">
        {b.unitNumbers.map((n) => (
          <li key={n}>
            <Link href={`/units/${n}`} aria-label={`Unit ${n}`}>
              <CaseNumber n={n} size="small" />
            </Link>
          </li>
        ))}
      </ul>
      {b.unitNumbers.length === 0 && <p className="text-ink-2">None yet.</p>}
      {b.unitCount > b.unitNumbers.length && (
        <Link href={`/units?board=${b.id}`} className="mt-2 block underline underline-offset-4">
          All {b.unitCount}
        </Link>
      )}
    </>
  )
}
