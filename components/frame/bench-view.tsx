'use client'
import type { Instruction } from '@fresh-coat/core/boot/entry'
import { readOhms } from '@fresh-coat/core/pads/readings'
import { type KeyboardEvent, useEffect, useState } from 'react'
import { buttonClass, Key } from '@/components/paint/paint'
import { LargeDialog } from './large-dialog'

interface Props {
  title: string
  steps: readonly Instruction[]
  open: boolean
  onOpenChange: (open: boolean) => void
  /** Hears that an instruction was done, or is looked at again. */
  onTick?: (id: string, done: boolean, reading: string) => void
}

/** Where one is in the instructions, for how long, and what was read there. */
function useWalk({ steps, open, onOpenChange, onTick }: Omit<Props, 'title'>) {
  const [at, setAt] = useState(0)
  const [elapsed, setElapsed] = useState(0)
  const [typed, setTyped] = useState('')
  // Frozen when it opens: ticking things off behind it must not move the page under a person's hands.
  const [list, setList] = useState(steps)
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when it opens
  useEffect(() => {
    if (open) {
      setList(steps)
      setAt(0)
    }
  }, [open])
  const current = list[at]
  const seconds = current?.seconds ?? null
  // biome-ignore lint/correctness/useExhaustiveDependencies: starts anew with every instruction
  useEffect(() => {
    setElapsed(0)
    setTyped('')
    if (!open || seconds === null) return
    const began = Date.now()
    const timer = setInterval(() => setElapsed((Date.now() - began) / 1000), 200)
    return () => clearInterval(timer)
  }, [at, open, seconds])
  const last = at >= list.length - 1
  const on = () => {
    if (current) onTick?.(current.id, true, typed)
    if (last) onOpenChange(false)
    else setAt(at + 1)
  }
  const back = () => {
    const before = list[at - 1]
    if (!before) return
    onTick?.(before.id, false, '')
    setAt(at - 1)
  }
  return {
    at,
    list,
    current,
    last,
    on,
    back,
    typed,
    setTyped,
    left: seconds === null ? null : Math.max(0, seconds - elapsed),
  }
}

type Walk = ReturnType<typeof useWalk>

/** In a reading the keys that edit it edit it; space, Enter and the pedal still go on. */
function hear(e: KeyboardEvent, { on, back, typed }: Walk): void {
  const { key } = e
  const inText = e.target instanceof HTMLInputElement
  if (inText && typed !== '' && (key === 'Backspace' || key.startsWith('Arrow'))) return
  if (key === ' ' || (inText && key === 'Enter') || key === 'PageDown' || key === 'ArrowRight') on()
  else if (key === 'Backspace' || key === 'PageUp' || key === 'ArrowLeft') back()
  else return
  e.preventDefault()
}

function Reading({ say, typed, setTyped }: { say: string } & Pick<Walk, 'typed' | 'setTyped'>) {
  return (
    <label className="flex items-center gap-4 text-[clamp(1.5rem,3vw,2.4rem)]">
      <span className="sr-only">{say}</span>
      <input
        className="field pin !min-h-[4.2rem] max-w-[14rem] !text-[2.2rem] font-semibold"
        inputMode="decimal"
        autoComplete="off"
        maxLength={20}
        // biome-ignore lint/a11y/noAutofocus: the reading is what this moment is for
        autoFocus
        aria-invalid={typed.trim() !== '' && readOhms(typed) === null}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
      />
      Ω
    </label>
  )
}

/** How long is still to be waited. */
function Wait({ left, of }: { left: number; of: number }) {
  return (
    <p className="flex items-center gap-4 text-[1.4rem]">
      <span className="pin min-w-[6rem]">{left >= 10 ? `${Math.ceil(left)} s` : `${left.toFixed(1)} s`}</span>
      <span className="h-4 flex-1 max-w-[30rem] overflow-hidden rounded-[4px] bg-unpainted" aria-hidden="true">
        <span className="block h-full bg-verdigris" style={{ width: `${100 - (100 * left) / of}%` }} />
      </span>
      <span>{left > 0 ? 'to wait' : 'over'}</span>
    </p>
  )
}

function Shown({ current, walk }: { current: Instruction; walk: Walk }) {
  const { left, typed, setTyped } = walk
  return (
    <>
      {current.caution && <span className="stripes block h-5 w-full max-w-[16rem] rounded-[4px]" aria-hidden="true" />}
      <p className="font-title text-[clamp(2rem,5.2vw,4.1rem)] leading-[1.12] font-semibold">{current.say}</p>
      {current.look && <p className="max-w-[46ch] text-[clamp(1.25rem,2.1vw,1.75rem)]">{current.look}</p>}
      {current.otherwise && (
        <p className="max-w-[52ch] border-l-4 border-ochre-line pl-4 text-[clamp(1.1rem,1.6vw,1.35rem)] text-ink-2">
          <strong>If not:</strong> {current.otherwise}
        </p>
      )}
      {current.reading && <Reading say={current.say} typed={typed} setTyped={setTyped} />}
      {left !== null && current.seconds != null && <Wait left={left} of={current.seconds} />}
    </>
  )
}

/** One instruction at a time, legible at arm's length: space or a pedal goes on, backspace goes back. */
export function BenchView({ title, ...props }: Props) {
  const walk = useWalk(props)
  const { at, list, current, last, on, back } = walk
  return (
    <LargeDialog
      title={title}
      aside={
        <span className="pin text-[1.1rem]">
          {list.length === 0 ? 0 : at + 1} / {list.length}
        </span>
      }
      open={props.open}
      onOpenChange={props.onOpenChange}
      onKeyDown={(e) => hear(e, walk)}
      foot={
        <>
          <button
            type="button"
            className={`${buttonClass('plain')} min-h-[4.2rem] text-[1.3rem]`}
            disabled={at === 0}
            onClick={back}
          >
            Back<Key>Backspace</Key>
          </button>
          <button type="button" className={`${buttonClass('main')} min-h-[4.2rem] text-[1.3rem]`} onClick={on}>
            {last ? 'Finish' : 'Next'}
            <Key>Space</Key>
          </button>
        </>
      }
    >
      {current ? (
        <Shown current={current} walk={walk} />
      ) : (
        <p className="font-title text-[2.4rem]">
          There is nothing to go through here: the page itself asks what is next.
        </p>
      )}
    </LargeDialog>
  )
}
