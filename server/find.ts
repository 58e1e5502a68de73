import { sizeWords } from '@fresh-coat/core/bytes/text'
import { isWhole, readSum, workSum } from '@fresh-coat/core/calculators/sums'
import { isIdle } from '@fresh-coat/core/pins/template'
import { readBoardFact } from '@fresh-coat/core/unit/board'
import { and, asc, eq, ilike, isNull, or, sql } from 'drizzle-orm'
import { boardName } from './boards/reads'
import type { Source } from './db/client'
import { two } from './db/day'
import * as schema from './db/schema'
import { likeText } from './units/lists'

/** Units by number, name, place or address; boards; pads and pins; files by name or hash; kit. */

export interface Hit {
  href: string
  title: string
  about: string
}
type Ranked = Hit & { rank: number }

const most = 20
const { unit, unitState, board, file, blob, kit } = schema

async function units(source: Source, q: string): Promise<Ranked[]> {
  const number = /^\d{1,4}$/.test(q) ? Number(q) : null
  const rows = await source
    .select({ number: unit.number, name: unit.name, place: unit.place, address: unitState.address, board })
    .from(unitState)
    .innerJoin(unit, eq(unit.id, unitState.unitId))
    .leftJoin(board, eq(board.id, unit.boardId))
    .where(
      q === ''
        ? undefined
        : or(ilike(unitState.search, likeText(q)), number === null ? undefined : eq(unitState.number, number)),
    )
    .orderBy(...(number === null ? [] : [sql`${unitState.number} <> ${number}`]), asc(unitState.number))
    .limit(most)
  return rows.map((u) => ({
    rank: u.number === number ? 0 : 2,
    href: `/units/${u.number}`,
    title: `${two(u.number)} ${u.name}`,
    about: [u.board ? boardName(u.board) : '', u.place, u.address].filter(Boolean).join(' · '),
  }))
}

async function boards(source: Source, q: string): Promise<Ranked[]> {
  const rows = await source
    .select()
    .from(board)
    .where(
      and(
        isNull(board.struckAt),
        sql`lower(concat_ws(' ', ${board.maker}, ${board.product}, ${board.revision})) like ${likeText(q)}`,
      ),
    )
    .limit(most)
  return rows.map((b) => ({ rank: 3, href: `/boards/${b.id}`, title: boardName(b), about: 'board' }))
}

/** Boards that have a pad or pin of this name, or this family, among the newest facts. */
async function boardFacts(source: Source, q: string): Promise<Ranked[]> {
  if (q.length < 2) return []
  const found = await source.execute(sql`
    select b.id, b.maker, b.product, b.revision, k.key, f.value
    from board b cross join (values ('pads'), ('template'), ('family')) k(key) cross join lateral
      (select value from board_fact where board_id = b.id and key = k.key and struck_at is null order by at desc limit 1) f
    where b.struck_at is null limit 900`)
  type Row = { id: string; maker: string; product: string; revision: string; key: string; value: unknown }
  return (found.rows as unknown as Row[]).flatMap((r): Ranked[] => {
    const name = boardName(r)
    const href = `/boards/${r.id}`
    if (r.key === 'family')
      return String(r.value).toLowerCase().includes(q) ? [{ rank: 3, href, title: name, about: 'board' }] : []
    if (r.key === 'pads') {
      const pads = readBoardFact('pads', r.value)?.pads ?? []
      return pads.some((role) => role.toLowerCase() === q)
        ? [{ rank: 4, href, title: `Pad ${q.toUpperCase()}`, about: `of ${name}: ${pads.join(' ')}` }]
        : []
    }
    const template = readBoardFact('template', r.value)
    return (template?.pins ?? [])
      .filter((p) => !isIdle(p.fn) && p.pin.toLowerCase().includes(q))
      .map((p) => ({ rank: 5, href, title: `${p.pin} ${p.fn}`, about: `on ${name}` }))
  })
}

async function files(source: Source, q: string): Promise<Ranked[]> {
  const rows = await source
    .select({ file, bytes: blob.bytes, number: unit.number })
    .from(file)
    .innerJoin(blob, eq(blob.sha256, file.sha256))
    .leftJoin(unit, eq(unit.id, file.unitId))
    .where(
      and(
        isNull(file.asideAt),
        isNull(file.struckAt),
        sql`${file.kind} in ('image', 'dump')`,
        or(
          sql`lower(${file.name}) like ${likeText(q)}`,
          q.length >= 3 && /^[0-9a-f]+$/.test(q)
            ? and(sql`${file.sha256} >= ${q}`, sql`${file.sha256} < ${`${q}g`}`)
            : undefined,
        ),
      ),
    )
    .limit(most)
  return rows.map(({ file: f, bytes, number }) => ({
    rank: f.kind === 'image' ? 3 : 6,
    href: `/images/${f.id}`,
    title: f.name,
    about: f.kind === 'image' ? sizeWords(bytes) : `read ${f.read} of unit ${number ?? '?'}`,
  }))
}

async function adapters(source: Source, q: string): Promise<Ranked[]> {
  const rows = await source
    .select({ name: kit.name })
    .from(kit)
    .where(and(eq(kit.kind, 'adapter'), isNull(kit.struckAt), ilike(kit.name, likeText(q))))
    .limit(most)
  return rows.map((a) => ({ rank: 4, href: '/kit', title: a.name, about: 'adapter' }))
}

/** A sum that was typed: its answer at once, and the page where it is made of what it is made of. */
function sums(q: string): Ranked[] {
  const read = readSum(q)
  if (!read) return []
  const result = workSum(read)
  const title = typeof result === 'string' ? result : result.answer
  // One that is not whole may be the name of something: that comes first.
  return [
    {
      rank: isWhole(read) ? -1 : 9,
      href: `/sums?q=${encodeURIComponent(q)}`,
      title,
      about: read.kind.name.toLowerCase(),
    },
  ]
}

/** At most twenty, what fits best first. @param text as typed */
export async function find(source: Source, text: string): Promise<Hit[]> {
  const q = text.trim().toLowerCase().slice(0, 100)
  const kinds = q === '' ? [units] : [units, boards, boardFacts, files, adapters]
  const found = await Promise.all(kinds.map((kind) => kind(source, q)))
  const hits = [...sums(q), ...found.flat()]
  const seen = new Set<string>()
  return hits
    .sort((a, b) => a.rank - b.rank)
    .filter((h) => !seen.has(`${h.href} ${h.title}`) && seen.add(`${h.href} ${h.title}`))
    .slice(0, most)
    .map(({ rank: _, ...hit }) => hit)
}
