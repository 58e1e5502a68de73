import { createHash, randomBytes } from 'node:crypto'
import { chmodSync, existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { dataFolder } from '../data-folder'
import { Refused } from '../db/fault'

/** The key that secrets are sealed with: outside the database, FRESH_COAT_KEY (64 hex digits) or a file, mode 0600. */

export const keyPath = (): string => join(dataFolder(), 'secret.key')

/** The key that is there; null when none is. */
export function keyThatIs(): Buffer | null {
  const given = process.env.FRESH_COAT_KEY
  if (given !== undefined && given !== '') {
    if (!/^[0-9a-fA-F]{64}$/.test(given))
      throw new Refused('wrong-key', 'FRESH_COAT_KEY must be 64 hex digits.', 'Correct it and start again.')
    return Buffer.from(given, 'hex')
  }
  const path = keyPath()
  if (!existsSync(path)) return null
  // Readable for others: whoever copied the folder did not keep its modes.
  if ((statSync(path).mode & 0o077) !== 0) chmodSync(path, 0o600)
  const text = readFileSync(path, 'utf8').trim()
  if (!/^[0-9a-fA-F]{64}$/.test(text))
    throw new Refused(
      'wrong-key',
      `The key in ${path} is damaged: it is not 64 hex digits.`,
      'Put the key back from your copy.',
    )
  return Buffer.from(text, 'hex')
}

/** Makes a key where none is. */
export function makeKey(): Buffer {
  const path = keyPath()
  const key = randomBytes(32)
  mkdirSync(dirname(path), { recursive: true, mode: 0o700 })
  writeFileSync(path, key.toString('hex'), { mode: 0o600, flag: 'wx' })
  return key
}

/** What may be written down of a key, so that another one is noticed: it tells nothing of the key itself. */
export const markOf = (key: Buffer): string =>
  createHash('sha256').update('fresh coat key mark\0').update(key).digest('hex').slice(0, 16)
