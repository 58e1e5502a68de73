import { within } from './within'

test.each([
  ['Volts with 10 kΩ to ground', 'volts with 10 kΩ to ground'],
  ['To GND', 'to GND'],
  ['A relay', 'a relay'],
  ['BOOT is held', 'BOOT is held'],
  ['Wi-Fi is gone', 'Wi-Fi is gone'],
  ['3V3 is low', '3V3 is low'],
  ['TX, and nothing else', 'TX, and nothing else'],
  ['Nothing', 'nothing'],
  ['', ''],
])('“%s” within a sentence is “%s”', (saying, said) => expect(within(saying)).toBe(said))
