'use client'
import type { Rendered } from '@fresh-coat/core/profile/phrases'
import { renderSettings } from '@fresh-coat/core/profile/settings'
import { connectionOf } from '@fresh-coat/core/unit/air'
import { useState } from 'react'
import { CopyText } from '@/components/forms/copy-text'
import { SelectField } from '@/components/forms/fields'
import Link from '@/components/link'
import { buttonClass, Notice, Tag } from '@/components/paint/paint'
import { send } from '@/components/send'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'join'>, 'view' | 'choices' | 'record'>

/**
 * What the unit is told of the air, in the words of its firmware: one paste, in order. Secrets stand as dots until a person asks
 * for them; then they are filled in here, in the browser, and lengths are looked at again.
 */

const keyWords: Record<string, string> = {
  'net.first': 'its network',
  'net.second': 'its second network',
  'net.name': 'its name',
  'mqtt.server': 'the broker',
  'mqtt.topic': 'its topic',
  'mqtt.tls': 'TLS',
  report: 'how often it reports',
}
const said = (key: string) => keyWords[key] ?? key

/** Shows the secrets that are meant, each written down as shown. */
async function reveal(ids: readonly string[]): Promise<Record<string, string> | string> {
  const out: Record<string, string> = {}
  for (const id of ids) {
    const result = await send('reveal-secret', { secretId: id })
    if (result.state !== 'ok') return result.state === 'away' ? 'The server does not answer.' : result.error.message
    out[id] = String(result.value.value)
  }
  return out
}

function Told({ shown, firmware }: { shown: Rendered; firmware: string }) {
  return (
    <>
      {shown.notExpressible.length > 0 && (
        <ul className="grid gap-1 text-ochre">
          {shown.notExpressible.map((n) => (
            <li key={n.key}>
              {n.missing
                ? `${said(n.key)}: ${n.missing.join(', ')} is not given`
                : `${firmware} has no words for ${said(n.key)}: set it on its own page`}
              .
            </li>
          ))}
        </ul>
      )}
      {shown.problems.map((p) => (
        <p key={p.line} className="flex gap-2.5">
          <Tag severity="error" /> Line {p.line} has {p.length} characters; {p.max} are taken.
        </p>
      ))}
    </>
  )
}

export function ConnectionSheet({ view, choices, record: { data, patch } }: Props) {
  const [open, setOpen] = useState<Record<string, string>>({})
  const [fault, setFault] = useState('')
  const { firmware } = view.records.check.data
  const phrases = choices.profiles.find((p) => p.name === firmware)?.phrases ?? null
  const known = (id: string) => (choices.secrets.some((s) => s.id === id) ? id : null)
  const [wifiSecret, secondSecret, broker] = [data.wifiSecret, data.secondSecret, data.brokerSecret].map(known) as [
    string | null,
    string | null,
    string | null,
  ]
  const connection = connectionOf(view.air, { topic: view.topic, name: view.name, wifiSecret, secondSecret, broker })
  const link = 'underline underline-offset-4'
  if (!connection)
    return (
      <p>
        Nobody has said which network and broker the units of this place join. They are kept once, under{' '}
        <Link href="/network" className={link}>
          Network
        </Link>
        .
      </p>
    )
  if (!phrases)
    return (
      <p>
        {firmware ? `${firmware} has no phrases yet` : 'Nobody has said which firmware it runs'}: its words are kept
        under{' '}
        <Link href="/images/firmware" className={link}>
          Firmware
        </Link>
        .
      </p>
    )
  const shown = renderSettings(phrases, { template: null, behaviour: null, connection, shown: open })
  if (!shown.ok)
    return (
      <p className="text-oxide" role="alert">
        {shown.faults[0]?.message}. Its words are changed under Firmware; nothing is lost.
      </p>
    )
  const wanted = [wifiSecret, secondSecret, broker].filter((id): id is string => id !== null)
  const covered = shown.value.masked.length > 0 && wanted.some((id) => open[id] === undefined)
  const ask = async () => {
    const got = await reveal(wanted)
    if (typeof got === 'string') setFault(got)
    else setOpen(got)
  }
  const secrets = choices.secrets.map((s) => ({ value: s.id, label: s.name }))
  return (
    <div className="grid gap-3">
      <p className="text-ink-2">For {firmware}, to paste in this order.</p>
      <CopyText text={shown.value.text} none="Nothing of it can be said in its words." />
      {covered && (
        <button type="button" className={`${buttonClass('quiet')} justify-self-start`} onClick={() => void ask()}>
          Fill in its secrets here
        </button>
      )}
      {Object.keys(open).length > 0 && (
        <button type="button" className={`${buttonClass('quiet')} justify-self-start`} onClick={() => setOpen({})}>
          Cover them again
        </button>
      )}
      {fault && <Notice severity="error" title={fault} />}
      <Told shown={shown.value} firmware={firmware} />
      {choices.secrets.length === 0 ? (
        <p className="text-ink-2">Its passwords are kept under Secrets, beside this; then they are filled in here.</p>
      ) : (
        <div className="grid grid-cols-2 gap-3">
          <SelectField
            label="Password of the network"
            value={wifiSecret}
            none="none"
            options={secrets}
            onChange={(id) => patch({ wifiSecret: id ?? '' })}
          />
          {view.air.ssid2.trim() !== '' && (
            <SelectField
              label="Password of the second network"
              value={secondSecret}
              none="none"
              options={secrets}
              onChange={(id) => patch({ secondSecret: id ?? '' })}
            />
          )}
          <SelectField
            label="Password of the broker"
            value={broker}
            none="none"
            options={secrets}
            onChange={(id) => patch({ brokerSecret: id ?? '' })}
          />
        </div>
      )}
    </div>
  )
}
