import { grouped, hexNumber, sizeWords } from '@fresh-coat/core/bytes/text'
import { stateWords } from '@fresh-coat/core/link/words'
import { type ReactNode, useState } from 'react'
import { TextField } from '@/components/forms/fields'
import { Card } from '@/components/frame/card'
import { buttonClass, FindingRow, Key } from '@/components/paint/paint'
import type { Desk } from './desk'
import type { DeskView } from './desk-store'

/** What goes on at the desk, on the card: how far, what the chip is now, what may be done, what a slip costs. */

const secondsWords = (s: number): string => {
  const whole = Math.max(0, Math.round(s))
  return whole < 100 ? `${whole} s` : `${Math.ceil(whole / 60)} min`
}

function Far({ view }: { view: DeskView }) {
  const { progress } = view
  if (!progress) return null
  const { done, total, bytesPerSecond, secondsLeft } = progress
  const share = total === 0 ? 0 : Math.floor((100 * done) / total)
  return (
    <div className="grid gap-1.5">
      <p className="font-title text-[3rem] leading-none font-bold" aria-hidden="true">
        {share} %
      </p>
      <p className="text-[0.93rem] text-ink-2">
        {grouped(Math.floor(done / 1024))} of {grouped(Math.floor(total / 1024))} KiB
        {bytesPerSecond !== null && ` · ${(bytesPerSecond / 1024).toFixed(1)} KiB/s`}
        {secondsLeft !== null && ` · ${secondsWords(secondsLeft)} to go`}
      </p>
      <div
        className="h-2.5 overflow-hidden rounded-[5px] bg-unpainted"
        role="progressbar"
        aria-label="Done"
        aria-valuenow={share}
        aria-valuemin={0}
        aria-valuemax={100}
      >
        <div className="h-full bg-prussian" style={{ width: `${share}%` }} />
      </div>
    </div>
  )
}

/** A button of the desk, with its key where the page has its keys to give. */
function DeskButton({
  hotkey,
  look = 'plain',
  press,
  children,
}: {
  hotkey: string | null
  look?: 'plain' | 'main'
  press: () => void
  children: ReactNode
}) {
  return (
    <button type="button" {...(hotkey ? { 'data-key': hotkey } : {})} className={buttonClass(look)} onClick={press}>
      {children}
      {hotkey && <Key>{hotkey}</Key>}
    </button>
  )
}

function Keys({ desk, view, hotkeys }: { desk: Desk; view: DeskView; hotkeys: boolean }) {
  return (
    <div className="flex flex-wrap gap-2">
      {view.phase === 'working' && (
        <DeskButton hotkey={hotkeys ? 'p' : null} press={() => (view.paused ? desk.continue() : desk.pause())}>
          {view.paused ? 'Go on' : 'Pause'}
        </DeskButton>
      )}
      <DeskButton hotkey={hotkeys ? 'x' : null} press={() => desk.stop()}>
        Stop
      </DeskButton>
    </div>
  )
}

/** A line for the program that is listened to. */
function Say({ desk }: { desk: Desk }) {
  const [line, setLine] = useState('')
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        if (line === '') return
        void desk.say(line).catch(() => {})
        setLine('')
      }}
    >
      <TextField className="flex-1" label="Say a line to it" mono value={line} maxLength={400} onChange={setLine} />
      <button type="submit" className={buttonClass('plain')} disabled={line === ''}>
        Send
      </button>
    </form>
  )
}

/** The three lines of a state. */
function Three({ view }: { view: DeskView }) {
  const words = view.state ? stateWords[view.state] : null
  if (!words) return null
  return (
    <dl className="grid grid-cols-[5.4rem_minmax(0,1fr)] gap-x-3 gap-y-1">
      <dt className="text-ink-2">The chip</dt>
      <dd>{words.chip}</dd>
      <dt className="text-ink-2">You may</dt>
      <dd>{words.may}</dd>
      <dt className="text-ink-2">A slip</dt>
      <dd>{words.slip}</dd>
    </dl>
  )
}

const rateWords = (rate: number): string => `${grouped(rate)} baud`

function leadOf({ what, read, rate, retries, resumes }: DeskView): string {
  const act = what === 'read' ? (read ? `Read ${read} of 2` : 'Reading') : what === 'write' ? 'Writing' : 'Listening'
  const again =
    retries + resumes > 0 ? ` · ${retries} asked again${resumes > 0 ? `, found again ${resumes}×` : ''}` : ''
  return `${act} · ${rateWords(rate)}${again}`
}

const callWords = (view: DeskView): { ask: string; how: string } =>
  view.again
    ? {
        ask: 'Bring it into download mode once more',
        how: `The first read is whole. Take its power, hold BOOT, give it power: the second goes at ${rateWords(view.rate)}, so that a fault of the line cannot be the same twice.`,
      }
    : {
        ask: 'Bring it into download mode',
        how: 'It is called all the time, and its first answer is noticed by itself.',
      }

export function DeskCard({
  desk,
  view,
  entry,
  goOn = () => {},
  hotkeys = true,
  talk,
}: {
  desk: Desk
  view: DeskView
  /** The way into download mode, while it is called. */
  entry: ReactNode
  /** The port to go on over, after a slip. */
  goOn?: () => void
  /** The page gives it keys. */
  hotkeys?: boolean
  /** What can be asked while it is listened to. */
  talk?: ReactNode
}) {
  if (view.phase === 'opening') return <Card lead={leadOf(view)} ask="Opening the port" />
  if (view.phase === 'calling') {
    const { ask, how } = callWords(view)
    return (
      <Card lead={leadOf(view)} ask={ask} how={how}>
        {entry}
        <div role="status">
          {view.heard?.code === 'link-no-answer' ? (
            <p className="text-ink-2">Nothing has answered yet.</p>
          ) : (
            view.heard && <FindingRow finding={view.heard} />
          )}
        </div>
        <Keys desk={desk} view={view} hotkeys={hotkeys} />
      </Card>
    )
  }
  if (view.phase === 'lost')
    return (
      <Card
        lead={`Read ${view.read ?? 1} of 2`}
        ask="The line was lost. Nothing else is."
        how={`It goes on from ${hexNumber(view.progress?.done ?? 0)}, once the same unit answers. Look at the wires, bring it into download mode, and choose the port again.`}
      >
        <div className="flex flex-wrap gap-2">
          <DeskButton hotkey={hotkeys ? 'g' : null} look="main" press={goOn}>
            Choose the port and go on
          </DeskButton>
          <DeskButton hotkey={hotkeys ? 'x' : null} press={() => desk.stop()}>
            Stop
          </DeskButton>
        </div>
      </Card>
    )
  if (view.phase === 'keeping')
    return (
      <Card
        lead={leadOf(view)}
        ask="It is whole. It is looked at, and kept."
        how="Nothing is kept before it is whole."
      />
    )
  if (view.phase === 'listening')
    return (
      <Card
        lead={leadOf(view)}
        ask={view.text === '' ? 'Free BOOT, power off and on' : 'It is heard'}
        how={view.text === '' ? 'What it says stands beside this as it comes.' : ''}
      >
        {talk}
        <Say desk={desk} />
        <Keys desk={desk} view={view} hotkeys={hotkeys} />
      </Card>
    )
  return (
    <Card lead={leadOf(view)} ask={view.paused ? 'It rests' : view.state ? stateWords[view.state].title : 'Working'}>
      <Far view={view} />
      <Three view={view} />
      <Keys desk={desk} view={view} hotkeys={hotkeys} />
    </Card>
  )
}

/** How it ended, and what was found on the way. */
export function DeskEnd({ desk, view, children }: { desk: Desk; view: DeskView; children?: ReactNode }) {
  if (view.phase !== 'over' || !view.ended) return null
  return (
    <Card lead={view.ended.good ? 'Over the link' : 'It did not end well'} ask={view.ended.words}>
      {view.who?.family && (
        <p className="text-ink-2">
          {view.who.family}, <span className="pin">{view.who.mac}</span>
          {view.who.flashBytes ? `, ${sizeWords(view.who.flashBytes)}` : ''}
        </p>
      )}
      {view.findings.length > 0 && (
        <ul className="grid gap-2" aria-label="What the link found">
          {view.findings.slice(0, 4).map((f) => (
            <FindingRow key={f.code + String(f.at)} finding={f} />
          ))}
        </ul>
      )}
      {children}
      <button type="button" className={`${buttonClass('quiet')} justify-self-start`} onClick={() => desk.clear()}>
        Put this away
      </button>
    </Card>
  )
}
