import { randomBytes } from 'node:crypto'
import { DamagedBlob } from '../files/blobs'
import { databaseAway, storageFault } from './fault'

/** How the server answers when something went wrong: a lost database is said as that and tried again; a bug of ours gets an id. */

export const refuse = (status: number, code: string, message: string, next: string, kept = 'Nothing was changed.') =>
  Response.json({ ok: false, error: { code, message, kept, next } }, { status })

const firstLine = (cause: unknown) => (cause instanceof Error ? cause.message.split('\n')[0] : String(cause))

/** @param what was being done, for the log */
export function answerFault(what: string, cause: unknown): Response {
  if (databaseAway(cause)) {
    console.error(`${what}: the database does not answer: ${firstLine(cause)}`)
    return Response.json(
      {
        ok: false,
        error: {
          code: 'unavailable',
          message: 'The database does not answer.',
          kept: 'What you typed is kept in this browser.',
          next: 'It is tried again by itself.',
        },
      },
      { status: 503, headers: { 'retry-after': '2' } },
    )
  }
  const storage = storageFault(cause)
  if (storage) {
    console.error(`${what}: ${storage.message} ${firstLine(cause)}`)
    return refuse(507, storage.code, storage.message, storage.next, 'What you typed is kept in this browser.')
  }
  if (cause instanceof DamagedBlob) {
    console.error(`${what}: ${firstLine(cause)}`)
    return refuse(
      500,
      'damaged',
      'The stored bytes of this file are damaged: they do not fit their hash.',
      'Put the file in again from your own copy.',
    )
  }
  const id = randomBytes(4).toString('hex')
  console.error(`${what} failed, fault ${id}:`, cause instanceof Error ? (cause.stack ?? cause.message) : cause)
  return refuse(
    500,
    'fault',
    `Something went wrong in Fresh Coat itself (fault ${id}).`,
    `The server’s log tells more under ${id}. Reload the page; what was saved is safe.`,
    'What you typed is still on the page.',
  )
}
