/** What the pin table of a family says, in plain words: the codes are for checks, these are for people. */
const plain: Record<string, string> = {
  flash: 'belongs to the flash',
  flash4: 'belongs to the flash, unless it runs on two lines',
  flash8: 'taken where the memory is octal',
  boot: 'must be high to start; low means download',
  high: 'must be high at power-up',
  low: 'must be low at power-up',
  dl0: 'low to enter download',
  dl1: 'high to enter download',
  in: 'input only',
  aonly: 'analog only',
  nopull: 'has no pull-up',
  nopwm: 'cannot dim',
  adc2: 'measures only while Wi-Fi is off',
  tx: 'console, out',
  rx: 'console, in',
  log: 'a second console',
  usb: 'USB',
  r1: 'high before the firmware starts',
  ru: 'weakly high before the firmware starts',
  r0: 'low before the firmware starts',
  rz: 'floats before the firmware starts',
}

/** "console, out; high before the firmware starts" @param words of the pin table, with blanks between */
export function plainPin(words: string): string {
  return words
    .split(' ')
    .filter(Boolean)
    .map((w) => (w.startsWith('adc:') ? `measures up to ${w.slice(4)} V` : (plain[w] ?? w)))
    .join('; ')
}
