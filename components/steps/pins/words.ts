import type { PinFunction } from '@fresh-coat/core/pins/template'

/** What a pin does, by what a person sees. */
export const fnWords: Record<PinFunction, string> = {
  relay: 'a relay',
  'latch-set': 'a latching relay, on coil',
  'latch-reset': 'a latching relay, off coil',
  button: 'a button',
  switch: 'a switch',
  touch: 'a touch field',
  motion: 'a motion sensor',
  'ac-sense': 'mains sensing',
  led: 'a light',
  dim: 'a dimmer',
  red: 'red of a lamp',
  green: 'green of a lamp',
  blue: 'blue of a lamp',
  cool: 'cool white of a lamp',
  warm: 'warm white of a lamp',
  bright: 'brightness of a lamp',
  temp: 'colour temperature of a lamp',
  'pulse-power': 'the meter’s power pulses',
  'pulse-volt-amp': 'the meter’s volt or ampere pulses',
  'pulse-choice': 'the meter’s choice of volt or ampere',
  'meter-tx': 'the line to the meter',
  'meter-rx': 'the line from the meter',
  'i2c-sda': 'I²C data',
  'i2c-scl': 'I²C clock',
  'one-wire': 'a one-wire sensor',
  analog: 'an analog input',
  buzzer: 'a buzzer',
  console: 'the console',
  spare: 'spare',
  unused: 'not used',
  forbidden: 'not to be touched',
}

/** Grouped as they are looked for; the first group is asked by digits. */
export const fnGroups: { name: string; fns: PinFunction[] }[] = [
  { name: 'It switches', fns: ['relay', 'latch-set', 'latch-reset', 'buzzer'] },
  { name: 'It is pressed or senses', fns: ['button', 'switch', 'touch', 'motion', 'ac-sense', 'analog', 'one-wire'] },
  { name: 'It lights', fns: ['led', 'dim', 'red', 'green', 'blue', 'cool', 'warm', 'bright', 'temp'] },
  {
    name: 'It measures',
    fns: ['pulse-power', 'pulse-volt-amp', 'pulse-choice', 'meter-tx', 'meter-rx', 'i2c-sda', 'i2c-scl'],
  },
  { name: 'Nothing for us', fns: ['console', 'spare', 'unused', 'forbidden'] },
]
/** What most pins turn out to be. */
export const usualFns: PinFunction[] = ['relay', 'led', 'button', 'switch', 'dim', 'unused']
