import type { z } from 'zod'
import { record as arrive } from '../steps/arrive/record'
import { record as backup } from '../steps/backup/record'
import { record as behaviour } from '../steps/behaviour/record'
import { record as check } from '../steps/check/record'
import { record as close } from '../steps/close/record'
import { record as hub } from '../steps/hub/record'
import { record as identify } from '../steps/identify/record'
import { record as join } from '../steps/join/record'
import { record as meter } from '../steps/meter/record'
import { record as name } from '../steps/name/record'
import { record as open } from '../steps/open/record'
import { record as pads } from '../steps/pads/record'
import { record as pins } from '../steps/pins/record'
import { record as prove } from '../steps/prove/record'
import { record as start } from '../steps/start/record'
import { record as watch } from '../steps/watch/record'
import { record as wire } from '../steps/wire/record'
import { record as write } from '../steps/write/record'
import { type ReadRecord, type RecordKind, readStored, shapeOf } from './record'
import type { StepId } from './way'

/** How the record of each step is stored: a new step does not compile until it has one. */
export const records = {
  arrive,
  open,
  identify,
  pads,
  wire,
  backup,
  check,
  write,
  start,
  join,
  pins,
  close,
  behaviour,
  meter,
  name,
  hub,
  prove,
  watch,
} satisfies Record<StepId, RecordKind>

export type StepData = { [S in StepId]: z.output<(typeof records)[S]['schema']> }

/** The record of a step with nothing entered. */
export const emptyRecord = <S extends StepId>(step: S): StepData[S] => records[step].schema.parse({}) as StepData[S]

/** Reads a stored record of any shape ever released. */
export const readRecord = <S extends StepId>(step: S, shape: number, data: unknown): ReadRecord<StepData[S]> =>
  readStored(records[step] as RecordKind, { shape, data }) as ReadRecord<StepData[S]>

export const newestShape = (step: StepId): number => shapeOf(records[step])
