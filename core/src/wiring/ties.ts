import type { Family } from '../families/families'

/**
 * What holds enable and straps of a bare module where they have to be: no carrier board does it any more (01, strap
 * defaults; 07 §1). Straps that the chip itself pulls the right way need nothing.
 */
export interface Tie {
  id: 'tie-en' | 'tie-boot' | 'tie-high' | 'tie-low'
  pin: string
  to: '3V3' | 'GND'
  ohms: number
  /** What happens without it. */
  because: string
}

const tenK = 10_000
const floats = 'Left open it starts by luck, or not at all.'
const en = (pin: string): Tie => ({ id: 'tie-en', pin, to: '3V3', ohms: tenK, because: floats })

const ties: Partial<Record<Family, readonly Tie[]>> = {
  LX106: [
    en('EN'),
    {
      id: 'tie-low',
      pin: 'GPIO15',
      to: 'GND',
      ohms: tenK,
      because: 'High at reset it starts from nowhere: the chip has no pull-down of its own there.',
    },
  ],
  LX6: [en('EN')],
  LX7: [en('EN')],
  RV32: [
    en('EN'),
    {
      id: 'tie-boot',
      pin: 'GPIO8',
      to: '3V3',
      ohms: tenK,
      because: 'Download mode wants it high at reset, and nothing inside pulls it.',
    },
    {
      id: 'tie-high',
      pin: 'GPIO2',
      to: '3V3',
      ohms: tenK,
      because: 'It has to be high at reset, and nothing inside pulls it.',
    },
  ],
  'ARM968-A': [en('CEN')],
  'ARM968-B': [en('CEN')],
  CM3: [en('RESET')],
}

/** The ties of a bare module of a family, in the order they are made; none where nobody knows the family. */
export const tiesOf = (family: Family | null): readonly Tie[] => (family === null ? [] : (ties[family] ?? []))

/** "EN to 3V3 through 10 kΩ" */
export const tieWords = ({ pin, to, ohms }: Tie): string => `${pin} to ${to} through ${ohms / 1000} kΩ`
