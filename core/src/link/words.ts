import type { LinkState } from './flow'

/** What a person is told at every state of the line, in the same three lines: what the chip is now, what may be done, what a slip costs. */
export interface StateWords {
  title: string
  chip: string
  may: string
  slip: string
}

export const stateWords: Record<LinkState, StateWords> = {
  listening: {
    title: 'Listening',
    chip: 'It runs, or waits in its loader.',
    may: 'Hold BOOT, and give it its power.',
    slip: 'Nothing happens.',
  },
  calling: {
    title: 'Calling it',
    chip: 'Its loader, once it answers.',
    may: 'Take its power and give it again, as often as you like: it is called all the time.',
    slip: 'It goes on calling.',
  },
  detecting: {
    title: 'It answers',
    chip: 'In its loader, idle.',
    may: 'Stop.',
    slip: 'It is called again.',
  },
  testing: {
    title: 'Trying the line',
    chip: 'In its loader, idle.',
    may: 'Stop, or move the wires.',
    slip: 'It is called again.',
  },
  rating: {
    title: 'Trying a faster rate',
    chip: 'In its loader, idle.',
    may: 'Stop.',
    slip: 'It is called again, at the first rate.',
  },
  'backing up': {
    title: 'Reading',
    chip: 'Untouched: reading changes nothing.',
    may: 'Pause, or stop.',
    slip: 'Nothing is lost: it goes on from the last whole sector.',
  },
  erasing: {
    title: 'Erasing',
    chip: 'This part goes to FF. Its loader is in ROM and cannot be lost.',
    may: 'Wait; a stop is heard after it.',
    slip: 'The old firmware is gone, its backup is kept. It is finished from the journal.',
  },
  writing: {
    title: 'Writing',
    chip: 'Part new, part FF.',
    may: 'Stop, between two blocks.',
    slip: 'Half written: it is finished from the journal.',
  },
  recovering: {
    title: 'Finding it again',
    chip: 'Half written.',
    may: 'Hold BOOT, power off and on; or stop.',
    slip: 'The same.',
  },
  verifying: {
    title: 'Comparing',
    chip: 'New, not proven yet.',
    may: 'Stop: it stays unproven.',
    slip: 'It is compared again.',
  },
}
