'use client'
import { type Family, families } from '@fresh-coat/core/families/families'
import { checkKinds, type Evidence, identify } from '@fresh-coat/core/identify/identify'
import { countsOf, countsSentence } from '@fresh-coat/core/identify/markings'
import { fromOthers, looksOf } from '@fresh-coat/core/unit/own-look'
import { PosteriorBars } from '@/components/drawings/posterior-bars'
import { AreaField, NumberField, SelectField, TextField } from '@/components/forms/fields'
import { buttonClass, Notice, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'
import { useMarking } from './use-marking'

const kindWords: Record<string, string> = {
  marking: 'Marking met before',
  crystal: 'Crystal, MHz',
  flash_chip: 'Flash chip beside it',
  edge_contacts: 'Contacts of the module',
  ble_seen: 'Bluetooth advert seen',
  wifi_band: 'Wi-Fi bands',
  strap_effect: 'BOOT held at power-up',
  boot_text: 'Boot text and its rate',
  sync_reply: 'What answers the tool',
  header: 'First bytes of a dump',
}
const valueWords: Record<string, string> = {
  none: 'none or unreadable',
  external8: '8-pin chip',
  le8: '8 or fewer',
  '9_14': '9 to 14',
  '15_18': '15 to 18',
  '19_24': '19 to 24',
  ge25: '25 or more',
  nomodule: 'no module, chip on the board',
  '24_only': '2.4 GHz only',
  '5_too': '5 GHz too',
  no_app: 'stock firmware stays silent',
  no_effect: 'no effect',
  cause_74880: '“rst cause”, 74 880',
  cause_115200: '“rst cause”, 115 200',
  rst_74880: '“rst:0x”, 74 880',
  rst_115200: '“rst:0x”, 115 200',
  c_115200: 'stream of C, 115 200',
  other_115200: 'other text, 115 200',
  slip: 'C0 01 08 …',
  hci_link: '04 0E 05 …',
  c_stream: '43 43 43 …',
  e9_plain: 'E9, load address',
  e9_lx6: 'E9, id 0',
  e9_lx7: 'E9, id 2 or 9',
  e9_rv32: 'E9, id 5, 12, 13, 16',
  crc34: '32 + 2 check bytes',
  a0ffff9f: '9F FF FF A0',
  blank: 'all FF',
  other: 'something else',
  yes: 'yes',
  no: 'no',
}
const value = (v: string) => valueWords[v] ?? v
const riskWords = {
  open_off: 'case open, power off',
  closed: 'case closed, as sold',
  low_voltage: '3.3 V on the bench, mains off',
}
const verdictWords: Record<string, string> = {
  identified: 'Identified',
  arm968_unsplit: 'ARM968, A or B not split: work as A',
  likely: 'Likely',
  undecided: 'Undecided',
  conflict: 'Something disagrees',
}

export function IdentifySurface({ view, record, choices }: SurfaceProps<'identify'>) {
  const { data, patch } = record
  const outcome = identify({ evidence: data.evidence, ...(view.prior ? { prior: view.prior } : {}) })
  const put = (kind: string, item: Evidence | null) =>
    patch({ evidence: [...data.evidence.filter((e) => e.kind !== kind), ...(item ? [item] : [])] })
  const of = (kind: string) => data.evidence.find((e) => e.kind === kind) ?? null
  const found = outcome.ok ? outcome.value : null
  const marking = of('marking')
  const met = useMarking(data.printed, choices.markings)
  const metCounts = met ? countsOf(met, view.number) : {}
  const metWords = countsSentence(metCounts)
  return (
    <>
      <StepHeading title="Which chip is it">
        Say what you see; the bars move with every answer. Nothing is averaged away: what disagrees is named.
      </StepHeading>
      {found && (
        <div className="grid gap-5 md:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
          <div>
            <PosteriorBars posterior={found.posterior} />
          </div>
          <div className="grid content-start gap-3" aria-live="polite">
            <p className="flex items-center gap-2.5">
              <Tag
                severity={
                  !looksOf(view).identify
                    ? 'watch'
                    : found.verdict === 'identified' || found.verdict === 'arm968_unsplit'
                      ? 'ok'
                      : found.verdict === 'conflict'
                        ? 'error'
                        : 'watch'
                }
              >
                {looksOf(view).identify ? verdictWords[found.verdict] : 'Inherited'}
              </Tag>
              <span>
                {!looksOf(view).identify && `Known ${fromOthers(view)}; nobody has looked at this one yet. `}
                {found.leader} leads, then {found.runnerUp}. {found.entropyBits.toFixed(2)} bits are still open.
              </span>
            </p>
            {found.conflicts.map((c) => (
              <Notice
                key={c.kind}
                severity="error"
                title={`${kindWords[c.kind]}: ${c.value === 'counts' ? 'these counts' : value(c.value)}`}
              >
                The rest says {found.leader}, but this says otherwise: it fits {c.better} {c.ratio.toFixed(0)} times
                better. One of these two is wrong. Look at it again; nothing is averaged away.
              </Notice>
            ))}
            <div>
              <h3 className="mb-1 text-[1.05rem]">Check next</h3>
              <table className="plain">
                <thead>
                  <tr>
                    <th>Check</th>
                    <th>Tells</th>
                    <th>Takes</th>
                    <th>Risk</th>
                  </tr>
                </thead>
                <tbody>
                  {found.next.slice(0, 5).map((n) => (
                    <tr key={n.kind}>
                      <td>{kindWords[n.kind]}</td>
                      <td className="pin whitespace-nowrap">{n.bits.toFixed(2)} bit</td>
                      <td className="pin whitespace-nowrap">{n.minutes} min</td>
                      <td className="text-[0.9rem]">{riskWords[n.risk]}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              {found.next.length === 0 && <p>Every check has been made.</p>}
            </div>
          </div>
        </div>
      )}
      <Block title="What you see">
        <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2 xl:grid-cols-3">
          {checkKinds.map((kind) => {
            const item = of(kind.kind)
            return (
              <div key={kind.kind} className="grid grid-cols-[1fr_5.4rem] items-end gap-2">
                <SelectField
                  label={kindWords[kind.kind] ?? kind.kind}
                  value={item?.value ?? null}
                  none="Not looked at"
                  options={Object.keys(kind.values).map((v) => ({ value: v, label: value(v) }))}
                  onChange={(v) =>
                    put(
                      kind.kind,
                      v
                        ? { kind: kind.kind, value: v, ...(item?.sure !== undefined ? { sure: item.sure } : {}) }
                        : null,
                    )
                  }
                />
                {item && (
                  <SelectField
                    label="Sure"
                    value={String(item.sure ?? 1)}
                    options={['1', '0.9', '0.7', '0.5', '0.3'].map((s) => ({
                      value: s,
                      label: `${Math.round(Number(s) * 100)} %`,
                    }))}
                    onChange={(s) => put(kind.kind, { ...item, sure: Number(s ?? '1') })}
                  />
                )}
              </div>
            )
          })}
        </div>
        <div className="grid items-end gap-3 sm:grid-cols-[16rem_1fr]">
          <TextField
            label="Printed on the chip"
            mono
            maxLength={80}
            value={data.printed}
            onChange={(printed) => patch({ printed })}
            hint="As you read it. It is kept for the next one like it."
          />
          <p className="flex flex-wrap items-center gap-3 pb-1" aria-live="polite">
            {data.printed.trim() === '' ? (
              <span className="text-ink-2">What this workshop found for the same print before is then shown here.</span>
            ) : metWords === '' ? (
              <span className="text-ink-2">Not met before. Once this unit is identified, it counts for the next.</span>
            ) : (
              <>
                <span>
                  Met before: <strong>{metWords}</strong>.
                </span>
                <button
                  type="button"
                  className={buttonClass('plain')}
                  onClick={() => put('marking', { kind: 'marking', counts: metCounts as Record<string, number> })}
                >
                  Take it as evidence
                </button>
              </>
            )}
          </p>
        </div>
        <details className="rounded-[10px] border border-rule p-3">
          <summary className="font-semibold">
            A printed marking this workshop has met before
            {marking
              ? `: ${Object.entries(marking.counts ?? {})
                  .map(([f, n]) => `${f} × ${n}`)
                  .join(', ')}`
              : ''}
          </summary>
          <p className="my-2 text-ink-2">
            How many units with the same marking turned out to be which family. For a known board this is filled in from
            its units.
          </p>
          <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
            {families.map((f) => (
              <NumberField
                key={f}
                label={f}
                min={0}
                max={100000}
                whole
                value={marking?.counts?.[f] ?? null}
                onChange={(n) => {
                  const counts = { ...(marking?.counts ?? {}) }
                  if (n) counts[f] = n
                  else delete counts[f]
                  put('marking', Object.keys(counts).length > 0 ? { kind: 'marking', counts } : null)
                }}
              />
            ))}
          </div>
        </details>
      </Block>
      <Block title="Or decide, with your reason">
        {data.decision === null ? (
          <button
            type="button"
            className={`${buttonClass()} justify-self-start`}
            onClick={() => patch({ decision: { family: view.board?.family ?? found?.leader ?? 'OTHER', reason: '' } })}
          >
            Decide without more checks
          </button>
        ) : (
          <div className="grid gap-3 sm:grid-cols-[14rem_1fr]">
            <SelectField
              label="Family"
              value={data.decision.family}
              options={families.map((f) => ({ value: f, label: f }))}
              onChange={(family) =>
                family && patch({ decision: { family: family as Family, reason: data.decision?.reason ?? '' } })
              }
            />
            <AreaField
              label="Reason, at least 15 characters"
              rows={2}
              mono={false}
              maxLength={500}
              value={data.decision.reason}
              onChange={(reason) => patch({ decision: { family: data.decision?.family ?? 'OTHER', reason } })}
            />
            <button
              type="button"
              className={`${buttonClass('quiet')} justify-self-start`}
              onClick={() => patch({ decision: null })}
            >
              Take the decision back
            </button>
          </div>
        )}
      </Block>
    </>
  )
}
