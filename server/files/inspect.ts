import { inspectDump } from '@fresh-coat/core/dump/inspect'
import { inspectImage } from '@fresh-coat/core/image/inspect'
import { sha256Of } from './blobs'

/** Looks into the bytes of a dump or an image. */
export async function inspectBytes(
  kind: 'dump' | 'image',
  bytes: Uint8Array,
  options: Parameters<typeof inspectDump>[1],
  sha256: string,
): Promise<object> {
  return kind === 'dump'
    ? inspectDump(bytes, options, { sha256, digest: sha256Of })
    : inspectImage(bytes, {}, { sha256, digest: sha256Of })
}
