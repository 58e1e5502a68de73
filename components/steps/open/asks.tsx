import { type HazardKind, hazardKinds, hazardList, hazardWords } from '@fresh-coat/core/open/hazards'
import { isolationQuestions, nextIsolationQuestion } from '@fresh-coat/core/open/isolation'
import { itemSentence } from '@fresh-coat/core/open/opening'
import { missingPhotos, moduleComesOff } from '@fresh-coat/core/steps/open/conditions'
import { mostTerminals, terminalLegends } from '@fresh-coat/core/steps/open/record'
import { PhotoMarks } from '@/components/drawings/photo-marks'
import { AreaField, Choice, NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import type { Ask } from '@/components/frame/card'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Photos } from './photos'

type Props = SurfaceProps<'open'>
const plain = (s: string) => s.replaceAll('_', ' ')

/** The terminals as the cover names them; also opened from the drawing. */
export function TerminalFields({ record: { data, patch } }: Pick<Props, 'record'>) {
  const set = (i: number, change: Partial<(typeof data.terminals)[number]>) =>
    patch({ terminals: data.terminals.map((t, j) => (j === i ? { ...t, ...change } : t)) })
  return (
    <div className="grid gap-2">
      <Tick
        label="It has none (plug and socket only, or a low-voltage connector)"
        checked={data.noTerminals}
        onChange={(noTerminals) => patch({ noTerminals })}
      />
      {!data.noTerminals &&
        data.terminals.map((t, i) => (
          <div key={i} className="grid grid-cols-[minmax(0,1fr)_7.4rem] items-end gap-2">
            <TextField
              label={`Terminal ${i + 1}, as printed or placed`}
              value={t.place}
              maxLength={200}
              onChange={(place) => set(i, { place })}
            />
            <SelectField
              label="Is"
              value={t.legend}
              options={terminalLegends.map((l) => ({ value: l, label: plain(l) }))}
              onChange={(legend) => set(i, { legend: legend ?? 'unknown' })}
            />
          </div>
        ))}
      {!data.noTerminals && (
        <div className="flex gap-2">
          <button
            type="button"
            className={buttonClass()}
            disabled={data.terminals.length >= mostTerminals}
            onClick={() => patch({ terminals: [...data.terminals, { place: '', legend: 'unknown' }] })}
          >
            Add a terminal
          </button>
          {data.terminals.length > 0 && (
            <button
              type="button"
              className={buttonClass('quiet')}
              onClick={() => patch({ terminals: data.terminals.slice(0, -1) })}
            >
              Remove the last
            </button>
          )}
        </div>
      )}
    </div>
  )
}

function terminalsAsk(props: Props): Ask {
  const { data } = props.record
  const named = data.terminals.filter((t) => t.place.trim() !== '')
  return {
    id: 'terminals',
    name: 'Legends',
    ask: named.length === 1 ? 'And the next terminal?' : 'Which terminal is which?',
    how: 'Read it from the cover, before it comes off. Once it is off nothing on the board says which is line.',
    said: data.noTerminals ? 'none' : named.length >= 2 ? named.map((t) => plain(t.legend)).join(', ') : null,
    field: <TerminalFields record={props.record} />,
  }
}

function photosAsk({ view, act }: Props): Ask {
  const missing = missingPhotos(view)
  const kept = view.files.filter((f) => f.kind === 'photo').length
  return {
    id: 'photos',
    name: 'Photos',
    ask: missing.length > 0 ? `A photo: ${plain(missing[0] as string)}` : 'The photos that are needed are there.',
    how:
      missing.length > 1
        ? `Still wanted: ${missing.map(plain).join(', ')}.`
        : missing.length === 1
          ? `Still wanted: ${plain(missing[0] as string)}.`
          : '',
    said: missing.length === 0 ? `${kept} kept` : null,
    field: <Photos view={view} wanted={missing} act={act} />,
  }
}

/** The fastener that comes out next; none when all are out. */
export const nextOut = ({ data }: Props['record']) => data.fasteners.find((f) => !data.taken.includes(f.id)) ?? null

function fastenerAsk({ view, record }: Props): Ask {
  const { data, patch } = record
  const next = nextOut(record)
  const out = data.fasteners.length - data.fasteners.filter((f) => !data.taken.includes(f.id)).length
  const known = (view.board?.fasteners?.length ?? 0) > 0
  return {
    id: `out ${next?.id ?? ''}`,
    name: 'Out',
    lead: `${out} of ${data.fasteners.length} out${known ? ', as its board is on record' : ''}`,
    ask: next ? `Out next: ${itemSentence(next)}` : '',
    how: next?.note ?? '',
    said: next ? null : data.fasteners.length > 0 ? `all ${data.fasteners.length}` : null,
    optional: next === null,
    ...(next ? { answers: [{ label: 'It is out', pick: () => patch({ taken: [...data.taken, next.id] }) }] } : {}),
  }
}

/** All questions of isolation at once, to correct an answer. */
export function IsolationFields({ data, patch }: Props['record']) {
  return (
    <div className="grid gap-2">
      {isolationQuestions.map((q) => (
        <Choice
          key={q.id}
          label={q.ask}
          value={data.isolation[q.id] ?? null}
          options={[
            { value: 'yes', label: 'Yes' },
            { value: 'no', label: 'No' },
            { value: 'unknown', label: 'Don’t know' },
          ]}
          onChange={(v) => patch({ isolation: { ...data.isolation, [q.id]: v } })}
        />
      ))}
    </div>
  )
}

/** Is the low-voltage side isolated: one question at a time, while an answer still tells something. */
function isolationAsks({ view, record: { data, patch } }: Props): Ask[] {
  if (view.board?.mains === false) return []
  const answers = { ...(view.board?.isolation ?? {}), ...data.isolation }
  const q = nextIsolationQuestion(answers)
  if (!q) return []
  return [
    {
      id: q.id,
      name: 'Isolation',
      lead: 'Is the low-voltage side isolated?',
      ask: q.ask,
      said: null,
      answers: (['yes', 'no', 'unknown'] as const).map((v) => ({
        label: v === 'yes' ? 'Yes' : v === 'no' ? 'No' : 'Don’t know',
        ...(v === q.unsafe ? { hint: 'then it is live' } : {}),
        pick: () => patch({ isolation: { ...data.isolation, [q.id]: v } }),
      })),
    },
  ]
}

/** What in it can hurt: several may be chosen, then somebody says that this is all. */
function hazardAsks({ view, record: { data, patch } }: Props): Ask[] {
  if (view.board?.mains === false) return []
  const known = view.board?.hazards
  const chosen = (kind: HazardKind) => data.hazards.some((h) => h.kind === kind)
  const toggle = (kind: HazardKind) =>
    patch({
      hazards: chosen(kind) ? data.hazards.filter((h) => h.kind !== kind) : [...data.hazards, { kind, place: '' }],
      hazardsLooked: false,
    })
  return [
    {
      id: 'hazards',
      name: 'Can hurt',
      lead: known ? `Its board: ${hazardList(known)}` : '',
      ask: 'What in it can hurt a hand?',
      how: 'Choose all that you see; where it lies is marked on the photo afterwards.',
      said: data.hazardsLooked ? hazardList(data.hazards) || 'nothing seen' : null,
      // Known of its board it is only asked on request; once begun, until somebody says that it is all.
      optional: known != null && data.hazards.length === 0,
      answers: [
        ...hazardKinds.map((kind) => ({
          label: hazardWords[kind].name,
          chosen: chosen(kind),
          keeps: true,
          pick: () => toggle(kind),
        })),
        {
          label: data.hazards.length > 0 ? 'That is all of it' : 'Nothing that I can see',
          pick: () => patch({ hazardsLooked: true }),
        },
      ],
    },
  ]
}

/** Where each lies: in words, and on a photo. */
export function HazardFields({ view, record: { data, patch } }: Pick<Props, 'view' | 'record'>) {
  const photos = view.files.filter((f) => f.kind === 'photo')
  return (
    <>
      {data.hazards.map((h, i) => (
        <TextField
          key={h.kind}
          label={`${hazardWords[h.kind].name}: where`}
          hint={hazardWords[h.kind].care}
          value={h.place}
          maxLength={120}
          onChange={(place) => patch({ hazards: data.hazards.map((x, j) => (j === i ? { ...x, place } : x)) })}
        />
      ))}
      {photos.length > 0 ? (
        <PhotoMarks photos={photos} marks={data.marks} first="hazard" onChange={(marks) => patch({ marks })} />
      ) : (
        <p className="text-ink-2">Once there is a photo, it is marked on it.</p>
      )}
    </>
  )
}

/** On the routes that take the module off. */
const moduleAsks = ({ view, record: { data, patch } }: Props): Ask[] =>
  moduleComesOff(view)
    ? [
        {
          id: 'module-off',
          name: 'Module',
          lead: 'Last, with the board out of its case',
          ask: 'Is the module off its board?',
          how: 'Flux on all contacts, one row, then the other; never pull while anything still holds.',
          said: data.moduleOff ? 'off its board' : null,
          answers: [{ label: 'It is off', pick: () => patch({ moduleOff: true }) }],
        },
      ]
    : []

/** What a person may add: the capacitor, and how it went. */
function extraAsks({ view, record: { data, patch } }: Props): Ask[] {
  const known = view.board?.openMinutes.filter((m) => m.unit !== view.number) ?? []
  const went = [
    data.minutes === null ? '' : `${data.minutes} min`,
    data.forced ? 'by force' : '',
    data.damage.trim() ? 'damage noted' : '',
  ].filter(Boolean)
  return [
    ...(view.board?.mains === false
      ? []
      : [
          {
            id: 'capacitor',
            name: 'Capacitor',
            ask: 'How large is the mains-side capacitor?',
            how: 'It decides how long to wait before a hand goes in.',
            said: data.capacitorUf === null ? null : `${data.capacitorUf} µF`,
            optional: true,
            field: (
              <>
                <NumberField
                  label="Mains-side capacitor"
                  unit="µF"
                  min={0}
                  max={10000}
                  value={data.capacitorUf}
                  onChange={(capacitorUf) => patch({ capacitorUf })}
                />
                <NumberField
                  label="Bleeder resistor"
                  unit="Ω"
                  min={0}
                  max={1e9}
                  value={data.bleederOhms}
                  onChange={(bleederOhms) => patch({ bleederOhms })}
                  hint="Empty counts as none: 10 MΩ leakage."
                />
              </>
            ),
          } satisfies Ask,
        ]),
    {
      id: 'went',
      name: 'It went',
      ask: 'How did it go?',
      how: known.length > 0 ? `Before: ${known.map((m) => `${m.minutes} min (${m.unit})`).join(', ')}.` : '',
      said: went.length > 0 ? went.join(', ') : null,
      optional: true,
      field: (
        <>
          <NumberField
            label="Took"
            unit="min"
            min={0}
            max={10000}
            value={data.minutes}
            onChange={(minutes) => patch({ minutes })}
          />
          <Tick label="Opened by force" checked={data.forced} onChange={(forced) => patch({ forced })} />
          <AreaField
            label="Damage, and what you would do differently"
            mono={false}
            rows={2}
            maxLength={1000}
            value={data.damage}
            onChange={(damage) => patch({ damage })}
          />
        </>
      ),
    },
  ]
}

/** What is asked while a case is opened, one thing at a time. */
export const openAsks = (props: Props): Ask[] => [
  terminalsAsk(props),
  photosAsk(props),
  fastenerAsk(props),
  ...hazardAsks(props),
  ...isolationAsks(props),
  ...moduleAsks(props),
  ...extraAsks(props),
]
