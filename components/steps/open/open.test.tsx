/** @jest-environment jsdom */
import { isolationQuestions } from '@fresh-coat/core/open/isolation'
import { photoTags } from '@fresh-coat/core/open/opening'
import { board } from '@fresh-coat/core/testing/a-unit'
import type { StepData } from '@fresh-coat/core/unit/records'
import { act, cleanup, fireEvent, screen, within } from '@testing-library/react'
import { answer, ask, askAbout, next, noWorld, onTheBench, press, type } from '@/components/testing/on-the-bench'
import { Photos } from './photos'
import { LooseParts, PlanEditor } from './plan'
import { OpenSurface } from './surface'

const answers: { state: string; value?: object; error?: object }[] = []
const uploads: { about: object; body: Blob }[] = []
jest.mock('@/components/send', () => ({
  ...jest.requireActual('@/components/send'),
  upload: (about: object, body: Blob) => {
    uploads.push({ about, body })
    return { done: Promise.resolve(answers.shift() ?? { state: 'ok', value: {} }), abort: () => {} }
  },
}))
jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
beforeEach(() => {
  noWorld()
  answers.length = 0
  uploads.length = 0
})
afterEach(cleanup)

type Data = StepData['open']
const screw = (id: string, more: Partial<Data['fasteners'][number]> = {}): Data['fasteners'][number] => ({
  id,
  kind: 'screw',
  count: 4,
  driver: 'PH1',
  place: 'back',
  hiddenUnder: 'none',
  note: '',
  restore: 'same',
  requires: [],
  ...more,
})
const photo = (name: string, bytes = [0xff, 0xd8, 0xff, 0xe0]) => new File([Uint8Array.from(bytes)], name)

describe('what is asked while a case is opened', () => {
  test('the legends first: once the cover is off nothing says which is line', async () => {
    const bench = onTheBench('open', OpenSurface)
    expect(ask()).toBe('Which terminal is which?')
    await act(async () => void fireEvent.click(screen.getByLabelText(/^It has none/)))
    expect(bench.record().noTerminals).toBe(true)
    // What is typed must not jump away: one goes on by Enter.
    await next()
    expect(ask()).toMatch(/^A photo: /)
  })
  test('fasteners come out in the order of the plan, each by one press', async () => {
    const bench = onTheBench('open', OpenSurface, {
      data: { noTerminals: true, fasteners: [screw('f1'), screw('f2', { kind: 'clip', count: 2, place: 'left' })] },
      view: {
        files: photoTags.map((tag) => ({
          id: tag,
          kind: 'photo',
          name: tag,
          tag,
        })) as never,
      },
    })
    expect(ask()).toMatch(/^Out next: 4 screws/)
    await answer('It is out')
    expect(bench.record().taken).toEqual(['f1'])
    expect(ask()).toMatch(/^Out next: 2 clips/)
    await answer('It is out')
    expect(bench.record().taken).toEqual(['f1', 'f2'])
  })
  test('that nothing can hurt is somebody’s word after looking, and a new hazard asks for it again', async () => {
    const bench = onTheBench('open', OpenSurface, { data: { noTerminals: true } })
    await next()
    await answer('Nothing that I can see')
    expect(bench.record()).toMatchObject({ hazards: [], hazardsLooked: true })
    await askAbout('Can hurt')
    const [first] = screen.getAllByRole('button', { pressed: false }).filter((b) => b.hasAttribute('data-key'))
    await act(async () => void fireEvent.click(first as Element))
    expect(bench.record().hazards).toHaveLength(1)
    expect(bench.record().hazardsLooked).toBe(false)
  })
  test('until a question of isolation is answered, and after “don’t know”, it is treated as live', async () => {
    const bench = onTheBench('open', OpenSurface, { data: { noTerminals: true } })
    expect(screen.getByText(/is live when plugged in/)).toBeTruthy()
    await next()
    await answer('Nothing that I can see')
    for (let i = 0; i < isolationQuestions.length && document.body.textContent?.includes('Don’t know'); i++)
      await answer('Don’t know')
    expect(Object.values(bench.record().isolation).every((a) => a === 'unknown')).toBe(true)
    expect(screen.getByText(/is live when plugged in/)).toBeTruthy()
  })
  test('a board without mains is asked nothing of mains', () => {
    onTheBench('open', OpenSurface, { view: { board: { ...board, mains: false } } })
    expect(screen.queryByRole('button', { name: 'Isolation' })).toBeNull()
    expect(screen.queryByRole('button', { name: 'Can hurt' })).toBeNull()
    expect(screen.queryByText(/Wait at least/)).toBeNull()
  })
})

describe('the plan of opening', () => {
  const lay = (fasteners: Data['fasteners'], taken: string[] = []) =>
    onTheBench('open', ({ record }) => <PlanEditor record={record} />, { data: { fasteners, taken } })
  test('a step that is taken away is needed by no other, and is not out', async () => {
    const bench = lay([screw('f1'), screw('f2', { requires: ['f1'] })], ['f1'])
    await press('Correct step 1')
    await press('Remove this step')
    expect(bench.record()).toMatchObject({ fasteners: [{ id: 'f2', requires: [] }], taken: [] })
  })
  test('moving changes the order and nothing else', async () => {
    const bench = lay([screw('f1'), screw('f2'), screw('f3')], ['f2'])
    expect((screen.getByRole('button', { name: 'Move step 1 up' }) as HTMLButtonElement).disabled).toBe(true)
    await press('Move step 3 up')
    expect(bench.record().fasteners.map((f) => f.id)).toEqual(['f1', 'f3', 'f2'])
    expect(bench.record().taken).toEqual(['f2'])
  })
  test('a new one has an id that no other has, also after one was taken away', async () => {
    const bench = lay([screw('f1'), screw('f3')])
    await press('Add a fastener')
    await press('Add a fastener')
    expect(new Set(bench.record().fasteners.map((f) => f.id)).size).toBe(4)
  })
  test('no more than a record holds', () => {
    lay(Array.from({ length: 60 }, (_, i) => screw(`f${i + 1}`)))
    expect((screen.getByRole('button', { name: 'Add a fastener' }) as HTMLButtonElement).disabled).toBe(true)
  })
  test('loose parts are kept once each, without the blanks around them', async () => {
    const bench = onTheBench('open', ({ record }) => <LooseParts record={record} />)
    for (const part of [' light pipe ', 'spring', 'light pipe', '  ']) {
      await type(/^Loose parts/, part)
      await press('Keep')
    }
    expect(bench.record().parts).toEqual(['light pipe', 'spring'])
    await press('Remove spring')
    expect(bench.record().parts).toEqual(['light pipe'])
  })
})

describe('photos', () => {
  const lay = (wanted: ('board_top' | 'board_bottom')[] = ['board_top', 'board_bottom']) =>
    onTheBench('open', ({ view, act: send }) => <Photos view={view} wanted={wanted} act={send} />)
  const add = (...files: File[]) =>
    act(async () => {
      fireEvent.change(document.querySelector('input[type=file]') as Element, { target: { files } })
      await new Promise((r) => setTimeout(r, 50))
    })
  beforeEach(() => {
    // A page that is none cannot cut a file.
    File.prototype.arrayBuffer ??= async () => new ArrayBuffer(0)
    Blob.prototype.arrayBuffer ??= async () => new ArrayBuffer(0)
  })
  test('several at once get the names of those that are wanted, in their order', async () => {
    lay()
    await add(photo('a.jpg'), photo('b.jpg'))
    expect(uploads.map((u) => u.about)).toEqual([
      expect.objectContaining({ name: 'a.jpg', tag: 'board_top', unitId: 'u1' }),
      expect.objectContaining({ name: 'b.jpg', tag: 'board_bottom', unitId: 'u1' }),
    ])
  })
  test('what was chosen that it shows counts before what is wanted', async () => {
    lay()
    await act(
      async () => void fireEvent.change(screen.getByLabelText('What it shows'), { target: { value: 'board_bottom' } }),
    )
    await add(photo('a.jpg'))
    expect(uploads[0]?.about).toMatchObject({ tag: 'board_bottom' })
  })
  test('one that is refused says why, and the others are kept all the same', async () => {
    lay()
    answers.push({
      state: 'refused',
      error: { code: 'no-photo', message: 'This is no picture.', kept: 'Nothing was stored.', next: 'Choose another.' },
    })
    await add(photo('a.txt', [1, 2]), photo('b.jpg'))
    expect(uploads).toHaveLength(2)
    expect(within(document.body).getByText('This is no picture.')).toBeTruthy()
  })
  test('a server that does not answer is said, with what to do', async () => {
    lay()
    answers.push({ state: 'away' })
    await add(photo('a.jpg'))
    expect(screen.getByText('The server does not answer.')).toBeTruthy()
    expect(screen.getByText(/Choose the photo again/)).toBeTruthy()
  })
  test('one that is put aside is asked of the server, never thrown away here', async () => {
    const bench = onTheBench('open', ({ view, act: send }) => <Photos view={view} wanted={[]} act={send} />, {
      view: { files: [{ id: 'p1', kind: 'photo', name: 'top.jpg', tag: 'board_top' }] as never },
    })
    await press('Put top.jpg aside')
    expect(bench.sent).toEqual([['put-file-aside', { fileId: 'p1' }]])
    expect(screen.getByAltText('board top')).toBeTruthy()
  })
})
