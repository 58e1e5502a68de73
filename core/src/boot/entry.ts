import type { EntryMethod, FamilyFacts } from '../families/families'
import { straplessEntry } from '../families/families'
import { railFallsMs } from './rehearse'

/** The way into serial download as single instructions, made from what is known of the board. */

export interface Instruction {
  id: string
  /** What to do, one thing, in the imperative. */
  say: string
  /** What to look for while or after doing it. */
  look: string
  /** What to do when that is not seen. */
  otherwise: string
  /** How long to hold or wait, in seconds; null where no time matters. */
  seconds: number | null
  /** What is measured, where a reading is taken down; null where there is none. */
  reading: 'ohms' | null
  /** Stands for a danger: drawn with stripes. */
  caution: boolean
}

export const instruction = (
  id: string,
  say: string,
  more: { look?: string; otherwise?: string; seconds?: number; caution?: boolean; reading?: 'ohms' } = {},
): Instruction => ({
  id,
  say,
  look: more.look ?? '',
  otherwise: more.otherwise ?? '',
  seconds: more.seconds ?? null,
  caution: more.caution ?? false,
  reading: more.reading ?? null,
})

export interface EntryFacts {
  facts: FamilyFacts
  method: EntryMethod
  /** How the strap is reached: a named button, a pad in the row, or not at all. */
  bootBy: 'pad' | 'button' | 'none' | null
  /** Is there a RST pad in the row? */
  hasReset: boolean
  power: 'adapter3v3' | 'adapter5v' | 'bench' | 'regulator'
  mains: boolean
  /** What the tool does once the part listens: read it, or write it. */
  purpose: 'read' | 'write'
}

/**
 * The first way that the facts allow: the adapter's own lines, a button on the strap, a jumper, then the families
 * without a strap by their window or their call.
 */
export function chooseEntry(known: {
  family: string
  adapterPins: readonly string[]
  pads: readonly string[]
  bootBy: 'pad' | 'button' | 'none' | null
}): EntryMethod | null {
  const { family, adapterPins, pads, bootBy } = known
  const strapless = straplessEntry(family)
  if (strapless) return strapless
  if (['DTR', 'RTS'].every((p) => adapterPins.includes(p)) && ['BOOT', 'RST'].every((p) => pads.includes(p)))
    return 'autoreset'
  if (bootBy === 'button') return 'button'
  if (bootBy === 'pad' && pads.includes('BOOT')) return 'jumper'
  return null
}

const callEveryMs = 20

/** Instructions in order. The supply is the bench supply's switch or the USB plug of the adapter. */
export function entrySteps(known: EntryFacts): Instruction[] {
  const { facts, method, power, mains, hasReset, purpose } = known
  const supply = power === 'bench' ? 'the bench supply' : 'the adapter’s USB plug'
  const fall = Math.ceil(railFallsMs(150) / 100) / 10
  const steps: Instruction[] = []
  if (mains)
    steps.push(
      instruction(
        'mains',
        'See that the unit is unplugged from the mains, and that its plug lies where you can see it.',
        {
          look: 'No wire of the unit leads to a socket.',
          otherwise: 'Stop. Serial and mains together can kill you and the computer.',
          caution: true,
        },
      ),
    )
  steps.push(
    instruction('tool', `Have the tool ready to ${purpose}: port, file, rate, and one key to start it.`, {
      look: 'Only one key is left to press; both hands will be busy.',
    }),
    instruction('off', `Take off ${supply}. Wait until the rail is really down.`, {
      look: `3V3 to GND below ${method === 'window' ? '0.3' : '0.8'} V; a usual rail needs ${method === 'window' ? '1' : fall} s.`,
      otherwise:
        'The adapter’s TX feeds the part through its RX pin and holds the rail at 1 to 2.5 V: pull the USB plug, or open the TX lead too.',
      seconds: method === 'window' ? 1 : fall,
    }),
  )
  const strap = facts.strapPin ?? 'the strap'
  const silent = {
    look: 'Nothing: a part in its loader shows no light and joins no network.',
    otherwise: 'If the unit acts as always, the strap was not low when power came: once more, holding it first.',
  }
  if (method === 'button')
    steps.push(
      instruction('hold', `Hold the button on ${strap} down, and keep holding.`, {
        look: 'The button does not slip: it must not bounce while power comes up.',
      }),
      instruction('on', `Put ${supply} on while you hold.`, silent),
      instruction('keep', 'Keep holding for another half second, then let go.', {
        look: 'From 100 ms on it is enough for the chip; a finger is slower than a supply.',
        seconds: 0.5,
      }),
    )
  if (method === 'jumper')
    steps.push(
      instruction('jumper', `Join BOOT (${strap}) to GND: a second ground lead, the shield, or the USB shell.`, {
        look: 'Ohmmeter, power off: BOOT to GND below 2 Ω.',
      }),
      instruction('on', `Put ${supply} on.`, silent),
      ...(hasReset
        ? [instruction('tap', 'Tap RST to GND for a moment.', { look: '100 ms are enough.', seconds: 0.1 })]
        : []),
    )
  if (method === 'autoreset')
    steps.push(
      instruction('on', `Put ${supply} on.`, {
        look: 'The unit starts as always.',
        otherwise: 'Wired directly, opening the port may assert both lines and hold the part in reset.',
      }),
      instruction(
        'lines',
        'Let the tool move the lines: RTS on and DTR off 100 ms; RTS off and DTR on 50 ms; DTR off.',
        {
          look: 'RST goes low and is let go while BOOT is low.',
          otherwise: 'A line acts only when the other is idle: check that DTR goes to BOOT and RTS to RST.',
        },
      ),
    )
  if (method === 'window')
    steps.push(
      instruction('call', `Start the tool: it calls every ${callEveryMs} ms without a pause.`, {
        look: 'It keeps calling; nothing answers yet.',
      }),
      instruction('on', `Put ${supply} on. Surer: power on already, and tap ${facts.resetPin} to GND.`, {
        look: 'The first answer stops the calling.',
        otherwise: 'Several tries are normal: power off until the rail is below 0.3 V, and again.',
      }),
    )
  if (method === 'call')
    steps.push(
      instruction('call', 'Start the tool: it keeps sending the byte 1B.', { look: 'Nothing answers yet.' }),
      instruction('on', `Put ${supply} on, then tap ${facts.resetPin} to GND.`, {
        look: 'A stream of C: the loader waits for the image.',
        otherwise: `Tap ${facts.resetPin} again; if no C comes, exchange TX and RX.`,
      }),
    )
  if (method === 'button' || method === 'jumper' || method === 'autoreset')
    steps.push(
      instruction('start', `Press the one key: the tool ${purpose === 'read' ? 'reads' : 'writes'}.`, {
        look: `The loader answers. Its boot text comes at ${facts.bootBaud} baud.`,
        otherwise: 'No answer twice in a row: this sequence again, then exchange TX and RX, then contact and supply.',
      }),
    )
  if (method === 'jumper')
    steps.push(
      instruction('free', 'Done: take the jumper off BOOT, then power off and on.', {
        look: 'It starts its firmware.',
        otherwise: 'A forgotten jumper is the first suspect when a unit looks dead after writing.',
        caution: true,
      }),
    )
  if (method === 'call')
    steps.push(
      instruction('again', `After the write tap ${facts.resetPin} once more to start it.`, {
        look: 'Its own text comes.',
      }),
    )
  return steps
}
