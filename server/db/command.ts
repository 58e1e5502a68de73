import type { z } from 'zod'
import type { Change } from './change'

/** One way to change the world: what it takes, and what it does with that in one transaction. */
export interface Command<S extends z.ZodType = z.ZodType> {
  input: S
  run: (c: Change, input: z.output<S>) => Promise<Record<string, unknown>>
}

export const command = <S extends z.ZodType>(input: S, run: Command<S>['run']): Command<S> => ({ input, run })
