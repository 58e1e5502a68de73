import { hasError, severityRank, worstOf } from '@fresh-coat/core/edge/finding'
import {
  asPreflight,
  type PreflightRequest,
  preflightOfRequest,
  type WriteRequest,
} from '@fresh-coat/core/flash/request'
import { planRestore } from '@fresh-coat/core/flash/restore'
import type { FileFinding } from '@fresh-coat/core/image/image'
import { inspectImage } from '@fresh-coat/core/image/inspect'
import { defaultTableOffset, readTableFile } from '@fresh-coat/core/image/partitions'
import type { GivenFile, Io } from '../command'

/** A request judged with the files it names, before anybody talks to a chip. */

export interface Judged {
  file: GivenFile
  preflight: {
    file: string
    verdict: 'go' | 'warn' | 'stop'
    kind: string
    plan: object | null
    findings: FileFinding[]
  }
  /** Where it goes; null where nobody knows. */
  offset: number | null
}

const verdictBy = { error: 'stop', watch: 'warn', ok: 'go' } as const

/** An image: all of the preflight. */
export async function judged(request: PreflightRequest, io: Io): Promise<Judged> {
  const { unit, write } = request
  const file = io.read(write.file)
  const family = unit.family === 'OTHER' ? null : unit.family
  const inspection = inspectImage(file.bytes, { family, flashBytes: unit.flashBytes ?? null }, { sha256: file.sha256 })
  const layout = unit.layoutFile
    ? readTableFile(io.read(unit.layoutFile).bytes, defaultTableOffset, unit.flashBytes ?? null)
    : null
  const { verdict, kind, plan, findings } = preflightOfRequest(request, { name: file.name, inspection }, layout)
  return {
    file,
    preflight: { file: file.name, verdict, kind, plan, findings },
    offset: plan?.regions[0]?.offset ?? null,
  }
}

/** A copy of a whole chip that is put back: the restore plan instead of the checks of a format. */
function judgedCopy(request: WriteRequest, io: Io): Judged {
  const { unit, write } = request
  const file = io.read(write.file)
  const plan = planRestore({
    family: unit.family,
    unsplit: unit.familyVerdict === 'arm968_unsplit',
    flashBytes: unit.flashBytes ?? null,
    backup: { state: unit.backup?.state ?? 'none', bytes: file.bytes.length, sha256: file.sha256 },
    fromUnit: null,
  })
  const findings = plan.findings
    .map((f): FileFinding => ({ ...f, at: null }))
    .sort((a, b) => severityRank(a.severity) - severityRank(b.severity))
  const { allowed, offset, bytes } = plan
  return {
    file,
    preflight: {
      file: file.name,
      verdict: verdictBy[worstOf(findings)],
      kind: 'restore',
      plan: allowed ? { offset, bytes, sha256: file.sha256 } : null,
      findings,
    },
    offset: hasError(findings) ? null : offset,
  }
}

export const judgedWrite = (request: WriteRequest, io: Io): Promise<Judged> =>
  request.write.kind === 'restore' ? Promise.resolve(judgedCopy(request, io)) : judged(asPreflight(request), io)
