import { hubStarts } from '@fresh-coat/core/profile/hub-words'
import { type CommandName, runCommand } from '../commands'
import type { Db } from '../db/client'
import { freshDatabase } from '../db/testing'
import { hubs } from './reads'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = async (command: CommandName, input: Record<string, unknown>) => {
  const result = await runCommand(db, command, input)
  if (!result.ok) throw new Error(`${result.error.code}: ${result.error.message}`)
  return result.value
}
const phrases = { ...hubStarts[0]?.phrases, name: 'Mantel' }

test('what a hub takes in is written down with it, and taken back by undo', async () => {
  const { id } = await run('add-hub', { name: 'Mantel' })
  expect(await hubs(db)).toMatchObject([{ id, phrases: null }])
  await run('word-hub', { hubId: id, version: 1, phrases })
  expect((await hubs(db))[0]?.phrases).toEqual(phrases)
  await run('undo', { unitId: null })
  expect((await hubs(db))[0]?.phrases).toBeNull()
})

test('an older page does not write over newer words; words of another kind are refused', async () => {
  const [hub] = await hubs(db)
  await run('word-hub', { hubId: hub?.id, version: hub?.version, phrases })
  const late = await runCommand(db, 'word-hub', { hubId: hub?.id, version: hub?.version, phrases: null })
  expect(late.ok ? '' : late.error.code).toBe('stale')
  const wrong = await runCommand(db, 'word-hub', { hubId: hub?.id, version: 99, phrases: { ...phrases, form: 'xml' } })
  expect(wrong.ok).toBe(false)
})
