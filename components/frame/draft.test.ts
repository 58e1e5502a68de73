import fc from 'fast-check'
import type { Sent } from '../send'
import { Draft, type Version } from './draft'

interface Note {
  note: string
  ohms: number | null
  parts: string[]
}
const empty: Note = { note: '', ohms: null, parts: [] }
const refusal = (code: string, current?: Version<Note>): Sent => ({
  state: 'refused',
  error: { code, message: code, kept: '', next: '', ...(current ? { current: { ...current } } : {}) },
})

/** A server that keeps one record and refuses what builds on an older version, as the real one does. */
function fakeServer(start: Note = empty) {
  let row: Version<Note> = { data: start, version: 0 }
  const sent: object[] = []
  let answer: ((fields: object) => Sent | null) | null = null
  const save = async (fields: object, version: number): Promise<Sent> => {
    sent.push(fields)
    const odd = answer?.(fields)
    if (odd) return odd
    if (version !== row.version) return refusal('stale', row)
    row = { data: { ...row.data, ...fields }, version: row.version + 1 }
    return { state: 'ok', value: { version: row.version } }
  }
  return {
    save,
    sent,
    get row() {
      return row
    },
    write: (fields: Partial<Note>) => {
      row = { data: { ...row.data, ...fields }, version: row.version + 1 }
    },
    answerWith: (with_: typeof answer) => {
      answer = with_
    },
  }
}
const open = (server: ReturnType<typeof fakeServer>) => new Draft<Note>(server.row, server.save)

describe('what is typed', () => {
  test('is sent as the fields that changed, and said to be saved only when it is', async () => {
    const server = fakeServer()
    const draft = open(server)
    draft.type({ note: 'by the edge' })
    expect(draft.snapshot.state).toBe('typing')
    expect(await draft.save()).toBe(true)
    expect([server.sent, draft.snapshot.state, draft.isDirty]).toEqual([[{ note: 'by the edge' }], 'saved', false])
  })
  test('what is there already, chosen again, is nothing to wait for', () => {
    const server = fakeServer()
    const draft = open(server)
    draft.type({ note: '' })
    expect(draft.snapshot.state).toBe('saved')
    draft.type({ note: 'x' })
    draft.type({ note: '' })
    expect([draft.snapshot.state, draft.isDirty, server.sent]).toEqual(['saved', false, []])
  })
  test('during a slow save goes along with the next one, over the version that the first one made', async () => {
    const server = fakeServer()
    const draft = open(server)
    draft.type({ note: 'G' })
    const saving = draft.save()
    draft.type({ note: 'Glue', ohms: 5 })
    expect(await saving).toBe(true)
    expect(server.sent).toEqual([{ note: 'G' }, { note: 'Glue', ohms: 5 }])
    expect(server.row).toEqual({ data: { ...empty, note: 'Glue', ohms: 5 }, version: 2 })
  })
  test('saves that are asked for at once are one', async () => {
    const server = fakeServer()
    const draft = open(server)
    draft.type({ note: 'once' })
    await Promise.all([draft.save(), draft.save(), draft.save()])
    expect(server.sent).toHaveLength(1)
  })
  test('and taken back by hand before it was sent is nothing to send', async () => {
    const server = fakeServer()
    const draft = open(server)
    draft.type({ note: 'x' })
    draft.type({ note: '' })
    expect([await draft.save(), server.sent]).toEqual([true, []])
  })
})

describe('somebody else saved first', () => {
  test('another field: both are kept, and nobody is asked', async () => {
    const server = fakeServer()
    const draft = open(server)
    draft.type({ note: 'mine' })
    server.write({ ohms: 9 })
    expect(await draft.save()).toBe(true)
    expect(server.row.data).toEqual({ ...empty, note: 'mine', ohms: 9 })
    expect(draft.snapshot.mine.ohms).toBe(9)
  })
  test('the same field: both versions stand until a person chooses mine', async () => {
    const server = fakeServer()
    const draft = open(server)
    draft.type({ note: 'mine' })
    server.write({ note: 'theirs' })
    expect(await draft.save()).toBe(false)
    expect(draft.snapshot).toMatchObject({
      state: 'conflict',
      mine: { note: 'mine' },
      other: { data: { note: 'theirs' }, fields: ['note'] },
    })
    draft.type({ ohms: 3 })
    expect(await draft.save()).toBe(false)
    draft.keepMine()
    expect(await draft.save()).toBe(true)
    expect(server.row.data).toEqual({ ...empty, note: 'mine', ohms: 3 })
  })
  test('or theirs', async () => {
    const server = fakeServer()
    const draft = open(server)
    draft.type({ note: 'mine' })
    server.write({ note: 'theirs' })
    await draft.save()
    draft.takeOther()
    expect([draft.snapshot.state, draft.snapshot.mine.note, draft.isDirty]).toEqual(['saved', 'theirs', false])
  })
  test('the same value: no false two versions', async () => {
    const server = fakeServer()
    const draft = open(server)
    draft.type({ note: 'the same' })
    server.write({ note: 'the same' })
    expect(await draft.save()).toBe(true)
    expect(draft.snapshot.state).toBe('saved')
  })
  test('and the server can never say which: it ends with a refusal, not with trying for ever', async () => {
    const server = fakeServer()
    server.answerWith(() => refusal('stale'))
    const draft = open(server)
    draft.type({ note: 'x' })
    expect(await draft.save()).toBe(false)
    expect(draft.snapshot.state).toBe('refused')
    expect(server.sent.length).toBeLessThan(10)
  })
})

describe('a server that refuses or is away', () => {
  test('a refusal is not sent again by itself; the next thing typed is', async () => {
    const server = fakeServer()
    server.answerWith((fields) => ('ohms' in fields && (fields as Note).ohms === -1 ? refusal('input') : null))
    const draft = open(server)
    draft.type({ ohms: -1 })
    expect(await draft.save()).toBe(false)
    expect(draft.snapshot).toMatchObject({ state: 'refused', error: { code: 'input' } })
    expect(server.sent).toHaveLength(1)
    draft.type({ ohms: 1 })
    expect([await draft.save(), server.row.data.ohms, draft.snapshot.error]).toEqual([true, 1, null])
  })
  test('away: what is typed stays, and is sent when it is back', async () => {
    const server = fakeServer()
    server.answerWith(() => ({ state: 'away' }))
    const draft = open(server)
    draft.type({ note: 'into the void' })
    expect([await draft.save(), draft.snapshot.state]).toEqual([false, 'away'])
    draft.type({ ohms: 4 })
    expect(draft.snapshot.state).toBe('away')
    server.answerWith(null)
    expect([await draft.save(), server.row.data]).toEqual([true, { ...empty, note: 'into the void', ohms: 4 }])
  })
})

describe('what the server shows meanwhile', () => {
  test('an older version is passed over, a newer one is taken under what is typed', () => {
    const draft = new Draft<Note>({ data: empty, version: 3 }, async () => ({ state: 'away' }))
    draft.type({ note: 'mine' })
    draft.offer({ data: { ...empty, ohms: 1 }, version: 2 })
    expect(draft.snapshot.base.version).toBe(3)
    draft.offer({ data: { ...empty, ohms: 2 }, version: 4 })
    expect([draft.snapshot.mine, draft.snapshot.base.version]).toEqual([{ ...empty, note: 'mine', ohms: 2 }, 4])
  })
  test('undo counts even though what it shows is what was before', () => {
    const draft = new Draft<Note>({ data: { ...empty, note: 'new' }, version: 3 }, async () => ({ state: 'away' }))
    draft.offer({ data: empty, version: 0 }, true)
    expect([draft.snapshot.mine.note, draft.snapshot.base.version]).toEqual(['', 0])
  })
  test('what is typed while a command is on its way stays, over what the command made of the record', () => {
    const draft = new Draft<Note>({ data: { ...empty, ohms: 3 }, version: 2 }, async () => ({ state: 'away' }))
    draft.type({ note: 'typed meanwhile' })
    draft.offer({ data: { ...empty, ohms: 7 }, version: 3 }, true)
    expect(draft.snapshot).toMatchObject({
      mine: { ohms: 7, note: 'typed meanwhile' },
      base: { version: 3 },
      state: 'typing',
    })
    expect(draft.unsaved).toEqual({ note: 'typed meanwhile' })
  })
})

describe('after a reload', () => {
  test('what had not reached the server comes back over what it has now', () => {
    const draft = new Draft<Note>({ data: { ...empty, ohms: 7 }, version: 2 }, async () => ({ state: 'away' }))
    expect(draft.restore({ base: empty, mine: { ...empty, note: 'typed' } })).toBe(true)
    expect(draft.snapshot.mine).toEqual({ ...empty, note: 'typed', ohms: 7 })
  })
  test('what had reached it does not', () => {
    const draft = new Draft<Note>({ data: { ...empty, note: 'typed' }, version: 2 }, async () => ({ state: 'away' }))
    expect(draft.restore({ base: empty, mine: { ...empty, note: 'typed' } })).toBe(false)
  })
  test('what somebody else changed too is asked', () => {
    const draft = new Draft<Note>({ data: { ...empty, note: 'theirs' }, version: 2 }, async () => ({ state: 'away' }))
    expect(draft.restore({ base: empty, mine: { ...empty, note: 'mine' } })).toBe(true)
    expect(draft.snapshot).toMatchObject({ state: 'conflict', other: { fields: ['note'] } })
  })
})

test('two tabs, any order of typing and saving: a field that one tab typed last is never lost without being asked', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(fc.constantFrom('left', 'right'), fc.constantFrom('note', 'ohms', 'save')), { maxLength: 30 }),
      async (steps) => {
        const server = fakeServer()
        const tabs = { left: open(server), right: open(server) }
        const own: Record<'left' | 'right', 'note' | 'ohms'> = { left: 'note', right: 'ohms' }
        let n = 0
        const typed: Partial<Note> = {}
        for (const [tab, what] of steps as ['left' | 'right', 'note' | 'ohms' | 'save'][]) {
          if (what === 'save') await tabs[tab].save()
          else {
            // Each tab types in a field of its own: merging must keep both.
            const change = own[tab] === 'note' ? { note: `n${++n}` } : { ohms: ++n }
            tabs[tab].type(change)
            Object.assign(typed, change)
          }
        }
        await tabs.left.save()
        await tabs.right.save()
        expect(server.row.data).toMatchObject(typed)
        expect([tabs.left.snapshot.state, tabs.right.snapshot.state]).toEqual(['saved', 'saved'])
      },
    ),
  ))
