import { createCipheriv, createDecipheriv, randomBytes, scryptSync } from 'node:crypto'
import { type SQL, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Db, Source, Tx } from '../db/client'
import { Refused } from '../db/fault'
import { keyToSeal, sealWith, unseal } from '../secrets/seal'
import { settleAll } from '../units/settle'

/**
 * Everything in one file, and back: rows as the database writes them as JSON, with their ids. Secrets and dumps come along only
 * when a person asks for them, sealed with a passphrase of theirs (brief 05 §7).
 */

/** In no bundle: secrets and bytes (apart), what the listener hears, a write that is under way, what reaches units later, and under which token lists stand. */
export const leftOut = [
  'secret',
  'blob_chunk',
  'live_unit',
  'live_happening',
  'live_hour',
  'live_day',
  'live_sender',
  'live_wish',
  'live_link',
  'write_journal',
  'ripple',
  'list_token',
  'list_past',
] as const
export const parts = [
  'board',
  'board_fact',
  'blob',
  'unit',
  'unit_state',
  'unit_pace',
  'aside_record',
  'kit',
  'profile',
  'hub',
  'setting',
  'marking',
  'practice',
  'file',
  'step_record',
  'step_series',
  'step_text',
  'gate',
  'attempt',
  'trouble',
  'calibration',
  'hub_test',
  'tool_words',
  'name_clash',
  'event',
  'event_row',
] as const
type Part = (typeof parts)[number]
type Row = Record<string, unknown>

const format = 'fresh-coat-bundle'
const version = 1
const Bundle = z.object({
  format: z.literal(format),
  version: z.number(),
  exportedAt: z.string(),
  parts: z.record(z.string(), z.array(z.record(z.string(), z.unknown()))),
  /** Bytes of what is no dump, by their hash, in base64. */
  bytes: z.record(z.string(), z.string()),
  sealed: z.object({ salt: z.string(), nonce: z.string(), data: z.string() }).nullable(),
})
export type Bundle = z.infer<typeof Bundle>

interface Sealed {
  secrets: { id: string; unitId: string | null; name: string; keptIn: string; createdAt: string; value: string }[]
  dumps: Record<string, string>
}
const SealedShape = z.object({
  secrets: z.array(
    z.object({
      id: z.uuid(),
      unitId: z.uuid().nullable(),
      name: z.string(),
      keptIn: z.string(),
      createdAt: z.string(),
      value: z.string(),
    }),
  ),
  dumps: z.record(z.string(), z.string()),
})

const table = (part: Part) => sql.identifier(part)
const rows = async (source: Source, query: SQL): Promise<Row[]> => (await source.execute(query)).rows as Row[]

/** Tables that are there; a part that an older schema does not have is none. */
async function existing(source: Source): Promise<Set<string>> {
  const found = await rows(source, sql`select table_name from information_schema.tables where table_schema = 'public'`)
  return new Set(found.map((r) => String(r.table_name)))
}

/** The order in which rows can be put in: what is pointed at comes first. */
async function inOrder(source: Source): Promise<Part[]> {
  const there = await existing(source)
  const points = await rows(
    source,
    sql`select c.conrelid::regclass::text as from_table, c.confrelid::regclass::text as to_table from pg_constraint c where c.contype = 'f'`,
  )
  const left = new Set<Part>(parts.filter((p) => there.has(p)))
  const out: Part[] = []
  while (left.size > 0) {
    const next = [...left].find(
      (p) => !points.some((c) => c.from_table === p && c.to_table !== p && left.has(c.to_table as Part)),
    )
    if (!next) throw new Error('The tables point at each other in a ring.')
    left.delete(next)
    out.push(next)
  }
  return out
}

async function keyOf(source: Source, part: Part): Promise<string[]> {
  const found = await rows(
    source,
    sql`select a.attname from pg_index i join pg_attribute a on a.attrelid = i.indrelid and a.attnum = any(i.indkey)
        where i.indrelid = ${part}::regclass and i.indisprimary order by a.attnum`,
  )
  return found.map((r) => String(r.attname))
}

/** Hashes of kept reads of stock firmware: their bytes are secrets. */
const dumpHashes = sql`(select sha256 from file where kind = 'dump')`

async function bytesOf(source: Source, of: SQL): Promise<Record<string, string>> {
  const found = await rows(
    source,
    sql`select b.sha256, encode(string_agg(c.data, ''::bytea order by c.seq), 'base64') as data
        from blob b join blob_chunk c on c.sha256 = b.sha256 where b.held and ${of} group by b.sha256 order by b.sha256`,
  )
  return Object.fromEntries(found.map((r) => [String(r.sha256), String(r.data).replaceAll('\n', '')]))
}

const keyFrom = (passphrase: string, salt: Buffer): Buffer =>
  scryptSync(passphrase, salt, 32, { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 })

function seal(passphrase: string, what: Sealed): NonNullable<Bundle['sealed']> {
  const [salt, nonce] = [randomBytes(16), randomBytes(12)]
  const cipher = createCipheriv('aes-256-gcm', keyFrom(passphrase, salt), nonce)
  const body = Buffer.concat([cipher.update(JSON.stringify(what), 'utf8'), cipher.final(), cipher.getAuthTag()])
  return { salt: salt.toString('base64'), nonce: nonce.toString('base64'), data: body.toString('base64') }
}

function opened(passphrase: string, sealed: NonNullable<Bundle['sealed']>): Sealed {
  const body = Buffer.from(sealed.data, 'base64')
  try {
    const key = keyFrom(passphrase, Buffer.from(sealed.salt, 'base64'))
    const opener = createDecipheriv('aes-256-gcm', key, Buffer.from(sealed.nonce, 'base64'))
    opener.setAuthTag(body.subarray(body.length - 16))
    const text = Buffer.concat([opener.update(body.subarray(0, body.length - 16)), opener.final()]).toString('utf8')
    return SealedShape.parse(JSON.parse(text))
  } catch {
    throw new Refused(
      'passphrase',
      'This passphrase does not open what is sealed in the bundle.',
      'Try it again; nothing was changed.',
    )
  }
}

async function secretsOf(source: Source): Promise<Sealed['secrets']> {
  const found = await source.query.secret.findMany({
    where: (s, { isNull }) => isNull(s.struckAt),
    orderBy: (s, { asc }) => asc(s.id),
  })
  const out: Sealed['secrets'] = []
  for (const row of found)
    out.push({
      id: row.id,
      unitId: row.unitId,
      name: row.name,
      keptIn: row.keptIn,
      createdAt: row.createdAt.toISOString(),
      value: await unseal(source, row),
    })
  return out
}

export interface BundleWish {
  /** Seals what is asked for; at least eight signs. */
  passphrase?: string
  secrets?: boolean
  dumps?: boolean
}

/** Everything as of one moment. Dumps are named by their hashes; their bytes come along sealed, when they are asked for. */
export async function exportBundle(db: Db, now: Date, wish: BundleWish = {}): Promise<Bundle> {
  const { passphrase = '', secrets = false, dumps = false } = wish
  if ((secrets || dumps) && passphrase.length < 8)
    throw new Refused(
      'passphrase',
      'Secrets and dumps leave only with a passphrase of eight signs or more.',
      'Give one, and keep it apart.',
    )
  return db.transaction(
    async (tx) => {
      const out: Bundle = { format, version, exportedAt: now.toISOString(), parts: {}, bytes: {}, sealed: null }
      for (const part of await inOrder(tx)) {
        const by = sql.join(
          (await keyOf(tx, part)).map((k) => sql.identifier(k)),
          sql`, `,
        )
        const found = await rows(tx, sql`select to_jsonb(t) as r from ${table(part)} t order by ${by}`)
        out.parts[part] = found.map((f) => f.r as Row)
      }
      const hidden = new Set((await rows(tx, dumpHashes)).map((r) => String(r.sha256)))
      for (const blob of out.parts.blob ?? []) if (hidden.has(String(blob.sha256))) blob.held = false
      out.bytes = await bytesOf(tx, sql`b.sha256 not in ${dumpHashes}`)
      if (secrets || dumps)
        out.sealed = seal(passphrase, {
          secrets: secrets ? await secretsOf(tx) : [],
          dumps: dumps ? await bytesOf(tx, sql`b.sha256 in ${dumpHashes}`) : {},
        })
      return out
    },
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  )
}

const pieceBytes = 256 * 1024
async function putBytes(tx: Tx, bytes: Record<string, string>): Promise<void> {
  for (const [sha256, text] of Object.entries(bytes)) {
    const data = Buffer.from(text, 'base64')
    await tx.execute(
      sql`insert into blob (sha256, bytes, held) values (${sha256}, ${data.length}, true) on conflict (sha256) do update set held = true`,
    )
    for (let at = 0, seq = 0; at < data.length || seq === 0; at += pieceBytes, seq++)
      await tx.execute(
        sql`insert into blob_chunk (sha256, seq, data) values (${sha256}, ${seq}, ${data.subarray(at, at + pieceBytes)}) on conflict do nothing`,
      )
  }
}

/** Columns of a part that its rows name: what an older bundle does not know takes what the schema gives it. */
async function columnsOf(tx: Tx, part: Part, sample: Row): Promise<string[]> {
  const found = await rows(
    tx,
    sql`select column_name from information_schema.columns where table_schema = 'public' and table_name = ${part}`,
  )
  return found.map((r) => String(r.column_name)).filter((name) => Object.hasOwn(sample, name))
}

const rowsATime = 2000
async function putRows(tx: Tx, part: Part, list: readonly Row[]): Promise<number> {
  const [sample] = list
  if (!sample) return 0
  const names = await columnsOf(tx, part, sample)
  const columns = sql.join(
    names.map((n) => sql.identifier(n)),
    sql`, `,
  )
  let put = 0
  for (let i = 0; i < list.length; i += rowsATime) {
    const json = JSON.stringify(list.slice(i, i + rowsATime))
    const done = await tx.execute(
      sql`insert into ${table(part)} (${columns}) select ${columns} from jsonb_populate_recordset(null::${table(part)}, ${json}::jsonb)
          on conflict do nothing`,
    )
    put += done.rowCount ?? 0
  }
  return put
}

/** An older version worked out less of its units: those states are left aside, and worked out anew. */
async function withoutOldStates(
  tx: Tx,
  given: Bundle['parts'],
): Promise<{ rowsOf: Bundle['parts']; unsettled: boolean }> {
  const [sample] = given.unit_state ?? []
  const known = await rows(
    tx,
    sql`select column_name from information_schema.columns where table_schema = 'public' and table_name = 'unit_state'`,
  )
  const unsettled = sample !== undefined && known.some((c) => !Object.hasOwn(sample, String(c.column_name)))
  return { rowsOf: unsettled ? { ...given, unit_state: [] } : given, unsettled }
}

/** Numbers that count up go on after the highest that came in. */
async function countOn(tx: Tx): Promise<void> {
  for (const part of ['event', 'event_row'] as const)
    await tx.execute(
      sql`select setval(pg_get_serial_sequence(${part}, 'id'), greatest((select coalesce(max(id), 1) from ${table(part)}), 1))`,
    )
}

async function putSecrets(tx: Tx, secrets: Sealed['secrets']): Promise<void> {
  if (secrets.length === 0) return
  const { key, mark } = await keyToSeal(tx)
  for (const s of secrets) {
    const { nonce, sealed } = sealWith(key, s.value, s.id)
    await tx.execute(sql`insert into secret (id, unit_id, name, kept_in, nonce, sealed, bound, sealed_with, created_at)
      values (${s.id}, ${s.unitId}, ${s.name}, ${s.keptIn}, ${Buffer.from(nonce)}, ${Buffer.from(sealed)}, true, ${mark}, ${s.createdAt}::timestamptz)
      on conflict do nothing`)
  }
}

const notEmpty = () =>
  new Refused(
    'not-empty',
    'There are units here that are not in this bundle.',
    'A bundle goes into an empty shop: start another one with FRESH_COAT_DATA=/another/folder bin/start.',
  )

export interface Brought {
  rows: number
  units: number
  secrets: number
  /** Something is sealed in it, and no passphrase was given. */
  leftSealed: boolean
}

/** Brings everything in, or nothing: into an empty shop, or once more where it was brought in before, which changes nothing. */
export async function importBundle(db: Db, given: unknown, passphrase = ''): Promise<Brought> {
  const read = Bundle.safeParse(given)
  if (!read.success)
    throw new Refused(
      'no-bundle',
      'This file is no bundle of Fresh Coat, or a part of one.',
      'Choose the whole file; nothing was changed.',
    )
  const bundle = read.data
  if (bundle.version !== version)
    throw new Refused(
      'version',
      `This bundle is of version ${bundle.version}; this app knows version ${version}.`,
      'Open it with the version that wrote it, or a later one.',
    )
  const sealed = bundle.sealed && passphrase !== '' ? opened(passphrase, bundle.sealed) : null
  const brought = await db.transaction(async (tx) => {
    const own = new Set((bundle.parts.unit ?? []).map((u) => String(u.id)))
    const here = await rows(tx, sql`select id from unit`)
    if (here.some((u) => !own.has(String(u.id)))) throw notEmpty()
    const { rowsOf, unsettled } = await withoutOldStates(tx, bundle.parts)
    let put = 0
    for (const part of await inOrder(tx)) put += await putRows(tx, part, rowsOf[part] ?? [])
    await putBytes(tx, { ...bundle.bytes, ...sealed?.dumps })
    await putSecrets(tx, sealed?.secrets ?? [])
    await countOn(tx)
    return {
      rows: put,
      units: own.size,
      secrets: sealed?.secrets.length ?? 0,
      leftSealed: bundle.sealed !== null && sealed === null,
      unsettled,
    }
  })
  const { unsettled, ...said } = brought
  if (unsettled) await settleAll(db, new Date())
  return said
}
