import { longestSlug, slugWith } from '@fresh-coat/core/topics/slug'
import { nameOf } from '@fresh-coat/core/unit/state'
import type pg from 'pg'

/**
 * Grows Lantern Yard to any number of units inside the database: copies of its units with their records, attempts, tests
 * and states, and a hundred events for each. Names, numbers and topics count on; boards are shared by some hundreds.
 */

const boardCopies = 4
/** An id made of another and the copy's number, in the form that ids have. */
const copied = (expr: string) =>
  `overlay(overlay(md5(${expr}::text || k.k) placing '4' from 13) placing '8' from 17)::uuid`

/** Columns of a table, with what takes their place in a copy. */
async function columnsOf(client: pg.Client, table: string): Promise<string[]> {
  const found = await client.query(
    'select column_name from information_schema.columns where table_schema = $1 and table_name = $2 order by ordinal_position',
    ['public', table],
  )
  return found.rows.map((r) => `"${r.column_name}"`)
}

async function copyTable(
  client: pg.Client,
  table: string,
  copies: string,
  instead: Record<string, string>,
  where = 'true',
): Promise<void> {
  const columns = await columnsOf(client, table)
  const values = columns.map((c) => instead[c.slice(1, -1)] ?? `t.${c}`)
  await client.query(
    `insert into "${table}" (${columns.join(', ')}) select ${values.join(', ')} from "${table}" t cross join ${copies} where ${where}`,
  )
}

/** Topic levels as the server gives them: equal names all get their numbers, what serves keeps what it has. */
async function nameAll(client: pg.Client): Promise<void> {
  const { rows } = await client.query<{ id: string; number: number; name: string; slug: string }>(
    'select id, number, name, slug from unit order by number',
  )
  const named = rows.map((u) => ({ ...u, ...nameOf({ ...u, pinned: '', spoken: '' }) }))
  const sharers = new Map<string, number>()
  for (const u of named) sharers.set(u.ownSlug, (sharers.get(u.ownSlug) ?? 0) + 1)
  const slug = (u: (typeof named)[number]) =>
    u.slug || (sharers.get(u.ownSlug) === 1 ? u.ownSlug : slugWith(u.ownSlug, `-${u.number}`, longestSlug))
  await client.query(
    `update unit u set slug = n.slug, own_slug = n.own_slug, spoken = n.spoken
     from unnest($1::uuid[], $2::text[], $3::text[], $4::text[]) n(id, slug, own_slug, spoken) where u.id = n.id`,
    [named.map((u) => u.id), named.map(slug), named.map((u) => u.ownSlug), named.map((u) => u.spoken)],
  )
}

const eventsPerUnit = 100

/** @param units how many there are in the end; the database holds Lantern Yard alone */
export async function grow(client: pg.Client, units: number): Promise<void> {
  const first = Number((await client.query('select count(*) from unit')).rows[0].count)
  const highest = Number((await client.query('select max(number) from unit')).rows[0].max)
  const copies = Math.ceil(units / first) - 1
  const k = `generate_series(1, ${copies}) k(k)`
  await client.query('create temp table mine as select id from unit')
  await client.query('create temp table theirs as select id from board')
  await client.query('set synchronous_commit = off')
  const board = `overlay(overlay(md5(t.board_id::text || (k.k % ${boardCopies})) placing '4' from 13) placing '8' from 17)::uuid`
  await copyTable(client, 'board', `generate_series(0, ${boardCopies - 1}) k(k)`, {
    id: copied('t.id'),
    revision: `t.revision || ' ' || k.k`,
  })
  await copyTable(client, 'board_fact', `generate_series(0, ${boardCopies - 1}) k(k)`, {
    id: copied('t.id'),
    board_id: copied('t.board_id'),
    unit_id: 't.unit_id',
  })
  const number = `t.number + k.k * ${highest}`
  const onlyMine = (column: string) => `t.${column} in (select id from mine) and ${'true'}`
  await copyTable(
    client,
    'unit',
    k,
    {
      id: copied('t.id'),
      number,
      name: `t.name || ' ' || k.k`,
      place: `t.place || ' ' || (k.k % 20)`,
      board_id: board,
      in_hand: 'false',
      slug: "''",
      own_slug: "''",
    },
    `${onlyMine('id')} and ${number} <= ${Math.max(units, highest)}`,
  )
  await nameAll(client)
  const unitId = copied('t.unit_id')
  const present = `exists (select 1 from unit u where u.id = ${unitId}) and t.unit_id in (select id from mine)`
  for (const table of ['step_record', 'step_series', 'step_text', 'gate', 'hub_test', 'calibration', 'file'])
    await copyTable(client, table, k, { id: copied('t.id'), unit_id: unitId }, present)
  for (const table of ['attempt', 'trouble'])
    await copyTable(
      client,
      table,
      k,
      { id: copied('t.id'), unit_id: unitId, board_id: board, ...(table === 'trouble' ? { attempt_id: 'null' } : {}) },
      present,
    )
  await copyTable(client, 'unit_pace', k, { unit_id: unitId, board_id: board }, present)
  await copyTable(
    client,
    'unit_state',
    k,
    {
      unit_id: unitId,
      number,
      board_id: board,
      topic: `(select 'yard/lantern/' || u.slug from unit u where u.id = ${unitId})`,
      search: `t.search || ' ' || k.k`,
    },
    present,
  )
  await client.query(
    `insert into event (at, until, by, kind, unit_id, step, sentence, undoable)
     select now() - (n.n || ' hours')::interval, now() - (n.n || ' hours')::interval, 'bench', 'step-edited', u.id,
       (array['open', 'pads', 'wire', 'meter'])[1 + n.n % 4], u.number || ' note: written', true
     from generate_series(${eventsPerUnit}, 1, -1) n(n) cross join unit u`,
  )
  await client.query(
    `insert into event_row (event_id, "table", row_id, made, patch)
     select e.id, 'stepRecord', r.id, false, '{"in": {"data": {"in": {"note": {"was": "a", "is": "b"}}}}}'
     from event e join step_record r on r.unit_id = e.unit_id and r.step = e.step where e.sentence like '%note: written'`,
  )
  await client.query('analyze')
}
