'use client'
import { judgeHold, judgePresses, restS, type SetupMode } from '@fresh-coat/core/network/beats'
import { useEffect, useState } from 'react'
import { buttonClass, Key } from '@/components/paint/paint'

/** The button of a unit, pressed along with one of one's own: whether the count or the hold was right is said at once. */

const clock = () => performance.now() / 1000

/** Seconds that go on while something is watched. */
function useSeconds(running: boolean): number {
  const [now, setNow] = useState(0)
  useEffect(() => {
    if (!running) return
    setNow(clock())
    const timer = setInterval(() => setNow(clock()), 100)
    return () => clearInterval(timer)
  }, [running])
  return now
}

const lightWords = (light: string) =>
  light === ''
    ? 'Nobody has written down what its light does then: look, and add it to the firmware.'
    : `Its light ${light}.`

function Again({ again }: { again: () => void }) {
  const [from] = useState(clock)
  const left = Math.max(0, Math.ceil(restS - (useSeconds(true) - from)))
  return left > 0 ? (
    <p className="text-ochre">Touch nothing for {left} s, then begin again.</p>
  ) : (
    <button type="button" className={buttonClass()} onClick={again}>
      Begin again
    </button>
  )
}

const big = `${buttonClass('main')} min-h-[7rem] justify-self-stretch text-[1.3rem]`

function PressBeats({ mode }: { mode: Extract<SetupMode, { by: 'presses' }> }) {
  const [times, setTimes] = useState<number[]>([])
  const [at, setAt] = useState(0)
  const live = useSeconds(times.length > 0)
  const now = Math.max(live, at)
  const beats = judgePresses(times, now, mode)
  const over = beats.state === 'over' || beats.state === 'slow'
  const press = () => {
    const t = clock()
    setAt(t)
    setTimes(over || beats.state === 'right' ? [t] : [...times, t])
  }
  return (
    <div className="grid gap-3">
      <p>
        {mode.presses} presses within {mode.withinS} s. Press the unit’s button, and this one along with it.
      </p>
      <button
        type="button"
        className={big}
        onPointerDown={press}
        onKeyDown={(e) => !e.repeat && (e.key === ' ' || e.key === 'Enter') && press()}
        onClick={(e) => e.preventDefault()}
      >
        {beats.state === 'idle' ? 'Press along' : `${beats.count} of ${mode.presses}`}
        <Key>Space</Key>
      </button>
      <span className="h-3 rounded-[3px] bg-sheet-2" aria-hidden="true">
        <span
          className="block h-3 rounded-[3px] bg-prussian"
          style={{ width: `${(100 * (mode.withinS - beats.leftS)) / mode.withinS}%` }}
        />
      </span>
      <div aria-live="assertive" className="grid gap-2">
        {beats.state === 'wait' && <p className="font-semibold">That is enough: no more.</p>}
        {beats.state === 'right' && (
          <p className="font-semibold text-verdigris">Counted right. {lightWords(mode.light)}</p>
        )}
        {beats.state === 'over' && (
          <p className="font-semibold text-oxide">
            {beats.count} presses: one too many may do something else. {restS} s of rest end the count.
          </p>
        )}
        {beats.state === 'slow' && (
          <p className="font-semibold text-oxide">Too slow: the time was over before the last press.</p>
        )}
        {over && <Again key={beats.state} again={() => setTimes([])} />}
      </div>
    </div>
  )
}

function HoldBeats({ mode }: { mode: Extract<SetupMode, { by: 'hold' }> }) {
  const [held, setHeld] = useState<{ from: number | null; to: number | null }>({ from: null, to: null })
  const live = useSeconds(held.from !== null && held.to === null)
  const is = judgeHold(held.from, held.to, Math.max(live, held.from ?? 0), mode)
  const down = () => setHeld({ from: clock(), to: null })
  const up = () => held.from !== null && held.to === null && setHeld({ ...held, to: clock() })
  return (
    <div className="grid gap-3">
      <p>
        Held for {mode.holdS} s{mode.wipesAfterS !== null && `; from ${mode.wipesAfterS} s on it forgets its settings`}.
        Hold the unit’s button, and this one along with it.
      </p>
      <button
        type="button"
        className={big}
        onPointerDown={down}
        onPointerUp={up}
        onPointerLeave={up}
        onKeyDown={(e) => !e.repeat && (e.key === ' ' || e.key === 'Enter') && down()}
        onKeyUp={up}
        onClick={(e) => e.preventDefault()}
      >
        {is.state === 'idle' ? 'Hold along' : `${is.heldS.toFixed(1)} s`}
        <Key>Space</Key>
      </button>
      <div aria-live="assertive">
        {is.state === 'let-go' && <p className="font-semibold">Let go now.</p>}
        {is.state === 'danger' && <p className="font-semibold text-oxide">Let go: soon it forgets its settings.</p>}
        {is.state === 'right' && <p className="font-semibold text-verdigris">Held right. {lightWords(mode.light)}</p>}
        {is.state === 'short' && <p className="font-semibold text-oxide">Too short: wait {restS} s, then again.</p>}
        {is.state === 'wiped' && (
          <p className="font-semibold text-oxide">
            Held so long, it has probably forgotten its settings: everything it was told is told again.
          </p>
        )}
      </div>
    </div>
  )
}

/** From the light of the setup to the network of the place, in order; then the unit is looked for. */
export function FirstJoin({
  setup,
  firmware,
  setupAddress,
}: {
  setup: SetupMode | null
  firmware: string
  setupAddress: string
}) {
  return (
    <div className="grid gap-5">
      {setup ? (
        <section className="grid gap-2" aria-label="By its button">
          <h3 className="text-[1.05rem]">Open its setup by its button</h3>
          {setup.by === 'presses' ? <PressBeats mode={setup} /> : <HoldBeats mode={setup} />}
        </section>
      ) : (
        <p className="text-ink-2">
          How the button of {firmware || 'its firmware'} opens its setup is not written down: it goes under Firmware.
          Freshly written it opens by itself.
        </p>
      )}
      <ol className="grid list-decimal gap-2 pl-6">
        <li>Look for its air among the networks: 2.4 GHz, usually without a password. Note the end of its name.</li>
        <li>
          Join it. If no page opens by itself, switch mobile data and any tunnel off, and open{' '}
          {setupAddress ? <span className="pin">{setupAddress}</span> : 'the address of its gateway'}.
        </li>
        <li>
          While you are in it: <span className="pin">ip neigh</span> or <span className="pin">arp -a</span> shows the
          MAC of its air.
        </li>
        <li>
          Give it the network and its password. It restarts and leaves: your computer falls back to its own network.
        </li>
      </ol>
      <ul className="grid gap-1 text-ink-2">
        <li>After three tries that failed, most firmware opens its setup again by itself: wait two minutes.</li>
        <li>One name for both bands works; 5 GHz only, WPA3 only and channels 12 to 14 may not.</li>
        <li>A guest network hides it from the hub, though it is online.</li>
        <li>A second network, such as a phone’s, saves it when there is a typo in the first.</li>
      </ul>
    </div>
  )
}
