import { appendFileSync, writeFileSync } from 'node:fs'
import type { ByteLink } from '@fresh-coat/core/link/byte-link'
import { recording } from '../../link/replay'
import { FileError } from '../usage'

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
  return recording(link, (line) => appendFileSync(path, `${JSON.stringify(line)}\n`))
}
