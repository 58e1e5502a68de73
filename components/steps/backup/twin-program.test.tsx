/** @jest-environment jsdom */
import type { TwinBackup } from '@fresh-coat/core/steps/backup/facts'
import { dump, unit } from '@fresh-coat/core/testing/a-unit'
import { act, cleanup, render, screen } from '@testing-library/react'
import { TwinProgram } from './twin-program'

jest.mock('next/navigation', () => ({ useRouter: () => ({}) }))
jest.mock('@/components/files/analyse-dump', () => ({ analyseDump: jest.fn(), prepareAnalysis: () => {} }))
afterEach(cleanup)

const twin = (number: number, more: Partial<TwinBackup> = {}): TwinBackup => ({
  number,
  name: `Unit ${number}`,
  family: 'LX106',
  state: 'verified',
  file: { id: `f${number}`, name: 'x.bin', sha256: 'x', bytes: 4096, held: true },
  ...more,
})
/** What is said, and which two files were compared. */
async function said(verdict: string, twins: TwinBackup[], files = [dump(new Uint8Array(4096), 1)]) {
  const asked: string[] = []
  globalThis.fetch = jest.fn(async (url: string) => {
    asked.push(url)
    return { json: async () => ({ ok: true, value: { verdict } }) }
  }) as never
  await act(async () => render(<TwinProgram view={unit({}, { files })} twins={twins} />))
  return { asked, text: document.body.textContent ?? '' }
}

test('the same program, also where only settings differ', async () => {
  for (const verdict of ['same', 'unit-ran-between']) {
    expect((await said(verdict, [twin(5)])).text).toMatch(/Same program as unit 05/)
    cleanup()
  }
})

test('another program is a silent revision, perhaps; a few bits are a bad read, and no revision', async () => {
  expect((await said('different', [twin(5)])).text).toMatch(/a silent revision, perhaps/)
  expect(screen.getByRole('link', { name: 'see where' }).getAttribute('href')).toMatch(/b=f5$/)
  cleanup()
  const { text } = await said('bad-contact', [twin(5)])
  expect(text).toMatch(/one of the two reads holds a fault/)
  expect(text).not.toMatch(/revision|Same program/)
})

test('a proven twin is asked before one that was read once, and never one whose bytes are elsewhere', async () => {
  const elsewhere = twin(1, { file: { ...twin(1).file, held: false } })
  const { asked } = await said('same', [elsewhere, twin(2, { state: 'single' }), twin(9), twin(7)])
  expect(asked).toEqual([expect.stringMatching(/\/f7$/)])
})

test('without a read of its own, or without a twin, nothing is said', async () => {
  expect(await said('same', [twin(5)], [])).toEqual({ asked: [], text: '' })
  expect(await said('same', [])).toEqual({ asked: [], text: '' })
})
