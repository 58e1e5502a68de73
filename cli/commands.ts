import type { Commands } from './command'
import { bench } from './commands/bench'
import { cure } from './commands/cure'
import { images } from './commands/images'
import { judge } from './commands/judge'
import { link } from './commands/link'

/** Every command, in the order in which help lists them. */
export const commands: Commands = { ...bench, ...judge, ...link, ...cure, ...images }
