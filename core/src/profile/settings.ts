import { z } from 'zod'
import { Definition, type Do, type If, type Settled, settled, type When } from '../behaviour/definition'
import { utf8 } from '../bytes/text'
import { type Outcome, parseInput, refuse, shapeCodes } from '../edge/fault'
import { activeLevel, isIdle, PinTemplate } from '../pins/template'
import { naturalOrder } from '../pins/words'
import {
  faultOfPhrase,
  type Item,
  PhraseFault,
  Phrases,
  type Rendered,
  renderItems,
  secret,
  type Values,
} from './phrases'

/** A unit's settings in the words of its firmware: pins, channels, inputs, motors, rules, and how it is reached (brief 03 §10, 07 §6). */

const digitsOf = (pin: string): string => pin.replace(/^\D+/, '')

function pinItems(template: PinTemplate): Item[] {
  return template.pins
    .filter((p) => !isIdle(p.fn))
    .sort((a, b) => naturalOrder(a.pin, b.pin))
    .map((p) => ({
      key: `pin.${p.fn}`,
      on: p.pin,
      values: {
        pin: p.pin,
        gpio: digitsOf(p.pin),
        index: p.ch ?? 0,
        active: activeLevel(p),
        pull: p.pull ?? 'none',
      },
    }))
}

const channelItems = ({ channels }: Settled): Item[] =>
  channels.flatMap(({ ch, onPower, pulseMs }): Item[] => [
    { key: `power.${onPower}`, on: `ch${ch}`, values: { index: ch } },
    ...(pulseMs > 0 ? [{ key: 'pulse', on: `ch${ch}`, values: { index: ch, ms: pulseMs } }] : []),
  ])

const inputItems = ({ inputs }: Settled): Item[] =>
  inputs.flatMap(({ id, ch, debounceMs, holdMs, react }) => {
    const of = (key: string, more: Values = {}): Item => ({ key, on: id, values: { input: id, index: ch, ...more } })
    return [
      ...(debounceMs > 0 ? [of('debounce', { ms: debounceMs })] : []),
      ...(holdMs > 0 ? [of('hold', { ms: holdMs })] : []),
      ...(react === 'release' ? [of('react.release')] : []),
    ]
  })

const motorItems = ({ interlock, motors }: Settled): Item[] => [
  ...interlock.map(({ chs, deadMs }) => {
    const list = chs.join(',')
    return { key: 'interlock', on: list, values: { list, ms: deadMs } }
  }),
  ...motors.map(({ id, open, close, openMs, closeMs, marginMs }) => ({
    key: 'motor',
    on: id,
    values: { id, open, close, openMs, closeMs, marginMs },
  })),
]

function eventOf(when: When, channelOfInput: (id: string) => number): { event: string; values: Values } {
  if ('input' in when)
    return { event: when.event, values: { input: when.input, inputIndex: channelOfInput(when.input) } }
  if ('timer' in when) return { event: 'timer', values: { whenTimer: when.timer } }
  if ('ch' in when) return { event: `becomes-${when.becomes}`, values: { whenIndex: when.ch } }
  return { event: 'net' in when ? `net-${when.net}` : 'boot', values: {} }
}
function actionOf(act: Do): { action: string; values: Values } {
  if ('set' in act) return { action: act.set, values: { index: act.ch } }
  if ('timer' in act) return { action: 'timer', values: { timer: act.timer, ms: act.ms } }
  if ('cancel' in act) return { action: 'cancel', values: { timer: act.cancel } }
  return { action: 'publish', values: { topic: act.publish, value: act.value } }
}
/** One condition on a channel has a phrase of its own; any others together have another. */
function conditionsOf(conditions: readonly If[]): { suffix: string; values: Values } {
  const [first] = conditions
  if (!first) return { suffix: '', values: {} }
  return conditions.length === 1 && 'ch' in first
    ? { suffix: '.if', values: { ifIndex: first.ch, ifState: first.is } }
    : { suffix: '.if-many', values: {} }
}

function ruleItems({ rules, inputs }: Settled): Item[] {
  const channelOfInput = (id: string) => inputs.find((i) => i.id === id)?.ch ?? 0
  return rules.flatMap((rule): Item[] => {
    const { event, values } = eventOf(rule.when, channelOfInput)
    const { suffix, values: conditions } = conditionsOf(rule.if ?? [])
    return rule.do.map((act): Item => {
      const { action, values: acted } = actionOf(act)
      return {
        key: `rule.${event}.${action}${suffix}`,
        on: rule.id,
        values: { rule: rule.id, ...values, ...conditions, ...acted },
      }
    })
  })
}

const ranged = (holds: (n: number) => boolean, message: string) =>
  z.number().superRefine((n, context) => {
    if (!holds(n)) refuse(context, 'range', [], message)
  })
const mostSsidBytes = 32
const ssid = z.string().superRefine((name, context) => {
  if (utf8(name).length > mostSsidBytes) refuse(context, 'range', [], 'A network name has at most 32 bytes')
})
export const Connection = z.object({
  preset: z.string().nullish(),
  ssid: ssid.nullish(),
  passwordRef: z.string().nullish(),
  ssid2: ssid.nullish(),
  password2Ref: z.string().nullish(),
  host: z.string().nullish(),
  shownName: z.string().nullish(),
  mqtt: z
    .object({
      host: z.string(),
      port: ranged((n) => Number.isInteger(n) && n >= 1 && n <= 65_535, 'A port is from 1 to 65535').nullish(),
      tls: z.boolean().nullish(),
      user: z.string().nullish(),
      passwordRef: z.string().nullish(),
      topic: z.string(),
    })
    .nullish(),
  reportSeconds: ranged((n) => Number.isInteger(n) && n >= 1, 'A report comes after whole seconds from 1').nullish(),
  interfaces: z
    .array(z.object({ id: z.string(), on: z.boolean() }))
    .max(50)
    .nullish(),
})
export type Connection = z.infer<typeof Connection>

const ports = { plain: 1883, tls: 8883 }
const onOff = (on: boolean): string => (on ? 'on' : 'off')
/** Secrets that a person wants to see on the sheet, by the ids that refer to them; none of them is covered. */
export type ShownSecrets = Readonly<Record<string, string>>
const secretOf = (ref: string | null | undefined, shown: ShownSecrets) =>
  ref === null || ref === undefined ? null : (shown[ref] ?? secret)

function connectionItems(c: Connection, shown: ShownSecrets): Item[] {
  const of = (given: unknown, key: string, values: Values): Item[] =>
    given === null || given === undefined ? [] : [{ key, on: 'connection', values }]
  const { mqtt } = c
  const port = mqtt?.port ?? (mqtt?.tls ? ports.tls : ports.plain)
  return [
    ...of(c.preset, 'net.preset', { preset: c.preset ?? null }),
    ...of(c.ssid, 'net.first', { ssid: c.ssid ?? null, password: secretOf(c.passwordRef, shown) }),
    ...of(c.ssid2, 'net.second', { ssid: c.ssid2 ?? null, password: secretOf(c.password2Ref, shown) }),
    ...of(c.host ?? c.shownName, 'net.name', { host: c.host ?? null, name: c.shownName ?? null }),
    ...of(mqtt, 'mqtt.server', {
      host: mqtt?.host ?? null,
      port,
      user: mqtt?.user ?? null,
      password: secretOf(mqtt?.passwordRef, shown),
    }),
    ...of(mqtt?.topic, 'mqtt.topic', { topic: mqtt?.topic ?? null }),
    ...of(mqtt?.tls, 'mqtt.tls', { state: onOff(mqtt?.tls === true) }),
    ...of(c.reportSeconds, 'report', { s: c.reportSeconds ?? null }),
    ...(c.interfaces ?? []).map(({ id, on }) => ({ key: `iface.${id}`, on: id, values: { state: onOff(on) } })),
  ]
}

export interface SettingsSource {
  template: PinTemplate | null
  behaviour: Settled | null
  connection: Connection | null
  /** Without it every secret is covered. */
  shown?: ShownSecrets
}

/** Everything that a firmware may be told of a unit, in the order in which it is told. */
export const settingItems = ({ template, behaviour, connection, shown = {} }: SettingsSource): Item[] => [
  ...(connection ? connectionItems(connection, shown) : []),
  ...(template ? pinItems(template) : []),
  ...(behaviour
    ? [...channelItems(behaviour), ...inputItems(behaviour), ...motorItems(behaviour), ...ruleItems(behaviour)]
    : []),
]

/** In the words of a profile, or why it cannot be. */
export function renderSettings(profile: Phrases, source: SettingsSource): Outcome<Rendered> {
  return rendered(profile, settingItems(source))
}

export function rendered(profile: Phrases, items: readonly Item[]): Outcome<Rendered> {
  try {
    return { ok: true, value: renderItems(profile, items) }
  } catch (cause) {
    if (cause instanceof PhraseFault) return { ok: false, faults: [faultOfPhrase(cause)] }
    throw cause
  }
}

const Request = z.object({
  profile: Phrases,
  template: PinTemplate.nullish(),
  behaviour: Definition.partial({ channels: true }).nullish(),
  connection: Connection.nullish(),
})

/** `settings render`: one paste, in order, with what the firmware cannot say. */
export function settingsRender(input: unknown): Outcome<Rendered> {
  const parsed = parseInput(Request, input, shapeCodes)
  if (!parsed.ok) return parsed
  const { profile, template, behaviour, connection } = parsed.value
  return renderSettings(profile, {
    template: template ?? null,
    behaviour: behaviour ? settled({ ...behaviour, channels: behaviour.channels ?? [] }) : null,
    connection: connection ?? null,
  })
}
