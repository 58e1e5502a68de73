import { buildLx106, noise } from '../image/build'
import { inspectImage } from '../image/inspect'
import type { UnitFile } from '../unit/view'

/** A small image of an LX106 as the vault keeps it: id `i`, plainsong.bin. */
export function lx106File(mode: 'DIO' | 'DOUT'): UnitFile {
  const bytes = buildLx106({
    mode,
    sizeCode: 2,
    entry: 0x40100004,
    segments: [{ address: 0x40100000, data: noise(400, 3) }],
  })
  return {
    id: 'i',
    kind: 'image',
    name: 'plainsong.bin',
    sha256: 'x',
    bytes: bytes.length,
    read: null,
    tag: null,
    createdAt: '',
    inspection: inspectImage(bytes),
  }
}
