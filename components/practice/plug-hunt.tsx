'use client'
import { within } from '@fresh-coat/core/edge/within'
import { fitMeter, type MeterFit } from '@fresh-coat/core/metering/fit'
import { nextPoint, wantedZeros } from '@fresh-coat/core/metering/next-point'
import { mapRaw, type Snapshot, usualLoads } from '@fresh-coat/core/metering/raw-map'
import { type MeterMoment, settles } from '@fresh-coat/core/metering/source'
import { type ReactNode, useEffect, useMemo, useState } from 'react'
import { ErrorPlot } from '@/components/drawings/error-plot'
import { RawRows } from '@/components/drawings/raw-rows'
import { Fold } from '@/components/forms/fold'
import { Card } from '@/components/frame/card'
import { buttonClass, Tag } from '@/components/paint/paint'
import { Scrolls } from '@/components/tables/scrolls'
import {
  makeVirtualPlug,
  type PlugScore,
  plugStep,
  referenceClass,
  scorePlug,
  socketOf,
  type VirtualPlug,
  virtualLoads,
} from '@/standins/virtual-plug'
import { HuntHead } from './hunt-head'
import { NotKept, useKeepScore } from './keep-score'

/** Calibrating a plug whose error nobody knows, read live beside a reference, with loads that warm up and mains that wander. */

const tickMs = 500
/** A minute of warming up is over in a second and a half. */
const secondsPerTick = 20
const limitPct = 2
const kept = 60

interface Taken {
  id: string
  indicated: number
  reference: number
  role: 'fit' | 'verify'
}

/** Plug and reference on one socket: what they show now, and how the plug's watts went. */
function Displays({
  plug,
  reference,
  trace,
  still,
}: {
  plug: MeterMoment
  reference: MeterMoment
  trace: readonly number[]
  still: boolean
}) {
  const [low, high] = [Math.min(...trace), Math.max(...trace)]
  const span = Math.max(high - low, plugStep)
  const path = trace
    .map((v, i) => `${i === 0 ? 'M' : 'L'}${(i / (kept - 1)) * 300} ${46 - ((v - low) / span) * 40}`)
    .join('')
  return (
    <div className="grid gap-3 rounded-[10px] border border-rule px-4 py-3 sm:grid-cols-[auto_auto_minmax(0,1fr)] sm:gap-x-7">
      {[
        ['The plug', plug],
        ['The reference', reference],
      ].map(([name, m]) => (
        <p key={name as string} className="min-w-[9rem]">
          <span className="text-[0.9rem] text-ink-2">{name as string}</span>
          <output className="pin block text-[1.7rem] leading-tight font-bold">
            {(m as MeterMoment).P?.toFixed(1)} W
          </output>
          <span className="pin text-[0.93rem] text-ink-2">
            {(m as MeterMoment).V?.toFixed(1)} V · {(m as MeterMoment).I?.toFixed(3)} A
          </span>
        </p>
      ))}
      <div className="grid gap-1">
        <svg viewBox="0 0 300 50" className="h-[3.4rem] w-full" aria-hidden="true" preserveAspectRatio="none">
          <path d={path} fill="none" stroke="var(--prussian)" strokeWidth="2" vectorEffect="non-scaling-stroke" />
        </svg>
        <p className="flex gap-2.5">
          <Tag severity={still ? 'ok' : 'watch'}>{still ? 'steady' : 'still moving'}</Tag>
        </p>
      </div>
    </div>
  )
}

function Riddle({ plug, loadId, seconds }: { plug: VirtualPlug; loadId: string | null; seconds: number }) {
  const [snapshots, setSnapshots] = useState<Snapshot[]>([])
  const load = virtualLoads.find((l) => l.id === loadId) ?? null
  const take = () =>
    setSnapshots([
      ...snapshots,
      {
        id: `s${snapshots.length + 1}`,
        at: (snapshots.length + 1) * 1_000_000,
        on: load !== null,
        load: { kind: load?.kind ?? 'none', w: load?.kind === 'resistive' ? load.watts : null },
        reference: { V: null, I: null, P: null },
        raw: socketOf(plug, load, seconds).raw(),
      },
    ])
  const map = useMemo(
    () =>
      snapshots.length === 0 ? null : mapRaw(snapshots, { nominalV: 230, nominalHz: 50, ratingA: 16 }, usualLoads, 4),
    [snapshots],
  )
  return (
    <Fold summary="Its raw values: which is which?">
      {map && (
        <>
          <Scrolls label="Raw values of the virtual plug">
            <RawRows map={map} last={(snapshots.at(-1)?.raw ?? {}) as Record<string, number | boolean>} />
          </Scrolls>
          <p className="flex gap-2.5" role="status">
            <Tag severity={map.settled ? 'ok' : 'watch'}>{map.settled ? 'settled' : 'too alike'}</Tag>
            {map.settled
              ? `With ${snapshots.length} ${snapshots.length === 1 ? 'snapshot' : 'snapshots'}. It was: volts ${plug.raw.V[0]}, amperes ${plug.raw.I[0]}, watts ${plug.raw.P[0]}.`
              : 'Another load tells more.'}
          </p>
        </>
      )}
      <div className="flex flex-wrap gap-2">
        <button type="button" className={buttonClass()} onClick={take}>
          A snapshot {load ? `with the ${within(load.name)}` : 'with nothing on'}
        </button>
        {snapshots.length > 0 && (
          <button type="button" className={buttonClass('quiet')} onClick={() => setSnapshots([])}>
            Begin anew
          </button>
        )}
      </div>
    </Fold>
  )
}

function Over({
  score,
  plug,
  gain,
  again,
  notKept,
}: {
  score: PlugScore
  plug: VirtualPlug
  gain: number
  again: () => void
  notKept: ReactNode
}) {
  return (
    <Card
      lead="On the virtual plug"
      ask={
        score.offPct <= referenceClass.gainPct
          ? 'As near as the reference can tell'
          : `${score.offPct.toFixed(2)} % off`
      }
    >
      <p>
        <span className="font-title text-[2.2rem] font-bold">{score.score}</span> of 100
      </p>
      {notKept}
      <ul className="grid gap-1">
        <li>
          You found {gain.toFixed(4)}; it was {plug.gain.toFixed(4)}
          {plug.offsetW === 0 ? '' : `, with ${plug.offsetW.toFixed(2)} W beside it`}
        </li>
        <li>{score.cold === 0 ? 'every point was steady' : `${score.cold} taken while it still moved`}</li>
        <li>{score.zeros >= wantedZeros ? 'five zeros' : `${score.zeros} zeros of five`}</li>
        <li>{score.verified ? 'one kept to verify' : 'none was kept to verify'}</li>
      </ul>
      <button type="button" className={`${buttonClass('main')} justify-self-start`} onClick={again}>
        Another plug
      </button>
    </Card>
  )
}

/** Plug and reference on one socket, whose clock runs while the page is looked at: what is measured depends on it alone. */
function useSocket(plug: VirtualPlug) {
  const [loadId, setLoadId] = useState<string | null>(null)
  const [seconds, setSeconds] = useState(0)
  const [trace, setTrace] = useState<number[]>([])
  const load = virtualLoads.find((l) => l.id === loadId) ?? null
  const socket = socketOf(plug, load, seconds)
  const [now, reference] = [socket.plug.now(), socket.reference.now()]
  useEffect(() => {
    const timer = setInterval(() => setSeconds((s) => s + secondsPerTick), tickMs)
    return () => clearInterval(timer)
  }, [])
  // biome-ignore lint/correctness/useExhaustiveDependencies: one more reading with every tick of the socket's clock
  useEffect(() => setTrace((t) => [...t, now.P ?? 0].slice(-kept)), [seconds, loadId])
  const plugIn = (id: string | null) => {
    setLoadId(id)
    setSeconds(0)
    setTrace([])
  }
  return { load, seconds, now, reference, trace, still: settles(trace, plugStep), plugIn }
}

type Socket = ReturnType<typeof useSocket>

/** What was taken at a socket so far, what is best taken next, and what it comes to. */
function useTaking({ load, now, reference, still }: Socket) {
  const [points, setPoints] = useState<Taken[]>([])
  const [zeros, setZeros] = useState<number[]>([])
  const [cold, setCold] = useState(0)
  const loads = virtualLoads.filter((l) => l.kind === 'resistive')
  const next = nextPoint('P', points, zeros.length, loads)
  const take = () => {
    if (next.kind === 'zeros' && load === null) return setZeros([...zeros, now.P ?? 0])
    if (load === null || now.P === null || reference.P === null) return
    if (!still) setCold(cold + 1)
    const role = next.kind === 'verify' ? 'verify' : 'fit'
    setPoints([...points, { id: `p${points.length + 1}`, indicated: now.P, reference: reference.P, role }])
  }
  const forget = () => {
    setPoints([])
    setZeros([])
    setCold(0)
  }
  return { points, zeros, cold, next, fit: fitOf(points, zeros), take, forget }
}

type Taking = ReturnType<typeof useTaking>

function fitOf(points: readonly Taken[], zeros: readonly number[]): MeterFit | null {
  if (!points.some((p) => p.role === 'fit')) return null
  const outcome = fitMeter({
    quantity: 'P',
    reference: referenceClass,
    indicatedResolution: plugStep,
    points,
    load: { kind: 'resistive', warm: true },
    limits: { pct: limitPct },
    zeroReadings: zeros,
    model: 'gain',
  })
  return outcome.ok ? outcome.value : null
}

/** A point as it is drawn: how far off it is before and after what was taken so far. */
function drawnOf(p: Taken, fit: MeterFit | null) {
  const f = fit?.points.find((x) => x.id === p.id) ?? fit?.verify.find((x) => x.id === p.id)
  return {
    id: p.id,
    x: p.reference,
    before: f?.errBeforePct ?? null,
    after: f?.errAfterPct ?? null,
    within: f ? (f.U / p.reference) * 100 : null,
    verify: p.role === 'verify',
  }
}

const wantedOf = ({ next }: Taking) => (next.kind === 'spread' || next.kind === 'verify' ? next.load : null)

/** What could hang on the socket. */
function Loads({ load, plugIn }: Pick<Socket, 'load' | 'plugIn'>) {
  return (
    <div className="flex flex-wrap gap-2">
      {[null, ...virtualLoads].map((l) => {
        const chosen = load?.id === l?.id
        return (
          <button
            key={l?.id ?? 'nothing'}
            type="button"
            aria-pressed={chosen}
            className={`min-h-[2.4rem] rounded-[8px] border px-3 ${chosen ? 'border-ink bg-ink text-sheet' : 'border-ink-3 bg-sheet'}`}
            onClick={() => plugIn(l?.id ?? null)}
          >
            {l ? `${l.name}, ${l.watts} W` : 'Nothing'}
          </button>
        )
      })}
    </div>
  )
}

/** What is asked for next, in words. */
function askOf(taking: Taking): string {
  const wanted = wantedOf(taking)
  return {
    spread: wanted ? `${wanted.name}, about ${wanted.watts} W` : 'Another load',
    verify: wanted ? `${wanted.name}: kept to verify` : 'One kept to verify',
    repeat: 'The first load again',
    zeros: `Nothing plugged in: zero ${taking.zeros.length + 1} of ${wantedZeros}`,
    enough: 'That is enough',
  }[taking.next.kind]
}

function Ask({ taking, load, finish }: { taking: Taking; load: Socket['load']; finish: () => Promise<void> }) {
  const { points, zeros, next, fit, take } = taking
  const enough = next.kind === 'enough'
  return (
    <Card
      lead={`${points.length} points, ${zeros.length} zeros`}
      ask={askOf(taking)}
      how={
        enough
          ? 'Say that this is it, and see how far off it is.'
          : 'Plug it in, wait until it is steady, and take both in one moment.'
      }
    >
      <div className="flex flex-wrap gap-2">
        {!enough && (
          <button
            type="button"
            className={buttonClass('main')}
            disabled={next.kind === 'zeros' ? load !== null : load === null}
            onClick={take}
          >
            {next.kind === 'zeros' ? 'Take the zero' : 'Take both now'}
          </button>
        )}
        {fit && (
          <button type="button" className={buttonClass(enough ? 'main' : 'plain')} onClick={() => void finish()}>
            This is it
          </button>
        )}
      </div>
      {fit && (
        <p className="text-ink-2">
          True is shown times <strong className="pin">{fit.gain.toFixed(4)}</strong>, from what you took.
        </p>
      )}
    </Card>
  )
}

export function PlugHunt({ first }: { first: number }) {
  const keeping = useKeepScore()
  const [seed, setSeed] = useState(first)
  const plug = useMemo(() => makeVirtualPlug(seed), [seed])
  const [score, setScore] = useState<PlugScore | null>(null)
  const socket = useSocket(plug)
  const taking = useTaking(socket)
  const { load, seconds, now, reference, trace, still, plugIn } = socket
  const { points, zeros, cold, fit } = taking
  const start = (n: number) => {
    setSeed(n)
    plugIn(null)
    taking.forget()
    setScore(null)
    keeping.forget()
  }
  const finish = async () => {
    if (!fit) return
    const verified = points.some((p) => p.role === 'verify')
    const result = scorePlug(plug, { gain: fit.gain, cold, zeros: zeros.length, verified })
    setScore(result)
    const data = { seed, offPct: result.offPct, cold }
    await keeping.keep({ kind: 'calibration', family: 'OTHER', score: result.score, data })
  }
  const wanted = wantedOf(taking)
  return (
    <div className="grid gap-4">
      <HuntHead thing="plug" seed={seed} start={start} />
      <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_20rem]">
        <div className="grid min-w-0 content-start gap-3">
          <ErrorPlot
            points={points.map((p) => drawnOf(p, fit))}
            limitPct={limitPct}
            unit="W"
            next={wanted && { name: wanted.name, x: wanted.watts }}
            chosen={null}
          />
          <Displays plug={now} reference={reference} trace={trace.length > 0 ? trace : [now.P ?? 0]} still={still} />
          <Loads load={load} plugIn={plugIn} />
          <Riddle key={seed} plug={plug} loadId={load?.id ?? null} seconds={seconds} />
        </div>
        {score && fit ? (
          <Over
            score={score}
            plug={plug}
            gain={fit.gain}
            again={() => start(seed + 1)}
            notKept={<NotKept {...keeping} />}
          />
        ) : (
          <Ask taking={taking} load={load} finish={finish} />
        )}
      </div>
    </div>
  )
}
