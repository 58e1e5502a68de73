import type { Fault } from '@fresh-coat/core/edge/fault'

/** Why a command was not carried out, as values: what happened, what was kept, what to do. */
export interface Refusal {
  code: string
  message: string
  kept: string
  next: string
  faults?: Fault[]
  current?: Record<string, unknown>
}
export type CommandResult = { ok: true; value: Record<string, unknown> } | { ok: false; error: Refusal }

/** A command that cannot be carried out, in words for the page. */
export class Refused extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly next = '',
  ) {
    super(message)
  }
}

/** Somebody else changed the row first; both versions are kept. */
export class StaleWrite extends Error {
  constructor(readonly current: Record<string, unknown> | null) {
    super('Somebody changed this in the meantime.')
  }
}

/** Input that does not fit, found after the door: a record's fields. */
export class BadInput extends Error {
  constructor(readonly faults: Fault[]) {
    super('bad input')
  }
}

const nothingKept = 'Nothing was changed. What you typed is still on the page.'

export const badInput = (faults: Fault[]): CommandResult => ({
  ok: false,
  error: {
    code: 'input',
    message: faults[0]?.message ?? 'The input is not understood.',
    kept: nothingKept,
    next: 'Correct the field.',
    faults,
  },
})

const stale = (current: Record<string, unknown> | null): CommandResult => ({
  ok: false,
  error: {
    code: 'stale',
    message: 'Somebody changed this in the meantime, perhaps you in another tab.',
    kept: 'Both versions are here; nothing is lost.',
    next: 'Choose which one to keep.',
    ...(current ? { current } : {}),
  },
})

/** Code of a database error, also when the driver's error is wrapped in another. */
export function databaseCode(thrown: unknown): string {
  const cause = thrown instanceof Error ? ((thrown.cause ?? thrown) as { code?: unknown }) : {}
  return typeof cause.code === 'string' ? cause.code : ''
}

/**
 * Two transactions got in each other's way: the same command may well succeed a moment later. Where both wanted one name
 * or made one record, the second finds on its next try what the first one wrote, and numbers itself or says so.
 */
export const mayRetry = (thrown: unknown): boolean => ['40001', '40P01', '23505'].includes(databaseCode(thrown))

/** A refusal for what was thrown; null for a bug of ours, or a lost database. */
export function refusalOf(thrown: unknown): CommandResult | null {
  if (thrown instanceof BadInput) return badInput(thrown.faults)
  if (thrown instanceof Refused)
    return { ok: false, error: { code: thrown.code, message: thrown.message, kept: nothingKept, next: thrown.next } }
  if (thrown instanceof StaleWrite) return stale(thrown.current)
  if (mayRetry(thrown)) return stale(null)
  // It names a board, a file, a unit that is not there: undone meanwhile, or never was.
  if (databaseCode(thrown) === '23503')
    return {
      ok: false,
      error: {
        code: 'gone',
        message: 'Something that this refers to is not there: it was undone meanwhile, or never was.',
        kept: nothingKept,
        next: 'Reload the page and choose again.',
      },
    }
  return null
}

/** The connection is gone or was refused: the caller may try again later. Anything else is a bug. */
export function databaseAway(thrown: unknown): boolean {
  const code = databaseCode(thrown)
  const text = thrown instanceof Error ? `${thrown.message} ${(thrown.cause as Error | undefined)?.message ?? ''}` : ''
  return (
    /^(08|57P|533)/.test(code) ||
    ['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND'].includes(code) ||
    /timeout exceeded when trying to connect|Connection terminated|connection timeout/i.test(text)
  )
}

/** Storage that takes nothing: full, or not to be written. Null for anything else. */
export function storageFault(thrown: unknown): { code: string; message: string; next: string } | null {
  const code = databaseCode(thrown)
  if (code === '53100' || code === 'ENOSPC')
    return {
      code: 'disk-full',
      message: 'The disk is full: nothing was stored.',
      next: 'Make room on the disk of the data folder, then try again.',
    }
  if (code === '25006' || code === 'EROFS' || code === 'EACCES')
    return {
      code: 'read-only',
      message: 'The data folder cannot be written: nothing was stored.',
      next: 'See who owns it, and whether its disk is read-only.',
    }
  return null
}

const statusOfCode: Record<string, number> = {
  stale: 409,
  'no-unit': 404,
  gone: 410,
  'key-lost': 409,
  'wrong-key': 409,
}
export const statusOf = (result: CommandResult): number => (result.ok ? 200 : (statusOfCode[result.error.code] ?? 422))
