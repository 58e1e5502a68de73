/** Words and numbers as they stand in a tool's output, by the rules of brief 07 §3. All expressions are for one line. */

/** Blanks within a line. */
export const blank = '[^\\S\\r\\n]'
const notBeside = '(?<![A-Za-z0-9])'
const notBefore = '(?![A-Za-z0-9])'
/** Not beside a letter or digit, nor beside a comma or point with a digit: `430,080` holds no number. */
const numberStart = '(?<![A-Za-z0-9])(?<![0-9][.,])'
const numberEnd = '(?![0-9]|[.,][0-9])'

/** Any of `words` (expressions), with no ASCII letter or digit at either side; upper and lower case are one. */
export const word = (...words: string[]): RegExp => new RegExp(`${notBeside}(?:${words.join('|')})${notBefore}`, 'i')

/** A number, alone. */
export const aNumber = `${numberStart}(\\d+(?:\\.\\d+)?)${numberEnd}(?![A-Za-z])`

/** A number right before `unit`, at most blanks between. `exact`: the unit is written so, in these letters. */
export const numberBefore = (unit: string, exact = false): RegExp =>
  new RegExp(
    `${numberStart}(\\d+(?:\\.\\d+)?)${numberEnd}${blank}*(?:${unit})${unit === '%' ? '' : notBefore}`,
    exact ? 'g' : 'gi',
  )

/** A whole number, decimal or hexadecimal, right before `unit`. */
export const wholeBefore = (unit: string): RegExp =>
  new RegExp(`(?:${numberStart}(\\d+)${numberEnd}|${notBeside}(0x[0-9a-f]+))${blank}*(?:${unit})${notBefore}`, 'gi')

/** A hexadecimal number with 0x, alone. */
export const aHexNumber = new RegExp(`${notBeside}(0x[0-9a-f]+)${notBefore}`, 'i')

/** The text as given, to be found as it stands. */
export const literally = (text: string): string => text.replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&')

/** Lines end at LF, CR LF or CR; colours and cursor moves (ESC [ … letter) are cut first. */
export const linesOf = (text: string): string[] =>
  // biome-ignore lint/suspicious/noControlCharactersInRegex: ESC is what is cut.
  text.replaceAll(/\u001b\[[^A-Za-z\r\n]*[A-Za-z]/g, '').split(/\r\n|\n|\r/)
