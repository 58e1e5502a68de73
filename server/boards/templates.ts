import type { KnownFamily } from '@fresh-coat/core/families/families'
import { type PinTemplate, StoredTemplate } from '@fresh-coat/core/pins/template'
import { sql } from 'drizzle-orm'
import type { Source } from '../db/client'

export interface BoardTemplate {
  id: string
  name: string
  template: PinTemplate
}

const most = 100

/** The newest pin template of every board of a family, by name; one that cannot be read is left out. */
export async function templatesOf(db: Source, family: KnownFamily): Promise<BoardTemplate[]> {
  const { rows } = await db.execute<{ id: string; name: string; template: unknown }>(sql`
    select b.id, concat_ws(' ', b.maker, b.product, nullif(b.revision, '')) as name, f.value as template
    from board b join lateral (select value from board_fact f where f.board_id = b.id and f.key = 'template'
      and f.struck_at is null order by f.at desc limit 1) f on true
    where b.struck_at is null and f.value ->> 'family' = ${family} order by 2 limit ${most}`)
  return rows.flatMap(({ id, name, template }) => {
    const read = StoredTemplate.safeParse(template)
    return read.success ? [{ id, name, template: read.data }] : []
  })
}
