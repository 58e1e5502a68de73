import { randomUUID } from 'node:crypto'
import { mkdir, open, readFile, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { dataFolder } from '../data-folder'

/** Uploads on their way in: kept on disk while they come, looked at two at a time, so that ten at once stay small. */

const folder = () => join(dataFolder(), 'incoming')

/** At most `places` runs at once; the others wait in the order they came. */
export function inTurn(places: number): <T>(run: () => Promise<T>) => Promise<T> {
  let free = places
  const waiting: (() => void)[] = []
  return async (run) => {
    if (free > 0) free--
    else await new Promise<void>((go) => waiting.push(go))
    try {
      return await run()
    } finally {
      const next = waiting.shift()
      if (next) next()
      else free++
    }
  }
}

const looking = inTurn(2)

export type Incoming<T> = { state: 'too-long' } | { state: 'cut-off' } | { state: 'whole'; value: T }

/**
 * Takes a body to disk piece by piece, never more than `limit` bytes of it, and hands the whole to `use` when it is its
 * turn. Nothing is left on disk, however it ends.
 * @param declared length that was promised; a body of another length was cut off
 */
export async function takeIn<T>(
  body: ReadableStream<Uint8Array> | null,
  limit: number,
  declared: number | null,
  use: (bytes: Uint8Array) => Promise<T>,
): Promise<Incoming<T>> {
  await mkdir(folder(), { recursive: true, mode: 0o700 })
  const path = join(folder(), randomUUID())
  // A dump is private: only this user may read it, on its way too.
  const file = await open(path, 'wx', 0o600)
  let total = 0
  try {
    const reader = body?.getReader()
    while (reader) {
      const { done, value } = await reader.read()
      if (done) break
      total += value.length
      if (total > limit) {
        await reader.cancel()
        return { state: 'too-long' }
      }
      await file.write(value)
    }
    await file.close()
    if (declared !== null && total !== declared) return { state: 'cut-off' }
    return { state: 'whole', value: await looking(async () => use(await readFile(path))) }
  } finally {
    await file.close().catch(() => {})
    await rm(path, { force: true })
  }
}
