import { sizeWords } from '../../bytes/text'
import { type Finding, finding } from '../../edge/finding'
import type { Family } from '../../families/families'
import type { ImageInspection } from '../../image/inspect'
import type { PreflightUnit, WriteWish } from './question'

const sizeNames: Record<string, number> = {
  '256k': 2 ** 18,
  '512k': 2 ** 19,
  '1m': 2 ** 20,
  '2m': 2 ** 21,
  '4m': 2 ** 22,
  '8m': 2 ** 23,
  '16m': 2 ** 24,
}
const familyNames: Record<string, Family> = {
  lx106: 'LX106',
  lx6: 'LX6',
  lx7: 'LX7',
  rv32: 'RV32',
  arm968a: 'ARM968-A',
  arm968b: 'ARM968-B',
  cm3: 'CM3',
}
export const variantNames: readonly string[] = ['small', 'full', 'radio', 'sensors', 'display']
export const languageNames: readonly string[] =
  'bg cs da de el en es et fi fr he hr hu it ja ko lt lv nb nl pl pt ro ru sk sl sv tr uk vi zh'.split(' ')

/** Hints in a file name that do not fit the unit or the choice. The name is a hint, the header is the fact. */
export function nameFindings(unit: PreflightUnit, image: ImageInspection, wish: WriteWish): Finding[] {
  const words = wish.fileName
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter(Boolean)
  const out: Finding[] = []
  const complain = (
    code: string,
    found: string[],
    fits: (word: string) => boolean,
    message: string,
    because: string,
  ) => {
    if (found.length > 0 && !found.some(fits))
      out.push(
        finding(
          code,
          'watch',
          message.replace('%', found.join(', ')),
          because,
          'Check that this is the build you want.',
        ),
      )
  }
  const sizes = words.map((w) => w.replace(/^(\d+[km])b$/, '$1')).filter((w) => w in sizeNames)
  const header = image.images[0]?.flashBytes
  if (unit.flashBytes !== null)
    complain(
      'name-size',
      sizes,
      (w) => sizeNames[w] === unit.flashBytes,
      `The name says %, the unit has ${sizeWords(unit.flashBytes)}.`,
      header ? `The header says ${sizeWords(header)}.` : '',
    )
  complain(
    'name-family',
    words.filter((w) => w in familyNames),
    (w) => familyNames[w] === unit.family,
    `The name says %, the unit is ${unit.family}.`,
    '',
  )
  if (wish.variant)
    complain(
      'name-variant',
      words.filter((w) => variantNames.includes(w)),
      (w) => w === wish.variant,
      `The name says %, you chose ${wish.variant}.`,
      '',
    )
  if (wish.language)
    complain(
      'name-language',
      words.filter((w) => languageNames.includes(w)),
      (w) => w === wish.language,
      `The name says %, you chose ${wish.language}.`,
      'Two-letter words are languages, not countries.',
    )
  return out
}
