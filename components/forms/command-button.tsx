'use client'
import { useRouter } from 'next/navigation'
import { type ReactNode, useState } from 'react'
import { useRefresh } from '@/components/frame/use-refresh'
import { type ButtonLook, buttonClass, Key } from '@/components/paint/paint'
import { refusalOf, send } from '@/components/send'

/** A button that runs one command and shows why, when it was refused. */
export function CommandButton({
  command,
  input,
  children,
  look = 'plain',
  hotkey,
  then,
}: {
  command: string
  input: Record<string, unknown>
  children: ReactNode
  look?: ButtonLook
  hotkey?: string
  then?: string
}) {
  const router = useRouter()
  const refresh = useRefresh()
  const [fault, setFault] = useState('')
  const [busy, setBusy] = useState(false)
  const run = async () => {
    setBusy(true)
    const result = await send(command, input)
    setBusy(false)
    const refused = refusalOf(result)
    setFault(
      refused ? [refused.message, ...(result.state === 'away' ? [refused.kept] : []), refused.next].join(' ') : '',
    )
    if (result.state !== 'ok') return
    if (then) router.push(then)
    else refresh()
  }
  return (
    <span className="inline-grid gap-1">
      <button type="button" data-key={hotkey} className={buttonClass(look)} disabled={busy} onClick={() => void run()}>
        {children}
        {hotkey && <Key>{hotkey}</Key>}
      </button>
      {fault && (
        <span role="alert" className="max-w-[18rem] text-[0.9rem] text-oxide">
          {fault}
        </span>
      )}
    </span>
  )
}
