import { createHash } from 'node:crypto'
import { readFileSync, writeFileSync } from 'node:fs'
import { basename, dirname, resolve } from 'node:path'
import type { Fault } from '@fresh-coat/core/edge/fault'
import { hasError, type Severity } from '@fresh-coat/core/edge/finding'
import type { Command, GivenFile, Io } from './command'
import { commands } from './commands'
import { asText } from './text'
import { FileError, UsageError } from './usage'

const valueOptions = new Set([
  'family',
  'flash-bytes',
  'table-offset',
  'mode',
  'out',
  'in',
  'port',
  'rate',
  'timeout',
  'tries',
  'record',
  'offset',
  'bytes',
  'file',
  'method',
  'seed',
  'seconds',
  'journal',
])
const flags = new Set(['text', 'json', 'once', 'resume'])

interface Call {
  name: string
  words: string[]
  options: Map<string, string>
}

/** Command (one or two words), arguments and options of the call. */
function readCall(argv: readonly string[]): Call {
  const options = new Map<string, string>()
  const words: string[] = []
  for (let i = 0; i < argv.length; i++) {
    const word = argv[i] as string
    if (!word.startsWith('--')) words.push(word)
    else if (flags.has(word.slice(2))) options.set(word.slice(2), 'yes')
    else if (valueOptions.has(word.slice(2))) {
      const value = argv[++i]
      if (value === undefined) throw new UsageError(`${word} needs a value`)
      options.set(word.slice(2), value)
    } else throw new UsageError(`${word} is no option here`)
  }
  const two = words.slice(0, 2).join(' ')
  const name = Object.hasOwn(commands, two) ? two : (words[0] ?? 'help')
  return { name, words: words.slice(name.split(' ').length), options }
}

function readBytes(path: string): Uint8Array {
  try {
    return readFileSync(path === '-' ? 0 : path)
  } catch (cause) {
    throw new FileError(`${path} cannot be read: ${cause instanceof Error ? cause.message : String(cause)}`)
  }
}

function help(name: string): string {
  const command = commands[name]
  if (!command)
    return `${Object.entries(commands)
      .map(([n, c]) => `${n.padEnd(14)} ${c.line}`)
      .join('\n')}\n\nhelp COMMAND shows its input and output. --text prints for people.\n`
  return `${name}: ${command.line}\n\ninput:   ${command.input}\noutput:  ok, ${command.output}\nexample: ${command.example}\n`
}

class BadInput extends Error {
  constructor(readonly fault: Fault) {
    super(fault.message)
  }
}

const givenFile = (path: string): GivenFile => {
  const bytes = readBytes(path)
  return { name: basename(path), bytes, sha256: createHash('sha256').update(bytes).digest('hex') }
}

/** `FILE@OFFSET`: the last @ parts them, so a file may have one in its name. */
function givenParts(call: Call, input: string) {
  if (call.words.length === 0) throw new UsageError(`Give one file or more: ${call.name} ${input}`)
  return call.words.map((text) => {
    const [, path, offset] = /^(.+)@(0x[0-9a-f]+|\d+)$/i.exec(text) ?? []
    if (!path || !Number.isSafeInteger(Number(offset)))
      throw new UsageError(`${text} is no FILE@OFFSET; the offset is decimal or 0x…`)
    return { ...givenFile(path), offset: Number(offset) }
  })
}

/** Paths inside a request are relative to it; those on the line to where the person stands. */
const ioOf = (folder: string): Io => ({
  read: (path) => givenFile(resolve(folder, path)),
  write: (path, bytes) => {
    try {
      writeFileSync(path, bytes, { flag: 'wx' })
    } catch (cause) {
      const there = (cause as { code?: string }).code === 'EEXIST'
      throw new FileError(
        there
          ? `${path} is there already; nothing was written`
          : `${path} cannot be written: ${cause instanceof Error ? cause.message : String(cause)}`,
      )
    }
  },
})

async function run(command: Command, call: Call): Promise<object> {
  if (command.kind === 'words') return command.run(call.words)
  if (command.kind === 'port') {
    if (call.words.length > 0) throw new UsageError(`${call.name} takes options only: ${command.input}`)
    return command.run(call.options)
  }
  if (command.kind === 'files') {
    if (call.words.length !== command.files)
      throw new UsageError(`Give ${command.files === 1 ? 'one file' : 'two files'}: ${call.name} ${command.input}`)
    return command.run(call.words.map(givenFile), call.options, ioOf('.'))
  }
  if (command.kind === 'parts') return command.run(givenParts(call, command.input), call.options, ioOf('.'))
  if (call.words.length > 1) throw new UsageError(`${call.name} takes one file, or standard input`)
  const path = call.options.get('in') ?? call.words[0] ?? '-'
  const text = new TextDecoder().decode(readBytes(path))
  let input: unknown
  try {
    input = JSON.parse(text)
  } catch (cause) {
    throw new BadInput({
      code: 'json',
      path: '',
      message: `The input is not JSON: ${cause instanceof Error ? cause.message : String(cause)}`,
    })
  }
  const outcome = await (command.kind === 'json'
    ? command.run(input)
    : command.run(input, ioOf(path === '-' ? '.' : dirname(path)), call.options))
  if (!outcome.ok) throw new BadInput(outcome.faults[0] as Fault)
  return outcome.value
}

async function main(argv: readonly string[]): Promise<number> {
  const refuse = (fault: Fault) => {
    process.stdout.write(`${JSON.stringify({ ok: false, error: fault })}\n`)
    process.stderr.write(`${fault.message.replaceAll('\n', ' ')}\n`)
    return 2
  }
  try {
    if (argv.length === 0 || argv[0] === 'help' || argv[0] === '--help') {
      process.stdout.write(help(argv.slice(1).join(' ')))
      return 0
    }
    const call = readCall(argv)
    const command = commands[call.name]
    if (!command) throw new UsageError(`There is no command ${call.name}; bin/fresh-coat help lists them`)
    const result: Record<string, unknown> = { ok: true, ...(await run(command, call)) }
    process.stdout.write(call.options.has('text') ? asText(result) : `${JSON.stringify(result)}\n`)
    return hasError((result.findings ?? []) as { severity: Severity }[]) ? 1 : 0
  } catch (thrown) {
    if (thrown instanceof BadInput) return refuse(thrown.fault)
    if (thrown instanceof UsageError) return refuse({ code: 'usage', path: '', message: thrown.message })
    if (thrown instanceof FileError) return refuse({ code: 'file', path: '', message: thrown.message })
    throw thrown
  }
}

process.exitCode = await main(process.argv.slice(2))
