'use client'
import { passwordFindings } from '@fresh-coat/core/network/wifi'
import type { StepId } from '@fresh-coat/core/unit/way'
import { useState } from 'react'
import { TextField } from '@/components/forms/fields'
import { Sayings } from '@/components/forms/sayings'
import { useKept } from '@/components/frame/frame-context'
import { buttonClass, Notice } from '@/components/paint/paint'
import { send } from '@/components/send'
import type { SurfaceProps } from '@/components/steps/context'

/** A secret that goes by such a name is the password of a network: it has rules of its own. */
const ofNetwork = /wi-?fi|wlan|network/i

/** Secrets of a unit: masked, shown on a deliberate press (which is written down), never in a link or an export. */
export function Secrets({ view, choices, act }: Pick<SurfaceProps<StepId>, 'view' | 'choices' | 'act'>) {
  const [form, setForm] = useKept('secret', { name: '', keptIn: '', value: '' })
  const [shown, setShown] = useState<Record<string, string>>({})
  const [fault, setFault] = useState('')
  const reveal = async (id: string) => {
    const result = await send('reveal-secret', { secretId: id })
    if (result.state === 'ok') setShown({ ...shown, [id]: result.value.value as string })
    else setFault(result.state === 'away' ? 'The server does not answer.' : result.error.message)
  }
  return (
    <div className="grid gap-3">
      {choices.secrets.map((s) => (
        <p key={s.id} className="flex flex-wrap items-center gap-3 border-b border-rule-2 pb-2">
          <strong>{s.name}</strong>
          <span className="pin">{shown[s.id] ?? '••••••••'}</span>
          <span className="text-ink-2">{s.keptIn && `also in: ${s.keptIn}`}</span>
          {shown[s.id] === undefined ? (
            <button type="button" className={buttonClass('quiet')} onClick={() => void reveal(s.id)}>
              Show {s.name}
            </button>
          ) : (
            <button
              type="button"
              className={buttonClass('quiet')}
              onClick={() => setShown(Object.fromEntries(Object.entries(shown).filter(([k]) => k !== s.id)))}
            >
              Hide
            </button>
          )}
        </p>
      ))}
      {fault && <Notice severity="error" title={fault} />}
      <form
        className="grid gap-2"
        onSubmit={async (e) => {
          e.preventDefault()
          if (await act('keep-secret', { unitId: view.id, ...form })) setForm({ name: '', keptIn: '', value: '' })
        }}
      >
        <TextField
          label="Secret"
          placeholder="MQTT password"
          value={form.name}
          maxLength={120}
          onChange={(name) => setForm({ ...form, name })}
        />
        <label className="grid gap-1">
          <span className="text-[0.9rem] font-semibold text-ink-2">Value</span>
          <input
            className="field"
            type="password"
            autoComplete="off"
            value={form.value}
            maxLength={4000}
            onChange={(e) => setForm({ ...form, value: e.target.value })}
          />
          {ofNetwork.test(form.name) && form.value !== '' && (
            <span className="text-[0.9rem]">
              <Sayings of={passwordFindings(form.value)} />
            </span>
          )}
        </label>
        <TextField
          label="Where it was put"
          placeholder="unit, hub"
          value={form.keptIn}
          maxLength={120}
          onChange={(keptIn) => setForm({ ...form, keptIn })}
        />
        <button type="submit" className={buttonClass()} disabled={!form.name.trim() || !form.value}>
          Keep
        </button>
      </form>
    </div>
  )
}
