import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { finding, type PlacedFinding, type Severity } from '../edge/finding'
import { byText } from '../edge/order'

/**
 * What a load does while the unit does not work for it: without supply, while it starts, when its firmware stands still,
 * without a network (brief 07 §4).
 */
export const phases = ['unpowered', 'booting', 'started', 'hung', 'offline'] as const
export type Phase = (typeof phases)[number]
export type CoilState = 'on' | 'off' | 'held' | 'maybe' | 'last'
export type States = Record<Phase, CoilState>

const contacts = ['NO', 'NC', 'CO-NO', 'CO-NC'] as const
/** What the pin does from power-up to firmware: high, high through a pull-up, low, or nothing at all. */
const bootLevels = ['r1', 'ru', 'r0', 'rz'] as const
const loadKinds = ['lamp', 'heater', 'motor', 'latch-unlocks', 'latch-locks', 'modem', 'pump', 'fan', 'other'] as const

const Channel = z.object({
  ch: z.number().superRefine((n, context) => {
    if (!Number.isInteger(n) || n < 1) refuse(context, 'range', [], 'A channel has a whole number from 1.')
  }),
  contact: z.enum(contacts),
  active: z.enum(['high', 'low']),
  bootLevel: z.enum(bootLevels),
  start: z.enum(['on', 'off', 'last']),
  latching: z.boolean().nullish(),
  localInput: z.boolean(),
  load: z.object({ kind: z.enum(loadKinds), wayOut: z.boolean().nullish(), attended: z.boolean().nullish() }),
})
export type LoadChannel = z.infer<typeof Channel>
const Request = z.object({
  channels: z
    .array(Channel)
    .min(1)
    .superRefine((channels, context) => {
      for (const [i, { ch }] of channels.entries())
        if (channels.findIndex((c) => c.ch === ch) < i)
          refuse(context, 'conflict', [i, 'ch'], `Channel ${ch} is there twice.`)
    }),
})

export interface ChannelStates {
  ch: number
  coil: States
  load: States
}

const levelAtBoot: Record<LoadChannel['active'], Record<LoadChannel['bootLevel'], CoilState>> = {
  high: { r1: 'on', ru: 'maybe', r0: 'off', rz: 'maybe' },
  low: { r1: 'off', ru: 'off', r0: 'on', rz: 'maybe' },
}

function coilStates({ active, bootLevel, start, latching }: LoadChannel): States {
  const boot = levelAtBoot[active][bootLevel]
  return {
    unpowered: latching ? 'held' : 'off',
    // A coil that holds needs a pulse: none means that it stays, any other level may be one.
    booting: latching ? (boot === 'off' ? 'held' : 'maybe') : boot,
    started: start,
    hung: 'held',
    offline: 'held',
  }
}

const swapped: Partial<Record<CoilState, CoilState>> = { on: 'off', off: 'on' }

/** Coil and load in each phase: through a contact that is closed at rest the load does the opposite. */
export function statesOf(channel: LoadChannel): ChannelStates {
  const coil = coilStates(channel)
  const atRest = channel.contact === 'NC' || channel.contact === 'CO-NC'
  const load = Object.fromEntries(phases.map((p) => [p, (atRest && swapped[coil[p]]) || coil[p]])) as States
  return { ch: channel.ch, coil, load }
}

const hot: ReadonlySet<string> = new Set(['heater', 'pump', 'motor'])

/** One rule: its severity where it holds, else null. */
interface Rule {
  code: string
  holds: (channel: LoadChannel, load: States) => Severity | null
  message: string
  next: string
}
const when = (holds: boolean, severity: Severity): Severity | null => (holds ? severity : null)
const isLatch = (channel: LoadChannel): boolean => channel.load.kind.startsWith('latch-')
const mayBeOn = (state: CoilState): boolean => state === 'on' || state === 'maybe'

const rules: Rule[] = [
  {
    code: 'dead-on',
    holds: (c, load) => when(hot.has(c.load.kind) && load.unpowered === 'on', 'error'),
    message: 'It runs when the unit has no supply, and nobody can switch it off.',
    next: 'Use the contact that is open at rest.',
  },
  {
    code: 'heater-hung',
    holds: (c) => when(c.load.kind === 'heater' || c.load.kind === 'pump', 'watch'),
    message: 'If the firmware stands still while it is on, nothing in the unit ends it.',
    next: 'Add a pulse, or a thermal cut-out.',
  },
  {
    code: 'heater-on',
    holds: (c, load) =>
      when(
        hot.has(c.load.kind) && (mayBeOn(load.booting) || load.started === 'on'),
        c.load.attended ? 'watch' : 'error',
      ),
    message: 'It may come on by itself whenever the unit starts.',
    next: 'Choose a pin that stays off at power-up, and start off.',
  },
  {
    code: 'lamp-flash',
    holds: (c, load) => when(c.load.kind === 'lamp' && mayBeOn(load.booting), 'ok'),
    message: 'The lamp may flash whenever the unit starts.',
    next: '',
  },
  {
    code: 'last-unsafe',
    holds: (c) => when(hot.has(c.load.kind) && !c.load.attended && (c.start === 'last' || !!c.latching), 'error'),
    message: 'After a power cut it comes back to whatever was on, with nobody there.',
    next: 'Start off, and use a relay that lets go.',
  },
  {
    code: 'latch-hung',
    holds: (c) => when(isLatch(c), c.load.wayOut ? 'error' : 'watch'),
    message: 'If the firmware stands still during a pulse, the coil may stay on.',
    next: 'Use a pulse of hardware, or a latch that bears it.',
  },
  {
    code: 'latch-shut',
    holds: (c, load) => {
      const shut = load.unpowered === 'on' || load.unpowered === 'held'
      const { wayOut, kind } = c.load
      return when(!!wayOut && (kind === 'latch-locks' || (kind === 'latch-unlocks' && shut)), 'error')
    },
    message: 'Without supply the way out stays shut.',
    next: 'Use a latch that opens when its supply goes, and feed it through an open contact.',
  },
  {
    code: 'modem-blink',
    holds: (c, load) => when(c.load.kind === 'modem' && (load.booting === 'off' || load.booting === 'maybe'), 'watch'),
    message: 'The network may go each time the unit starts.',
    next: 'Choose a pin that keeps it on at power-up.',
  },
  {
    code: 'modem-dark',
    holds: (c, load) =>
      when(
        c.load.kind === 'modem' && (load.unpowered === 'off' || load.started === 'off' || load.started === 'last'),
        'watch',
      ),
    message: 'The network may stay off, and with it the way to switch it on.',
    next: 'Feed it through the contact that is closed at rest, and start with it on.',
  },
  {
    code: 'no-local',
    holds: (c) => when(!c.localInput && c.load.kind !== 'modem', 'watch'),
    message: 'Without a network there is no switch for it.',
    next: 'Give it a button of its own.',
  },
]

const phaseWords: Record<Phase, string> = {
  unpowered: 'without supply',
  booting: 'while it starts',
  started: 'once started',
  hung: 'when the program stands still',
  offline: 'without a network',
}
const stateWords: Record<CoilState, string> = {
  on: 'on',
  off: 'off',
  held: 'as it was',
  maybe: 'perhaps on',
  last: 'as before',
}
const facts = (load: States): string => phases.map((p) => `${phaseWords[p]} ${stateWords[load[p]]}`).join(', ')

/** What speaks against a channel, in the order of the codes. A hub that would switch it off makes nothing safe. */
export function loadFindings(channel: LoadChannel): PlacedFinding<string>[] {
  const { load } = statesOf(channel)
  return rules
    .flatMap((rule) => {
      const severity = rule.holds(channel, load)
      if (!severity) return []
      const because = `Its load: ${facts(load)}.`
      return [{ ...finding(rule.code, severity, rule.message, because, rule.next), at: `ch${channel.ch}` }]
    })
    .sort((a, b) => byText(a.code, b.code))
}

/** `load states`. Faults: `input`, `range`, `empty`, `conflict` (a channel twice). */
export function loadStates(input: unknown): Outcome<{ channels: ChannelStates[]; findings: PlacedFinding<string>[] }> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const channels = [...parsed.value.channels].sort((a, b) => a.ch - b.ch)
  return { ok: true, value: { channels: channels.map(statesOf), findings: channels.flatMap(loadFindings) } }
}
