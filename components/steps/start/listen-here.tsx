import { factsOf, isKnownFamily } from '@fresh-coat/core/families/families'
import { covered } from '@fresh-coat/core/link/heard'
import { accessPointIn, type ConsoleWords, type Question } from '@fresh-coat/core/link/questions'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { afterLook, startLooks } from '@fresh-coat/core/steps/start/facts'
import type { ReactNode } from 'react'
import { AskUnit } from '@/components/link/ask-unit'
import type { LiveText } from '@/components/link/console'
import { desk } from '@/components/link/desk'
import { DeskCard } from '@/components/link/desk-card'
import type { Answered } from '@/components/link/desk-listen'
import { deskStore, isBusy } from '@/components/link/desk-store'
import { entersByLines } from '@/components/link/of-unit'
import { askPort } from '@/components/link/open-port'
import { useDesk } from '@/components/link/use-desk'
import { useUnable } from '@/components/link/use-unable'
import { buttonClass, Key } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = SurfaceProps<'start'>

const usualRate = 115_200
const bootSeconds = 10
const programSeconds = 20

/** The rate of the boot text first, then the one that the program speaks at. */
function ratesOf(view: Props['view'], words: ConsoleWords | null): { rate: number; seconds: number }[] {
  const family = familyOf(view)?.family ?? null
  const boot = family !== null && isKnownFamily(family) ? factsOf(family).bootBaud : usualRate
  const program = { rate: words?.rate ?? usualRate, seconds: programSeconds }
  return boot === program.rate ? [program] : [{ rate: boot, seconds: bootSeconds }, program]
}

export interface Listening {
  /** While it listens; null otherwise. */
  card: ReactNode | null
  /** What was heard so far, while it listens. */
  live: (LiveText & { text: string }) | null
  offer: ReactNode
}

/** What is kept of what was heard: secrets covered, and what its access point is called. */
function kept(text: string, words: ConsoleWords | null, before: string): Partial<Props['record']['data']> {
  const name = accessPointIn(words?.accessPoint ?? [], text.split(/\r?\n/))
  return { log: covered(text).text, apName: name?.slice(0, 64) ?? before }
}

/** Hearing a start with a port from here: what comes is the boot text, and the program can be asked. */
export function useListenHere({ view, record, choices }: Props): Listening {
  const state = useDesk(deskStore)
  const mine = state.unitId === view.id && state.what === 'listen' && isBusy(state)
  const unable = useUnable(view, state, mine)
  const { firmware, firmwareVersion } = view.records.check.data
  const words = choices.profiles.find((p) => p.name === firmware)?.console ?? null
  const begin = async () => {
    const open = await askPort()
    if (!open) return
    let first = true
    await desk.listen({
      unitId: view.id,
      open,
      byLines: entersByLines(view),
      rates: ratesOf(view, words),
      heard: (text) => {
        if (text.trim() === '') return
        const heard = kept(text, words, record.data.apName)
        // What was seen of another image goes with the first words of this one, and not what is said beside them since.
        record.patch(first ? afterLook(view, heard) : heard)
        first = false
      },
    })
    if (deskStore.now().ended?.good) desk.clear()
  }
  const answered = (question: Question, answer: Answered) =>
    record.patch(
      afterLook(view, {
        answers: [
          ...startLooks(view).answers.filter((a) => a.what !== question.what || a.said !== answer.said),
          {
            what: question.what,
            said: answer.said,
            heard: covered(answer.answer?.line ?? '').text.slice(0, 500),
            words: covered(answer.words).text.slice(0, 600),
            severity: answer.severity,
            at: new Date().toISOString(),
          },
        ].slice(-60),
      }),
    )
  return {
    live: mine ? { text: state.text, lines: state.lines, tail: state.tail, before: state.before } : null,
    card: mine ? (
      <DeskCard
        desk={desk}
        view={state}
        entry={null}
        talk={
          words &&
          words.questions.length > 0 && (
            <AskUnit view={state} words={words} release={firmwareVersion || null} answered={answered} />
          )
        }
      />
    ) : null,
    offer: unable ? (
      <p className="text-[0.93rem] text-ink-2">{unable}</p>
    ) : (
      <>
        <button
          type="button"
          data-key="r"
          className={`${buttonClass('main')} min-h-[3rem] justify-self-start`}
          onClick={() => void begin()}
        >
          Listen here
          <Key>r</Key>
        </button>
        {state.unitId === view.id && state.what === 'listen' && state.ended && !state.ended.good && (
          <p role="status">{state.ended.words}</p>
        )}
      </>
    ),
  }
}
