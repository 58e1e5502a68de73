import { entryMethods, factsOf, knownFamilies } from '../families/families'
import { chooseEntry, type EntryFacts, entrySteps } from './entry'

const facts = (more: Partial<EntryFacts> = {}): EntryFacts => ({
  facts: factsOf('LX106'),
  method: 'button',
  bootBy: 'button',
  hasReset: false,
  power: 'bench',
  mains: true,
  purpose: 'write',
  ...more,
})
const ids = (more: Partial<EntryFacts>) => entrySteps(facts(more)).map((s) => s.id)

describe('the way into download mode', () => {
  const known = { family: 'LX106', adapterPins: ['GND', 'TX', 'RX', 'DTR', 'RTS'], pads: ['BOOT', 'RST'], bootBy: null }
  test('the first that the facts allow', () => {
    expect(chooseEntry(known)).toBe('autoreset')
    expect(chooseEntry({ ...known, adapterPins: ['GND'], bootBy: 'button' })).toBe('button')
    expect(chooseEntry({ ...known, adapterPins: ['GND'], bootBy: 'pad' })).toBe('jumper')
    expect(chooseEntry({ ...known, adapterPins: ['GND'], pads: [], bootBy: null })).toBe(null)
    expect(chooseEntry({ ...known, family: 'ARM968-B' })).toBe('window')
    expect(chooseEntry({ ...known, family: 'CM3' })).toBe('call')
  })
  test('the mains come first, and the tool is ready before hands are busy', () => {
    for (const method of entryMethods) expect(ids({ method }).slice(0, 3)).toEqual(['mains', 'tool', 'off'])
    expect(ids({ mains: false })[0]).toBe('tool')
  })
  test('the strap is held before power, and let go after', () =>
    expect(ids({ method: 'button' })).toEqual(['mains', 'tool', 'off', 'hold', 'on', 'keep', 'start']))
  test('a jumper ends with taking it off: the usual reason for a unit that looks dead', () => {
    const steps = entrySteps(facts({ method: 'jumper', hasReset: true }))
    expect(steps.at(-1)).toMatchObject({ id: 'free', caution: true })
    expect(steps.map((s) => s.id)).toContain('tap')
  })
  test('a window is called before power; the rail must be below 0.3 V', () => {
    const steps = entrySteps(facts({ facts: factsOf('ARM968-B'), method: 'window' }))
    expect(steps.findIndex((s) => s.id === 'call')).toBeLessThan(steps.findIndex((s) => s.id === 'on'))
    expect(steps.find((s) => s.id === 'off')).toMatchObject({ seconds: 1, look: expect.stringContaining('0.3 V') })
  })
  test('every family and way gives whole sentences', () => {
    for (const family of knownFamilies)
      for (const method of entryMethods)
        for (const step of entrySteps(facts({ facts: factsOf(family), method })))
          expect(step.say).toMatch(/^[A-Z].*[.:]$/)
  })
})
