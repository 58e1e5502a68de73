'use client'
import { useRouter } from 'next/navigation'
import { type ReactNode, useState } from 'react'
import { useRefresh } from '@/components/frame/use-refresh'
import { buttonClass, Notice } from '@/components/paint/paint'
import { type Refusal, refusalOf, send } from '@/components/send'

/** A short form for one command: what was typed stays until the server has it, and every fault is said in words. */
export function CommandForm<V extends Record<string, unknown>>({
  command,
  empty,
  toInput,
  submit,
  disabled,
  children,
  then,
}: {
  command: string
  empty: V
  toInput?: (values: V) => unknown
  submit: string
  disabled?: (values: V) => boolean
  children: (values: V, set: (change: Partial<V>) => void) => ReactNode
  then?: (value: Record<string, unknown>) => string
}) {
  const router = useRouter()
  const refresh = useRefresh()
  const [values, setValues] = useState(empty)
  const [error, setError] = useState<Refusal | null>(null)
  const [busy, setBusy] = useState(false)
  return (
    <form
      className="grid gap-3"
      onSubmit={async (e) => {
        e.preventDefault()
        setBusy(true)
        const result = await send(command, toInput ? toInput(values) : values)
        setBusy(false)
        const refused = refusalOf(result)
        if (result.state !== 'ok')
          return setError(
            result.state === 'away' && refused ? { ...refused, kept: 'What you typed is still here.' } : refused,
          )
        setError(null)
        setValues(empty)
        if (then) router.push(then(result.value))
        else refresh()
      }}
    >
      {/* What was typed before the page had come to life is told of all fields at once: each adds to the others. */}
      {children(values, (change) => setValues((now) => ({ ...now, ...change })))}
      {error && (
        <Notice severity="error" title={error.message}>
          {error.kept} {error.next}
        </Notice>
      )}
      <button
        type="submit"
        className={`${buttonClass('main')} justify-self-start`}
        disabled={busy || disabled?.(values)}
      >
        {submit}
      </button>
    </form>
  )
}
