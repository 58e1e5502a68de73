import { appendFileSync, writeFileSync } from 'node:fs'
import type { ByteLink } from '@fresh-coat/core/link/byte-link'
import { FileError } from '../usage'

const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex')

/** A file of one's own for what goes over the line: it may hold what a dump holds. Never one that is there already. */
function begun(path: string): void {
  try {
    writeFileSync(path, '', { flag: 'wx', mode: 0o600 })
  } catch (cause) {
    const there = (cause as { code?: string }).code === 'EEXIST'
    throw new FileError(
      there ? `${path} is there already; nothing was recorded` : `${path}: ${(cause as Error).message}`,
    )
  }
}

/** The same line, written down as it goes: a JSON object a line, with its time. */
export function recorded(link: ByteLink, path: string | undefined): ByteLink {
  if (path === undefined) return link
  begun(path)
  const note = (what: object) => appendFileSync(path, `${JSON.stringify({ t: Math.round(link.now()), ...what })}\n`)
  return {
    kind: link.kind,
    can: link.can,
    now: () => link.now(),
    read: async (withinMs) => {
      const bytes = await link.read(withinMs)
      if (bytes.length > 0) note({ in: hex(bytes) })
      return bytes
    },
    write: async (bytes) => {
      note({ out: hex(bytes) })
      await link.write(bytes)
    },
    setLines: async (lines) => {
      note({ lines })
      await link.setLines(lines)
    },
    changeRate: async (rate) => {
      note({ rate })
      await link.changeRate(rate)
    },
    close: () => link.close(),
    onLost: (tell) =>
      link.onLost((why, text) => {
        note({ lost: why })
        tell(why, text)
      }),
  }
}
