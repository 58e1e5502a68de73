/** What one attack did, and what it found. */
export class Tally {
  done = 0
  slowestMs = 0
  slowest = ''
  readonly faults: string[] = []
  constructor(
    readonly name: string,
    /** Nothing may take longer than this. */
    readonly mostMs: number,
  ) {}

  /** Notes one blow: how long it took, and what was wrong with the answer. */
  note(what: string, ms: number, wrong: string | null, mostMs = this.mostMs): void {
    this.done++
    if (ms > this.slowestMs) {
      this.slowestMs = ms
      this.slowest = what
    }
    if (wrong) this.faults.push(`${what}: ${wrong}`)
    else if (ms > mostMs) this.faults.push(`${what}: took ${ms.toFixed(0)} ms`)
  }

  print(): void {
    const verdict = this.faults.length === 0 ? 'held' : `${this.faults.length} FAULTS`
    console.log(
      `${this.name.padEnd(34)} ${String(this.done).padStart(6)} blows   slowest ${this.slowestMs.toFixed(0).padStart(5)} ms   ${verdict}`,
    )
    for (const fault of this.faults.slice(0, 12)) console.log(`    ${fault.slice(0, 300)}`)
    if (this.faults.length > 12) console.log(`    and ${this.faults.length - 12} more`)
    if (this.faults.length > 0) console.log(`    slowest: ${this.slowest.slice(0, 200)}`)
  }
}

/** Runs `work` on every item, some at a time. */
export async function each<T>(items: Iterable<T>, atOnce: number, work: (item: T) => Promise<void>): Promise<void> {
  const waiting = items[Symbol.iterator]()
  await Promise.all(
    Array.from({ length: atOnce }, async () => {
      for (let next = waiting.next(); !next.done; next = waiting.next()) await work(next.value)
    }),
  )
}
