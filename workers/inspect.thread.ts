import { createHash } from 'node:crypto'
import { inspectDump } from '@fresh-coat/core/dump/inspect'
import { inspectImage } from '@fresh-coat/core/image/inspect'

/** Looks into a file on a thread of its own: half a second of work on a large one must not hold up everybody's pages. */

export interface Task {
  kind: 'dump' | 'image'
  bytes: Uint8Array
  options: Parameters<typeof inspectDump>[1]
  sha256: string
}

const digest = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

export default ({ kind, bytes, options, sha256 }: Task): object =>
  kind === 'dump' ? inspectDump(bytes, options, { sha256, digest }) : inspectImage(bytes, {}, { sha256, digest })
