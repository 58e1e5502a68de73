import { matchNetwork } from '@fresh-coat/core/network/match'
import * as Comlink from 'comlink'

const api = {
  /** Lists of a network against units that are looked for; refusals come back as they are. */
  match: (input: unknown) => matchNetwork(input),
}
export type MatchWorker = typeof api

Comlink.expose(api)
