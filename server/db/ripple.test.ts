import { noteRipple } from './note-ripple'
import { settleRipples } from './ripple'
import * as schema from './schema'
import { freshDatabase, runner } from './testing'

type Own = Awaited<ReturnType<typeof freshDatabase>>
const withOwn = async (test: (own: Own) => Promise<void>) => {
  const own = await freshDatabase()
  try {
    await test(own)
  } finally {
    await own.end()
  }
}
const left = ({ db }: Own) => db.select().from(schema.ripple)
const note = ({ db }: Own) => db.transaction((tx) => noteRipple(tx, 'all', 'site'))

test('all who ask before a run has begun get the same one, and who asks while it goes on the one after it', () =>
  withOwn(async (own) => {
    await note(own)
    const first = settleRipples(own.db)
    expect(settleRipples(own.db)).toBe(first)
    // It begins with the next turn.
    await Promise.resolve()
    await Promise.resolve()
    const second = settleRipples(own.db)
    expect(second).not.toBe(first)
    expect(settleRipples(own.db)).toBe(second)
    await second
    expect(await left(own)).toEqual([])
    await first
  }))

test('what is noted while a run goes on is carried when the one that was asked for then is over', () =>
  withOwn(async (own) => {
    const run = runner(() => own.db)
    for (let number = 1; number <= 3; number++) await run('create-unit', { number, name: `Lamp ${number}` })
    for (let i = 0; i < 8; i++) {
      await note(own)
      const going = settleRipples(own.db)
      await Promise.all([note(own), new Promise((done) => setTimeout(done, i))])
      await settleRipples(own.db)
      expect(await left(own)).toEqual([])
      await going
    }
  }))

test('once the database is closed nothing works in it any more, however many commands came before', async () => {
  const said = jest.spyOn(console, 'error').mockImplementation(() => {})
  try {
    for (let i = 0; i < 4; i++)
      await withOwn(async (own) => {
        const run = runner(() => own.db)
        await Promise.all(
          Array.from({ length: 6 }, (_, k) => run('create-unit', { number: k + 1, name: `Lamp ${k + 1}` })),
        )
      })
    expect(said).not.toHaveBeenCalled()
  } finally {
    said.mockRestore()
  }
})

test('a run that fails leaves what it carried, and the next one carries it', () =>
  withOwn(async (own) => {
    await note(own)
    const broken = jest.spyOn(own.db, 'transaction').mockRejectedValueOnce(new Error('the line was lost'))
    await expect(settleRipples(own.db)).rejects.toThrow('lost')
    broken.mockRestore()
    expect((await left(own)).length).toBe(1)
    await settleRipples(own.db)
    expect(await left(own)).toEqual([])
  }))
