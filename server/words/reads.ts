import type { ToolWords } from '@fresh-coat/core/unit/view'
import { eq } from 'drizzle-orm'
import { iso } from '../attempts/reads'
import type { Source } from '../db/client'
import * as schema from '../db/schema'

export type JsonWords = Omit<ToolWords, 'facts' | 'outcome' | 'attempt'> & {
  reading: Pick<ToolWords, 'facts' | 'outcome' | 'attempt'>
}

export const wordsView = ({ reading, ...row }: JsonWords): ToolWords => ({ ...row, ...reading, at: iso(row.at) })

/** Where the text of a tool's words is kept; null where there are none with this id. */
export async function wordsBlob(source: Source, id: string): Promise<{ sha256: string } | null> {
  const { toolWords } = schema
  const [row] = await source.select({ sha256: toolWords.sha256 }).from(toolWords).where(eq(toolWords.id, id))
  return row ?? null
}
