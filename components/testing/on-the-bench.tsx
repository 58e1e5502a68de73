import { type Records, unit } from '@fresh-coat/core/testing/a-unit'
import { assess } from '@fresh-coat/core/unit/assess'
import { emptyRecord, records, type StepData } from '@fresh-coat/core/unit/records'
import type { UnitView } from '@fresh-coat/core/unit/view'
import type { StepId } from '@fresh-coat/core/unit/way'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, fireEvent, render, screen } from '@testing-library/react'
import { type ComponentType, useState } from 'react'
import { FrameContext } from '@/components/frame/frame-context'
import type { RecordHandle } from '@/components/frame/use-record'
import type { Choices, SurfaceProps } from '@/components/steps/context'

/** Nothing on hand: no board, adapter, meter, hub or image to choose. */
export const nothing: Choices = {
  boards: [],
  adapters: [],
  instruments: [],
  loads: [],
  modules: [],
  lines: [],
  hubs: [],
  profiles: [],
  images: [],
  twins: [],
  otherUnits: [],
  markings: [],
  next: { number: 8, name: 'Glue pot 2' },
  pace: null,
  routes: {},
  secrets: [],
}

export interface Bench<S extends StepId> {
  /** The record as it stands; throws when the server would not take it. */
  record: () => StepData[S]
  /** The record as the page holds it, whether the server would take it or not. */
  held: () => StepData[S]
  /** Commands that were sent, with what they took. */
  sent: [string, Record<string, unknown>][]
  /** What the record got from elsewhere: an undo, another tab. */
  put: (part: Partial<StepData[S]>) => void
}

/** Lays a part of a step on the bench: it is drawn again with all that it writes down, as the page of the unit does. */
export function onTheBench<S extends StepId>(
  step: S,
  Part: ComponentType<SurfaceProps<S>>,
  {
    data = {},
    around = {},
    view: more = {},
    choices = {},
    refuses = false,
  }: {
    data?: Partial<StepData[S]>
    around?: Records
    /** More of the unit; as a function where it follows from the record. */
    view?: Partial<UnitView> | ((data: StepData[S]) => Partial<UnitView>)
    choices?: Partial<Choices>
    /** Commands are refused. */
    refuses?: boolean
  } = {},
): Bench<S> {
  const sent: Bench<S>['sent'] = []
  let now = { ...emptyRecord(step), ...data } as StepData[S]
  let put: Bench<S>['put'] = () => {}
  function Work() {
    const [held, setHeld] = useState(now)
    now = held
    put = (part) => act(() => setHeld((was) => ({ ...was, ...part })))
    const view = unit({ ...around, [step]: held }, typeof more === 'function' ? more(held) : more)
    const record = {
      data: held,
      patch: (part: object) => setHeld((was) => ({ ...was, ...part })),
      state: 'saved',
      error: null,
      other: null,
      version: () => 1,
      flush: async () => true,
      restored: false,
      adopt: () => {},
      keepMine: () => {},
      takeOther: () => {},
    } as unknown as RecordHandle<S>
    return (
      <Part
        view={view}
        assessment={assess(view)}
        record={record}
        choices={{ ...nothing, ...choices }}
        act={async (command, input) => {
          sent.push([command, input])
          return !refuses
        }}
      />
    )
  }
  // What is kept while drawers are closed is of this visit.
  const frame = { gateLine: null, gateCard: null, notices: null, kept: new Map() }
  render(
    <FrameContext value={frame}>
      <QueryClientProvider client={new QueryClient()}>
        <Work />
      </QueryClientProvider>
    </FrameContext>,
  )
  return {
    record: () => records[step].schema.parse(now) as StepData[S],
    held: () => now,
    sent,
    put: (part) => put(part),
  }
}

/** What a page has that is none here: a line to the server on which nothing comes, a worker that never answers. */
export function noWorld(): void {
  class Silent {
    addEventListener() {}
    removeEventListener() {}
    postMessage() {}
    close() {}
    terminate() {}
  }
  Object.defineProperty(globalThis, 'EventSource', { value: Silent, configurable: true })
  Object.defineProperty(globalThis, 'Worker', { value: Silent, configurable: true })
  global.fetch = jest.fn(async () => ({ ok: false, status: 503, json: async () => ({}) })) as never
}

/** Presses a button by its name. */
export const press = (name: string | RegExp): Promise<void> =>
  act(async () => void fireEvent.click(screen.getByRole('button', { name })))

/** Types into a field by its label, and leaves it. */
export const type = (label: string | RegExp, value: string): Promise<void> =>
  act(async () => {
    const field = screen.getByLabelText(label, { selector: 'input,textarea' })
    fireEvent.change(field, { target: { value } })
    fireEvent.blur(field)
  })

/** Gives the card's answer that begins so, as a person who presses its digit does. */
export const answer = (label: string): Promise<void> =>
  act(async () => {
    const all = [...document.querySelectorAll<HTMLButtonElement>('button[data-key][aria-pressed]')]
    const words = all.map((b) => (b.textContent ?? '').slice(b.querySelector('kbd')?.textContent?.length ?? 0))
    const at = words.findIndex((w) => w.startsWith(label))
    if (at < 0) throw new Error(`No answer “${label}” among: ${words.join(' | ')}`)
    fireEvent.click(all[at] as Element)
  })

/** Goes on from a question with a field, as Enter does. */
export const next = (): Promise<void> => press(/^Next/)

/** Asks a question again, or one that nobody has to answer, from the lists under the card. */
export const askAbout = (name: string): Promise<void> =>
  act(async () => {
    const all = [...document.querySelectorAll<HTMLButtonElement>('button:not([data-key])')]
    const found = all.find((b) => (b.textContent ?? '').toLowerCase().startsWith(name.toLowerCase()))
    if (!found) throw new Error(`No question “${name}” among: ${all.map((b) => b.textContent).join(' | ')}`)
    fireEvent.click(found)
  })

/** What the card asks. */
export const ask = (): string => screen.getAllByRole('heading', { level: 2 }).at(-1)?.textContent ?? ''

/** Lets what a part asks for when it is first drawn come, or fail to. */
export const settled = (): Promise<void> => act(async () => {})
