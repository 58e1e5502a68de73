import { readFileSync } from 'node:fs'
import { nobody } from '@fresh-coat/core/link/identity'
import { hasDigest } from '@fresh-coat/core/link/reading'
import { type ProofMethod, proofMethods, proofOf } from '@fresh-coat/core/link/verify'
import { bytesOption, type Options, wholeOption } from '../options'
import { FileError, UsageError } from '../usage'
import { type Session, session } from './session'

/** Holding a chip against a file, without changing it. */

const seeds = { otherwise: 1, least: 0, most: 2 ** 32 - 1 }

function fileOf(options: Options): Uint8Array {
  const path = options.get('file')
  if (path === undefined) throw new UsageError('--file is missing: what should stand in the chip')
  try {
    return new Uint8Array(readFileSync(path))
  } catch (cause) {
    throw new FileError(`${path} cannot be read: ${cause instanceof Error ? cause.message : String(cause)}`)
  }
}

/** Is what stands in the chip this file? The ROM's digest says so, or reading does. */
export function linkVerify(options: Options): Promise<object> {
  const wanted = fileOf(options)
  if (wanted.length === 0) throw new UsageError('The file is empty')
  const asked = options.get('method')
  if (asked !== undefined && !(proofMethods as readonly string[]).includes(asked))
    throw new UsageError(`--method must be one of ${proofMethods.join(', ')}`)
  const offset = bytesOption(options, 'offset') ?? 0
  const seed = wholeOption(options, 'seed', seeds)
  const none = { verdict: 'unknown', method: asked ?? null, bytes: wanted.length, firstDifference: null }
  const run = async (at: Session) => {
    const found = await at.who()
    const { die: _, ...who } = found
    if (who.family === null) return { ...who, ...none }
    if (who.flashBytes !== null && offset + wanted.length > who.flashBytes)
      throw new UsageError(`${wanted.length} bytes at ${offset} do not lie within the chip of ${who.flashBytes}`)
    const method = (asked as ProofMethod | undefined) ?? (hasDigest(who.family) ? 'digest' : 'readback')
    const identity = { ...found, flashBytes: who.flashBytes ?? offset + wanted.length }
    const verified = await at.run(proofOf(at.line, identity, offset, wanted, method, seed))
    return { ...who, ...none, ...verified, method, findings: [...who.findings, ...verified.findings] }
  }
  return session(options, () => ({ ...nobody, ...none }), run)
}
