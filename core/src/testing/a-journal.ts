import { beginJournal, type Journal } from '../link/journal'

/** The journal of a write that has erased nothing yet, begun at this moment. */
export const aJournal = (at: string): Journal =>
  beginJournal({
    unit: 'u1',
    who: {
      family: 'LX6',
      mac: '02:4c:59:10:20:30',
      flashId: '204016',
      flashBytes: 2 ** 22,
    } as Parameters<typeof beginJournal>[0]['who'],
    file: { sha256: 'of the file', bytes: 20_000 },
    offset: 0x10000,
    rate: 460_800,
    at,
  })
