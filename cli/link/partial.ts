import { closeSync, existsSync, linkSync, openSync, renameSync, unlinkSync, writeSync } from 'node:fs'
import { FileError } from '../usage'

/**
 * A read that is kept while it comes: in FILE.partial until it is whole and believed, then under its own name, in one step. A line that
 * is lost, or a process that is ended, leaves what was read so far.
 */
export class Partial {
  readonly path: string
  private readonly fd: number
  private written = 0
  private open = true

  /** @throws FileError where one of the files is there already: nothing is ever written over */
  constructor(private readonly out: string) {
    this.path = `${out}.partial`
    for (const path of [out, `${out}.sha256`])
      if (existsSync(path)) throw new FileError(`${path} is there already; nothing was read`)
    try {
      // A dump holds keys and passwords: for its owner only.
      this.fd = openSync(this.path, 'wx', 0o600)
    } catch (cause) {
      const there = (cause as { code?: string }).code === 'EEXIST'
      throw new FileError(
        there
          ? `${this.path} is there already, of a read that did not end: put it elsewhere; nothing was read`
          : `${this.path} cannot be written: ${(cause as Error).message}`,
      )
    }
  }
  write(at: number, bytes: Uint8Array): void {
    writeSync(this.fd, bytes, 0, bytes.length, at)
    this.written = Math.max(this.written, at + bytes.length)
  }
  /** Under its own name from now on; false where somebody took that name meanwhile, and it stays a partial file. */
  believed(): boolean {
    this.close()
    try {
      linkSync(this.path, this.out)
    } catch (cause) {
      if ((cause as { code?: string }).code === 'EEXIST' || existsSync(this.out)) return false
      // A disk that knows no second name of a file.
      renameSync(this.path, this.out)
      return true
    }
    unlinkSync(this.path)
    return true
  }
  private close(): void {
    closeSync(this.fd)
    this.open = false
  }
  /** It ended here: what was read stays, and nothing stays of nothing. Its path; null where nothing was read, or it is over already. */
  ended(): string | null {
    if (!this.open) return null
    this.close()
    if (this.written > 0) return this.path
    unlinkSync(this.path)
    return null
  }
}
