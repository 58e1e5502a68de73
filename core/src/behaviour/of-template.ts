import { type LoadChannel, loadFindings, statesOf } from '../load/states'
import { activeLevel, isIdle, type PinFunction, type PinTemplate, type TemplatePin } from '../pins/template'
import { naturalOrder, pinFacts } from '../pins/words'
import type { Definition, Rule } from './definition'
import type { Entry, RunEvent } from './run'

/** What a unit with this template can do, and what is usually set: inputs, channels, the rules that people begin with. */

const inputNames: Partial<Record<PinFunction, string>> = {
  button: 'button',
  switch: 'switch',
  touch: 'touch',
  motion: 'motion',
  'ac-sense': 'mains input',
}
const outputs: ReadonlySet<PinFunction> = new Set(['relay', 'latch-set', 'dim', 'bright', 'cool', 'warm', 'red'])
const worked = { debounceMs: 30, holdMs: 900 }

export interface TemplateInput {
  id: string
  pin: string
  fn: PinFunction
  ch: number
}

/** Inputs of a template, each with a name of its own. */
export function inputsOf(template: PinTemplate): TemplateInput[] {
  const pins = template.pins.filter((p) => inputNames[p.fn]).sort((a, b) => naturalOrder(a.pin, b.pin))
  return pins.map((p) => {
    const alike = pins.filter((o) => o.fn === p.fn)
    const name = inputNames[p.fn] as string
    return {
      id: alike.length > 1 ? `${name} ${p.ch || alike.indexOf(p) + 1}` : name,
      pin: p.pin,
      fn: p.fn,
      ch: p.ch ?? 0,
    }
  })
}

export const outputsOf = (template: PinTemplate): number[] =>
  [...new Set(template.pins.filter((p) => !isIdle(p.fn) && outputs.has(p.fn)).map((p) => p.ch ?? 1))].sort(
    (a, b) => a - b,
  )

/** As most people set it: a button flips its channel, a switch follows or changes, motion lights for a while. */
export function usualRules(template: PinTemplate): Rule[] {
  const there = new Set(outputsOf(template))
  const motors = new Set((template.motors ?? []).flatMap((m) => [m.open, m.close]))
  return inputsOf(template).flatMap((input): Rule[] => {
    const ch = there.has(input.ch) ? input.ch : [...there][0]
    if (ch === undefined || (input.ch > 0 && !there.has(input.ch))) return []
    const when = (event: 'short' | 'change') => ({ input: input.id, event })
    if (input.fn === 'motion')
      return [
        {
          id: `${input.id}: light`,
          when: when('change'),
          do: [
            { set: 'on', ch },
            { timer: `after ${input.id}`, ms: 45_000 },
          ],
        },
        { id: `${input.id}: dark`, when: { timer: `after ${input.id}` }, do: [{ set: 'off', ch }] },
      ]
    if (input.fn === 'switch' && !motors.has(ch))
      return [{ id: `${input.id}: flip`, when: when('change'), do: [{ set: 'toggle', ch }] }]
    return input.ch > 0 ? [{ id: `${input.id}: press`, when: when('short'), do: [{ set: 'toggle', ch }] }] : []
  })
}

export interface BehaviourSettings {
  channels: readonly { ch: number; onPower: 'off' | 'on' | 'last'; pulseMs?: number | undefined }[]
  inputs: readonly { id: string; debounceMs: number; holdMs: number; react: 'instant' | 'release' }[]
  travels: readonly { open: number; openMs: number; closeMs: number; marginMs: number }[]
  rules: readonly Rule[]
  bootMs: number
}

/** Until somebody has timed its runs. */
const untimedMs = 20_000

/** What the simulator takes: what the template has, with what was set of it. */
export function definitionOf(template: PinTemplate, set: BehaviourSettings): Definition {
  const held = new Set(set.rules.flatMap((r) => ('input' in r.when && r.when.event === 'hold' ? [r.when.input] : [])))
  return {
    bootMs: set.bootMs,
    channels: outputsOf(template).map((ch) => {
      const known = set.channels.find((c) => c.ch === ch)
      return { ch, onPower: known?.onPower ?? 'off', pulseMs: known?.pulseMs ?? 0 }
    }),
    inputs: inputsOf(template).map(({ id, ch }) => {
      const known = set.inputs.find((i) => i.id === id)
      return {
        id,
        ch: outputsOf(template).includes(ch) ? ch : 0,
        debounceMs: known?.debounceMs ?? worked.debounceMs,
        holdMs: known?.holdMs ?? (held.has(id) ? worked.holdMs : 0),
        react: known?.react ?? 'instant',
      }
    }),
    interlock: (template.motors ?? [])
      .filter((m) => m.interlock)
      .map((m) => ({ chs: [m.open, m.close], deadMs: m.deadMs ?? 0 })),
    motors: (template.motors ?? []).map((m, i) => {
      const timed = set.travels.find((t) => t.open === m.open)
      return {
        id: `motor ${i + 1}`,
        open: m.open,
        close: m.close,
        openMs: timed?.openMs ?? untimedMs,
        closeMs: timed?.closeMs ?? untimedMs,
        marginMs: timed?.marginMs ?? 500,
      }
    }),
    rules: [...set.rules],
  }
}

/** Rules that name what is not there any more: the template was changed under them. */
export function strandedRules(def: Definition): Rule[] {
  const channels = new Set(def.channels.map((c) => c.ch))
  const inputs = new Set((def.inputs ?? []).map((i) => i.id))
  const timers = new Set((def.rules ?? []).flatMap((r) => r.do).flatMap((d) => ('timer' in d ? [d.timer] : [])))
  return (def.rules ?? []).filter((r) => {
    const names = [
      'input' in r.when
        ? inputs.has(r.when.input)
        : 'timer' in r.when
          ? timers.has(r.when.timer)
          : !('ch' in r.when) || channels.has(r.when.ch),
      ...(r.if ?? []).map((c) =>
        'input' in c ? inputs.has(c.input) : 'timer' in c ? timers.has(c.timer) : !('ch' in c) || channels.has(c.ch),
      ),
      ...r.do.map((d) => !('set' in d) || channels.has(d.ch)),
    ]
    return names.includes(false)
  })
}

export interface NastyCase {
  id: string
  name: string
  timeline: Entry[]
  until: number
}

const press = (input: string, from: number, to: number): Entry[] => [
  { t: from, input, level: 1 },
  { t: to, input, level: 0 },
]
const sorted = (timeline: Entry[]): Entry[] => [...timeline].sort((a, b) => a.t - b.t)

/** A plain use of every input, one after the other. */
export function plainCase(inputs: readonly Pick<TemplateInput, 'id' | 'fn'>[]): NastyCase {
  const timeline = inputs.flatMap(({ id, fn }, i) =>
    fn === 'motion' ? press(id, 3000 + i * 6000, 6000 + i * 6000) : press(id, 3000 + i * 6000, 3250 + i * 6000),
  )
  return {
    id: 'plain',
    name: 'each input once',
    timeline: sorted(timeline),
    until: Math.max(30_000, inputs.length * 6000 + 12_000),
  }
}

/** What happens to units sooner or later, with the inputs of this one. */
export function nastyCases(inputs: readonly Pick<TemplateInput, 'id' | 'fn'>[]): NastyCase[] {
  const [first] = inputs
  if (!first) return []
  const { id } = first
  const all = (timeline: Entry[], until = 60_000) => ({ timeline: sorted(timeline), until })
  return [
    {
      id: 'cut',
      name: 'power cut while on',
      ...all([...press(id, 2000, 2200), { t: 10_000, mains: 0 }, { t: 15_000, mains: 1 }]),
    },
    { id: 'child', name: 'held for a minute', ...all(press(id, 3000, 63_000), 90_000) },
    {
      id: 'hammer',
      name: 'ten quick presses',
      ...all(Array.from({ length: 10 }, (_, i) => press(id, 3000 + i * 350, 3120 + i * 350)).flat(), 30_000),
    },
    {
      id: 'away',
      name: 'hub away',
      ...all([{ t: 1000, net: 0 }, ...press(id, 5000, 5200), ...press(id, 20_000, 20_200), { t: 40_000, net: 1 }]),
    },
    {
      id: 'back',
      name: 'network back mid-press',
      ...all([
        { t: 1000, net: 0 },
        { t: 5000, input: id, level: 1 },
        { t: 5500, net: 1 },
        { t: 6500, input: id, level: 0 },
      ]),
    },
    {
      id: 'held-on',
      name: 'held as mains return',
      ...all([
        { t: 5000, mains: 0 },
        { t: 8000, input: id, level: 1 },
        { t: 10_000, mains: 1 },
        { t: 14_000, input: id, level: 0 },
      ]),
    },
  ]
}

/** Stretches in which an output is on, with what switched it. */
export interface OnSpan {
  ch: number
  from: number
  to: number
  why: string
  ended: string
}
export function spansOf(events: readonly RunEvent[], until: number): OnSpan[] {
  const open = new Map<number, { from: number; why: string }>()
  const out: OnSpan[] = []
  for (const e of events) {
    if (!('ch' in e)) continue
    const began = open.get(e.ch)
    if (e.to === 'on') open.set(e.ch, { from: e.t, why: e.why })
    else if (began) {
      out.push({ ch: e.ch, from: began.from, to: e.t, why: began.why, ended: e.why })
      open.delete(e.ch)
    }
  }
  for (const [ch, { from, why }] of open) out.push({ ch, from, to: until, why, ended: '' })
  return out.sort((a, b) => a.from - b.from || a.ch - b.ch)
}

export interface SaidLoad {
  contact: LoadChannel['contact']
  kind: LoadChannel['load']['kind']
  wayOut: boolean
  attended: boolean
}

const bootLevels = ['r1', 'ru', 'r0', 'rz'] as const

/** A channel as the table of five phases takes it: what the pin does at power-up comes from its family. */
export function loadChannelOf(
  template: PinTemplate,
  ch: number,
  start: 'off' | 'on' | 'last',
  load: SaidLoad,
): LoadChannel | null {
  const pin = template.pins.find((p: TemplatePin) => outputs.has(p.fn) && (p.ch ?? 1) === ch)
  if (!pin) return null
  const words = pinFacts(template.family, pin.pin)?.words ?? new Set<string>()
  return {
    ch,
    contact: load.contact,
    active: activeLevel(pin),
    bootLevel: bootLevels.find((w) => words.has(w)) ?? 'rz',
    start,
    latching: pin.fn === 'latch-set',
    localInput: inputsOf(template).some((i) => i.ch === ch),
    load: { kind: load.kind, wayOut: load.wayOut, attended: load.attended },
  }
}
export const phasesOf = (channel: LoadChannel) => ({ ...statesOf(channel), findings: loadFindings(channel) })
