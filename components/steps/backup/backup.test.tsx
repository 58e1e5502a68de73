/** @jest-environment jsdom */
import { noise } from '@fresh-coat/core/image/build'
import { dump, type Records } from '@fresh-coat/core/testing/a-unit'
import type { StepData } from '@fresh-coat/core/unit/records'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { act, cleanup, fireEvent, screen, within } from '@testing-library/react'
import { ask, noWorld, onTheBench, press, settled, type } from '@/components/testing/on-the-bench'
import { PutBack } from './put-back'
import { LogRead } from './read-attempts'
import { Skip } from './skip'
import { BackupSurface } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
jest.mock('@/components/files/analyse-dump', () => ({ analyseDump: jest.fn(), prepareAnalysis: () => {} }))
beforeEach(noWorld)
afterEach(cleanup)

const whole = 1 << 20
const bytes = noise(whole, 5)
const first = dump(bytes, 1)
const second = dump(bytes, 2)
const around: Records = { identify: { decision: { family: 'LX106', reason: 'read on the chip' } } }
const known = { flashId: '68 40 14' }
const lay = (files: UnitFile[], data: Partial<StepData['backup']> = {}, more: object = {}) =>
  onTheBench('backup', BackupSurface, { data: { ...known, ...data }, around, view: { files, ...more } })

describe('two equal reads of the whole chip, and nothing less, are a copy', () => {
  test('nothing, one, two equal', () => {
    lay([])
    expect(ask()).toBe('Read the whole chip, from 0 to its end')
    cleanup()
    lay([first])
    expect(ask()).toBe('Read it a second time')
    expect(screen.queryByText(/equal, byte for byte/)).toBeNull()
    cleanup()
    lay([first, second])
    // What stands in the way now is the gate, and no read.
    expect(ask()).toMatch(/^Not confirmed: /)
    expect(screen.queryByText(/Drop the/)).toBeNull()
  })
  test('two that differ are never mixed: both can be brought anew', () => {
    lay([first, { ...second, sha256: 'another' }])
    expect(ask()).toBe('The two reads differ. Read again.')
    expect(screen.getByText('Bytes of two reads are never mixed')).toBeTruthy()
    expect(screen.getByText('Or the first anew')).toBeTruthy()
  })
  test('two equal ones of a part of the chip are no copy of it', () => {
    const part = noise(whole / 2, 5)
    lay([dump(part, 1), dump(part, 2)])
    expect(screen.getByText('The reads agree, but it is no whole chip')).toBeTruthy()
  })
  test('what a read in the run that wrote is worth is said before anybody relies on it', async () => {
    lay(
      [first],
      { oneRun: true },
      { attempts: [{ outcome: 'done', at: '2026-11-24T11:00:00Z', sha256: 'x', firmware: '' }] as never },
    )
    expect(screen.getByText(/It is good enough to go back in need, and no proof/)).toBeTruthy()
  })
  test('a read is put aside by the server, and only on the press that says whose it is not', async () => {
    const bench = lay([first])
    await press('First read')
    expect(bench.sent).toEqual([])
    await press(/Put it aside/)
    expect(bench.sent).toEqual([['put-file-aside', { fileId: first.id }]])
  })
})

describe('the id of the flash chip', () => {
  test.each([
    ['68 40 14', /so it has 1 MiB/],
    ['ff ff ff', /the chip did not answer/],
    ['68 40', /three bytes in hex are due/],
    ['68 40 99', /the size byte is unknown/],
  ])('%s', (flashId, said) => {
    lay([], { flashId })
    expect(screen.getByText(said)).toBeTruthy()
  })
})

describe('no backup', () => {
  const laySkip = (skip: StepData['backup']['skip'] = null) =>
    onTheBench('backup', ({ record }) => <Skip record={record} />, { data: { skip } })
  test('is a decision with a reason, and can be taken back', async () => {
    const bench = laySkip()
    await press('There will be no backup')
    await type(/^In a sentence/, 'the owner wants none of it')
    await act(async () => void fireEvent.change(screen.getByLabelText('Why'), { target: { value: 'owner' } }))
    expect(bench.record().skip).toEqual({ code: 'owner', reason: 'the owner wants none of it' })
    await press('I will read it after all')
    expect(bench.record().skip).toBeNull()
  })
})

describe('a read that did not work', () => {
  const layLog = (open: boolean, refuses = false) =>
    onTheBench('backup', ({ view, act: send }) => <LogRead view={view} act={send} open={open} />, { refuses })
  test('is logged as a read, with nothing verified', async () => {
    const bench = layLog(false)
    fireEvent.click(screen.getByLabelText('Lost midway'))
    await type('The message as it was printed', 'timed out at 40 %')
    await press('Log this read')
    expect(bench.sent).toEqual([
      [
        'log-attempt',
        expect.objectContaining({
          action: 'read',
          outcome: 'lost-midway',
          verified: false,
          message: 'timed out at 40 %',
        }),
      ],
    ])
    expect((screen.getByLabelText('The message as it was printed') as HTMLInputElement).value).toBe('')
  })
  test('that is refused stays as it was typed', async () => {
    layLog(false, true)
    await type('The message as it was printed', 'timed out')
    await press('Log this read')
    expect((screen.getByLabelText('The message as it was printed') as HTMLInputElement).value).toBe('timed out')
  })
  test('waits for the gate', () => {
    layLog(true)
    expect((screen.getByRole('button', { name: 'Log this read' }) as HTMLButtonElement).disabled).toBe(true)
    expect(screen.getByText(/The gate on the card comes first/)).toBeTruthy()
  })
})

describe('the way back', () => {
  const layBack = (files: UnitFile[], data: Partial<StepData['backup']> = {}) =>
    onTheBench('backup', (props) => <PutBack {...props} twins={[]} gated={false} />, {
      data: { ...known, ...data },
      around,
      view: { files, today: '2026-11-24' },
    })
  test('that it was put back and started is said on a day, from which the next try counts', async () => {
    const bench = layBack([first, second], { restoreMonths: 6 })
    await settled()
    expect(screen.getByText(/Never tried\. Due 24 May 2027/)).toBeTruthy()
    await press('Put back today, and it started')
    expect(bench.record().restoreTested).toBe('2026-11-24')
    expect(screen.getByText(/Tried 24 Nov 2026\. Due 24 May 2027/)).toBeTruthy()
  })
  test('a single read has no date by which it is tried', async () => {
    layBack([first])
    await settled()
    expect(screen.getByText(/A due date comes with a verified copy/)).toBeTruthy()
  })
  test('before a file is used it is hashed again; another one is not to be written', async () => {
    const digest = jest.fn(async () => new Uint8Array([0xab, 0xcd]).buffer)
    Object.defineProperty(globalThis, 'crypto', { value: { subtle: { digest } }, configurable: true })
    const files = [
      { ...first, sha256: 'abcd' },
      { ...second, sha256: 'abcd' },
    ]
    layBack(files)
    await settled()
    const drop = async () => {
      const inputs = [...document.querySelectorAll('input[type=file]')]
      const one = new File([new Uint8Array(2)], 'from-disk.bin')
      one.arrayBuffer = async () => new ArrayBuffer(2)
      await act(async () => {
        fireEvent.change(inputs.at(-1) as Element, { target: { files: [one] } })
        await new Promise((r) => setTimeout(r, 20))
      })
    }
    await drop()
    expect(screen.getByText('the same')).toBeTruthy()
    digest.mockResolvedValue(new Uint8Array([1, 2]).buffer)
    await drop()
    expect(screen.getByText('another file')).toBeTruthy()
    expect(within(document.body).getByText(/Do not write it/)).toBeTruthy()
  })
})
