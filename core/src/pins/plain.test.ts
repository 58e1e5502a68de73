import { factsOf, knownFamilies } from '../families/families'
import { plainPin } from './plain'

describe('pins in plain words', () => {
  test('an analog pin says how far it measures, a strap what it must be', () => {
    expect(plainPin('aonly adc:1.0')).toBe('analog only; measures up to 1.0 V')
    expect(plainPin('boot r1')).toBe('must be high to start; low means download; high before the firmware starts')
    expect(plainPin('')).toBe('')
  })
  test.each(knownFamilies)('no code of the table of %s is left over', (family) => {
    for (const words of Object.values(factsOf(family).pins))
      for (const code of String(words).split(' ')) expect(plainPin(code)).not.toBe(code === 'usb' ? '' : code)
  })
})
