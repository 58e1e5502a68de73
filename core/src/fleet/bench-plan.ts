import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { nth } from '../edge/nth'
import { byText } from '../edge/order'

/** Which tasks to take at the bench, and in which order, in the minutes there are (brief 07 §11). */
const text = z.string().superRefine((t, context) => {
  if (t.trim() === '') refuse(context, 'input', [], 'The text is empty.')
})
const Task = z.object({
  id: text,
  unit: text.nullish(),
  minutes: z.number().positive(),
  hands: z.boolean().nullish(),
  setup: z.array(text).nullish(),
  needs: z.array(text).nullish(),
  waitMin: z.number().nonnegative().nullish(),
  value: z.number().positive().nullish(),
})
const Request = z.object({
  tasks: z
    .array(Task)
    .min(1)
    .superRefine((tasks, context) => {
      const ids = tasks.map((t) => t.id)
      for (const [i, task] of tasks.entries()) {
        if (ids.indexOf(task.id) < i) refuse(context, 'conflict', [i, 'id'], `Task ${task.id} is there twice.`)
        for (const [j, need] of (task.needs ?? []).entries())
          if (!ids.includes(need)) refuse(context, 'input', [i, 'needs', j], `There is no task ${need}.`)
      }
      if (inACircle(tasks)) refuse(context, 'conflict', [], 'Tasks need each other in a circle.')
    }),
  minutesHave: z.number().positive(),
  setupMinutes: z.number().nonnegative().nullish(),
})
export type BenchTask = z.infer<typeof Task>

export interface PlannedTask {
  id: string
  /** Minutes from the beginning to its set-up. */
  start: number
  end: number
  setupMin: number
}
export interface BenchPlan {
  order: PlannedTask[]
  /** Ids of tasks that are not done, as given. */
  left: string[]
  value: number
  /** End of the last one to end; 0 when none is done. */
  endMin: number
  /** No other choice or order is better; false where there were too many to try. */
  exact: boolean
}

const usualSetup = 3
const mostExact = 9
/** Minutes closer than this are equal. */
const same = 1e-9

function inACircle(tasks: readonly BenchTask[]): boolean {
  let open = tasks.map((t) => ({ id: t.id, needs: t.needs ?? [] }))
  for (;;) {
    const waiting = new Set(open.map((t) => t.id))
    const rest = open.filter((t) => t.needs.some((n) => waiting.has(n)))
    if (rest.length === open.length) return open.length > 0
    open = rest
  }
}

/** A task as the search counts with it. */
interface Work {
  id: string
  minutes: number
  hands: boolean
  words: ReadonlySet<string>
  needs: readonly number[]
  waitMin: number
  value: number
  /** Tasks that share its unit or a set-up word: they never run at once. */
  apart: readonly number[]
}

const workOf = (tasks: readonly BenchTask[]): Work[] => {
  const words = tasks.map((t) => new Set(t.setup ?? []))
  return tasks.map((task, i) => ({
    id: task.id,
    minutes: task.minutes,
    hands: task.hands ?? true,
    words: words[i] as Set<string>,
    needs: (task.needs ?? []).map((n) => tasks.findIndex((t) => t.id === n)),
    waitMin: task.waitMin ?? 0,
    value: task.value ?? 1,
    apart: tasks.flatMap((other, j) => {
      const shared =
        (task.unit != null && task.unit === other.unit) || [...(words[j] ?? [])].some((w) => words[i]?.has(w))
      return j !== i && shared ? [j] : []
    }),
  }))
}

/** What has been laid out so far: the person, and when each task ends (NaN: not done). */
interface Bench {
  free: number
  last: number | null
  ends: readonly number[]
}

const emptyBench = (count: number): Bench => ({ free: 0, last: null, ends: Array<number>(count).fill(Number.NaN) })

/** When a task could begin after what is laid out: Infinity while something that it needs is not. */
function earliest(work: readonly Work[], bench: Bench, i: number): number {
  const { needs, apart } = work[i] as Work
  let start = bench.free
  for (const need of needs) {
    const end = nth(bench.ends, need)
    if (Number.isNaN(end)) return Number.POSITIVE_INFINITY
    start = Math.max(start, end + (work[need] as Work).waitMin)
  }
  for (const other of apart) {
    const end = nth(bench.ends, other)
    if (!Number.isNaN(end)) start = Math.max(start, end)
  }
  return start
}

function setupOf(work: readonly Work[], last: number | null, i: number, each: number): number {
  const there = last === null ? null : (work[last] as Work).words
  let words = 0
  for (const word of (work[i] as Work).words) if (!there?.has(word)) words++
  return words * each
}

/** The bench after task `i` from `start`: without hands the person is free again after its set-up. */
function after(work: readonly Work[], bench: Bench, i: number, start: number, setupMin: number): Bench {
  const { minutes, hands } = work[i] as Work
  const end = start + setupMin + minutes
  const ends = [...bench.ends]
  ends[i] = end
  return { free: hands ? end : start + setupMin, last: i, ends }
}

interface Laid {
  order: PlannedTask[]
  value: number
  endMin: number
  setup: number
}

const none: Laid = { order: [], value: 0, endMin: 0, setup: 0 }
const withTask = (laid: Laid, planned: PlannedTask, value: number): Laid => ({
  order: [...laid.order, planned],
  value: laid.value + value,
  endMin: Math.max(laid.endMin, planned.end),
  setup: laid.setup + planned.setupMin,
})

/** More value; then an earlier end; then less set-up; then the smaller list of ids. */
function better(a: Laid, b: Laid): boolean {
  if (Math.abs(a.value - b.value) > same) return a.value > b.value
  if (Math.abs(a.endMin - b.endMin) > same) return a.endMin < b.endMin
  if (Math.abs(a.setup - b.setup) > same) return a.setup < b.setup
  for (let i = 0; i < Math.max(a.order.length, b.order.length); i++) {
    const order = byText(a.order[i]?.id ?? '', b.order[i]?.id ?? '')
    if (order !== 0) return order < 0
  }
  return false
}

/** What is not laid out yet: its value together, and the minutes that need hands. */
interface Open {
  value: number
  hands: number
}

/**
 * Every order of every choice, as far as it can still be better: at most a million of nine tasks. Tasks are tried by id, so
 * that of equal plans the first one found has the smallest list.
 */
function exactly(work: readonly Work[], have: number, each: number): Laid {
  const byId = work.map((task, i) => ({ task, i })).sort((a, b) => byText(a.task.id, b.task.id))
  let best = none
  /** With the best's value at most, everything open has to be done, and the person is busy until then. */
  const hopeless = (laid: Laid, bench: Bench, open: Open) => {
    const most = laid.value + open.value
    if (most > best.value + same) return false
    if (most < best.value - same) return true
    const end = Math.max(laid.endMin, bench.free + open.hands)
    return end > best.endMin + same || (end > best.endMin - same && laid.setup > best.setup - same)
  }
  const visit = (laid: Laid, bench: Bench, open: Open) => {
    if (better(laid, best)) best = laid
    if (hopeless(laid, bench, open)) return
    for (const { task, i } of byId) {
      if (!Number.isNaN(nth(bench.ends, i))) continue
      const start = earliest(work, bench, i)
      const setupMin = setupOf(work, bench.last, i, each)
      const end = start + setupMin + task.minutes
      if (end > have + same) continue
      visit(withTask(laid, { id: task.id, start, end, setupMin }, task.value), after(work, bench, i, start, setupMin), {
        value: open.value - task.value,
        hands: open.hands - (task.hands ? task.minutes : 0),
      })
    }
  }
  const sum = (of: (task: Work) => number) => work.reduce((total, task) => total + of(task), 0)
  visit(none, emptyBench(work.length), { value: sum((t) => t.value), hands: sum((t) => (t.hands ? t.minutes : 0)) })
  return best
}

/** The most value per minute that can begin now and end in time; where none can, the next moment that one could. */
function greedily(work: readonly Work[], have: number, each: number): Laid {
  let [laid, bench] = [none, emptyBench(work.length)]
  for (;;) {
    const fitting = work.flatMap((task, i) => {
      if (!Number.isNaN(nth(bench.ends, i))) return []
      const start = earliest(work, bench, i)
      const setupMin = setupOf(work, bench.last, i, each)
      const end = start + setupMin + task.minutes
      return end <= have + same ? [{ i, id: task.id, start, end, setupMin, worth: task.value / (end - start) }] : []
    })
    if (fitting.length === 0) return laid
    const now = Math.min(...fitting.map((f) => f.start))
    const [taken] = fitting
      .filter((f) => f.start <= now + same)
      .sort((a, b) => b.worth - a.worth || byText(a.id, b.id)) as [(typeof fitting)[number]]
    const { i, id, start, end, setupMin } = taken
    laid = withTask(laid, { id, start, end, setupMin }, (work[i] as Work).value)
    bench = after(work, bench, i, start, setupMin)
  }
}

/**
 * One person takes tasks one after the other; each begins as soon as hands, needs and tools are free.
 * @param minutesHave every end lies within; a wait after a task may run over
 * @param setupMinutes for each set-up word that the task before it did not have
 */
export function planBenchOf(tasks: readonly BenchTask[], minutesHave: number, setupMinutes = usualSetup): BenchPlan {
  const work = workOf(tasks)
  const exact = tasks.length <= mostExact
  const { order, value, endMin } = (exact ? exactly : greedily)(work, minutesHave, setupMinutes)
  const done = new Set(order.map((t) => t.id))
  return { order, left: tasks.map((t) => t.id).filter((id) => !done.has(id)), value, endMin, exact }
}

/** `bench plan`. Faults: `input` (also a need that is no task), `range`, `empty`, `conflict` (an id twice, a circle of needs). */
export function planBench(input: unknown): Outcome<BenchPlan> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const { tasks, minutesHave, setupMinutes } = parsed.value
  return { ok: true, value: planBenchOf(tasks, minutesHave, setupMinutes ?? usualSetup) }
}
