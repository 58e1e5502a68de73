export const entryWords = {
  button: 'Button on the strap',
  jumper: 'Jumper from BOOT to ground',
  autoreset: 'Adapter does it (DTR, RTS)',
  window: 'Power window',
  call: 'Call byte',
}
export const holdLabels = { hand: 'Hand', jig: 'A jig', plug: 'A plug', solder: 'Solder' }
export const contactWords = {
  header: 'A pin header fits.',
  fine_header_or_clip: 'A fine header or a clip fits.',
  clip_or_solder: 'Use a clip, or solder: a square pin is too thick.',
  solder: 'Solder thin wires.',
}
export const powerWords = {
  adapter3v3: 'the adapter’s 3V3',
  bench: 'a bench supply',
  adapter5v: 'the adapter’s 5V, to a pad',
  regulator: 'my own regulator on the adapter’s 5V',
}
