import { z } from 'zod'
import { type Outcome, parseInput, refuse, strictCodes } from '../edge/fault'
import { type Finding, finding, hasError } from '../edge/finding'
import { entryMethods, factsOf, isArm968, isKnownFamily, type KnownFamily, straplessEntry } from '../families/families'

export const padRoles = ['GND', '3V3', 'TX', 'RX', 'BOOT', 'RST', '5V', 'UNKNOWN'] as const
export type PadRole = (typeof padRoles)[number]
export const powerSources = ['adapter3v3', 'adapter5v', 'bench'] as const

export const WiringInput = z.object({
  adapter: z.object({
    pins: z.array(z.string().max(16)).max(40),
    logicV: z.number().min(0).max(24).default(3.3),
    max3v3Ma: z.number().positive().nullish(),
    labelledFrom: z.enum(['adapter', 'target']).default('adapter'),
  }),
  board: z.object({
    family: z.string().superRefine((family, context) => {
      if (!isKnownFamily(family))
        refuse(context, 'unknown-family', [], `There are no facts for a family called "${family}".`)
    }),
    pads: z
      .array(
        z.string().superRefine((role, context) => {
          if (!(padRoles as readonly string[]).includes(role))
            refuse(context, 'unknown-role', [], `"${role}" isn't a pad role: ${padRoles.join(', ')}.`)
        }),
      )
      .max(40),
    pitchMm: z.number().positive().nullish(),
    regulator5v: z.boolean().nullish(),
    peakMa: z.number().positive().nullish(),
  }),
  power: z.enum(powerSources).default('adapter3v3'),
  benchV: z.number().min(0).max(60).default(3.3),
  entry: z
    .string()
    .superRefine((entry, context) => {
      if (!(entryMethods as readonly string[]).includes(entry))
        refuse(context, 'unknown-entry', [], `"${entry}" isn't a way into download mode: ${entryMethods.join(', ')}.`)
    })
    .default('button'),
  mainsOff: z.boolean().nullish(),
})
export type WiringInput = z.infer<typeof WiringInput>

export interface Connection {
  /** Index of the adapter pin in the row as given. */
  adapter: number
  pin: string
  pad: PadRole
}

export type Contact = 'header' | 'fine_header_or_clip' | 'clip_or_solder' | 'solder'

export interface WiringPlan {
  allowed: boolean
  connections: Connection[]
  findings: Finding[]
  /** Bulk capacitor that carries a burst of the radio, or null when none is called for. */
  capacitorUf: number | null
  contact: Contact | null
}

/** Shown beside each wire, so that people at the bench speak of the same lead. */
export const leadColours: Partial<Record<PadRole, string>> = {
  GND: 'black',
  '3V3': 'red',
  '5V': 'red',
  TX: 'green',
  RX: 'yellow',
  BOOT: 'blue',
  RST: 'white',
}

/** Share of a rated supply that may be used, and what is assumed of an adapter nobody has looked up. */
const usableShare = 0.8
const assumedMa = 50
const radioDuty = 0.1
/** C = ΔI·Δt/ΔV with a 1 ms burst and 0.2 V of sag: 5 µF for every mA that the supply lacks. */
const microfaradsPerMilliamp = 5

function contactFor(pitchMm: number): Contact {
  if (pitchMm >= 2.5) return 'header'
  if (pitchMm >= 1.9) return 'fine_header_or_clip'
  if (pitchMm >= 1.2) return 'clip_or_solder'
  return 'solder'
}

function supplyFindings(input: WiringInput): { findings: Finding[]; capacitorUf: number | null } {
  if (input.power !== 'adapter3v3') return { findings: [], capacitorUf: null }
  const facts = factsOf(input.board.family as KnownFamily)
  const unknown = input.adapter.max3v3Ma == null
  const usable = usableShare * (input.adapter.max3v3Ma ?? assumedMa)
  const peak = input.board.peakMa ?? facts.peakMa
  const average = facts.baseMa + radioDuty * (peak - facts.baseMa)
  const round = (x: number) => Math.round(x)
  const findings: Finding[] = []
  if (unknown)
    findings.push(
      finding(
        'supply-unknown',
        'watch',
        'Nobody has said what the 3V3 pin of this adapter can give.',
        `${assumedMa} mA are assumed, of which ${round(usable)} mA may be used.`,
        'Look up what the 3V3 pin can give and enter it with the adapter.',
      ),
    )
  if (usable < facts.loaderMa)
    findings.push(
      finding(
        'supply-weak-loader',
        unknown ? 'watch' : 'error',
        'Not even the loader will run on this pin.',
        `The loader of an ${input.board.family} draws about ${facts.loaderMa} mA; ${round(usable)} mA may be used.`,
        'Feed 3.3 V from a bench supply, or use a stronger adapter.',
      ),
    )
  if (usable < average)
    findings.push(
      finding(
        'supply-weak-start',
        'watch',
        'It will write, but may loop when Wi-Fi starts.',
        `The average is about ${round(average)} mA; ${round(usable)} mA may be used.`,
        'Feed 3.3 V from a bench supply for the first start.',
      ),
    )
  const short = average <= usable && usable < peak
  const capacitorUf = short ? (peak - usable) * microfaradsPerMilliamp : null
  if (capacitorUf !== null)
    findings.push(
      finding(
        'supply-needs-capacitor',
        'watch',
        `Bursts of the radio need a capacitor of about ${round(capacitorUf)} µF near the board.`,
        `The radio peaks near ${round(peak)} mA; ${round(usable)} mA may be used.`,
        `Put ${round(capacitorUf)} µF or more across 3V3 and GND, or use a bench supply.`,
      ),
    )
  return { findings, capacitorUf }
}

function electricalFindings(input: WiringInput): Finding[] {
  const findings: Finding[] = []
  if (input.mainsOff !== true)
    findings.push(
      finding(
        'mains-on',
        'error',
        'Unplug the unit. Serial and mains together can kill you and the computer.',
        'Nobody has confirmed that the unit is off the mains.',
        'Pull the plug, wait for the discharge time, then confirm.',
      ),
    )
  if (input.adapter.logicV > 3.6)
    findings.push(
      finding(
        'logic-5v',
        'error',
        `The adapter's logic level of ${input.adapter.logicV} V is too high for this part.`,
        'No pin of any family stands more than 3.6 V.',
        'Set the level jumper to 3.3 V, or put a divider in front of the board’s RX.',
      ),
    )
  if (input.power === 'adapter5v' && input.board.regulator5v !== true)
    findings.push(
      finding(
        'supply-5v',
        'error',
        '5 V destroys this part.',
        'The board has no regulator of its own for 5 V on record.',
        'Feed 3.3 V, or record the regulator once you have seen it on the board.',
      ),
    )
  if (input.power === 'bench' && Math.abs(input.benchV - 3.3) > 0.3 + 1e-9)
    findings.push(
      finding(
        'bench-voltage',
        'error',
        `The bench supply is set to ${input.benchV} V.`,
        'The parts want 3.0 to 3.6 V.',
        'Set 3.3 V and measure it before connecting.',
      ),
    )
  return findings
}

interface Need {
  pad: PadRole
  pin: string
}

/** Pads and the adapter pins that go to them, in the order of the connection list. */
function needs(input: WiringInput): Need[] {
  const straight = input.adapter.labelledFrom === 'target'
  const list: Need[] = [{ pad: 'GND', pin: 'GND' }]
  if (input.power === 'adapter3v3') list.push({ pad: '3V3', pin: '3V3' })
  if (input.power === 'adapter5v') list.push({ pad: '5V', pin: '5V' })
  list.push({ pad: 'TX', pin: straight ? 'TX' : 'RX' }, { pad: 'RX', pin: straight ? 'RX' : 'TX' })
  // Two cross-coupled transistors: DTR pulls BOOT, RTS pulls RST.
  if (input.entry === 'autoreset') list.push({ pad: 'BOOT', pin: 'DTR' }, { pad: 'RST', pin: 'RTS' })
  if (input.entry === 'jumper' && straplessEntry(input.board.family) === null) list.push({ pad: 'BOOT', pin: 'GND' })
  return list
}

/** Which lead goes where, whether it may be connected at all, and why not. Board index and pin names as given. */
export function planWiring(input: unknown): Outcome<WiringPlan> {
  const parsed = parseInput(WiringInput, input, strictCodes)
  if (!parsed.ok) return parsed
  const plan = parsed.value
  const findings = electricalFindings(plan)
  const supply = supplyFindings(plan)
  findings.push(...supply.findings)

  const used = new Set<number>()
  const connections: Connection[] = []
  for (const need of needs(plan)) {
    const jumperGround = need.pad === 'BOOT' && need.pin === 'GND'
    const hasPad = plan.board.pads.includes(need.pad)
    const pin = plan.adapter.pins.findIndex((name, index) => name === need.pin && !used.has(index))
    if (!hasPad)
      findings.push(
        finding(
          `pad-missing-${need.pad}`,
          'error',
          `The board's row has no ${need.pad} pad.`,
          'This way in needs it.',
          'Find the pad, or choose another way into download mode.',
        ),
      )
    // A jumper does not need the adapter: BOOT may be held on the shield. That is the second-ground watch below.
    if (pin < 0 && !jumperGround)
      findings.push(
        finding(
          `pin-missing-${need.pin}`,
          'error',
          `The adapter has no ${need.pin} pin.`,
          `The board's ${need.pad} needs it.`,
          'Choose another adapter, or another supply.',
        ),
      )
    if (hasPad && pin >= 0) {
      used.add(pin)
      connections.push({ adapter: pin, pin: need.pin, pad: need.pad })
    }
  }
  const grounds = plan.adapter.pins.filter((name) => name === 'GND').length
  if (plan.entry === 'jumper' && grounds < 2)
    findings.push(
      finding(
        'second-ground',
        'watch',
        'BOOT needs a ground too, and the adapter has no free second one.',
        'One GND pin goes to the board’s GND.',
        'Join a second ground lead, or hold BOOT on the shield or USB shell.',
      ),
    )
  if (isArm968(plan.board.family) && ['button', 'jumper', 'autoreset'].includes(plan.entry))
    findings.push(
      finding(
        'no-strap-family',
        'watch',
        'This family has no strap: use the power window.',
        'Its loader listens only for a moment after every reset.',
        'Choose “power window” as the way in.',
      ),
    )
  if (plan.adapter.labelledFrom === 'target')
    findings.push(
      finding(
        'labelled-from-target',
        'watch',
        'Straight wiring, TX to TX: check once more.',
        'The adapter is labelled from the target’s side.',
        'Check its logic level too: many such boards drive 5 V.',
      ),
    )

  return {
    ok: true,
    value: {
      allowed: !hasError(findings),
      connections,
      findings,
      capacitorUf: supply.capacitorUf,
      contact: plan.board.pitchMm == null ? null : contactFor(plan.board.pitchMm),
    },
  }
}
