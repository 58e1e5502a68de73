/** Checks and what they can show, in words. */
export const kindWords: Record<string, string> = {
  marking: 'Marking met before',
  crystal: 'Crystal',
  flash_chip: 'Flash chip beside it',
  edge_contacts: 'Contacts of the module',
  ble_seen: 'Bluetooth advert seen',
  wifi_band: 'Wi-Fi bands',
  strap_effect: 'BOOT held at power-up',
  boot_text: 'Boot text and its rate',
  sync_reply: 'What answers the tool',
  header: 'First bytes of a dump',
}

/** The question, and how one looks. */
export const kindAsks: Record<string, { ask: string; how: string }> = {
  crystal: {
    ask: 'What stands on the crystal?',
    how: 'The small metal can or white box beside the chip. A glass and light from the side help.',
  },
  flash_chip: { ask: 'Is there an 8-pin chip beside the large one?', how: 'The flash, if it is not inside the chip.' },
  edge_contacts: {
    ask: 'How many contacts has the module?',
    how: 'Count along its edges, or none if there is no module.',
  },
  ble_seen: {
    ask: 'Does a phone see it by Bluetooth?',
    how: 'Set it up anew and look at the phone’s list of devices nearby.',
  },
  wifi_band: { ask: 'Which Wi-Fi does it join?', how: 'As sold: does its app or its print say 5 GHz too?' },
  strap_effect: {
    ask: 'BOOT held at power-up: what happens?',
    how: 'The stock firmware stays silent, or nothing changes.',
  },
  boot_text: {
    ask: 'What does it say while it starts?',
    how: 'Listen on TX at 74 880 and at 115 200 baud through a reset.',
  },
  sync_reply: { ask: 'What answers when a tool calls?', how: 'The first bytes that come back in download mode.' },
  header: { ask: 'How does its dump begin?', how: 'The first bytes of the read, in hex.' },
}

const words: Record<string, string> = {
  none: 'none or unreadable',
  external8: 'yes, an 8-pin chip',
  le8: '8 or fewer',
  '9_14': '9 to 14',
  '15_18': '15 to 18',
  '19_24': '19 to 24',
  ge25: '25 or more',
  nomodule: 'no module, chip on the board',
  '24_only': '2.4 GHz only',
  '5_too': '5 GHz too',
  no_app: 'stock firmware stays silent',
  no_effect: 'no effect',
  cause_74880: '“rst cause”, 74 880',
  cause_115200: '“rst cause”, 115 200',
  rst_74880: '“rst:0x”, 74 880',
  rst_115200: '“rst:0x”, 115 200',
  c_115200: 'stream of C, 115 200',
  other_115200: 'other text, 115 200',
  slip: 'C0 01 08 …',
  hci_link: '04 0E 05 …',
  c_stream: '43 43 43 …',
  e9_plain: 'E9, load address',
  e9_lx6: 'E9, id 0',
  e9_lx7: 'E9, id 2 or 9',
  e9_rv32: 'E9, id 5, 12, 13, 16',
  crc34: '32 + 2 check bytes',
  a0ffff9f: '9F FF FF A0',
  blank: 'all FF',
  other: 'something else',
  yes: 'yes',
  no: 'no',
}
const own: Record<string, Record<string, string>> = {
  crystal: { '24': '24 MHz', '26': '26 MHz', '40': '40 MHz' },
  flash_chip: { none: 'no: it is inside, or under the lid' },
}
export const valueWord = (kind: string, value: string): string => own[kind]?.[value] ?? words[value] ?? value

export const riskWords = {
  open_off: 'case open, power off',
  closed: 'case closed, as sold',
  low_voltage: '3.3 V on the bench, mains off',
}

export const verdictWords: Record<string, string> = {
  identified: 'Identified',
  arm968_unsplit: 'ARM968, A or B not split: work as A',
  likely: 'Likely',
  undecided: 'Undecided',
  conflict: 'Something disagrees',
}
