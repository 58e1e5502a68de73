import { z } from 'zod'
import { type Outcome, parseInput, refuse, shapeCodes } from '../edge/fault'

/** A unit that takes a modem's supply away when the line is gone: what its knobs are worth over a trace (brief 03 §9). */

export const watchdogParams = ['checkMs', 'retryMs', 'failMs', 'offMs', 'bootMs', 'coolMs', 'startMs'] as const
export type WatchdogParams = Record<(typeof watchdogParams)[number], number>
export type Outage = { kind: 'line'; from: number; to: number } | { kind: 'hang'; from: number }
export interface WatchdogTrace {
  untilMs: number
  rebootMs: number
  minOffMs: number
  outages: readonly Outage[]
}
export interface WatchdogRun {
  checks: number
  cycles: { t: number; kind: 'useful' | 'needless' }[]
  needless: number
  outages: { from: number; detectMs: number | null; upMs: number | null }[]
  downMs: number
}
export interface Span {
  from: number
  to: number
}

const forEver = Number.POSITIVE_INFINITY

/** Spans as they lie on the line of time; what touches is one. */
function merged(spans: readonly Span[]): Span[] {
  const out: Span[] = []
  for (const s of [...spans].filter((x) => x.to > x.from).sort((a, b) => a.from - b.from)) {
    const last = out.at(-1)
    if (last && s.from <= last.to) last.to = Math.max(last.to, s.to)
    else out.push({ ...s })
  }
  return out
}

/** When the line is down, as far as the watchdog has made it so until now. */
class Line {
  readonly spans: Span[]
  private readonly hangs: Span[]
  constructor(
    private readonly trace: WatchdogTrace,
    private readonly params: WatchdogParams,
  ) {
    this.spans = trace.outages.map((o) => ({ from: o.from, to: o.kind === 'line' ? o.to : forEver }))
    this.hangs = this.spans.filter((_, i) => trace.outages[i]?.kind === 'hang')
  }
  isDown(t: number): boolean {
    return this.spans.some((s) => s.from <= t && t < s.to)
  }
  /** Its supply goes away and comes back; a short one leaves the modem as it was. */
  cycle(t: number): 'useful' | 'needless' {
    const { offMs } = this.params
    const hung = offMs >= this.trace.minOffMs ? this.hangs.filter((h) => h.from <= t && h.to === forEver) : []
    for (const h of hung) h.to = t
    this.spans.push({ from: t, to: t + offMs + this.trace.rebootMs })
    return hung.length > 0 ? 'useful' : 'needless'
  }
}

export function runWatchdog(params: WatchdogParams, trace: WatchdogTrace): WatchdogRun & { down: Span[] } {
  const line = new Line(trace, params)
  const cycles: WatchdogRun['cycles'] = []
  const failed: number[] = []
  let [checks, failingSince, lastCycle]: [number, number | null, number] = [0, null, Number.NEGATIVE_INFINITY]
  for (let t = params.startMs; t < trace.untilMs; ) {
    checks++
    if (!line.isDown(t)) {
      failingSince = null
      t += params.checkMs
      continue
    }
    failed.push(t)
    failingSince ??= t
    if (t - failingSince < params.failMs || t < lastCycle + params.coolMs) {
      t += params.retryMs
      continue
    }
    cycles.push({ t, kind: line.cycle(t) })
    lastCycle = t
    failingSince = null
    // It cannot look again in the same moment.
    t += Math.max(params.offMs + params.bootMs, 1)
  }
  const down = merged(line.spans)
  const outages = trace.outages.map(({ from }) => {
    const span = down.find((s) => s.from <= from && from < s.to)
    const end = span?.to ?? from
    const noticed = failed.find((t) => t >= from && t < end)
    return {
      from,
      detectMs: noticed === undefined ? null : noticed - from,
      upMs: end >= trace.untilMs ? null : end - from,
    }
  })
  const downMs = down.reduce(
    (sum, s) => sum + Math.max(0, Math.min(s.to, trace.untilMs) - Math.min(s.from, trace.untilMs)),
    0,
  )
  return { checks, cycles, needless: cycles.filter((c) => c.kind === 'needless').length, outages, downMs, down }
}

export interface WatchdogFormula {
  meanToOffMs: number
  worstToOffMs: number
  meanToUpMs: number
}

/** Checks come every checkMs, so the first failed one is half of that late in the mean. */
export function watchdogFormula(
  { checkMs, retryMs, failMs, offMs }: WatchdogParams,
  rebootMs: number,
): WatchdogFormula {
  const tries = Math.ceil(failMs / retryMs) * retryMs
  const mean = checkMs / 2 + tries
  return { meanToOffMs: mean, worstToOffMs: checkMs + tries, meanToUpMs: mean + offMs + rebootMs }
}

function warningsOf({ retryMs, failMs, offMs, bootMs }: WatchdogParams, { rebootMs, minOffMs }: WatchdogTrace) {
  const tries = Math.ceil(failMs / retryMs) * retryMs
  return [
    ...(bootMs + tries < rebootMs ? (['boot-loop'] as const) : []),
    ...(offMs < minOffMs ? (['short-off'] as const) : []),
  ]
}

export interface WatchdogAnswer extends WatchdogRun {
  warnings: ('boot-loop' | 'short-off')[]
  formula: WatchdogFormula
  vary?: { value: number; cycles: number; needless: number; downMs: number }[]
}

const notBelow0 = z.number().superRefine((n, context) => {
  if (n < 0) refuse(context, 'range', [], 'A time cannot be below 0 ms')
})
const above0 = z.number().superRefine((n, context) => {
  if (n <= 0) refuse(context, 'range', [], 'It must be above 0 ms')
})
const mustBeAbove0 = new Set<string>(['checkMs', 'retryMs'])
const Request = z
  .object({
    params: z.object({
      checkMs: above0,
      retryMs: above0,
      failMs: notBelow0,
      offMs: notBelow0,
      bootMs: notBelow0,
      coolMs: notBelow0.nullish(),
      startMs: notBelow0.nullish(),
    }),
    trace: z.object({
      untilMs: notBelow0,
      rebootMs: notBelow0,
      minOffMs: notBelow0,
      outages: z
        .array(
          z.discriminatedUnion('kind', [
            z
              .object({ kind: z.literal('line'), from: notBelow0, to: notBelow0 })
              .superRefine(({ from, to }, context) => {
                if (to < from) refuse(context, 'range', ['to'], 'An outage ends after it begins')
              }),
            z.object({ kind: z.literal('hang'), from: notBelow0 }),
          ]),
        )
        .max(2000),
    }),
    vary: z.object({ param: z.string(), values: z.array(z.number()).max(200) }).nullish(),
  })
  .superRefine(({ params, trace, vary }, context) => {
    const isParam = (watchdogParams as readonly string[]).includes(vary?.param ?? 'checkMs')
    if (!isParam) refuse(context, 'ref', ['vary', 'param'], `There is no parameter ${vary?.param}`)
    const least = (name: string, value: number) => (mustBeAbove0.has(name) ? value > 0 : value >= 0)
    for (const [i, value] of (isParam ? (vary?.values ?? []) : []).entries())
      if (!least(vary?.param ?? '', value)) refuse(context, 'range', ['vary', 'values', i], 'It is too small')
    if (trace.untilMs / Math.min(params.checkMs, params.retryMs) > mostChecks)
      refuse(context, 'range', ['trace', 'untilMs'], 'So many checks take too long to go through')
  })
const mostChecks = 2_000_000

/** `watchdog run`: checks, cycles, outages; what each value of a knob would have done. */
export function watchdog(input: unknown): Outcome<WatchdogAnswer> {
  const parsed = parseInput(Request, input, shapeCodes)
  if (!parsed.ok) return parsed
  const { trace, vary } = parsed.value
  const params: WatchdogParams = {
    ...parsed.value.params,
    coolMs: parsed.value.params.coolMs ?? 0,
    startMs: parsed.value.params.startMs ?? 0,
  }
  const { down: _, ...run } = runWatchdog(params, trace)
  const varied = vary?.values.map((value) => {
    const { cycles, needless, downMs } = runWatchdog({ ...params, [vary.param]: value }, trace)
    return { value, cycles: cycles.length, needless, downMs }
  })
  return {
    ok: true,
    value: {
      ...run,
      warnings: warningsOf(params, trace),
      formula: watchdogFormula(params, trace.rebootMs),
      ...(varied ? { vary: varied } : {}),
    },
  }
}
