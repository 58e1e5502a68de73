import { useEffect, useRef, useState } from 'react'
import type { Answer } from '@/components/frame/card'
import { LargeDialog } from '@/components/frame/large-dialog'
import { buttonClass, Key } from '@/components/paint/paint'

/** So long after the last press the pedal’s count is taken. */
const quietMs = 1100

/**
 * A trial at arm's length, with a pedal: both hands are at the module, and how often it is pressed is the answer. Nothing is
 * the commonest one, so it is one press. Digits answer at once, as on the card.
 */
export function LargeTrial({
  ask,
  how,
  answers,
  open,
  onOpenChange,
}: {
  ask: string
  how: string
  /** As on the card, in its order. */
  answers: readonly Answer[]
  open: boolean
  onOpenChange: (open: boolean) => void
}) {
  const nothing = answers.findIndex((a) => a.label === 'Nothing')
  const order = [nothing, ...answers.map((_, i) => i).filter((i) => i !== nothing)].filter((i) => i >= 0)
  const [presses, setPresses] = useState(0)
  const latest = useRef({ answers, order })
  latest.current = { answers, order }
  // A new trial begins with no press counted.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the question is what makes it another trial
  useEffect(() => setPresses(0), [ask, open])
  useEffect(() => {
    if (presses === 0) return
    const timer = setTimeout(() => {
      const now = latest.current
      setPresses(0)
      now.answers[now.order[presses - 1] as number]?.pick()
    }, quietMs)
    return () => clearTimeout(timer)
  }, [presses])
  const press = () => setPresses((n) => (n >= order.length ? 1 : n + 1))
  const pick = (place: number) => {
    setPresses(0)
    answers[place]?.pick()
  }
  return (
    <LargeDialog
      title="Trials, with a pedal"
      open={open}
      onOpenChange={onOpenChange}
      onKeyDown={(e) => {
        if (e.repeat || e.ctrlKey || e.metaKey || e.altKey) return
        const digit = /^[0-9]$/.test(e.key) ? (Number(e.key) + 9) % 10 : null
        if (e.key === ' ' || e.key === 'Enter' || e.key === 'PageDown') press()
        else if (e.key === 'Backspace') setPresses(0)
        else if (digit !== null && digit < answers.length) pick(digit)
        else return
        e.preventDefault()
        e.stopPropagation()
      }}
      foot={
        <>
          <button
            type="button"
            className={`${buttonClass('plain')} min-h-[4.2rem] text-[1.3rem]`}
            disabled={presses === 0}
            onClick={() => setPresses(0)}
          >
            Count anew<Key>Backspace</Key>
          </button>
          <button
            type="button"
            className={`${buttonClass('main')} min-h-[4.2rem] text-[1.3rem]`}
            // Its own space and Enter are the pedal’s, heard above.
            onKeyDown={(e) => (e.key === ' ' || e.key === 'Enter') && e.preventDefault()}
            onClick={press}
          >
            {presses === 0 ? 'Press as often as what you saw' : `${presses} ${presses === 1 ? 'press' : 'presses'}`}
            <Key>Space</Key>
          </button>
        </>
      }
    >
      <p className="pin text-[clamp(2rem,5.2vw,4.1rem)] leading-[1.12] font-semibold">{ask}</p>
      <p className="max-w-[46ch] text-[clamp(1.25rem,2.1vw,1.75rem)]">{how}</p>
      <ul className="grid max-w-[60rem] gap-2" aria-label="Answers by presses">
        {order.map((place, i) => (
          <li key={String(answers[place]?.label)}>
            <button
              type="button"
              className={`flex w-full items-center gap-5 rounded-[10px] border px-4 py-2 text-left text-[clamp(1.2rem,1.9vw,1.6rem)] font-semibold ${presses === i + 1 ? 'border-ink bg-ink text-sheet' : 'border-rule bg-sheet'}`}
              onClick={() => pick(place)}
            >
              <span className="pin min-w-[6.5rem]" aria-hidden="true">
                {'● '.repeat(Math.min(i + 1, 6)).trim()}
              </span>
              <span className="sr-only">{i + 1} presses: </span>
              {answers[place]?.label}
            </button>
          </li>
        ))}
      </ul>
    </LargeDialog>
  )
}
