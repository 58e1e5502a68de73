import { type FieldRule, fill, filtersOf, Mapping, readMapping, type Scalar } from '@fresh-coat/core/live/mapping'
import { jsonOf } from '@fresh-coat/core/live/payload'
import { readPattern } from '@fresh-coat/core/topics/pattern'
import { useState } from 'react'
import { AreaField, NumberField, TextField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { buttonClass } from '@/components/paint/paint'

/** What a firmware says over the air, where its topics are others than the site’s own: patterns and places in payloads, tried as they are typed. */

type Rule = Mapping['rules'][number]

/** "on, 1" as the values that mean it: numbers and truths as such, anything else as text. */
const asValues = (text: string): Scalar[] =>
  text
    .split(',')
    .map((t) => t.trim())
    .filter((t) => t !== '')
    .slice(0, 20)
    .map((t) => (t === 'true' ? true : t === 'false' ? false : /^-?\d+(\.\d+)?$/.test(t) ? Number(t) : t))

/** Values with commas between them, as they are typed: a comma that was just typed is no value yet, and stays. */
function ValuesField({
  label,
  values,
  onChange,
}: {
  label: string
  values: readonly Scalar[]
  onChange: (values: Scalar[]) => void
}) {
  const [text, setText] = useState(values.join(', '))
  return (
    <TextField
      label={label}
      mono
      value={text}
      maxLength={200}
      onChange={(to) => {
        setText(to)
        onChange(asValues(to))
      }}
    />
  )
}

function Field({ field, put, remove }: { field: FieldRule; put: (f: FieldRule) => void; remove: () => void }) {
  const switched = field.true !== undefined
  return (
    <div className="grid items-end gap-3 border-t border-rule-2 pt-2 sm:grid-cols-[11rem_11rem_minmax(0,1fr)_auto]">
      <TextField
        label="It says"
        mono
        value={field.to}
        maxLength={80}
        placeholder="channel/{n}/on"
        onChange={(to) => put({ ...field, to })}
      />
      <TextField
        label="at this place"
        mono
        value={field.ptr}
        maxLength={200}
        placeholder="/net/dbm"
        onChange={(ptr) => put({ ...field, ptr })}
        hint={field.ptr === '' ? 'Empty: the whole payload.' : ''}
      />
      <div className="flex flex-wrap items-end gap-3">
        <Tick
          label="on or off"
          checked={switched}
          onChange={(on) => {
            const { true: _t, false: _f, ...rest } = field
            put(on ? { ...rest, true: ['on', true, 1], false: ['off', false, 0] } : rest)
          }}
        />
        {switched ? (
          <>
            <ValuesField label="means on" values={field.true ?? []} onChange={(t) => put({ ...field, true: t })} />
            <ValuesField label="means off" values={field.false ?? []} onChange={(t) => put({ ...field, false: t })} />
          </>
        ) : (
          <NumberField
            label="times"
            value={field.scale ?? null}
            onChange={(n) => {
              const { scale: _, ...rest } = field
              put(n === null ? rest : { ...rest, scale: n })
            }}
          />
        )}
      </div>
      <button type="button" className={buttonClass('quiet')} onClick={remove}>
        Take it off
      </button>
    </div>
  )
}

function Tried({ rule, topic, payload }: { rule: Rule; topic: string; payload: string }) {
  const read = readPattern(rule.pattern)
  if (typeof read === 'string') return <p className="text-oxide">{read}</p>
  const mapping = Mapping.safeParse({ rules: [rule] })
  if (!mapping.success) return <p className="text-ochre">{mapping.error.issues[0]?.message}</p>
  const [ready] = readMapping(mapping.data).rules
  const [filter] = filtersOf([mapping.data], {})
  const vars = topic === '' ? null : (ready?.match(topic) ?? null)
  const value = rule.text ? { ok: true as const, value: payload } : jsonOf(payload)
  const filled = vars && ready && value.ok ? fill(ready.fields, vars, value.value) : null
  return (
    <div className="grid gap-1 text-[0.93rem]" role="status">
      <p>
        Subscribed to as <span className="pin">{filter ?? 'nothing: it would be everything'}</span>
      </p>
      {topic !== '' && (
        <p className={vars ? '' : 'text-ochre'}>
          {vars
            ? Object.entries(vars)
                .map(([k, v]) => `${k} is ${v}`)
                .join(', ')
            : 'This topic is another one.'}
        </p>
      )}
      {vars && payload !== '' && (
        <p className={filled ? '' : 'text-ochre'}>
          {filled
            ? `It says ${filled.filled.map((f) => `${f.field} ${String(f.value)}`).join(', ') || 'nothing'}${filled.unmapped > 0 ? `; ${filled.unmapped} fit no rule` : ''}.`
            : 'The payload cannot be read.'}
        </p>
      )}
    </div>
  )
}

function RuleForm({ rule, put, remove }: { rule: Rule; put: (r: Rule) => void; remove: () => void }) {
  const [sample, setSample] = useState({ topic: '', payload: '' })
  return (
    <fieldset className="grid gap-3 rounded-[10px] border border-rule p-3">
      <legend className="sr-only">Topics like {rule.pattern}</legend>
      <div className="grid items-end gap-3 sm:grid-cols-[minmax(0,1fr)_auto_auto_auto]">
        <TextField
          label="Topics like"
          mono
          value={rule.pattern}
          maxLength={400}
          placeholder="shed/{unit}/{n:int}"
          onChange={(pattern) => put({ ...rule, pattern })}
        />
        <Tick
          label="comes by itself, again and again"
          checked={rule.periodic === true}
          onChange={(periodic) => put({ ...rule, periodic })}
        />
        <Tick
          label="somebody asks it of the unit"
          checked={rule.asked === true}
          onChange={(asked) => put({ ...rule, asked })}
        />
        <Tick label="plain text, no JSON" checked={rule.text === true} onChange={(text) => put({ ...rule, text })} />
        <button type="button" className={buttonClass('quiet')} onClick={remove}>
          Take it off
        </button>
      </div>
      {rule.fields.map((f, i) => (
        <Field
          key={`field ${i + 1}`}
          field={f}
          put={(to) => put({ ...rule, fields: rule.fields.map((x, k) => (k === i ? to : x)) })}
          remove={() => put({ ...rule, fields: rule.fields.filter((_, k) => k !== i) })}
        />
      ))}
      <button
        type="button"
        className={`${buttonClass()} justify-self-start`}
        disabled={rule.fields.length >= 40}
        onClick={() => put({ ...rule, fields: [...rule.fields, { to: '', ptr: '' }] })}
      >
        What else it says
      </button>
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField
          label="Try a topic"
          mono
          value={sample.topic}
          maxLength={200}
          onChange={(topic) => setSample((now) => ({ ...now, topic }))}
        />
        <AreaField
          label="and what came there"
          rows={1}
          value={sample.payload}
          maxLength={4000}
          onChange={(payload) => setSample((now) => ({ ...now, payload }))}
        />
      </div>
      <Tried rule={rule} {...sample} />
    </fieldset>
  )
}

export function AirForm({ air, onChange }: { air: Mapping | null; onChange: (air: Mapping | null) => void }) {
  const now: Mapping = air ?? { rules: [], will: true, usualS: 60 }
  const put = (rules: Rule[]) => onChange(rules.length === 0 ? null : { ...now, rules })
  return (
    <Fold
      summary={
        air ? `Over the air: ${air.rules.length} of its own kinds of topics` : 'Over the air: the topics of the site'
      }
    >
      {now.rules.map((r, i) => (
        <RuleForm
          key={`rule ${i + 1}`}
          rule={r}
          put={(to) => put(now.rules.map((x, k) => (k === i ? to : x)))}
          remove={() => put(now.rules.filter((_, k) => k !== i))}
        />
      ))}
      {air && (
        <div className="flex flex-wrap items-end gap-4">
          <Tick
            label="Its broker tells when it leaves"
            checked={air.will}
            onChange={(will) => onChange({ ...air, will })}
          />
          <NumberField
            label="Usually speaks every"
            unit="s"
            min={1}
            max={86_400}
            value={air.usualS}
            onChange={(usualS) => usualS !== null && onChange({ ...air, usualS })}
          />
        </div>
      )}
      <button
        type="button"
        className={`${buttonClass()} justify-self-start`}
        disabled={now.rules.length >= 40}
        onClick={() => put([...now.rules, { pattern: '', fields: [{ to: 'online', ptr: '' }] }])}
      >
        A kind of topics of its own
      </button>
    </Fold>
  )
}
