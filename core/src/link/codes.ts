/** Commands of the loaders in ROM, their codes, and what an answer's status says (brief 06 §2). */

export const commandCodes = {
  sync: 0x08,
  'read-register': 0x0a,
  'write-register': 0x09,
  'memory-begin': 0x05,
  'memory-data': 0x07,
  'memory-end': 0x06,
  'flash-begin': 0x02,
  'flash-data': 0x03,
  'flash-end': 0x04,
  'spi-parameters': 0x0b,
  'spi-attach': 0x0d,
  'flash-read': 0x0e,
  'set-rate': 0x0f,
  'flash-digest': 0x13,
  'security-info': 0x14,
} as const
export type LinkCommand = keyof typeof commandCodes
export const linkCommands = Object.keys(commandCodes) as [LinkCommand, ...LinkCommand[]]

/** The command of a code; null for one that we do not send. */
export const commandOf = (code: number): LinkCommand | null =>
  linkCommands.find((name) => commandCodes[name] === code) ?? null

const statusNames: Record<number, string> = {
  5: 'invalid-message',
  6: 'failed',
  7: 'checksum',
  8: 'write-differs',
  9: 'read-failed',
  10: 'read-too-long',
  11: 'unpack-failed',
}

/** What a status of a refused request is called; newer ROMs have more than the table. */
export const statusName = (code: number): string => statusNames[code] ?? 'other'

export const statusNext: Record<string, string> = {
  'invalid-message': 'Length or parameter was wrong, or this ROM has no such command: do not repeat it.',
  failed: 'It was understood and could not be done: flash not attached, or outside the chip.',
  checksum: 'The block was damaged on the way and nothing was written: send the same block again.',
  'write-differs': 'What was programmed reads back differently: not erased, a weak cell or a weak supply.',
  'read-failed': 'Reading failed: look at supply and wires.',
  'read-too-long': 'More was asked for than its buffer holds.',
  'unpack-failed': 'The packed stream could not be unpacked.',
  other: 'Its number is not in the table: note it with the family.',
}
