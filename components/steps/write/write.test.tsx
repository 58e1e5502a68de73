/** @jest-environment jsdom */
import { lx106, type Records } from '@fresh-coat/core/testing/a-unit'
import { lx106File } from '@fresh-coat/core/testing/an-image'
import type { Attempt, ToolWords } from '@fresh-coat/core/unit/view'
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { type ComponentProps, useState } from 'react'
import { noWorld, onTheBench, press, settled, type } from '@/components/testing/on-the-bench'
import { Armed } from './armed'
import { AttemptTable } from './attempts'
import { LogAttempt } from './log'
import { OwnLine } from './own-line'
import { WriteSurface } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
beforeEach(noWorld)
afterEach(() => {
  cleanup()
  jest.useRealTimers()
})

const ready = {
  around: {
    identify: lx106,
    backup: { skip: { code: 'owner', reason: 'it came blank from the maker' } },
    check: { fileId: 'i', offset: 0, firmware: 'Plainsong', version: '9.4.1' },
  } as Records,
  view: { image: lx106File('DOUT'), gates: [], inHand: true },
}
const logButton = () => screen.getByRole('button', { name: /Log this attempt/ }) as HTMLButtonElement

describe('an attempt that is logged by hand', () => {
  function lay(verify: string, words: ToolWords | null = null, log = jest.fn(async (_: object) => true)) {
    render(<LogAttempt verify={verify} overhead={null} lead="Attempt 1" busy={false} log={log} words={words} />)
    return log
  }
  test('nobody is taken to have checked it: the attempt waits until it is said', async () => {
    const log = lay('digest')
    await press(/Done/)
    expect(logButton().disabled).toBe(true)
    fireEvent.submit(document.querySelector('form') as HTMLFormElement)
    expect(log).not.toHaveBeenCalled()
    fireEvent.click(screen.getByLabelText('Not checked'))
    await press(/Log this attempt/)
    expect(log).toHaveBeenCalledWith(expect.objectContaining({ outcome: 'done', verified: false }))
  })
  test('equal is logged where somebody says equal', async () => {
    const log = lay('readback')
    await press(/Done/)
    fireEvent.click(screen.getByLabelText('Equal'))
    await type('Minutes at the bench', '4')
    await press(/Log this attempt/)
    expect(log).toHaveBeenCalledWith(expect.objectContaining({ verified: true, minutes: 4 }))
  })
  test.each(['none', 'digest'])('a failure is logged at once, never as checked (%s)', async (verify) => {
    const log = lay(verify)
    await press(/No answer/)
    expect(screen.queryByLabelText('Equal')).toBeNull()
    await press(/Log this attempt/)
    expect(log).toHaveBeenCalledWith(expect.objectContaining({ outcome: 'no-answer', verified: false }))
  })
  test('what was typed stays when the server refuses it, and goes when it was taken', async () => {
    const log = lay(
      'none',
      null,
      jest.fn(async (_: object) => false),
    )
    await press(/Lost midway/)
    await type('The message as it was printed', 'timed out')
    await press(/Log this attempt/)
    expect((screen.getByLabelText('The message as it was printed') as HTMLInputElement).value).toBe('timed out')
    log.mockResolvedValue(true)
    await press(/Log this attempt/)
    await press(/Lost midway/)
    expect((screen.getByLabelText('The message as it was printed') as HTMLInputElement).value).toBe('')
  })
  test('a tool’s words fill it; what they say of checking is what they say', async () => {
    const words = {
      id: 'w1',
      at: '2026-11-24T10:00:00Z',
      tool: 'the old one',
      system: '',
      attempt: { outcome: 'done', verified: true, message: 'hash verified', seconds: 21.4 },
    } as unknown as ToolWords
    const log = lay('digest', words)
    expect(logButton().disabled).toBe(false)
    await press(/Log this attempt/)
    expect(log).toHaveBeenCalledWith(
      expect.objectContaining({ verified: true, seconds: 21.4, tool: 'the old one', wordsId: 'w1' }),
    )
  })
})

/** The mode as the card opens it, and a button that opens it again. */
function Hands({ verify, log }: Pick<ComponentProps<typeof Armed>, 'verify' | 'log'>) {
  const [open, setOpen] = useState(true)
  return (
    <>
      <button type="button" onClick={() => setOpen(true)}>
        again
      </button>
      <Armed
        open={open}
        onOpenChange={setOpen}
        facts={[['File', 'plainsong.bin']]}
        plannedSeconds={30}
        verify={verify}
        log={log}
      />
    </>
  )
}

describe('both hands full', () => {
  const key = (k: string) => act(async () => void fireEvent.keyDown(screen.getByRole('dialog'), { key: k }))
  function lay(verify: string, answer = true) {
    const logged: [object, number][] = []
    const log = jest.fn(async (said: object, seconds: number) => {
      logged.push([said, seconds])
      return answer
    })
    render(<Hands verify={verify} log={log} />)
    return { logged, log }
  }
  const run = async (seconds: number) => {
    await key(' ')
    act(() => jest.advanceTimersByTime(seconds * 1000))
    await key('Enter')
  }
  beforeEach(() => jest.useFakeTimers({ now: Date.parse('2026-11-24T10:00:00Z') }))

  test('one key starts it, the same key ends it, one digit says how it went', async () => {
    const { logged } = lay('digest')
    await run(42)
    expect(screen.getByText('42 s. How did it go?')).toBeTruthy()
    await key('1')
    expect(logged).toEqual([[{ outcome: 'done', verified: true }, 42]])
    expect(screen.queryByRole('dialog')).toBeNull()
  })
  test('a digit before it is over says nothing', async () => {
    const { logged } = lay('digest')
    await key('1')
    await key(' ')
    await key('1')
    expect(logged).toEqual([])
  })
  test('where nothing checks it no key says that it is equal', async () => {
    const { logged } = lay('none')
    await run(5)
    expect(screen.queryByText(/equal/)).toBeNull()
    await key('1')
    expect(logged).toEqual([[{ outcome: 'done', verified: false }, 5]])
  })
  test('written and not checked has a key of its own', async () => {
    const { logged } = lay('digest')
    await run(5)
    await key('6')
    expect(logged).toEqual([[{ outcome: 'done', verified: false }, 5]])
  })
  test('after a failure it is armed again, and what to do first is said', async () => {
    const { logged } = lay('digest')
    await run(5)
    await key('2')
    expect(logged[0]?.[0]).toEqual({ outcome: 'no-answer', verified: false })
    expect(screen.getByText(/It is logged\. Power off/)).toBeTruthy()
    await run(9)
    expect(screen.getByText('9 s. How did it go?')).toBeTruthy()
  })
  test('what was counted and refused is there to be logged when it is opened again', async () => {
    const { logged, log } = lay('digest', false)
    await run(37)
    await key('1')
    expect(screen.queryByRole('dialog')).toBeNull()
    await press('again')
    expect(screen.getByText('37 s. How did it go?')).toBeTruthy()
    log.mockImplementation(async (said: object, seconds: number) => logged.push([said, seconds]) > 0)
    await key('1')
    expect(logged.at(-1)).toEqual([{ outcome: 'done', verified: true }, 37])
    await press('again')
    expect(screen.getByText(/Armed\. Start your tool/)).toBeTruthy()
  })
})

describe('the page of writing', () => {
  test('without an image there is nothing to write, and it is said where one is chosen', async () => {
    onTheBench('write', WriteSurface)
    await settled()
    expect(screen.getByText('No image is chosen')).toBeTruthy()
    expect(screen.queryByRole('button', { name: /Done/ })).toBeNull()
  })
  test('while a gate is open no outcome can be logged', async () => {
    onTheBench('write', WriteSurface, ready)
    await settled()
    expect((screen.getByRole('button', { name: /Done$/ }) as HTMLButtonElement).disabled).toBe(true)
    expect((screen.getByRole('button', { name: /Both hands full/ }) as HTMLButtonElement).disabled).toBe(true)
  })
  test('the facts are those of the image that was checked', async () => {
    onTheBench('write', WriteSurface, ready)
    await settled()
    const facts = [...document.querySelectorAll('dt')].map(
      (t) => `${t.textContent}: ${t.nextElementSibling?.textContent}`,
    )
    expect(facts).toEqual(
      expect.arrayContaining(['File: plainsong.bin', 'Offset: 0x0', 'Mode: DOUT, as the file carries it']),
    )
  })
})

describe('a line of one’s own', () => {
  const values = [{ file: 'a.bin', offset: '', baud: '115200', bytes: '1', sha256: 'x' }]
  test('is filled in; what nobody knows yet, and what nothing here is called, are named', async () => {
    render(<OwnLine lines={[{ id: 'l', name: 'mine', text: 'put {port} {offset} {file} {speed}' }]} values={values} />)
    await type(/^Port/, '/dev/ttyUSB0')
    expect(screen.getByText(/put \/dev\/ttyUSB0/).textContent).toContain('a.bin')
    expect(screen.getByText(/Not known yet: offset/)).toBeTruthy()
    expect(screen.getByText(/Nothing here is called \{speed\}/)).toBeTruthy()
  })
  test('none ships with the app', () => {
    render(<OwnLine lines={[]} values={values} />)
    expect(screen.getByText(/None is kept yet/)).toBeTruthy()
  })
})

test('a note on an attempt stays in its field until it is kept', async () => {
  const annotate = jest.fn(async () => false)
  const attempt = {
    id: 'a1',
    at: '2026-11-24T10:00:00Z',
    outcome: 'done',
    verified: false,
    action: 'write',
    verify: 'digest',
    adapter: 'Little bridge',
    entry: null,
    held: null,
    baud: 115200,
    real: 115200,
    mode: 'DOUT',
    fileName: 'plainsong.bin',
    minutes: 4,
    message: '',
    notes: [],
  } as unknown as Attempt
  render(<AttemptTable attempts={[attempt]} annotate={annotate} />)
  expect(screen.getByText('not checked')).toBeTruthy()
  await press('Add a note')
  await type('Note on this attempt', 'cold joint')
  await press('Keep the note')
  expect(annotate).toHaveBeenCalledWith('a1', 'cold joint')
  expect((screen.getByLabelText('Note on this attempt') as HTMLInputElement).value).toBe('cold joint')
})
