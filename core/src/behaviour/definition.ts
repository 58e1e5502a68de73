import { z } from 'zod'
import { refuse } from '../edge/fault'

/** What a unit does with its inputs, as data: channels, inputs, interlocks, motors, rules (brief 03 §7). */

export const inputEvents = ['press', 'release', 'change', 'short', 'hold'] as const
export type InputEvent = (typeof inputEvents)[number]
const onOff = z.enum(['on', 'off'])
const upDown = z.enum(['up', 'down'])
const wholeMs = z.number().int().min(0)
const channel = z.number().int()

export const When = z.union([
  z.object({ input: z.string(), event: z.enum(inputEvents) }),
  z.object({ timer: z.string() }),
  z.object({ ch: channel, becomes: onOff }),
  z.object({ net: upDown }),
  z.object({ boot: z.literal(true) }),
])
export type When = z.infer<typeof When>

export const If = z.union([
  z.object({ ch: channel, is: onOff }),
  z.object({ input: z.string(), is: onOff }),
  z.object({ net: upDown }),
  z.object({ timer: z.string(), is: z.enum(['running', 'idle']) }),
])
export type If = z.infer<typeof If>

export const Do = z.union([
  z.object({ set: z.enum(['on', 'off', 'toggle']), ch: channel }),
  z.object({
    timer: z.string(),
    ms: z.number().superRefine((ms, context) => {
      if (!Number.isInteger(ms) || ms < 1) refuse(context, 'range', [], 'A timer runs for whole milliseconds from 1')
    }),
    policy: z.enum(['restart', 'keep']).nullish(),
  }),
  z.object({ cancel: z.string() }),
  z.object({ publish: z.string(), value: z.string() }),
])
export type Do = z.infer<typeof Do>

export const Rule = z.object({
  id: z.string(),
  when: When,
  if: z.array(If).max(50).nullish(),
  do: z.array(Do).max(50),
})
export type Rule = z.infer<typeof Rule>

export const Definition = z.object({
  bootMs: wholeMs.nullish(),
  channels: z
    .array(z.object({ ch: channel, onPower: z.enum(['off', 'on', 'last']).nullish(), pulseMs: wholeMs.nullish() }))
    .max(100),
  inputs: z
    .array(
      z.object({
        id: z.string(),
        ch: channel.nullish(),
        debounceMs: wholeMs.nullish(),
        holdMs: wholeMs.nullish(),
        react: z.enum(['instant', 'release']).nullish(),
      }),
    )
    .max(100)
    .nullish(),
  interlock: z
    .array(z.object({ chs: z.array(channel).max(100), deadMs: wholeMs.nullish() }))
    .max(100)
    .nullish(),
  motors: z
    .array(
      z.object({
        id: z.string(),
        open: channel,
        close: channel,
        openMs: z.number().positive(),
        closeMs: z.number().positive(),
        marginMs: z.number().min(0).nullish(),
        pos: z.number().min(0).max(100).nullish(),
      }),
    )
    .max(50)
    .nullish(),
  rules: z.array(Rule).max(500).nullish(),
})
export type Definition = z.infer<typeof Definition>

type Context = Parameters<typeof refuse>[0]

/** Every name that is used has to be there: channels, inputs, timers. */
class Names {
  readonly channels: ReadonlySet<number>
  readonly inputs: ReadonlySet<string>
  readonly timers: ReadonlySet<string>
  constructor(
    def: Definition,
    private readonly context: Context,
    private readonly root: PropertyKey[],
  ) {
    this.channels = new Set(def.channels.map((c) => c.ch))
    this.inputs = new Set((def.inputs ?? []).map((i) => i.id))
    const started = (def.rules ?? []).flatMap((r) => r.do).flatMap((d) => ('timer' in d ? [d.timer] : []))
    this.timers = new Set(started)
  }
  private tell(path: PropertyKey[], message: string): void {
    refuse(this.context, 'ref', [...this.root, ...path], message)
  }
  ch(ch: number, path: PropertyKey[]): void {
    if (!this.channels.has(ch)) this.tell(path, `There is no channel ${ch}`)
  }
  input(id: string, path: PropertyKey[]): void {
    if (!this.inputs.has(id)) this.tell(path, `There is no input '${id}'`)
  }
  timer(id: string, path: PropertyKey[]): void {
    if (!this.timers.has(id)) this.tell(path, `There is no timer '${id}'`)
  }
}

const channelValue = /^\$ch([0-9]+)$/
/** The channel whose state a published value stands for; null for any other value. */
export const channelOf = (value: string): number | null => {
  const digits = channelValue.exec(value)?.[1]
  return digits === undefined ? null : Number(digits)
}

function checkRule(rule: Rule, at: PropertyKey[], names: Names): void {
  const { when } = rule
  if ('input' in when) names.input(when.input, [...at, 'when', 'input'])
  else if ('timer' in when) names.timer(when.timer, [...at, 'when', 'timer'])
  else if ('ch' in when) names.ch(when.ch, [...at, 'when', 'ch'])
  for (const [i, c] of (rule.if ?? []).entries()) {
    if ('ch' in c) names.ch(c.ch, [...at, 'if', i, 'ch'])
    else if ('input' in c) names.input(c.input, [...at, 'if', i, 'input'])
    else if ('timer' in c) names.timer(c.timer, [...at, 'if', i, 'timer'])
  }
  for (const [i, d] of rule.do.entries()) {
    const path = [...at, 'do', i]
    if ('set' in d) names.ch(d.ch, [...path, 'ch'])
    else if ('cancel' in d) names.timer(d.cancel, [...path, 'cancel'])
    else if ('publish' in d) {
      const ch = channelOf(d.value)
      if (ch !== null) names.ch(ch, [...path, 'value'])
    }
  }
}

/** @param root where the definition stands in the input */
export function checkNames(def: Definition, context: Context, root: PropertyKey[]): Names {
  const names = new Names(def, context, root)
  for (const [i, { ch }] of (def.inputs ?? []).entries()) if (ch) names.ch(ch, ['inputs', i, 'ch'])
  for (const [i, { chs }] of (def.interlock ?? []).entries()) {
    const unknown = chs.find((ch) => !names.channels.has(ch))
    if (unknown !== undefined) names.ch(unknown, ['interlock', i, 'chs'])
  }
  for (const [i, { open, close }] of (def.motors ?? []).entries()) {
    names.ch(open, ['motors', i, 'open'])
    names.ch(close, ['motors', i, 'close'])
  }
  for (const [i, rule] of (def.rules ?? []).entries()) checkRule(rule, ['rules', i], names)
  return names
}

/** Power-up, debounce, hold and pulse times with what is meant where they are not given. */
export interface Settled {
  bootMs: number
  channels: { ch: number; onPower: 'off' | 'on' | 'last'; pulseMs: number }[]
  inputs: { id: string; ch: number; debounceMs: number; holdMs: number; react: 'instant' | 'release' }[]
  interlock: { chs: number[]; deadMs: number }[]
  motors: { id: string; open: number; close: number; openMs: number; closeMs: number; marginMs: number; pos: number }[]
  rules: Rule[]
}
const usualMarginMs = 500

export const settled = (def: Definition): Settled => ({
  bootMs: def.bootMs ?? 0,
  channels: def.channels.map((c) => ({ ch: c.ch, onPower: c.onPower ?? 'off', pulseMs: c.pulseMs ?? 0 })),
  inputs: (def.inputs ?? []).map((i) => ({
    id: i.id,
    ch: i.ch ?? 0,
    debounceMs: i.debounceMs ?? 0,
    holdMs: i.holdMs ?? 0,
    react: i.react ?? 'instant',
  })),
  interlock: (def.interlock ?? []).map((g) => ({ chs: g.chs, deadMs: g.deadMs ?? 0 })),
  motors: (def.motors ?? []).map((m) => ({ ...m, marginMs: m.marginMs ?? usualMarginMs, pos: m.pos ?? 0 })),
  rules: def.rules ?? [],
})
