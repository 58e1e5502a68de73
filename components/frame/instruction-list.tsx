'use client'
import type { Instruction } from '@fresh-coat/core/boot/entry'
import dynamic from 'next/dynamic'
import { useState } from 'react'
import { buttonClass } from '@/components/paint/paint'
import { ahead } from './fetch-ahead'

const BenchView = dynamic(
  ahead(() => import('./bench-view').then((m) => m.BenchView)),
  { ssr: false },
)

/** Instructions as a list to read, and one at a time for busy hands. */
export function InstructionList({ steps, empty }: { steps: readonly Instruction[]; empty: string }) {
  const [open, setOpen] = useState(false)
  if (steps.length === 0) return <p className="text-ink-2">{empty}</p>
  return (
    <>
      <ol className="grid gap-1.5">
        {steps.map((s, i) => (
          <li key={s.id} className="grid grid-cols-[1.6rem_1fr] gap-x-2">
            <span className="pin pt-0.5 text-ink-3">{i + 1}</span>
            <div>
              <p className={s.caution ? 'font-semibold' : ''}>
                {s.caution && <span className="stripes mr-2 inline-block h-3.5 w-2 rounded-[2px]" aria-hidden="true" />}
                {s.say}
              </p>
              {(s.look || s.otherwise) && (
                <p className="max-w-[75ch] text-[0.9rem] text-ink-2">
                  {s.look} {s.otherwise && <>If not: {s.otherwise}</>}
                </p>
              )}
            </div>
          </li>
        ))}
      </ol>
      <button type="button" className={`${buttonClass()} justify-self-start`} onClick={() => setOpen(true)}>
        One at a time, large
      </button>
      {open && <BenchView title="Into download mode" steps={steps} open onOpenChange={setOpen} />}
    </>
  )
}
