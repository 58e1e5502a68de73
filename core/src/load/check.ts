import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { type Finding, finding } from '../edge/finding'
import { byText } from '../edge/order'

/** May this unit carry this load: the least of its ratings, inrush, DC, motors, leads, coils, latches (brief 04 §3.1). */

/** Inrush as a multiple of the steady current, and power factor: typical values, for who has not measured. */
export const typical = {
  resistive: { inrush: 1.2, pf: 1 },
  incandescent: { inrush: 12, pf: 1 },
  motor: { inrush: 6, pf: 0.75 },
  compressor: { inrush: 8, pf: 0.75 },
  transformer: { inrush: 20, pf: 0.9 },
  led: { inrush: 40, pf: 0.6 },
  charger: { inrush: 30, pf: 0.5 },
  discharge: { inrush: 20, pf: 0.6 },
} as const
type Kind = keyof typeof typical
const kinds = Object.keys(typical) as [Kind, ...Kind[]]

const slack = 1e-9
/** Of a rating, what it bears for hours. */
export const steadyShare = 0.8
const steadyHours = 3
const contradiction = 1.1
const inrushOfRelay = 5
const inrushUnknown = 3
const motorShare = 0.4
const woundShare = 0.35
const wattsOnlyShare = 0.8
const usualVmax = 240
/** What all of a house's channels together flow through. */
const totals: ReadonlySet<string> = new Set(['fuse', 'plug'])
/** Contacts that break the current: a DC arc does not go out by itself. */
const contacts: ReadonlySet<string> = new Set(['package', 'relay', 'fuse'])

const notBelow0 = z.number().superRefine((n, context) => {
  if (n < 0) refuse(context, 'range', [], 'It cannot be below 0.')
})
const above0 = z.number().superRefine((n, context) => {
  if (n <= 0) refuse(context, 'range', [], 'It must be above 0.')
})
const Rating = z
  .object({
    source: z.string().min(1),
    A: above0.nullish(),
    W: above0.nullish(),
    Vmin: notBelow0.nullish(),
    Vmax: above0.nullish(),
    scope: z.enum(['channel', 'total']).nullish(),
    current: z.enum(['ac', 'dc', 'both']).nullish(),
    makeA: above0.nullish(),
  })
  .superRefine(({ A, W }, context) => {
    if (A == null && W == null) refuse(context, 'input', [], 'A rating has amperes or watts.')
  })
type Rating = z.output<typeof Rating>
const Request = z.object({
  supply: z.object({ kind: z.enum(['ac', 'dc']), V: above0 }),
  ratings: z.array(Rating).min(1).max(100),
  load: z
    .object({
      kind: z.enum(kinds),
      A: above0.nullish(),
      VA: above0.nullish(),
      W: above0.nullish(),
      pf: z
        .number()
        .superRefine((pf, context) => {
          if (pf <= 0 || pf > 1) refuse(context, 'range', [], 'A power factor is above 0, and 1 at most.')
        })
        .nullish(),
      count: above0.nullish(),
      hours: notBelow0.nullish(),
      inrushX: above0.nullish(),
    })
    .superRefine(({ A, VA, W }, context) => {
      if (A == null && VA == null && W == null) refuse(context, 'input', [], 'A load has A, VA or W.')
    }),
  others: z
    .array(z.object({ A: notBelow0 }))
    .max(100)
    .nullish(),
  lead: z.object({ A: above0, wound: z.boolean(), woundA: above0.nullish() }).nullish(),
  coils: z
    .object({
      count: z.number().int().min(0),
      mA: above0,
      boardMA: notBelow0.nullish(),
      supplyMA: above0,
    })
    .nullish(),
  latch: z
    .object({
      A: above0,
      V: above0,
      supplyA: above0,
      flyback: z.boolean(),
      onPowerLoss: z.enum(['unlocks', 'locks']).nullish(),
      escapeRoute: z.boolean().nullish(),
    })
    .nullish(),
})
type Request = z.output<typeof Request>

export interface LoadCheck {
  I: number
  totalA: number
  limit: { source: string; A: number; deratedA: number }
  usePct: number
  inrushA: number
  inrushX: number
  verdict: 'ok' | 'caution' | 'stop'
  reasons: string[]
  coils?: { mA: number; usePct: number; maxOn: number }
  latch?: { usePct: number; W: number }
  findings: Finding[]
}

const said: Record<string, [message: string, next: string]> = {
  'stop-over': ['It is more than the least of its ratings.', 'Use a smaller load, or another unit.'],
  'stop-voltage': ['The supply is outside what one of its parts is made for.', 'Use a unit made for this voltage.'],
  'stop-dc-rating': [
    'Contacts made for AC usually break about 30 V DC: a DC arc does not go out by itself.',
    'Use a unit that is rated for DC.',
  ],
  'stop-inrush': ['Its inrush is more than the contact may make.', 'Limit the inrush, or use another contact.'],
  'stop-coils': ['All coils together are more than the supply gives.', 'Switch fewer at once, or feed it more.'],
  'stop-latch-supply': ['The latch draws more than its supply gives.', 'Use a stronger supply.'],
  'stop-escape': [
    'A latch that locks without power is never put on a way out.',
    'Use one that opens when its supply goes.',
  ],
  'caution-derate': ['Over 80 % for three hours or more: contacts and terminals run hot.', 'Leave it room.'],
  'caution-inrush': [
    'Its inrush is more than five times the relay’s amperes.',
    'Find the relay’s making current, or limit the inrush.',
  ],
  'caution-inrush-unknown': ['Nobody knows what the relay may make.', 'Read its marking.'],
  'caution-motor-rating': [
    'Contacts for a heater carry about a third of it as motor.',
    'Use a relay that is rated for motors.',
  ],
  'caution-dc-unrated': ['No rating says what its contacts may do on DC.', 'Find the marking of the relay.'],
  'caution-watts-only': ['Watts alone say little at another voltage: heat comes from amperes.', 'Find its amperes.'],
  'caution-lead': ['An extension lead is one more part that gets warm.', 'Plug it in directly where you can.'],
  'caution-lead-wound': ['A reel that is wound up cannot get rid of its heat.', 'Unwind all of it.'],
  'caution-coils': ['The coils take over 80 % of the supply.', 'Switch fewer at once.'],
  'caution-latch-supply': ['The latch takes over 80 % of its supply.', 'Leave it room.'],
  'caution-flyback': ['Without a diode across the coil its kick reaches the electronics.', 'Fit one.'],
  'caution-power-loss-unknown': ['Nobody has said what the latch does in a power cut.', 'Try it.'],
  'note-contradiction': ['Its markings contradict each other: the least counts.', ''],
  'note-pf-assumed': ['The power factor is a typical one.', 'Measure it where it matters.'],
}
const classes = ['stop', 'caution', 'note'] as const
const classOf = (code: string): number => classes.findIndex((c) => code.startsWith(c))
const severities = { stop: 'error', caution: 'watch', note: 'ok' } as const

/** Amperes that a marking allows at this supply; watts alone count as amperes there. */
export const ampsOf = (
  { A, W }: { A?: number | null | undefined; W?: number | null | undefined },
  volts: number,
): number => Math.min(A ?? Number.POSITIVE_INFINITY, W == null ? Number.POSITIVE_INFINITY : W / volts)

/** What an extension lead bears: wound up it cannot get rid of its heat. */
export const leadAmps = ({
  A,
  wound,
  woundA,
}: {
  A: number
  wound: boolean
  woundA?: number | null | undefined
}): number => (wound ? (woundA ?? woundShare * A) : A)

interface Carried {
  source: string
  A: number
  use: number
}

function currentOf({ supply, load }: Request): { I: number; pfAssumed: boolean } {
  const count = load.count ?? 1
  if (load.A != null) return { I: load.A * count, pfAssumed: false }
  if (load.VA != null) return { I: (load.VA * count) / supply.V, pfAssumed: false }
  const usual = supply.kind === 'dc' ? 1 : typical[load.kind].pf
  const pf = supply.kind === 'dc' ? 1 : (load.pf ?? usual)
  return {
    I: ((load.W ?? 0) * count) / (supply.V * pf),
    pfAssumed: supply.kind === 'ac' && load.pf == null && usual !== 1,
  }
}

/** Every part that carries it, with what flows there; the lead counts last. */
function carriedBy(request: Request, I: number, totalA: number): Carried[] {
  const { ratings, supply, lead } = request
  const parts = ratings.map((r) => {
    const A = ampsOf(r, supply.V)
    const scope = r.scope ?? (totals.has(r.source) ? 'total' : 'channel')
    return { source: r.source, A, use: (scope === 'total' ? totalA : I) / A }
  })
  if (!lead) return parts
  const A = leadAmps(lead)
  return [...parts, { source: 'lead', A, use: totalA / A }]
}

function ratingReasons({ ratings, supply, load }: Request, I: number, inrushA: number, inrushX: number): string[] {
  const out: string[] = []
  const dc = supply.kind === 'dc'
  const { V } = supply
  if (ratings.some((r) => V < (r.Vmin ?? 0) - slack || V > (r.Vmax ?? Number.POSITIVE_INFINITY) + slack))
    out.push('stop-voltage')
  if (dc && ratings.some((r) => contacts.has(r.source) && (r.current ?? 'ac') === 'ac')) out.push('stop-dc-rating')
  if (dc && !ratings.some((r) => r.source === 'package' || r.source === 'relay')) out.push('caution-dc-unrated')
  const relays = ratings.filter((r) => r.source === 'relay')
  for (const r of relays) {
    const A = ampsOf(r, V)
    if (r.makeA != null && inrushA > r.makeA * (1 + slack)) out.push('stop-inrush')
    if (r.makeA == null && inrushA > inrushOfRelay * A * (1 + slack)) out.push('caution-inrush')
    const turns = load.kind === 'motor' || load.kind === 'compressor'
    if (turns && r.makeA == null && I > motorShare * A * (1 + slack)) out.push('caution-motor-rating')
  }
  if (relays.length === 0 && inrushX > inrushUnknown) out.push('caution-inrush-unknown')
  const vague = (r: Rating) => {
    const most = r.Vmax ?? (dc ? null : usualVmax)
    return r.W != null && r.A == null && most !== null && V < wattsOnlyShare * most
  }
  if (ratings.some(vague)) out.push('caution-watts-only')
  const perChannel = ratings
    .filter((r) => (r.scope ?? (totals.has(r.source) ? 'total' : 'channel')) === 'channel')
    .map((r) => ampsOf(r, V))
  if (perChannel.length > 1 && Math.max(...perChannel) > contradiction * Math.min(...perChannel) * (1 + slack))
    out.push('note-contradiction')
  return out
}

function coilsOf(coils: NonNullable<Request['coils']>): { told: NonNullable<LoadCheck['coils']>; reasons: string[] } {
  const board = coils.boardMA ?? 0
  const mA = coils.count * coils.mA + board
  const usePct = (100 * mA) / coils.supplyMA
  const room = Math.floor((steadyShare * coils.supplyMA - board) / coils.mA + slack)
  const maxOn = Math.min(coils.count, Math.max(0, room))
  const reasons = usePct > 100 + slack ? ['stop-coils'] : usePct > 100 * steadyShare + slack ? ['caution-coils'] : []
  return { told: { mA, usePct, maxOn }, reasons }
}
function latchOf(latch: NonNullable<Request['latch']>): { told: NonNullable<LoadCheck['latch']>; reasons: string[] } {
  const usePct = (100 * latch.A) / latch.supplyA
  return {
    told: { usePct, W: latch.A * latch.V },
    reasons: [
      ...(usePct > 100 + slack
        ? ['stop-latch-supply']
        : usePct > 100 * steadyShare + slack
          ? ['caution-latch-supply']
          : []),
      ...(latch.flyback ? [] : ['caution-flyback']),
      ...(latch.onPowerLoss == null ? ['caution-power-loss-unknown'] : []),
      ...(latch.onPowerLoss === 'locks' && latch.escapeRoute ? ['stop-escape'] : []),
    ],
  }
}

/** `load check`. No rating is `empty`: none is ever guessed. */
export function checkLoad(input: unknown): Outcome<LoadCheck> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const request = parsed.value
  const { load, lead } = request
  const { I, pfAssumed } = currentOf(request)
  const totalA = I + (request.others ?? []).reduce((sum, o) => sum + o.A, 0)
  const inrushX = load.inrushX ?? typical[load.kind].inrush
  const inrushA = I * inrushX
  const limit = carriedBy(request, I, totalA).reduce((most, c) => (c.use > most.use * (1 + slack) ? c : most))
  const long = (load.hours ?? 0) >= steadyHours
  const coils = request.coils ? coilsOf(request.coils) : null
  const latch = request.latch ? latchOf(request.latch) : null
  const reasons = [
    ...new Set([
      ...(limit.use > 1 + slack ? ['stop-over'] : []),
      ...(long && limit.use > steadyShare * (1 + slack) ? ['caution-derate'] : []),
      ...ratingReasons(request, I, inrushA, inrushX),
      ...(lead ? ['caution-lead'] : []),
      ...(lead?.wound ? ['caution-lead-wound'] : []),
      ...(pfAssumed ? ['note-pf-assumed'] : []),
      ...(coils?.reasons ?? []),
      ...(latch?.reasons ?? []),
    ]),
  ].sort((a, b) => classOf(a) - classOf(b) || byText(a, b))
  return {
    ok: true,
    value: {
      I,
      totalA,
      limit: { source: limit.source, A: limit.A, deratedA: long ? steadyShare * limit.A : limit.A },
      usePct: 100 * limit.use,
      inrushA,
      inrushX,
      verdict: reasons.some((r) => r.startsWith('stop'))
        ? 'stop'
        : reasons.some((r) => r.startsWith('caution'))
          ? 'caution'
          : 'ok',
      reasons,
      ...(coils ? { coils: coils.told } : {}),
      ...(latch ? { latch: latch.told } : {}),
      findings: reasons.map((code) => {
        const [message = code, next = ''] = said[code] ?? []
        return finding(code, severities[classes[classOf(code)] ?? 'note'], message, '', next)
      }),
    },
  }
}
