import fc from 'fast-check'
import type { ImageInspection } from '../../image/inspect'
import { nameFindings } from './file-name'
import type { PreflightUnit, WriteWish } from './question'

const image = { images: [] } as unknown as ImageInspection
const told = (fileName: string, wish: Partial<WriteWish> = {}, unit: Partial<PreflightUnit> = {}) =>
  nameFindings({ family: 'LX106', flashBytes: 2 ** 20, ...unit } as PreflightUnit, image, {
    fileName,
    variant: null,
    language: null,
    ...wish,
  } as WriteWish).map((f) => `${f.severity} ${f.code}`)

test.each<[string, Partial<WriteWish>, Partial<PreflightUnit>, string[]]>([
  ['plainsong-lx106-1m.bin', {}, {}, []],
  ['plainsong-lx106-4M.bin', {}, {}, ['watch name-size']],
  ['plainsong_4MB.bin', {}, {}, ['watch name-size']],
  ['plainsong-4m.bin', {}, { flashBytes: null }, []],
  ['plainsong-4m-1m.bin', {}, {}, []],
  ['lattice.rv32.bin', {}, {}, ['watch name-family']],
  ['lattice-lx1060.bin', {}, {}, []],
  ['plainsong-small.bin', { variant: 'full' }, {}, ['watch name-variant']],
  ['plainsong-small.bin', {}, {}, []],
  ['plainsong-de.bin', { language: 'en' }, {}, ['watch name-language']],
  ['plainsong-de-en.bin', { language: 'en' }, {}, []],
  [
    'lattice-rv32-4m-small-de.bin',
    { variant: 'full', language: 'en' },
    {},
    ['watch name-size', 'watch name-family', 'watch name-variant', 'watch name-language'],
  ],
])('%s %j %j: %j', (name, wish, unit, codes) => expect(told(name, wish, unit)).toEqual(codes))

test('a name is a hint: it never stops anything, whatever is in it', () =>
  fc.assert(
    fc.property(fc.string(), (name) => {
      expect(told(name, { variant: 'full', language: 'en' }).every((f) => f.startsWith('watch '))).toBe(true)
    }),
  ))
