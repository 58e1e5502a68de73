import { and, eq } from 'drizzle-orm'
import { z } from 'zod'
import { command } from '../db/command'
import { Refused } from '../db/fault'
import { id, name, version } from '../db/fields'
import * as schema from '../db/schema'

const BoardFields = z.object({
  maker: name,
  product: name,
  revision: z.string().trim().max(60),
  mains: z.boolean(),
  fixedWiring: z.boolean(),
  hasMeter: z.boolean(),
  inPackageFlash: z.boolean(),
  note: z.string().max(4000),
})
const NewBoard = BoardFields.extend({
  revision: BoardFields.shape.revision.default(''),
  mains: z.boolean().default(true),
  fixedWiring: z.boolean().default(false),
  hasMeter: z.boolean().default(false),
  inPackageFlash: z.boolean().default(false),
  note: BoardFields.shape.note.default(''),
})

const createBoard = command(NewBoard, async (c, input) => {
  const { board } = schema
  const [same] = await c.live(
    'board',
    and(eq(board.maker, input.maker), eq(board.product, input.product), eq(board.revision, input.revision)),
  )
  if (same)
    throw new Refused(
      'board-exists',
      'This board is known already.',
      'Choose it from the list, or name another revision.',
    )
  const row = await c.insert('board', { ...input, createdAt: c.now })
  await c.tell({
    kind: 'board-created',
    boardId: row.id,
    sentence: `new board: ${row.maker} ${row.product} ${row.revision}`.trim(),
  })
  return { id: row.id }
})

const editBoard = command(
  // Without defaults: a field that is not named is left alone.
  BoardFields.partial().extend({ boardId: id, version }),
  async (c, { boardId, version: seen, ...patch }) => {
    const row = await c.update('board', boardId, seen, patch)
    await c.tell({ kind: 'board-edited', boardId, sentence: `board ${row.product} ${row.revision} edited` })
    return { version: row.version }
  },
)

export const boardCommands = { 'create-board': createBoard, 'edit-board': editBoard }
