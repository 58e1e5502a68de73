'use client'
import { suffixOf } from '@fresh-coat/core/link/questions'
import { parseMac } from '@fresh-coat/core/network/mac'
import { type Candidate, type NetworkMatch, notFoundAdvice, type UnitMatch } from '@fresh-coat/core/network/match'
import { MacMatch } from '@/components/drawings/mac-match'
import { NetworkRows } from '@/components/drawings/network-rows'
import { Choice, TextField } from '@/components/forms/fields'
import { type Ask, Questions, Standing } from '@/components/frame/card'
import { Word } from '@/components/frame/drawer'
import { StepSheet } from '@/components/frame/sheet'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Secrets } from '@/components/steps/secrets'
import { Scrolls } from '@/components/tables/scrolls'
import { FirstJoin } from './beats'
import { MakeItClick } from './click'
import { ConnectionSheet } from './connection'
import { ColumnPicker, ListFields } from './lists'
import { useMatch } from './use-match'
import { confirmWords, formatWords, skipWords } from './words'

type Props = SurfaceProps<'join'>

const verdictSeverity = { sure: 'ok', likely: 'watch', unsure: 'watch', none: 'error' } as const

function apAsk({ record: { data, patch }, choices, view }: Props): Ask {
  const faulty = data.apMac.trim() !== '' && !parseMac(data.apMac.trim())
  const heardName = view.records.start.data.apName
  const suffix = suffixOf(heardName)
  const setup = choices.profiles.find((p) => p.name === view.records.check.data.firmware)?.setupAddress
  return {
    id: 'ap',
    name: 'Its own Wi-Fi',
    ask: 'Which MAC has its access point?',
    how: (
      <>
        Before it joins: join its access point and look at <span className="pin">ip neigh</span> or{' '}
        <span className="pin">arp -a</span>.{setup && ` Its setup page is at ${setup} then.`} Networks of 5 GHz only are
        out of its reach.
      </>
    ),
    said: faulty ? null : [data.apMac.trim(), data.nameSuffix.trim()].filter(Boolean).join(', ') || null,
    optional: data.address.trim() !== '',
    field: (
      <>
        {heardName && (
          <p>
            At its first start it called its air <span className="pin">{heardName}</span>.{' '}
            {suffix && data.nameSuffix.trim() === '' && (
              <button
                type="button"
                className="underline underline-offset-4"
                onClick={() => patch({ nameSuffix: suffix })}
              >
                Take {suffix} as the end of its name
              </button>
            )}
          </p>
        )}
        <TextField
          label="MAC of its access point"
          mono
          value={data.apMac}
          maxLength={40}
          placeholder="ba:3c:d0:77:1e:9a"
          onChange={(apMac) => patch({ apMac })}
          hint={
            faulty && (
              <span className="font-semibold text-oxide">That is no MAC address: six groups of hex are due.</span>
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
      </>
    ),
  }
}

function listAsk({ record, view }: Props): Ask {
  const { data } = record
  return {
    id: 'after',
    name: 'Lists',
    ask: 'It has joined. Who is on the network now?',
    how: 'Paste a lease list or a neighbour table; the one that is new and fits is named, with the reasons.',
    said: data.after.trim() === '' ? null : `${data.after.trim().split('\n').length} lines`,
    optional: data.address.trim() !== '',
    field: <ListFields record={record} listening={view.topic !== null} />,
  }
}

/** Takes an entry as this unit: a sure match by itself, any other by what a person says of it. */
export const taker =
  ({ record: { patch } }: Pick<Props, 'record'>, match: UnitMatch | undefined, said: 'blink' | 'by hand') =>
  (c: Candidate, at: number) =>
    patch({
      address: c.ip ?? '',
      mac: c.mac ?? '',
      confirmedBy: match?.verdict === 'sure' && at === 0 ? 'match' : said,
    })

function whoAsk(props: Props, match: UnitMatch | undefined): Ask[] {
  const { data } = props.record
  const [best] = match?.candidates ?? []
  if (!match || !best?.ip) return []
  const take = taker(props, match, 'blink')
  const sure = match.verdict === 'sure'
  return [
    {
      id: 'who',
      name: 'It is',
      ask: sure ? `Is it ${best.ip}?` : 'Which one blinked?',
      how: (
        <>
          {sure ? '' : 'Not sure: make it blink, or click with no load attached, before you name it.'}
          {props.view.topic !== null && <MakeItClick view={props.view} />}
        </>
      ),
      said: data.address.trim() || null,
      answers: (sure ? [best] : match.candidates.slice(0, 4)).map((c, i) => ({
        label: sure ? 'It is this one' : `${c.ip ?? c.mac} blinked: this one`,
        hint: c.hostname ?? '',
        pick: () => take(c, i),
      })),
    },
  ]
}

function AddressFields({ record: { data, patch } }: Pick<Props, 'record'>) {
  return (
    <>
      <TextField
        label="Address"
        mono
        value={data.address}
        maxLength={60}
        onChange={(address) => patch({ address, confirmedBy: 'by hand' })}
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
    </>
  )
}

function Say({ record }: Pick<Props, 'record'>) {
  const { data } = record
  const known = data.address.trim() !== ''
  return (
    <>
      Its address is{' '}
      <Word name="Address" faulty={!known} open={<AddressFields record={record} />}>
        {known ? data.address : 'not known'}
      </Word>
      {known && data.confirmedBy ? `, by ${confirmWords[data.confirmedBy]}` : ''}
      {data.mac ? (
        <>
          ; its MAC as a station <span className="pin">{data.mac}</span>
        </>
      ) : null}
      .
    </>
  )
}

function Verdict({ result, match }: { result: NetworkMatch; match: UnitMatch }) {
  return (
    <>
      <p className="flex items-baseline gap-2.5">
        <Tag severity={verdictSeverity[match.verdict]}>{match.verdict}</Tag>
        <span>
          {result.entries.length} {result.entries.length === 1 ? 'device' : 'devices'} read as{' '}
          {result.formats.map((f) => formatWords[f]).join(' and ')}
          {result.newcomers.length > 0 && `, ${result.newcomers.length} of them new`}. None of these:{' '}
          {(match.noneProbability * 100).toFixed(1)} %.
        </span>
      </p>
      {match.verdict === 'none' && (
        <ul className="list-disc pl-6">
          {notFoundAdvice.slice(0, 4).map((a) => (
            <li key={a}>{a}</li>
          ))}
        </ul>
      )}
    </>
  )
}

function Skipped({ result }: { result: NetworkMatch }) {
  return (
    <ul className="grid gap-1">
      {result.skipped.slice(0, 60).map((s) => (
        <li key={`${s.table}-${s.line}`}>
          List {s.table + 1}, line {s.line}: {skipWords[s.reason]}
        </li>
      ))}
    </ul>
  )
}

function FirstJoinOf({ view, choices }: Props) {
  const { firmware } = view.records.check.data
  const profile = choices.profiles.find((p) => p.name === firmware)
  return <FirstJoin setup={profile?.setup ?? null} firmware={firmware} setupAddress={profile?.setupAddress ?? ''} />
}

/** The one that was taken, else the likeliest, held against the unit's own Wi-Fi. */
function Likeness({ data, match }: { data: Props['record']['data']; match: UnitMatch | undefined }) {
  const candidates = match?.candidates ?? []
  const shown = candidates.find((c) => c.ip !== null && c.ip === data.address.trim()) ?? candidates[0]
  if (!shown?.mac) return null
  return (
    <Scrolls label="Its MAC held against one on the network">
      <MacMatch
        own={parseMac(data.apMac.trim())}
        suffix={data.nameSuffix.trim()}
        found={{ mac: shown.mac, name: shown.hostname, address: shown.ip }}
      />
    </Scrolls>
  )
}

/** The unit found on the network: who is there, who is new, and which of them it is. */
export function JoinSurface(props: Props) {
  const { record, assessment } = props
  const { data } = record
  const { result, busy } = useMatch(props)
  const match = result?.matches[0]
  const here = assessment.steps.find((s) => s.id === 'join')
  const blind = data.after.trim() !== '' && !parseMac(data.apMac.trim()) && data.nameSuffix.trim() === ''
  return (
    <StepSheet
      title="Find it on the network"
      say={<Say record={record} />}
      drawing={
        result ? (
          <div className="grid content-center gap-5">
            <Likeness data={data} match={match} />
            <NetworkRows
              candidates={match?.candidates ?? []}
              entries={result.entries}
              chosen={data.address.trim()}
              onChoose={taker(props, match, 'by hand')}
            />
          </div>
        ) : (
          <p className="rounded-[12px] border border-dashed border-rule p-8 text-center text-ink-2">
            {busy
              ? 'The lists are held against each other…'
              : blind
                ? 'A MAC or a name suffix is needed to find it by; without one, type its address above.'
                : data.address.trim()
                  ? `It is at ${data.address}. Lists can be compared again at any time.`
                  : 'Who is on the network is shown here once a list is pasted.'}
          </p>
        )
      }
      findings={result?.findings ?? []}
      verdict={result && match && <Verdict result={result} match={match} />}
      card={
        <Questions
          asks={[apAsk(props), listAsk(props), ...whoAsk(props, match)]}
          rest={<Standing conditions={here?.conditions ?? []} />}
        />
      }
      more={[
        {
          id: 'first',
          name: 'Its first join',
          content: <FirstJoinOf {...props} />,
        },
        data.after.trim() !== '' && {
          id: 'columns',
          name: data.columns ? 'Columns: as you said' : 'Which column is what',
          wide: true,
          content: <ColumnPicker record={record} />,
        },
        {
          id: 'connection',
          name: 'Connection sheet',
          content: <ConnectionSheet view={props.view} choices={props.choices} record={record} />,
        },
        {
          id: 'secrets',
          name: props.choices.secrets.length > 0 ? `Secrets: ${props.choices.secrets.length}` : 'Secrets',
          content: <Secrets view={props.view} choices={props.choices} act={props.act} />,
        },
        result !== null &&
          result.skipped.length > 0 && {
            id: 'skipped',
            name: `${result.skipped.length} ${result.skipped.length === 1 ? 'line was' : 'lines were'} passed over`,
            content: <Skipped result={result} />,
          },
      ]}
    />
  )
}
