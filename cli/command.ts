import type { Outcome } from '@fresh-coat/core/edge/fault'
import type { Options } from './options'

/** What a command of the command line is: how it is called, and what it takes. */

/** A file given on the command line: base name, content, and its hash computed by the platform. */
export interface GivenFile {
  name: string
  bytes: Uint8Array
  sha256: string
}

interface Described {
  line: string
  input: string
  output: string
  example: string
}
export type Command = Described &
  (
    | { kind: 'json'; run: (input: unknown) => Promise<Outcome<object>> }
    | {
        kind: 'files'
        files: number
        run: (files: GivenFile[], options: Options, io: Io) => Promise<object>
      }
    /** Files, each with the flash address it goes to: FILE@OFFSET. */
    | {
        kind: 'parts'
        run: (parts: (GivenFile & { offset: number })[], options: Options, io: Io) => Promise<object>
      }
    /** Options only: it talks to the port that they name. */
    | { kind: 'port'; run: (options: Options) => Promise<object> }
    /** Words on the line instead of a file. */
    | { kind: 'words'; run: (words: string[]) => Promise<object> }
    /** JSON that names further files, by paths relative to it. */
    | { kind: 'request'; run: (input: unknown, io: Io, options: Options) => Promise<Outcome<object>> }
  )

/** What a command may do with files besides the ones it is given. */
export interface Io {
  /** Reads a file named by a path relative to the request; throws `FileError`. */
  read: (path: string) => GivenFile
  /** Writes a new file; throws `FileError` when there is one already. */
  write: (path: string, bytes: Uint8Array) => void
}

/** Commands by their names, in the order in which help lists them; what each needs is loaded when it runs. */
export type Commands = Record<string, Command>
