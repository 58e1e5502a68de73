/** @jest-environment jsdom */
import { act, cleanup, render } from '@testing-library/react'
import { renderToString } from 'react-dom/server'
import { ChooseFile } from './choose-file'

afterEach(cleanup)

const words = 'Choose a photo'
const photo = new File(['seen'], 'top.jpg')

/** What a hand does to a field of files, as the page has it. */
function choose(input: HTMLInputElement, files: File[]): void {
  let chosen: File[] = files
  Object.defineProperty(input, 'files', { configurable: true, get: () => chosen })
  Object.defineProperty(input, 'value', {
    configurable: true,
    set: () => {
      chosen = []
    },
  })
}

describe('choosing files', () => {
  test('what was chosen while the page could not hear yet is taken once it does, and only once', async () => {
    const taken: string[] = []
    const field = <ChooseFile onFiles={(files) => taken.push(...files.map((f) => f.name))}>{words}</ChooseFile>
    const container = document.createElement('div')
    document.body.append(container)
    container.innerHTML = renderToString(field)
    choose(container.querySelector('input') as HTMLInputElement, [photo])
    expect(taken).toEqual([])
    const { rerender } = await act(async () => render(field, { container, hydrate: true }))
    expect(taken).toEqual(['top.jpg'])
    rerender(field)
    expect(taken).toEqual(['top.jpg'])
  })
  test('nothing is taken where nothing was chosen, and the same file can be chosen twice', async () => {
    const taken: string[] = []
    const { container } = render(
      <ChooseFile onFiles={(files) => taken.push(...files.map((f) => f.name))}>{words}</ChooseFile>,
    )
    expect(taken).toEqual([])
    const input = container.querySelector('input') as HTMLInputElement
    for (let time = 0; time < 2; time++) {
      choose(input, [photo])
      await act(async () => input.dispatchEvent(new Event('change', { bubbles: true })))
    }
    expect(taken).toEqual(['top.jpg', 'top.jpg'])
  })
})
