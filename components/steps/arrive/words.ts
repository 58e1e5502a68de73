import type { LoadKind } from '@fresh-coat/core/steps/arrive/record'

/** What a unit will work, as it is chosen. */
export const loadWords: Record<LoadKind | 'undecided', string> = {
  lamp: 'A lamp',
  heater: 'A heater',
  motor: 'A motor',
  'latch-unlocks': 'A latch that opens when its supply goes',
  'latch-locks': 'A latch that stays shut without supply',
  modem: 'A modem or router',
  pump: 'A pump',
  fan: 'A fan',
  other: 'Something else',
  undecided: 'Not decided yet',
}

/** The same, short enough for a drawing. */
export const loadShort: Record<LoadKind | 'undecided', string> = {
  ...loadWords,
  'latch-unlocks': 'A latch, open without supply',
  'latch-locks': 'A latch, shut without supply',
}
