'use client'
import { parseMac } from '@fresh-coat/core/network/mac'
import { matchNetwork, notFoundAdvice } from '@fresh-coat/core/network/match'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { firmwareOf } from '@fresh-coat/core/steps/write/facts'
import { useDeferredValue, useMemo } from 'react'
import { AreaField, Choice, TextField } from '@/components/forms/fields'
import { buttonClass, percentOf, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'

const reasonWords: Record<string, string> = {
  same: 'same MAC',
  'local-bit': 'MAC differs in the local bit',
  'minus-one': 'MAC is one below',
  'plus-one': 'MAC is one above',
  other: 'another MAC',
  'name-exact': 'the name is its name',
  'name-suffix': 'the name ends with its suffix',
  'name-differs': 'another name',
  'mac-tail': 'the MAC ends with its suffix',
  'mac-tail-near': 'the MAC ends one beside its suffix',
  'mac-tail-other': 'another MAC tail',
  new: 'new on the list',
  'was-there': 'was there before',
}
const verdictSeverity = { sure: 'ok', likely: 'watch', unsure: 'watch', none: 'error' } as const
const skipWords: Record<string, string> = {
  incomplete: 'no MAC yet',
  'not-active': 'lease not active',
  multicast: 'no device',
  ipv6: 'IPv6',
  unresolved: 'not resolved',
  header: 'title',
  'no-mac': 'no MAC',
  unparsed: 'not understood',
}

export function JoinSurface({ view, record, choices }: SurfaceProps<'join'>) {
  const { data, patch } = record
  const before = useDeferredValue(data.before)
  const after = useDeferredValue(data.after)
  const apMac = parseMac(data.apMac.trim())
  const suffix = data.nameSuffix.trim()
  const result = useMemo(() => {
    if (after.trim() === '' || (!apMac && suffix === '')) return null
    const me = {
      id: String(view.number),
      apMac,
      family: familyOf(view)?.family ?? null,
      firmware: firmwareOf(view) || null,
      nameSuffix: suffix || null,
    }
    // Other units still to be found go along: an entry that is surely another unit's is not offered here.
    const others = choices.otherUnits.flatMap((u) => {
      const mac = parseMac(u.apMac.trim())
      return mac || u.nameSuffix.trim()
        ? [
            {
              id: String(u.number),
              apMac: mac,
              family: u.family,
              firmware: u.firmware || null,
              nameSuffix: u.nameSuffix.trim() || null,
            },
          ]
        : []
    })
    const outcome = matchNetwork({
      tables: [...(before.trim() ? [{ text: before, phase: 'before' }] : []), { text: after, phase: 'after' }],
      units: [me, ...others],
    })
    return outcome.ok ? outcome.value : null
  }, [after, before, apMac, suffix, view, choices.otherUnits])
  const match = result?.matches[0]
  const setup = choices.profiles.find((p) => p.name === view.records.check.data.firmware)?.setupAddress
  return (
    <>
      <StepHeading title="Find it on the network">
        Note its access point’s MAC and name before joining. Then paste a lease list or a neighbour table from before
        and after; the one that is new and fits is named, with the reasons.
      </StepHeading>
      {setup && (
        <p className="text-ink-2">
          Its setup page is at <span className="pin">{setup}</span> while you are on its access point. Networks of 5 GHz
          only are out of its reach.
        </p>
      )}
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField
          label="MAC of its access point"
          mono
          value={data.apMac}
          maxLength={40}
          placeholder="ba:3c:d0:77:1e:9a"
          onChange={(t) => patch({ apMac: t })}
          hint={
            data.apMac.trim() !== '' && !apMac ? (
              <span className="font-semibold text-oxide">That is no MAC address: six groups of hex are due.</span>
            ) : (
              'ip neigh or arp -a while joined to it'
            )
          }
        />
        <TextField
          label="End of its access point’s name"
          mono
          value={data.nameSuffix}
          maxLength={40}
          placeholder="1E9A"
          onChange={(nameSuffix) => patch({ nameSuffix })}
        />
        <AreaField
          label="List before it joined (optional)"
          rows={5}
          value={data.before}
          maxLength={100_000}
          onChange={(t) => patch({ before: t })}
        />
        <AreaField
          label="List after it joined"
          rows={5}
          value={data.after}
          maxLength={100_000}
          placeholder="Paste a DHCP lease list, ip neigh, arp -a, a router’s table…"
          onChange={(t) => patch({ after: t })}
        />
      </div>
      {data.after.trim() !== '' && !apMac && suffix === '' && (
        <p className="text-ink-2">
          A MAC or a name suffix is needed to find it by; without one, type its address below.
        </p>
      )}
      {result && match && (
        <div className="grid gap-3" aria-live="polite">
          <p className="flex flex-wrap items-center gap-2.5">
            <Tag severity={verdictSeverity[match.verdict]}>{match.verdict}</Tag>
            <span>
              {result.entries.length} devices read as {result.formats.join(' and ')}
              {result.newcomers.length > 0 && `, ${result.newcomers.length} of them new`}. None of these:{' '}
              {(match.noneProbability * 100).toFixed(1)} %.
            </span>
          </p>
          {match.candidates.length > 0 && (
            <div className="overflow-x-auto">
              <table className="plain">
                <thead>
                  <tr>
                    <th>Address</th>
                    <th>MAC</th>
                    <th>Name</th>
                    <th>Probability</th>
                    <th>Because</th>
                    <th>
                      <span className="sr-only">Choose</span>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {match.candidates.map((c, i) => (
                    <tr key={`${c.mac}-${c.ip}`} className={i === 0 ? 'font-semibold' : ''}>
                      <td className="pin">{c.ip ?? '–'}</td>
                      <td className="pin">{c.mac ?? '–'}</td>
                      <td dir="auto">{c.hostname ?? '–'}</td>
                      <td className="pin">{percentOf(c.probability)}</td>
                      <td className="text-[0.93rem] font-normal">
                        {c.reasons.map((r) => reasonWords[r] ?? r).join(', ')}
                      </td>
                      <td>
                        {c.ip && (
                          <button
                            type="button"
                            className={buttonClass(i === 0 ? 'plain' : 'quiet')}
                            onClick={() =>
                              patch({
                                address: c.ip ?? '',
                                mac: c.mac ?? '',
                                confirmedBy: match.verdict === 'sure' && i === 0 ? 'match' : 'blink',
                              })
                            }
                          >
                            {match.verdict === 'sure' && i === 0 ? 'It is this one' : 'It blinked: this one'}
                          </button>
                        )}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
          {match.verdict === 'none' && (
            <ul className="list-disc pl-6">
              {notFoundAdvice.map((a) => (
                <li key={a}>{a}</li>
              ))}
            </ul>
          )}
          {match.verdict !== 'sure' && match.verdict !== 'none' && (
            <p>Not sure: make it blink, or click with no load attached, before you name it.</p>
          )}
          {result.findings.map((f) => (
            <p key={f.message} className="flex gap-2.5">
              <Tag severity="watch" />
              {f.message} {f.next}
            </p>
          ))}
          {result.skipped.length > 0 && (
            <details>
              <summary className="text-ink-2">{result.skipped.length} lines were passed over</summary>
              <ul className="mt-1 text-[0.93rem] text-ink-2">
                {result.skipped.slice(0, 40).map((s) => (
                  <li key={`${s.table}-${s.line}`}>
                    List {s.table + 1}, line {s.line}: {skipWords[s.reason]}
                  </li>
                ))}
              </ul>
            </details>
          )}
        </div>
      )}
      <Block title="Its address">
        <div className="grid gap-3 sm:grid-cols-3">
          <TextField
            label="Address"
            mono
            value={data.address}
            maxLength={60}
            onChange={(address) => patch({ address, confirmedBy: data.confirmedBy ?? 'by hand' })}
          />
          <TextField label="MAC as a station" mono value={data.mac} maxLength={40} onChange={(mac) => patch({ mac })} />
          <Choice
            label="Confirmed by"
            value={data.confirmedBy}
            options={[
              { value: 'match', label: 'Sure match' },
              { value: 'blink', label: 'It blinked' },
              { value: 'by hand', label: 'By hand' },
            ]}
            onChange={(confirmedBy) => patch({ confirmedBy })}
          />
        </div>
      </Block>
    </>
  )
}
