import { randomBytes } from 'node:crypto'
import { chmodSync, existsSync, mkdtempSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { runCommand } from '../commands'
import type { Db } from '../db/client'
import * as schema from '../db/schema'
import { codeOf, freshDatabase, runner } from '../db/testing'
import { keyThatIs } from './key'
import { bindOldSecrets, openWith, sealWith } from './seal'

let db: Db
let end: () => Promise<void>
let unitId: string
const folder = mkdtempSync(join(tmpdir(), 'fresh-coat-key-'))
const keyFile = join(folder, 'secret.key')
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = folder
  ;({ db, end } = await freshDatabase())
  unitId = (await run('create-unit', { number: 1, name: 'Sealed' })).id as string
})
afterAll(() => end())
afterEach(() => {
  delete process.env.FRESH_COAT_NEW_KEY
})
const run = runner(() => db)
const keep = (value: string) => runCommand(db, 'keep-secret', { unitId, name: 'Key', value })
const reveal = (secretId: unknown) => runCommand(db, 'reveal-secret', { secretId })
const kept = async (value: string) => {
  const result = await keep(value)
  if (!result.ok) throw new Error(result.error.message)
  return result.value.id as string
}

describe('a sealed value', () => {
  const key = randomBytes(32)
  test('has a nonce of its own, and opens in its row with its key only', () => {
    const [a, b] = [sealWith(key, 'limelight', 'row-1'), sealWith(key, 'limelight', 'row-1')]
    expect(Buffer.from(a.sealed).equals(Buffer.from(b.sealed))).toBe(false)
    expect(openWith(key, a, 'row-1')).toBe('limelight')
    expect(() => openWith(key, a, 'row-2')).toThrow()
    expect(() => openWith(randomBytes(32), a, 'row-1')).toThrow()
  })
  test('with a changed bit does not open', () => {
    const a = sealWith(key, 'limelight', 'row')
    for (let i = 0; i < a.sealed.length; i++) {
      const bad = Buffer.from(a.sealed)
      bad[i] = (bad[i] as number) ^ 1
      expect(() => openWith(key, { ...a, sealed: bad }, 'row')).toThrow()
    }
  })
})

describe('the key', () => {
  test('is made once, for its owner only; what others could read is closed again', async () => {
    await kept('first')
    expect(statSync(keyFile).mode & 0o777).toBe(0o600)
    chmodSync(keyFile, 0o644)
    await kept('second')
    expect(statSync(keyFile).mode & 0o777).toBe(0o600)
  })
  test('lost: said before anything is sealed anew, and no other is made', async () => {
    const id = await kept('behind the curtain')
    renameSync(keyFile, `${keyFile}.away`)
    expect(codeOf(await keep('another'))).toBe('key-lost')
    expect(codeOf(await reveal(id))).toBe('key-lost')
    expect(existsSync(keyFile)).toBe(false)
    renameSync(`${keyFile}.away`, keyFile)
    expect(await reveal(id)).toMatchObject({ ok: true, value: { value: 'behind the curtain' } })
  })
  test('of another place: said, and nothing is sealed with it', async () => {
    const id = await kept('mine')
    const right = readFileSync(keyFile, 'utf8')
    writeFileSync(keyFile, randomBytes(32).toString('hex'))
    expect(codeOf(await keep('another'))).toBe('wrong-key')
    expect(codeOf(await reveal(id))).toBe('wrong-key')
    writeFileSync(keyFile, 'half a key')
    expect(codeOf(await keep('another'))).toBe('wrong-key')
    writeFileSync(keyFile, right)
    expect((await keep('another')).ok).toBe(true)
  })
  test('gone for good: a new one begins on purpose only, and what was sealed stays unreadable', async () => {
    const id = await kept('lost with the key')
    renameSync(keyFile, `${keyFile}.gone`)
    process.env.FRESH_COAT_NEW_KEY = 'yes'
    const fresh = await kept('under the new key')
    delete process.env.FRESH_COAT_NEW_KEY
    expect(await reveal(fresh)).toMatchObject({ ok: true, value: { value: 'under the new key' } })
    expect(codeOf(await reveal(id))).toBe('wrong-key')
    expect((await keep('goes on')).ok).toBe(true)
  })
})

test('a value moved to another row does not open there', async () => {
  const [mine, theirs] = [await kept('for unit 1'), await kept('for unit 2')]
  const [row] = await db.select().from(schema.secret).where(eq(schema.secret.id, mine))
  if (!row) throw new Error('gone')
  await db.update(schema.secret).set({ nonce: row.nonce, sealed: row.sealed }).where(eq(schema.secret.id, theirs))
  expect(codeOf(await reveal(theirs))).toBe('sealed-damaged')
})

test('what older versions sealed is bound to its row when the app starts, and opens as before', async () => {
  const id = await kept('placeholder')
  const key = keyThatIs() as Buffer
  // As it was: bound to nothing.
  const { createCipheriv } = await import('node:crypto')
  const nonce = randomBytes(12)
  const cipher = createCipheriv('aes-256-gcm', key, nonce)
  const body = Buffer.concat([cipher.update('from before', 'utf8'), cipher.final()])
  await db
    .update(schema.secret)
    .set({ nonce, sealed: Buffer.concat([body, cipher.getAuthTag()]), bound: false, sealedWith: '' })
    .where(eq(schema.secret.id, id))
  expect(await reveal(id)).toMatchObject({ ok: true, value: { value: 'from before' } })
  expect(await bindOldSecrets(db)).toBe(1)
  expect(await reveal(id)).toMatchObject({ ok: true, value: { value: 'from before' } })
  expect(await bindOldSecrets(db)).toBe(0)
})
