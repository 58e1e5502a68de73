import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'
import { desc, eq, sql } from 'drizzle-orm'
import type { Source, Tx } from '../db/client'
import { Refused } from '../db/fault'
import { secret } from '../db/schema'
import { keyPath, keyThatIs, makeKey, markOf } from './key'

/** AES-256-GCM: every value has a nonce of its own and is bound to its row, so that it opens nowhere else. */

export interface Sealed {
  nonce: Uint8Array
  sealed: Uint8Array
}

/** @param row id of the row it belongs to  @returns the last 16 bytes of `sealed` are the authentication tag */
export function sealWith(key: Buffer, text: string, row: string): Sealed {
  const nonce = randomBytes(12)
  const cipher = createCipheriv('aes-256-gcm', key, nonce)
  cipher.setAAD(Buffer.from(row))
  const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  return { nonce, sealed: Buffer.concat([body, cipher.getAuthTag()]) }
}

/** @param row null for what older versions sealed, bound to nothing; throws when a bit, the row or the key is another */
export function openWith(key: Buffer, { nonce, sealed }: Sealed, row: string | null): string {
  const bytes = Buffer.from(sealed)
  const opener = createDecipheriv('aes-256-gcm', key, nonce)
  if (row !== null) opener.setAAD(Buffer.from(row))
  opener.setAuthTag(bytes.subarray(bytes.length - 16))
  return Buffer.concat([opener.update(bytes.subarray(0, bytes.length - 16)), opener.final()]).toString('utf8')
}

const manySecrets = async (source: Source): Promise<number> =>
  (await source.select({ n: sql<number>`count(*)::int` }).from(secret))[0]?.n ?? 0

const lost = (n: number) =>
  new Refused(
    'key-lost',
    `The key that ${n} secret${n === 1 ? ' is' : 's are'} sealed with is not at ${keyPath()}. Nothing is sealed with another one meanwhile.`,
    'Put the key back from your copy. If it is gone for good: FRESH_COAT_NEW_KEY=yes bin/start begins with a new one; what is sealed now stays unreadable.',
  )

const another = () =>
  new Refused(
    'wrong-key',
    'The key is another one than the secrets are sealed with.',
    `Put the right one back at ${keyPath()}, or give it as FRESH_COAT_KEY.`,
  )

interface SealedRow extends Sealed {
  id: string
  bound: boolean
  sealedWith: string
}

const opens = (key: Buffer, row: SealedRow): boolean => {
  try {
    openWith(key, row, row.bound ? row.id : null)
    return true
  } catch {
    return false
  }
}

/** The secret that was sealed last, also one that was undone: its key is the one in use. */
async function newestSecret(source: Source): Promise<SealedRow | null> {
  const [newest] = await source.select().from(secret).orderBy(desc(secret.createdAt)).limit(1)
  return newest ?? null
}

/**
 * The key to seal with, and its mark. A lost key is said before anything is sealed anew, and so is another one than the last
 * secret was sealed with.
 */
export async function keyToSeal(tx: Tx): Promise<{ key: Buffer; mark: string }> {
  const there = keyThatIs()
  const newest = await newestSecret(tx)
  const anew = process.env.FRESH_COAT_NEW_KEY === 'yes'
  if (!there && newest && !anew) throw lost(await manySecrets(tx))
  const key = there ?? makeKey()
  const mark = markOf(key)
  if (newest && !anew) {
    // Of before marks were kept: the key has to open it.
    const fits = newest.sealedWith === '' ? opens(key, newest) : newest.sealedWith === mark
    if (!fits) throw another()
  }
  return { key, mark }
}

/** The value of a row, or why it cannot be opened. */
export async function unseal(source: Source, row: SealedRow): Promise<string> {
  const key = keyThatIs()
  if (!key) throw lost(await manySecrets(source))
  if (opens(key, row)) return openWith(key, row, row.bound ? row.id : null)
  if (row.sealedWith !== '' && row.sealedWith !== markOf(key)) throw another()
  throw new Refused(
    'sealed-damaged',
    'This secret cannot be opened: it is damaged, or was moved here from another row.',
    'Enter it again from where you have it.',
  )
}

/** Binds what older versions sealed to its row; what the key does not open stays as it is. Returns how many were bound. */
export async function bindOldSecrets(source: Source): Promise<number> {
  const old = await source.select().from(secret).where(eq(secret.bound, false))
  const key = old.length > 0 ? keyThatIs() : null
  if (!key) return 0
  let bound = 0
  for (const row of old) {
    if (!opens(key, row)) continue
    await source
      .update(secret)
      .set({ ...sealWith(key, openWith(key, row, null), row.id), bound: true, sealedWith: markOf(key) })
      .where(eq(secret.id, row.id))
    bound++
  }
  return bound
}
