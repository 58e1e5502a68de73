/** @jest-environment jsdom */
import { readEdge } from '@fresh-coat/core/module/map'
import { board, type Records, unit } from '@fresh-coat/core/testing/a-unit'
import { anyRecord } from '@fresh-coat/core/testing/any-record'
import { emptyRecord, records, type StepData } from '@fresh-coat/core/unit/records'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { type StepId, stepIds } from '@fresh-coat/core/unit/way'
import { act, cleanup, fireEvent, screen } from '@testing-library/react'
import fc from 'fast-check'
import type { ComponentType } from 'react'
import { noWorld, onTheBench } from '@/components/testing/on-the-bench'
import { ArriveSurface } from './arrive/surface'
import { BackupSurface } from './backup/surface'
import { BehaviourSurface } from './behaviour/surface'
import { CheckSurface } from './check/surface'
import { CloseSurface } from './close/surface'
import type { Choices, SurfaceProps } from './context'
import { HubSurface } from './hub/surface'
import { IdentifySurface } from './identify/surface'
import { JoinSurface } from './join/surface'
import { MeterSurface } from './meter/surface'
import { NameSurface } from './name/surface'
import { OpenSurface } from './open/surface'
import { PadsSurface } from './pads/surface'
import { PinsSurface } from './pins/surface'
import { ProveSurface } from './prove/surface'
import { StartSurface } from './start/surface'
import { WatchSurface } from './watch/surface'
import { WireSurface } from './wire/surface'
import { WriteSurface } from './write/surface'

/**
 * Work surfaces in the hands of somebody who presses and types anything: what goes into the record must be what the
 * server takes, or it is typed and never saved.
 */
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
// A chart measures its page, which is none here; what it draws is held by core's tests and by pictures.
// Words and drawers open at once, so that what is in them is pressed and typed into as well.
jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
jest.mock('@/components/files/analyse-dump', () => ({ analyseDump: jest.fn(), prepareAnalysis: () => {} }))

const surfaces = {
  arrive: ArriveSurface,
  open: OpenSurface,
  identify: IdentifySurface,
  pads: PadsSurface,
  wire: WireSurface,
  backup: BackupSurface,
  check: CheckSurface,
  write: WriteSurface,
  start: StartSurface,
  join: JoinSurface,
  pins: PinsSurface,
  close: CloseSurface,
  behaviour: BehaviourSurface,
  meter: MeterSurface,
  name: NameSurface,
  hub: HubSurface,
  prove: ProveSurface,
  watch: WatchSurface,
} as unknown as Record<StepId, ComponentType<SurfaceProps<StepId>>>

const choices: Partial<Choices> = {
  boards: [{ id: '5f0f54a8-6f0e-4a51-9a6b-0d4a7f3a2a01', name: 'Pellworth P1 rev C', units: 2 }],
  instruments: [
    { id: '5f0f54a8-6f0e-4a51-9a6b-0d4a7f3a2a02', name: 'Outlet meter', percent: 0.5, digits: 2, resolution: 0.1 },
  ] as never,
  loads: [{ id: '5f0f54a8-6f0e-4a51-9a6b-0d4a7f3a2a03', name: 'Fan heater', watts: 1920, kind: 'resistive' }],
  hubs: [{ id: '5f0f54a8-6f0e-4a51-9a6b-0d4a7f3a2a04', name: 'Mantel', version: 1, phrases: null }],
  modules: [
    {
      id: '5f0f54a8-6f0e-4a51-9a6b-0d4a7f3a2a05',
      name: 'Quoinsby W8 module',
      family: 'LX106',
      pitchMm: 2,
      edges: [
        { side: 'left', contacts: readEdge('RST, EN, ?, 3V3', 1) },
        { side: 'right', contacts: readEdge('TX, RX, BOOT, GND', 5) },
      ],
    },
  ],
}

/** What is known of a unit by the time somebody comes to its later steps. */
const known: Records = {
  identify: { decision: { family: 'LX106', reason: 'read on the chip' } },
  pins: {
    template: {
      format: 'fresh-coat/pin-template',
      version: 1,
      board: 'Pellworth P1 rev C',
      family: 'LX106',
      pins: [
        { pin: 'GPIO12', fn: 'relay', ch: 1, active: 'high', confidence: 'seen' },
        { pin: 'GPIO5', fn: 'relay', ch: 2, active: 'high', confidence: 'seen' },
        { pin: 'GPIO0', fn: 'button', ch: 1, active: 'low', confidence: 'confirmed' },
        { pin: 'GPIO13', fn: 'led', active: 'low', confidence: 'assumed' },
      ],
    },
  },
}

/** The unit as the server gives it for this record. */
const given = (step: StepId, data: StepData[StepId], around: Records): Partial<UnitView> => {
  const { arrive, pads } = unit({ ...around, [step]: data }).records
  return {
    board,
    route: arrive.data.route,
    module: choices.modules?.find((m) => m.id === pads.data.moduleId) ?? null,
  }
}

const lay = (step: StepId, start: StepData[StepId], around: Records = {}) =>
  onTheBench(step, surfaces[step], { data: start, around, choices, view: (data) => given(step, data, around) })

type Control = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement | HTMLButtonElement
const controls = () =>
  [...document.querySelectorAll<Control>('input,select,textarea,button')].filter(
    (c) => !c.disabled && !(c instanceof HTMLInputElement && c.type === 'file'),
  )

// Text that is too long is refused by the server in words and kept here (use-record.test): a field never cuts what is pasted.
const words = ['', 'GPIO4', '3,3', '-1', '999999999999', '0.0001', '1e300', 'x'.repeat(40), '44:b7:d0:31:0a:0f', 'ß\n2']

/** Presses a button, turns a tick, picks the next choice, or types a word. */
async function use(control: Control, word: string): Promise<string> {
  const name = control.getAttribute('aria-label') ?? control.closest('label')?.textContent ?? control.textContent ?? ''
  await act(async () => {
    if (control instanceof HTMLSelectElement) {
      const options = [...control.options].filter((o) => !o.disabled)
      const at = options.findIndex((o) => o.selected)
      fireEvent.change(control, { target: { value: options[(at + 1) % options.length]?.value } })
    } else if (control instanceof HTMLButtonElement || control.type === 'checkbox' || control.type === 'radio')
      fireEvent.click(control)
    else {
      fireEvent.change(control, { target: { value: word } })
      fireEvent.blur(control)
    }
  })
  return `${control.tagName.toLowerCase()} “${name.slice(0, 40)}” ${word.slice(0, 20)}`
}

const whatIsWrong = (step: StepId, record: unknown): string[] => {
  const read = records[step].schema.safeParse(record)
  return read.success ? [] : read.error.issues.map((i) => `/${i.path.join('/')}: ${i.message}`)
}

/** What React says of drawings: a place that is no number is no place, and the line or box is then missing. */
const drawnWrong: string[] = []
let hush: jest.SpyInstance
beforeEach(() => {
  drawnWrong.length = 0
  hush = jest.spyOn(console, 'error').mockImplementation((...said) => {
    const words = said.map(String).join(' ')
    if (/NaN|Infinity/.test(words)) drawnWrong.push(words.slice(0, 200))
  })
  noWorld()
})
afterEach(() => {
  hush.mockRestore()
  cleanup()
})

describe.each(stepIds)('the surface of %s', (step) => {
  test('whatever is pressed and typed, the record stays one that can be saved', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(), fc.constantFrom(...words)), { minLength: 10, maxLength: 25 }),
        fc.constantFrom({}, known),
        async (moves, around) => {
          const bench = lay(step, { ...emptyRecord(step), ...around[step] } as StepData[StepId], around)
          const done: string[] = []
          try {
            for (const [which, word] of moves) {
              const all = controls()
              if (all.length === 0) break
              done.push(await use(all[which % all.length] as Control, word))
              expect({ done, wrong: whatIsWrong(step, bench.held()) }).toEqual({ done, wrong: [] })
              expect({ done, drawnWrong }).toEqual({ done, drawnWrong: [] })
            }
          } finally {
            cleanup()
          }
        },
      ),
      // The moves made so far tell more than a shrunk list of them.
      { numRuns: 6, endOnFailure: true },
    )
  }, 60_000)
  test('has something to press or to type for somebody who knows the chip and its pins', () => {
    lay(step, { ...emptyRecord(step), ...known[step] } as StepData[StepId], known)
    expect(controls().length).toBeGreaterThan(0)
  })
  test('draws any record it may find, and every control on it has a name', async () => {
    await fc.assert(
      fc.asyncProperty(anyRecord(step) as fc.Arbitrary<StepData[StepId]>, async (record) => {
        lay(step, record)
        try {
          for (const control of controls())
            expect(
              control.getAttribute('aria-label') ??
                control.getAttribute('aria-labelledby') ??
                control.closest('label')?.textContent ??
                (control.labels?.[0]?.textContent || control.textContent),
            ).toBeTruthy()
          expect(screen.getAllByRole('heading').length).toBeGreaterThan(0)
          expect(drawnWrong).toEqual([])
        } finally {
          cleanup()
        }
      }),
      { numRuns: 8, endOnFailure: true },
    )
  }, 60_000)
})
