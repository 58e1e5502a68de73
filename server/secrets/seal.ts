import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'

/** AES-256-GCM with a key outside the database: FRESH_COAT_KEY (64 hex digits), or a file made on first use, mode 0600. */
function key(): Buffer {
  const given = process.env.FRESH_COAT_KEY
  if (given) {
    if (!/^[0-9a-fA-F]{64}$/.test(given)) throw new Error('FRESH_COAT_KEY must be 64 hex digits')
    return Buffer.from(given, 'hex')
  }
  const path = join(process.env.FRESH_COAT_DATA ?? join(process.cwd(), '.data'), 'secret.key')
  if (!existsSync(path)) {
    mkdirSync(dirname(path), { recursive: true })
    writeFileSync(path, randomBytes(32).toString('hex'), { mode: 0o600, flag: 'wx' })
  }
  return Buffer.from(readFileSync(path, 'utf8').trim(), 'hex')
}

export interface Sealed {
  nonce: Uint8Array
  sealed: Uint8Array
}

/** Seals a text with a nonce of its own; the last 16 bytes are the authentication tag. */
export function seal(text: string): Sealed {
  const nonce = randomBytes(12)
  const cipher = createCipheriv('aes-256-gcm', key(), nonce)
  const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  return { nonce, sealed: Buffer.concat([body, cipher.getAuthTag()]) }
}

/** Opens what {@link seal} made; throws when a bit was changed or the key is another. */
export function unseal({ nonce, sealed }: Sealed): string {
  const bytes = Buffer.from(sealed)
  const opener = createDecipheriv('aes-256-gcm', key(), nonce)
  opener.setAuthTag(bytes.subarray(bytes.length - 16))
  return Buffer.concat([opener.update(bytes.subarray(0, bytes.length - 16)), opener.final()]).toString('utf8')
}
