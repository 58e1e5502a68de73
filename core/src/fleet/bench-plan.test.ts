import fc from 'fast-check'
import { computed } from '../testing/like'
import { type BenchPlan, type BenchTask, planBench, planBenchOf } from './bench-plan'

const example: BenchTask[] = [
  { id: 'glue', unit: 'LY-07', minutes: 8, setup: ['glue'], waitMin: 25 },
  { id: 'close', unit: 'LY-07', minutes: 6, setup: ['driver'], needs: ['glue'], value: 3 },
  { id: 'read', unit: 'LY-12', minutes: 15, hands: false, setup: ['adapter'] },
  { id: 'solder', unit: 'LY-15', minutes: 20, setup: ['iron'] },
]
const run = (tasks: object[], minutesHave = 60, more = {}) => computed(planBench({ tasks, minutesHave, ...more }))
const lines = (plan: BenchPlan) => plan.order.map((t) => `${t.id} ${t.start}–${t.end} ${t.setupMin}`)

test('the worked example', () => {
  const plan = run(example)
  expect(lines(plan)).toEqual(['glue 0–11 3', 'read 11–29 3', 'solder 14–37 3', 'close 37–46 3'])
  expect(plan).toMatchObject({ left: [], value: 6, endMin: 46, exact: true })
})

test('with less time the most value is kept; a wait may run over', () => {
  const plan = run(example, 45)
  expect(plan.value).toBe(5)
  expect(plan.left).toEqual(['solder'])
  expect(lines(run([{ id: 'a', minutes: 5, waitMin: 500 }], 5))).toEqual(['a 0–5 0'])
})

test('what is set up is set up once, and one tool serves one task at a time', () => {
  const soldering = ['a', 'b', 'c'].map((id) => ({ id, minutes: 4, setup: ['iron'] }))
  expect(lines(run(soldering))).toEqual(['a 0–7 3', 'b 7–11 0', 'c 11–15 0'])
  const reads = [
    { id: 'a', minutes: 10, hands: false, setup: ['adapter'] },
    { id: 'b', minutes: 10, hands: false, setup: ['adapter'] },
    { id: 'c', minutes: 10, hands: false, setup: ['other'] },
  ]
  expect(lines(run(reads))).toEqual(['a 0–13 3', 'b 13–23 0', 'c 13–26 3'])
})

test('equal in all else, the list of ids decides', () =>
  expect(
    run([
      { id: 'b', minutes: 3 },
      { id: 'a', minutes: 3 },
    ]).order.map((t) => t.id),
  ).toEqual(['a', 'b']))

test('nothing fits: nothing is done, and nothing lost', () =>
  expect(run([{ id: 'a', minutes: 61 }])).toEqual({ order: [], left: ['a'], value: 0, endMin: 0, exact: true }))

test('beyond nine tasks the greedy rule: most value a minute, and idle where all wait', () => {
  const many = Array.from({ length: 10 }, (_, i) => ({ id: `t${i}`, minutes: i + 1 }))
  const plan = run(many, 6)
  expect([plan.exact, plan.order.map((t) => t.id), plan.endMin]).toEqual([false, ['t0', 't1', 't2'], 6])
  const waiting = [
    { id: 'glue', minutes: 1, waitMin: 20 },
    { id: 'after', minutes: 1, needs: ['glue'] },
    ...Array.from({ length: 8 }, (_, i) => ({ id: `long${i}`, minutes: 100 })),
  ]
  expect(lines(run(waiting, 30))).toEqual(['glue 0–1 0', 'after 21–22 0'])
})

test.each<[string, object, string, string]>([
  ['no task', { tasks: [], minutesHave: 5 }, 'empty', '/tasks'],
  ['no time', { tasks: example, minutesHave: 0 }, 'range', '/minutesHave'],
  ['a task of no minutes', { tasks: [{ id: 'a', minutes: 0 }], minutesHave: 5 }, 'range', '/tasks/0/minutes'],
  ['a task twice', { tasks: [example[0], example[0]], minutesHave: 5 }, 'conflict', '/tasks/1/id'],
  [
    'a need that is no task',
    { tasks: [{ id: 'a', minutes: 1, needs: ['b'] }], minutesHave: 5 },
    'input',
    '/tasks/0/needs/0',
  ],
  [
    'a task that needs itself',
    { tasks: [{ id: 'a', minutes: 1, needs: ['a'] }], minutesHave: 5 },
    'conflict',
    '/tasks',
  ],
  [
    'a circle of two',
    {
      tasks: [
        { id: 'a', minutes: 1, needs: ['b'] },
        { id: 'b', minutes: 1, needs: ['a'] },
      ],
      minutesHave: 5,
    },
    'conflict',
    '/tasks',
  ],
  ['set-up before it began', { tasks: example, minutesHave: 5, setupMinutes: -1 }, 'range', '/setupMinutes'],
  ['a task without a name', { tasks: [{ id: '', minutes: 1 }], minutesHave: 5 }, 'input', '/tasks/0/id'],
])('%s is refused', (_, input, code, path) =>
  expect(planBench(input)).toMatchObject({ ok: false, faults: [{ code, path }] }),
)

const someTasks = (least: number, most: number): fc.Arbitrary<BenchTask[]> =>
  fc.integer({ min: least, max: most }).chain((count) =>
    fc.tuple(
      ...Array.from({ length: count }, (_, i) =>
        fc.record({
          id: fc.constant(`t${i}`),
          unit: fc.constantFrom('u1', 'u2', 'u3', null),
          minutes: fc.integer({ min: 1, max: 12 }),
          hands: fc.boolean(),
          setup: fc.subarray(['iron', 'adapter', 'glue']),
          // Only on earlier ones: no circle.
          needs: fc.subarray(
            Array.from({ length: i }, (__, j) => `t${j}`),
            { maxLength: Math.min(1, i) },
          ),
          waitMin: fc.integer({ min: 0, max: 9 }),
          value: fc.integer({ min: 1, max: 4 }),
        }),
      ),
    ),
  )

/** Follows an order by the rules of the bench, told again in other words. */
function holds(tasks: readonly BenchTask[], plan: BenchPlan, have: number): void {
  const of = (id: string) => tasks.find((t) => t.id === id) as BenchTask
  for (const [i, { id, start, end, setupMin }] of plan.order.entries()) {
    const [task, before] = [of(id), plan.order.slice(0, i)]
    expect(end).toBe(start + setupMin + task.minutes)
    expect(end).toBeLessThanOrEqual(have)
    for (const need of task.needs ?? []) {
      const done = before.find((b) => b.id === need)
      expect(done).toBeDefined()
      expect(start).toBeGreaterThanOrEqual((done?.end ?? 0) + (of(need).waitMin ?? 0))
    }
    for (const other of before) {
      const that = of(other.id)
      const apart = (task.unit && task.unit === that.unit) || task.setup?.some((w) => that.setup?.includes(w))
      if (apart) expect(start).toBeGreaterThanOrEqual(other.end)
      expect(start).toBeGreaterThanOrEqual(that.hands === false ? other.start + other.setupMin : other.end)
    }
  }
  expect([...plan.order.map((t) => t.id), ...plan.left].sort()).toEqual(tasks.map((t) => t.id).sort())
}

test('whatever is planned can be done', () =>
  fc.assert(
    fc.property(someTasks(1, 12), fc.integer({ min: 5, max: 60 }), (tasks, have) =>
      holds(tasks, planBenchOf(tasks, have), have),
    ),
    { numRuns: 60 },
  ))

test('more time never makes less of it, and the exact plan is worth no less than what a part of its tasks would be', () =>
  fc.assert(
    fc.property(someTasks(2, 5), fc.integer({ min: 5, max: 40 }), (tasks, have) => {
      const value = (of: readonly BenchTask[], minutes: number) => planBenchOf(of, minutes).value
      expect(value(tasks, have + 5)).toBeGreaterThanOrEqual(value(tasks, have))
      // The last one is needed by nobody.
      expect(value(tasks, have)).toBeGreaterThanOrEqual(value(tasks.slice(0, -1), have))
    }),
  ))

/** Every order of every choice, tried without a thought for time. */
function byForce(tasks: readonly BenchTask[], have: number): BenchPlan {
  const plans: BenchPlan[] = []
  const visit = (order: readonly BenchTask[]) => {
    // A list of one order only: what the exact plan makes of it is that order, or less.
    const chained = order.map((t, i) => ({ ...t, needs: [...(t.needs ?? []), ...order.slice(0, i).map((b) => b.id)] }))
    const own = order.every((t, i) => (t.needs ?? []).every((n) => order.slice(0, i).some((b) => b.id === n)))
    if (own && order.length > 0)
      plans.push(
        planBenchOf(
          chained.map((t) => ({ ...t, waitMin: 0 })),
          have,
        ),
      )
    for (const t of tasks) if (!order.includes(t)) visit([...order, t])
  }
  visit([])
  return plans.sort((a, b) => b.value - a.value)[0] as BenchPlan
}
test('without waits and with hands all the time, no order of any choice is worth more', () =>
  fc.assert(
    fc.property(someTasks(1, 4), fc.integer({ min: 5, max: 30 }), (given, have) => {
      const tasks = given.map((t) => ({ ...t, waitMin: 0, hands: true }))
      expect(planBenchOf(tasks, have).value).toBe(byForce(tasks, have).value)
    }),
    { numRuns: 40 },
  ))
