/**
 * What the program on a virtual chip says when it is spoken to, in the words of Plainsong: lines of our own, as its profile has them.
 */
export interface ProgramState {
  relays: Map<number, boolean>
  pads: Map<number, 'high' | 'low'>
}

export const plainsongVersion = '9.4.1'
const pad = /^pad ([0-9]{1,2}) (high|low|free)$/
const relay = /^relay ([0-9]{1,2}) (on|off)$/
const look = /^look at pad ([0-9]{1,2})$/

export class Program {
  readonly state: ProgramState = { relays: new Map(), pads: new Map() }

  /** Its answer to a line; `restart` when it begins anew after it. */
  answer(line: string, upSeconds: number): { say: string; restart?: true } {
    if (line === 'how goes it') return { say: `it goes well, awake ${Math.floor(upSeconds)} s` }
    if (line === 'which coat') return { say: `coat plainsong ${plainsongVersion}` }
    if (line === 'sing again') return { say: 'singing again', restart: true }
    const [, relayNo, relayTo] = relay.exec(line) ?? []
    if (relayNo !== undefined) {
      this.state.relays.set(Number(relayNo), relayTo === 'on')
      return { say: `relay ${relayNo} is ${relayTo}` }
    }
    const [, padNo, padTo] = pad.exec(line) ?? []
    if (padNo !== undefined) {
      if (padTo === 'free') this.state.pads.delete(Number(padNo))
      else this.state.pads.set(Number(padNo), padTo as 'high' | 'low')
      return { say: `pad ${padNo} is ${padTo}` }
    }
    const [, lookNo] = look.exec(line) ?? []
    if (lookNo !== undefined) return { say: `pad ${lookNo} reads ${this.state.pads.get(Number(lookNo)) ?? 'high'}` }
    return { say: `heard "${line}"` }
  }
  /** Nothing outlives a restart. */
  restart(): void {
    this.state.relays.clear()
    this.state.pads.clear()
  }
}
