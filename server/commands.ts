import { type Fault, parseInput, strictCodes } from '@fresh-coat/core/edge/fault'
import { z } from 'zod'
import { attemptCommands } from './attempts/commands'
import { boardCommands } from './boards/commands'
import { type Changed, change, type Touched } from './db/change'
import type { Db } from './db/client'
import type { Command } from './db/command'
import { badInput, type CommandResult, mayRetry, refusalOf } from './db/fault'
import { id } from './db/fields'
import { plainText } from './db/plain-text'
import { settleSoon } from './db/ripple'
import { undoLast } from './db/undo'
import { fileCommands } from './files/commands'
import { setCommands } from './files/sets'
import { kitCommands } from './kit/commands'
import { campaignCommands } from './live/campaign'
import { liveCommands } from './live/commands'
import { meterCommands } from './meters/commands'
import { networkCommands } from './network/commands'
import { person } from './person'
import { practiceCommands } from './practice/commands'
import { secretCommands } from './secrets/commands'
import { unitCommands } from './units/commands'
import { endingCommands } from './units/ending'
import { wordsCommands } from './words/commands'

/** Every change of the world goes through one of these: parsed at the door, one transaction, one event. */
const commands = {
  ...unitCommands,
  ...endingCommands,
  ...boardCommands,
  ...attemptCommands,
  ...fileCommands,
  ...setCommands,
  ...meterCommands,
  ...networkCommands,
  ...liveCommands,
  ...campaignCommands,
  ...kitCommands,
  ...secretCommands,
  ...practiceCommands,
  ...wordsCommands,
}
const Undo = z.object({ unitId: id.nullable().default(null) })

export type CommandName = keyof typeof commands | 'undo'
export const commandNames = [...Object.keys(commands), 'undo'] as CommandName[]
export const isCommand = (text: string): text is CommandName => text === 'undo' || Object.hasOwn(commands, text)
export const inputOf = (name: CommandName): z.ZodType => (name === 'undo' ? Undo : commands[name].input)

const mostTries = 5
/** Milliseconds before the next try, not the same for two that met. */
const pauseBefore = (tries: number): number => 10 * tries * (1 + Math.random())

/** A transaction that got in another's way is tried again: neither did anything wrong. */
async function retried<R>(run: () => Promise<R>): Promise<R> {
  for (let tries = 1; ; tries++)
    try {
      return await run()
    } catch (thrown) {
      if (tries === mostTries || !mayRetry(thrown)) throw thrown
      await new Promise((done) => setTimeout(done, pauseBefore(tries)))
    }
}

/**
 * Carries out one command, or says why not. Only a bug of ours, or a lost database, throws.
 * @param now the moment it happens: the demo tells a story that began months ago
 */
export async function runCommand(
  db: Db,
  name: CommandName,
  input: unknown,
  now = new Date(),
): Promise<CommandResult & { touched?: Touched }> {
  const odd = plainText(input)
  if (odd) return badInput([odd])
  const parsed = parseInput(inputOf(name), input, strictCodes)
  if (!parsed.ok) return badInput(parsed.faults as Fault[])
  try {
    const done = await retried(
      (): Promise<Changed<object>> =>
        name === 'undo'
          ? undoLast(db, person(), (parsed.value as z.output<typeof Undo>).unitId, now)
          : change(db, person(), now, (c) => (commands[name] as Command).run(c, parsed.value)),
    )
    settleSoon(db)
    return { ok: true, value: { ...done.value }, touched: done.touched }
  } catch (thrown) {
    const refused = refusalOf(thrown)
    if (!refused) throw thrown
    return refused
  }
}
