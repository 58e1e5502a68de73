import { sizeWords } from '../bytes/text'
import { at, type FileFinding } from './image'
import type { Structure } from './structure'

export interface InspectOptions {
  family?: string | null
  flashBytes?: number | null
}

/** What an inspection says about bytes that are to go to a chip: the content, when the file was packed. */
type Judged = Pick<Structure, 'kind' | 'family' | 'images' | 'partitions'>

/** Does this file fit this unit? Judged from what was read, so that a stored inspection serves every unit. */
export function fitFindings(found: Judged, bytes: number, options: InspectOptions): FileFinding[] {
  const out: FileFinding[] = []
  const flashBytes = options.flashBytes ?? null
  const first = found.images[0]
  if (options.family && found.family !== null && found.family !== options.family)
    out.push(
      at(
        first?.offset ?? 0,
        'family-mismatch',
        'error',
        `The image is made for ${found.family}, the unit is ${options.family}.`,
        '',
        'Get the build for the unit’s family.',
      ),
    )
  if (flashBytes === null) return out
  if (bytes > flashBytes)
    out.push(
      at(
        null,
        'file-larger-than-flash',
        'error',
        `The file is ${bytes - flashBytes} bytes longer than the flash.`,
        `File ${bytes} bytes, chip ${sizeWords(flashBytes)}.`,
        'Choose a smaller build, or check the flash size on record.',
      ),
    )
  if (!first || first.flashBytes === null) return out
  const because = `The header says ${sizeWords(first.flashBytes)}, the chip has ${sizeWords(flashBytes)}.`
  if (first.flashBytes > flashBytes) {
    const soft = first.format === 'extended' && found.kind === 'app'
    out.push(
      at(
        first.offset,
        'header-size-too-large',
        soft ? 'watch' : 'error',
        'The image is built for a larger flash than the unit has.',
        because,
        soft
          ? 'The boot loader’s header counts; check that one.'
          : 'Build or download it for this flash size: settings would land outside the chip.',
      ),
    )
  } else if (first.flashBytes < flashBytes) {
    out.push(
      at(
        first.offset,
        'header-size-smaller',
        'ok',
        'The image is built for a smaller flash; the rest of the chip stays unused.',
        because,
      ),
    )
  }
  return out
}

/** A file that can only go over the air is an error where it is to go over wires. */
export function overSerial(f: FileFinding): FileFinding {
  if (f.code === 'gzip-ota-only')
    return at(f.at, 'gzip-over-serial', 'error', 'A packed file cannot go over wires.', f.because, 'Unpack it first.')
  if (f.code === 'ota-container')
    return at(
      f.at,
      'container-over-serial',
      'error',
      'An over-the-air container cannot go over wires.',
      f.because,
      'Choose the serial file.',
    )
  return f
}
