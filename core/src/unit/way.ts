/** The way of a unit as data: five coats, eighteen steps, the routes that skip some, and the gates in front of others. */
export const coats = [
  { id: 'strip', name: 'Strip' },
  { id: 'prime', name: 'Prime' },
  { id: 'coat', name: 'Coat' },
  { id: 'cure', name: 'Cure' },
  { id: 'hang', name: 'Hang' },
] as const

export type CoatId = (typeof coats)[number]['id']
export const isCoatId = (x: string): x is CoatId => coats.some((c) => c.id === x)

export const stepIds = [
  'arrive',
  'open',
  'identify',
  'pads',
  'wire',
  'backup',
  'check',
  'write',
  'start',
  'join',
  'pins',
  'close',
  'behaviour',
  'meter',
  'name',
  'hub',
  'prove',
  'watch',
] as const

export type StepId = (typeof stepIds)[number]

export const isStepId = (x: unknown): x is StepId => (stepIds as readonly unknown[]).includes(x)

export const gateIds = ['mains-off', 'discharged', 'current-limit', 'case-closed', 'licensed'] as const

export type GateId = (typeof gateIds)[number]

/** Facts a step rests on. When one changes after the step was done, the step is stale and says which. */
export const factIds = [
  'board',
  'family',
  'flashBytes',
  'pads',
  'adapter',
  'image',
  'written',
  'firmware',
  'template',
  'address',
  'topic',
  'powerOn',
  'hub',
  'label',
  'secrets',
] as const

export type FactId = (typeof factIds)[number]

/** What the work of a step does to the unit: that decides its gates. */
export type Work = 'none' | 'touch' | 'rail' | 'mains' | 'as powered'

export interface Step {
  id: StepId
  coat: CoatId
  title: string
  /** One word, where there is room for one. */
  short: string
  /** What the next action is called, as in "Next: …". */
  next: string
  needs: readonly StepId[]
  work: Work
  restsOn: readonly FactId[]
}

const step = (
  id: StepId,
  coat: CoatId,
  title: string,
  short: string,
  next: string,
  needs: StepId[],
  work: Work,
  restsOn: FactId[],
): Step => ({ id, coat, title, short, next, needs, work, restsOn })

export const steps: readonly Step[] = [
  step('arrive', 'strip', 'Arrive', 'Arrive', 'choose the route and try it as sold', [], 'none', []),
  step('open', 'strip', 'Open', 'Open', 'note the legends, then open it', ['arrive'], 'touch', ['board']),
  step('identify', 'strip', 'Identify', 'Identify', 'find out which chip it is', ['arrive'], 'none', ['board']),
  step('pads', 'prime', 'Find the pads', 'Pads', 'find the serial pads', ['open', 'identify'], 'touch', ['board']),
  step('wire', 'prime', 'Wire', 'Wire', 'wire the adapter', ['identify', 'pads'], 'touch', ['family', 'pads']),
  step('backup', 'prime', 'Back up', 'Back up', 'read the stock firmware twice', ['wire'], 'touch', [
    'family',
    'flashBytes',
  ]),
  step('check', 'coat', 'Check the image', 'Check', 'check the image', ['identify', 'backup'], 'none', [
    'family',
    'flashBytes',
  ]),
  step('write', 'coat', 'Write', 'Write', 'write it and log the attempt', ['check', 'wire'], 'touch', ['image']),
  step('start', 'coat', 'First start', 'Start', 'see it start', ['write'], 'touch', ['written']),
  step('join', 'cure', 'Join Wi-Fi', 'Join', 'find it on the network', ['start'], 'none', []),
  step('pins', 'cure', 'Pins', 'Pins', 'see what each pin does', ['start'], 'as powered', ['family']),
  step('close', 'cure', 'Close up', 'Close', 'close the case', ['pins'], 'none', []),
  step('behaviour', 'cure', 'Behaviour', 'Behave', 'try what it does', ['pins', 'close'], 'mains', ['template']),
  step('meter', 'cure', 'Meter', 'Meter', 'calibrate the meter', ['close'], 'mains', ['firmware']),
  step('name', 'hang', 'Name and address', 'Name', 'give it its name', ['join'], 'none', []),
  step('hub', 'hang', 'Hub', 'Hub', 'test both ways with the hub', ['name', 'join'], 'none', [
    'firmware',
    'template',
    'address',
    'topic',
    'hub',
  ]),
  step('prove', 'hang', 'Prove', 'Prove', 'cut the power and see it come back', ['hub', 'behaviour'], 'mains', [
    'firmware',
    'powerOn',
    'hub',
  ]),
  step('watch', 'hang', 'Watch', 'Watch', 'nothing to do', ['prove'], 'none', []),
]

export const stepOf = (id: StepId): Step => steps.find((s) => s.id === id) as Step

export const routeIds = [
  'wires-in-place',
  'module-off',
  'ready-flashed',
  'local-control',
  'module-replaced',
  'built',
] as const

export type RouteId = (typeof routeIds)[number]

export interface Route {
  name: string
  about: string
  skips: readonly StepId[]
  /** Why there is no stock firmware to keep, where the chip never held one. */
  noStock?: string
}

export const routes: Record<RouteId, Route> = {
  'wires-in-place': { name: 'Over wires, in place', about: 'Open it, wire the pads, write.', skips: [] },
  'module-off': { name: 'Over wires, module taken off', about: 'The contacts cannot be reached in place.', skips: [] },
  'ready-flashed': {
    name: 'Bought ready-flashed',
    about: 'It comes with open firmware: nothing to open or write.',
    skips: ['open', 'pads', 'wire', 'backup', 'check', 'write', 'close'],
  },
  'local-control': {
    name: 'Stock firmware, local control',
    about: 'It stays as it is; its local key is kept.',
    skips: ['open', 'identify', 'pads', 'wire', 'backup', 'check', 'write', 'start', 'pins', 'close', 'behaviour'],
  },
  'module-replaced': {
    name: 'Module replaced',
    about: 'A new module of a family with open firmware goes in.',
    skips: ['backup'],
    noStock: 'A new module: there never was one on it.',
  },
  built: {
    name: 'Built from parts',
    about: 'No case to open, no stock firmware to keep.',
    skips: ['open', 'backup'],
    noStock: 'Built from parts: there never was one.',
  },
}

export const gateWords: Record<GateId, { title: string; confirm: string }> = {
  'mains-off': { title: 'Unplugged from the mains, and it stays unplugged.', confirm: 'Unplugged' },
  discharged: { title: 'Waited for the discharge time, then measured below 30 V.', confirm: 'Waited and measured' },
  'current-limit': {
    title: 'The bench supply stands at 3.3 V, and its current limit is set.',
    confirm: 'Limit set',
  },
  'case-closed': {
    title: 'The case is closed, and adapter, jig and bench supply are off the unit.',
    confirm: 'Closed and free of wires',
  },
  licensed: {
    title: 'Fixed wiring is for whoever may do it under the local code.',
    confirm: 'Handed to a licensed person',
  },
}

/** At Pins the relays are fed from the unit's own 5 or 12 V rail: one source for 3.3 V, never two. */
const railTitle =
  'The bench supply stands at the voltage of the unit’s own rail, its current limit is set, and the adapter’s supply pin is off the unit.'
export const gateTitle = (gate: GateId, step: StepId): string =>
  gate === 'current-limit' && step === 'pins' ? railTitle : gateWords[gate].title
