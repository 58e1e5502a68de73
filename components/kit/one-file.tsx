'use client'
import { useState } from 'react'
import { TextField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { useRefresh } from '@/components/frame/use-refresh'
import { buttonClass, Notice } from '@/components/paint/paint'

/** Everything in one file, and back: for a copy in a drawer, or to move to another computer. */

interface Said {
  severity: 'ok' | 'error'
  title: string
  more: string
}
const away: Said = {
  severity: 'error',
  title: 'The server does not answer.',
  more: 'Nothing was changed. Try again when it is back.',
}

async function refusalOf(response: Response): Promise<Said> {
  const answer = (await response.json().catch(() => null)) as { error?: { message: string; next: string } } | null
  return answer?.error ? { severity: 'error', title: answer.error.message, more: answer.error.next } : away
}

function save(blob: Blob): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = `fresh-coat-${new Date().toISOString().slice(0, 10)}.json`
  link.click()
  URL.revokeObjectURL(link.href)
}

function Out({ say }: { say: (said: Said | null) => void }) {
  const [wish, setWish] = useState({ secrets: false, dumps: false, passphrase: '' })
  const [busy, setBusy] = useState(false)
  const sealed = wish.secrets || wish.dumps
  const go = async () => {
    setBusy(true)
    say(null)
    try {
      const response = sealed
        ? await fetch('/api/export/bundle', {
            method: 'POST',
            headers: { 'content-type': 'application/json' },
            body: JSON.stringify(wish),
          })
        : await fetch('/api/export/bundle')
      if (response.ok) save(await response.blob())
      else say(await refusalOf(response))
    } catch {
      say(away)
    }
    setBusy(false)
  }
  return (
    <div className="grid content-start gap-3">
      <h3 className="text-[1.05rem]">Take everything along</h3>
      <p className="text-ink-2">
        Records, photos, images, the ledger. Stock firmware and secrets stay here unless you ask for them.
      </p>
      <Tick
        label="Secrets too"
        checked={wish.secrets}
        onChange={(secrets) => setWish((now) => ({ ...now, secrets }))}
      />
      <Tick
        label="Stock firmware too: it may hold passwords"
        checked={wish.dumps}
        onChange={(dumps) => setWish((now) => ({ ...now, dumps }))}
      />
      {sealed && (
        <TextField
          label="Passphrase that seals them"
          masked
          value={wish.passphrase}
          maxLength={400}
          onChange={(passphrase) => setWish((now) => ({ ...now, passphrase }))}
          hint="Eight signs or more. Without it nobody opens them again."
        />
      )}
      <button
        type="button"
        className={`${buttonClass('plain')} justify-self-start`}
        disabled={busy || (sealed && wish.passphrase.length < 8)}
        onClick={() => void go()}
      >
        {busy ? 'Gathering…' : 'Save it as a file'}
      </button>
    </div>
  )
}

function In({ say }: { say: (said: Said | null) => void }) {
  const refresh = useRefresh()
  const [file, setFile] = useState<File | null>(null)
  const [passphrase, setPassphrase] = useState('')
  const [busy, setBusy] = useState(false)
  const go = async () => {
    if (!file) return
    setBusy(true)
    say(null)
    try {
      const response = await fetch('/api/import/bundle', {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'x-passphrase': encodeURIComponent(passphrase) },
        body: file,
      })
      if (!response.ok) say(await refusalOf(response))
      else {
        const { value } = (await response.json()) as {
          value: { rows: number; units: number; secrets: number; leftSealed: boolean }
        }
        say({
          severity: 'ok',
          title:
            value.rows === 0 && value.secrets === 0
              ? 'It was all here already: nothing changed.'
              : `${value.units} units are here.`,
          more: value.leftSealed ? 'Something in it is sealed: bring it in once more, with its passphrase.' : '',
        })
        refresh()
      }
    } catch {
      say(away)
    }
    setBusy(false)
  }
  return (
    <div className="grid content-start gap-3">
      <h3 className="text-[1.05rem]">Bring it in</h3>
      <p className="text-ink-2">Into an empty shop, whole or not at all. The same file once more changes nothing.</p>
      <label className="grid gap-1">
        <span className="font-semibold">The file</span>
        <input type="file" accept="application/json,.json" onChange={(e) => setFile(e.target.files?.[0] ?? null)} />
      </label>
      <TextField
        label="Its passphrase, where something is sealed"
        masked
        value={passphrase}
        maxLength={400}
        onChange={setPassphrase}
      />
      <button
        type="button"
        className={`${buttonClass('plain')} justify-self-start`}
        disabled={busy || file === null}
        onClick={() => void go()}
      >
        {busy ? 'Bringing it in…' : 'Bring it in'}
      </button>
    </div>
  )
}

export function OneFile() {
  const [said, setSaid] = useState<Said | null>(null)
  return (
    <Fold summary="Everything in one file">
      <div className="grid gap-6 md:grid-cols-2">
        <Out say={setSaid} />
        <In say={setSaid} />
      </div>
      {said && (
        <Notice severity={said.severity} title={said.title}>
          {said.more}
        </Notice>
      )}
    </Fold>
  )
}
