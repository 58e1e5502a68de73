import { unit } from '../../testing/a-unit'
import { hasInput } from './facts'

const pins = (...fns: string[]) => ({
  pins: {
    template: {
      format: 'fresh-coat/pin-template',
      version: 1,
      board: 'P1',
      family: 'LX106',
      pins: fns.map((fn, i) => ({ pin: `GPIO${i}`, fn })),
    } as never,
  },
})

describe('has it anything to press?', () => {
  test.each<[string, Parameters<typeof unit>[0], boolean]>([
    ['nobody knows its pins', {}, true],
    ['a template without a pin', pins(), true],
    ['a button', pins('relay', 'button'), true],
    ['a switch', pins('switch'), true],
    ['relays only', pins('relay', 'led'), false],
    ['somebody looked and found none', { ...pins('button'), hub: { noButton: true } }, false],
  ])('%s', (_, records, has) => expect(hasInput(unit(records))).toBe(has))
})
