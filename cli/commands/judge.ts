import type { Commands } from '../command'

/** Loads, fleets, plans, and small calculators. */
export const judge: Commands = {
  'load states': {
    kind: 'json',
    line: 'relay, pin and load → what the load does without supply, while starting, hung, off line',
    input:
      '{ channels: [{ ch, contact, active, bootLevel, start, latching?, localInput, load: { kind, wayOut?, attended? } }] }',
    output: 'channels [{ ch, coil, load }], findings',
    example:
      '{"channels":[{"ch":1,"contact":"NC","active":"high","bootLevel":"ru","start":"off","localInput":true,"load":{"kind":"modem"}}]}',
    run: async (input) => (await import('@fresh-coat/core/load/states')).loadStates(input),
  },
  'fleet survival': {
    kind: 'json',
    line: 'restarts of units on releases → stop, go, or how long to wait',
    input: '{ releases: [{ version, units: [{ id, days, restarts }] }], maxPerDay?, of? }',
    output: 'releases [{ version, days, restarts, rate, lower, upper }], of, verdict, moreDays, findings',
    example: '{"releases":[{"version":"1.5","units":[{"id":"LY-04","days":52.5,"restarts":1}]}]}',
    run: async (input) => (await import('@fresh-coat/core/fleet/survival')).fleetSurvival(input),
  },
  'fleet waves': {
    kind: 'json',
    line: 'units, versions, rings, windows → who is updated when, who is not, and when it stops',
    input:
      '{ units: [{ id, number, installed, target, role?, canary?, held?, dependsOn?, minutes? }], policy: { start, utcOffset?, rings, soakHours?, window?, minutesPerUnit?, maxPerWindow?, stopRule?, blackouts?, allowDowngrade? }, results?, ics? }',
    output: 'waves, skipped, ics?',
    example:
      '{"units":[{"id":"LY-03","number":3,"installed":"1.4.0","target":"1.5.1"}],"policy":{"start":"2026-06-01T10:00:00Z","rings":[{"name":"all"}]}}',
    run: async (input) => (await import('@fresh-coat/core/fleet/waves-request')).fleetWaves(input),
  },
  'bench plan': {
    kind: 'json',
    line: 'tasks and the minutes there are → which to take, in which order',
    input: '{ tasks: [{ id, unit?, minutes, hands?, setup?, needs?, waitMin?, value? }], minutesHave, setupMinutes? }',
    output: 'order [{ id, start, end, setupMin }], left, value, endMin, exact',
    example:
      '{"tasks":[{"id":"glue","minutes":8,"waitMin":25},{"id":"close","minutes":6,"needs":["glue"]}],"minutesHave":60}',
    run: async (input) => (await import('@fresh-coat/core/fleet/bench-plan')).planBench(input),
  },
  'dc-drop': {
    kind: 'json',
    line: 'direct current over a pair of leads → what is lost, the least area, the fuse',
    input: '{ V, A, lengthM, areaMm2 | awg, tempC?, maxPct?, cableA? }',
    output: 'areaMm2, ohm, dropV, dropPct, lossW, minAreaMm2, fuse { min, max }, verdict, reasons',
    example: '{"V":12,"A":2,"lengthM":5,"areaMm2":0.75,"cableA":6}',
    run: async (input) => (await import('@fresh-coat/core/calculators/dc-drop')).dcDrop(input),
  },
  battery: {
    kind: 'json',
    line: 'a battery and a unit that sleeps → how many days it lasts',
    input: '{ mAh, usable?, sleepUA, wakeMA, wakeS, perHour, selfPctMonth? }',
    output: 'avgMA, drainMA, days',
    example: '{"mAh":2500,"sleepUA":20,"wakeMA":80,"wakeS":4,"perHour":6}',
    run: async (input) => (await import('@fresh-coat/core/calculators/battery')).batteryLife(input),
  },
  'report-load': {
    kind: 'json',
    line: 'units and their periods → messages a minute, and how much slower to report',
    input: '{ units: [{ n, perMessageBytes?, periodS }], maxPerMinute? }',
    output: 'perMinute, bytesPerSecond, factor',
    example: '{"units":[{"n":12,"periodS":10}],"maxPerMinute":30}',
    run: async (input) => (await import('@fresh-coat/core/calculators/report-load')).reportLoad(input),
  },
  'load check': {
    kind: 'json',
    line: 'supply, ratings, load → may it carry this: limit, inrush, DC, motors, coils, latches',
    input:
      '{ supply: { kind, V }, ratings: [{ source, A?, W?, Vmin?, Vmax?, scope?, current?, makeA? }], load: { kind, A|VA|W, pf?, count?, hours?, inrushX? }, others?, lead?, coils?, latch? }',
    output: 'I, totalA, limit, usePct, inrushA, inrushX, verdict, reasons, coils?, latch?, findings',
    example:
      '{"supply":{"kind":"ac","V":230},"ratings":[{"source":"relay","A":10,"Vmax":250}],"load":{"kind":"resistive","W":800,"hours":4}}',
    run: async (input) => (await import('@fresh-coat/core/load/check')).checkLoad(input),
  },
  'led-resistor': {
    kind: 'json',
    line: 'supply and LED → the resistor, what flows, what it has to bear',
    input: '{ supplyV, vf, mA, series?, parallel?, eSeries?, choose?, tolPct?, pinLimitMA? }',
    output: 'exactOhm, ohm, mA, mAmin, mAmax, W, ratingW, totalMA, warnings, findings',
    example: '{"supplyV":3.3,"vf":2,"mA":4,"eSeries":"E12","pinLimitMA":12}',
    run: async (input) => (await import('@fresh-coat/core/calculators/led-resistor')).ledResistor(input),
  },
  'route compare': {
    kind: 'json',
    line: 'routes with prices and minutes → what a number of units costs, from when on which is cheaper, what would change it',
    input:
      '{ n, hourValue, maxN?, tornadoN?, must?, routes: [{ id, unitPrice, fixedCost?, minutesFirst, learningRate?, minMinutes?, failProb?, failCost?, criteria }] }',
    output: 'results, breakEven, tornado, findings',
    example:
      '{"n":[1,20],"hourValue":12,"routes":[{"id":"wires","unitPrice":9.5,"fixedCost":22,"minutesFirst":95,"learningRate":0.8,"criteria":{}},{"id":"ready","unitPrice":19,"minutesFirst":15,"criteria":{}}]}',
    run: async (input) => (await import('@fresh-coat/core/calculators/route-compare')).compareRoutes(input),
  },
  regulator: {
    kind: 'json',
    line: 'a linear regulator and what it feeds → drop-out, bursts, heat, what may be added',
    input: '{ vin, vout, dropoutV, iMaxMA, thetaJA, ambientC?, tjMaxC?, loads: [{ id, avgMA, peakMA?, count? }] }',
    output: 'avgMA, peakMA, W, tjC, heatLimitMA, spareMA, verdict, reasons, findings',
    example:
      '{"vin":5,"vout":3.3,"dropoutV":1.1,"iMaxMA":800,"thetaJA":90,"loads":[{"id":"module","avgMA":85,"peakMA":350}]}',
    run: async (input) => (await import('@fresh-coat/core/load/regulator')).checkRegulator(input),
  },
}
