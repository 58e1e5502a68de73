import type { Rule } from '@fresh-coat/core/behaviour/definition'
import { NumberField } from '@/components/forms/fields'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { type Names, RuleWords } from './rule-words'

type Props = SurfaceProps<'behaviour'>

/** What sets off what, each to be tried on the unit. */
export function Rules({ props, rules, names }: { props: Props; rules: readonly Rule[]; names: Names }) {
  const { data, patch } = props.record
  const put = (next: readonly Rule[], changed?: string) =>
    patch({ rules: [...next], ...(changed ? { triedRules: data.triedRules.filter((r) => r !== changed) } : {}) })
  const fresh = (): string => {
    for (let n = rules.length + 1; ; n++) if (!rules.some((r) => r.id === `rule ${n}`)) return `rule ${n}`
  }
  const add = () =>
    put([
      ...rules,
      {
        id: fresh(),
        when: names.inputs[0] ? { input: names.inputs[0], event: 'hold' } : { boot: true },
        do: [{ set: 'off', ch: names.channels[0] ?? 1 }],
      },
    ])
  return (
    <div className="grid gap-2.5">
      <ul className="grid gap-2" aria-label="Rules">
        {rules.map((rule, at) => (
          <RuleWords
            key={rule.id}
            rule={rule}
            names={names}
            tried={data.triedRules.includes(rule.id)}
            onChange={(next) =>
              put(
                rules.map((r, i) => (i === at ? next : r)),
                rule.id,
              )
            }
            onRemove={() =>
              put(
                rules.filter((_, i) => i !== at),
                rule.id,
              )
            }
            onTried={(tried) =>
              patch({ triedRules: [...data.triedRules.filter((r) => r !== rule.id), ...(tried ? [rule.id] : [])] })
            }
          />
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        <button type="button" className={buttonClass('plain')} disabled={names.channels.length === 0} onClick={add}>
          Add a rule
        </button>
        {data.rules !== null && (
          <button type="button" className={buttonClass('quiet')} onClick={() => patch({ rules: null, triedRules: [] })}>
            The usual ones again
          </button>
        )}
      </div>
    </div>
  )
}

const startsWith = (rule: Rule, input: string): boolean => 'input' in rule.when && rule.when.input === input

/** How long contacts settle, and from when a press is a hold. */
export function Timing({
  record: { data, patch },
  inputs,
  rules,
}: Pick<Props, 'record'> & { inputs: readonly string[]; rules: readonly Rule[] }) {
  const of = (id: string) =>
    data.inputs.find((i) => i.id === id) ?? { id, debounceMs: 30, holdMs: 0, react: 'instant' as const }
  const set = (id: string, change: Partial<ReturnType<typeof of>>) =>
    patch({
      inputs: [...data.inputs.filter((i) => i.id !== id), { ...of(id), ...change }],
      // With another timing nobody has tried what this input sets off.
      triedRules: data.triedRules.filter((r) => !rules.some((rule) => rule.id === r && startsWith(rule, id))),
    })
  return (
    <div className="grid gap-5">
      {inputs.map((id) => {
        const now = of(id)
        const delay = now.react === 'release' || now.holdMs > 0 ? 'the press and then' : ''
        return (
          <fieldset key={id} className="grid gap-2">
            <legend className="font-semibold">{id}</legend>
            <div className="grid gap-2 sm:grid-cols-2">
              <NumberField
                label="Contacts settle in"
                unit="ms"
                min={0}
                max={1000}
                whole
                value={now.debounceMs}
                onChange={(n) => n !== null && set(id, { debounceMs: n })}
              />
              <NumberField
                label="Held from"
                unit="ms"
                min={0}
                max={60_000}
                whole
                value={now.holdMs}
                onChange={(n) => n !== null && set(id, { holdMs: n })}
              />
            </div>
            <label className="flex min-h-6 items-center gap-2">
              <input
                type="checkbox"
                className="size-5"
                checked={now.react === 'release'}
                onChange={(e) => set(id, { react: e.target.checked ? 'release' : 'instant' })}
              />
              Answers when it is let go
            </label>
            <p className="text-[0.93rem] text-ink-2">
              It answers {delay} {now.debounceMs} ms after.
              {now.holdMs > 0 && now.holdMs < 500 && ' Under 500 ms people hold it by accident.'}
              {now.debounceMs > 100 && ' More than 100 ms of settling swallows short taps.'}
            </p>
          </fieldset>
        )
      })}
      {inputs.length === 0 && <p>The pin template has no input.</p>}
    </div>
  )
}
