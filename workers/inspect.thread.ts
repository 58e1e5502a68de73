import { createHash } from 'node:crypto'
import { inspectDump } from '@fresh-coat/core/dump/inspect'
import type { Family } from '@fresh-coat/core/families/families'
import { inspectImage } from '@fresh-coat/core/image/inspect'
import { type GivenPart, judgeSet } from '@fresh-coat/core/image/set'

/** Looks into a file on a thread of its own: half a second of work on a large one must not hold up everybody's pages. */

export interface FileTask {
  kind: 'dump' | 'image'
  bytes: Uint8Array
  options: Parameters<typeof inspectDump>[1]
  sha256: string
}
export interface SetTask {
  kind: 'set'
  parts: GivenPart[]
  options: { family: Family; flashBytes: number | null }
}
export type Task = FileTask | SetTask

const digest = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

export default function inspect(task: SetTask): ReturnType<typeof judgeSet>
export default function inspect(task: FileTask): object
export default function inspect(task: Task): object
export default function inspect(task: Task): object {
  if (task.kind === 'set') return judgeSet(task.parts, { ...task.options, digest })
  const { bytes, options, sha256 } = task
  return task.kind === 'dump'
    ? inspectDump(bytes, options, { sha256, digest })
    : inspectImage(bytes, {}, { sha256, digest })
}
