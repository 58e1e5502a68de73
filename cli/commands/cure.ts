import type { Commands } from '../command'

/** Network, pins, meters and names. */
export const cure: Commands = {
  'net match': {
    kind: 'json',
    line: 'pasted lease lists and neighbour tables → which device is which unit',
    input:
      '{ tables: [{ text, format?, phase? }], units: [{ id, apMac?, staMac?, family?, firmware?, nameSuffix?, hostname? }] }',
    output: 'formats, entries, matches, batches, conflicts, newcomers, gone, skipped, findings',
    example:
      '{"tables":[{"text":"192.168.71.61 dev br0 lladdr 44:b7:d0:31:0a:0f STALE"}],"units":[{"id":"LY-51","apMac":"44:b7:d0:31:0a:10","family":"RV32"}]}',
    run: async (input) => (await import('@fresh-coat/core/network/match')).matchNetwork(input),
  },
  'net plan': {
    kind: 'json',
    line: 'subnet, pool, groups, units → an address and a host name for each, and the lines a server takes',
    input:
      '{ subnet, gateway?, pool?: { from, to }, taken?: [{ ip, mac? }], groups?: [{ id, from, to }], leaseTime?, units: [{ id, number, mac, hostname?, group?, ip? }] }',
    output: 'assignments, conflicts, exports { dnsmasq, isc, csv }, findings',
    example:
      '{"subnet":"192.168.71.0/24","gateway":"192.168.71.1","pool":{"from":"192.168.71.100","to":"192.168.71.199"},"units":[{"id":"LY-07","number":7,"mac":"b8:3c:d0:77:1e:9a"}]}',
    run: async (input) => (await import('@fresh-coat/core/network/plan')).netPlan(input),
  },
  'pins check': {
    kind: 'json',
    line: 'pin template → is it possible, what happens at power-up',
    input: '{ template } (docs/formats/pin-template.schema.json)',
    output: 'verdict, counts, findings',
    example:
      '{"template":{"format":"fresh-coat/pin-template","version":1,"board":"p1","family":"LX106","pins":[{"pin":"GPIO12","fn":"relay","ch":1},{"pin":"GPIO0","fn":"button","ch":1,"pull":"up"}]}}',
    run: async (input) => (await import('@fresh-coat/core/pins/check')).checkPins(input),
  },
  'pins diff': {
    kind: 'json',
    line: 'two pin templates of a family → what moved, came, went, and differs',
    input: '{ a, b } (docs/formats/pin-template.schema.json)',
    output: 'same, moved, added, removed, changed, meta',
    example:
      '{"a":{"format":"fresh-coat/pin-template","version":1,"board":"r1","family":"LX106","pins":[{"pin":"GPIO12","fn":"relay","ch":1}]},"b":{"format":"fresh-coat/pin-template","version":1,"board":"r2","family":"LX106","pins":[{"pin":"GPIO14","fn":"relay","ch":1}]}}',
    run: async (input) => (await import('@fresh-coat/core/pins/diff')).diffPins(input),
  },
  'pins plan': {
    kind: 'json',
    line: 'what is unknown → which pins to drive, in which groups, in how many trials',
    input:
      '{ family, pins, known?, moving?, power: adapter|rail|mains, unknown: [{ sign, count }], hazards?, noMotor?, flashLines?, octal? }',
    output: 'excluded, candidates, assign, method, groups, expectedTrials, visible, hidden, steps',
    example:
      '{"family":"LX106","pins":["GPIO4","GPIO5","GPIO12","GPIO13","GPIO14"],"power":"adapter","unknown":[{"sign":"led","count":1}]}',
    run: async (input) => (await import('@fresh-coat/core/pins/probe-plan')).planProbe(input),
  },
  'pins infer': {
    kind: 'json',
    line: 'trials and what was seen → which pin does what, and the trial that tells most',
    input: '{ pins, signs: [{ id, kind: edge|level, count? }], trials: [{ on, saw, reset? }], presses? }',
    output: 'signs, inputs, suspects, shared, next',
    example:
      '{"pins":["P6","P8"],"signs":[{"id":"click","kind":"edge"}],"trials":[{"on":["P6"],"saw":[]},{"on":["P8"],"saw":["click"]}]}',
    run: async (input) => (await import('@fresh-coat/core/pins/infer')).inferFromTrials(input),
  },
  'pins spare': {
    kind: 'json',
    line: 'free pads → the best pin for an added sensor, and whether the supply bears it',
    input: '{ family, need, used, pads: [{ pin, padMm?, edge?, railMm? }], budget? }',
    output: 'ranked, excluded, budget',
    example:
      '{"family":"LX106","need":["input"],"used":["GPIO12"],"pads":[{"pin":"GPIO5","padMm":1.2,"railMm":9},{"pin":"GPIO12"}]}',
    run: async (input) => (await import('@fresh-coat/core/pins/spare')).sparePins(input),
  },
  'lights infer': {
    kind: 'json',
    line: 'a few set points → scheme of a tunable white, which channel is which colour',
    input: '{ white?: { a, b, obs: [{ a, b, lux, tone? }] }, colours?: [{ pin, saw }] }',
    output: 'white, colours, conflicts, double',
    example:
      '{"white":{"a":"P26","b":"P24","obs":[{"a":1,"b":0,"lux":300,"tone":"warm"},{"a":0,"b":1,"lux":320,"tone":"cool"}]}}',
    run: async (input) => (await import('@fresh-coat/core/lights/infer')).inferLights(input),
  },
  'lights mix': {
    kind: 'json',
    line: 'tone and brightness, or a colour → duty and count of each channel',
    input: '{ mode: white|rgb, kelvin | rgb, bright, lamp }',
    output: 'mired, warmShare, clamped, duty, count',
    example:
      '{"mode":"white","kelvin":3600,"bright":0.7,"lamp":{"coolK":6200,"warmK":2800,"scheme":"pair","max":1023}}',
    run: async (input) => (await import('@fresh-coat/core/lights/mix')).mixLights(input),
  },
  'behaviour run': {
    kind: 'json',
    line: 'rules and a timeline → what the outputs do, when, and why',
    input: '{ def: { bootMs?, channels, inputs?, interlock?, motors?, rules? }, timeline, until }',
    output: 'events, final, pos',
    example:
      '{"def":{"channels":[{"ch":1}],"inputs":[{"id":"wall"}],"rules":[{"id":"r","when":{"input":"wall","event":"short"},"do":[{"set":"toggle","ch":1}]}]},"timeline":[{"t":1000,"input":"wall","level":1}],"until":5000}',
    run: async (input) => (await import('@fresh-coat/core/behaviour/run')).runBehaviour(input),
  },
  'travel fit': {
    kind: 'json',
    line: 'timed runs of a motor → travel each way, margins, how often to run it to an end',
    input: '{ runs: [{ dir: open|close, ms }], tolPct?, meanMove? }',
    output: 'open, close, ratio, cvPct, rehomeMoves, warnings',
    example: '{"runs":[{"dir":"open","ms":21120},{"dir":"open","ms":20930},{"dir":"close","ms":18480}]}',
    run: async (input) => (await import('@fresh-coat/core/behaviour/travel')).travelFit(input),
  },
  'ac-sense': {
    kind: 'json',
    line: 'a mains input that gives pulses → threshold, shortest sure press, lock-out',
    input: '{ hz, pulsesPerCycle, edges?, windowMs, deadMs?, noise?, pressMaxMs? }',
    output: 'perHz, noiseMax, separable, threshold, bestMs, sureMs, worstMs, needWindowMs, lockoutMs',
    example: '{"hz":[50,60],"pulsesPerCycle":1,"windowMs":300,"noise":[0,2,1]}',
    run: async (input) => (await import('@fresh-coat/core/behaviour/ac-sense')).acSense(input),
  },
  'watchdog run': {
    kind: 'json',
    line: 'a watchdog of a modem over a trace → cycles, outages, what each knob is worth',
    input:
      '{ params: { checkMs, retryMs, failMs, offMs, bootMs, coolMs?, startMs? }, trace: { untilMs, rebootMs, minOffMs, outages }, vary? }',
    output: 'checks, cycles, needless, outages, downMs, warnings, formula, vary?',
    example:
      '{"params":{"checkMs":240000,"retryMs":20000,"failMs":600000,"offMs":12000,"bootMs":150000},"trace":{"untilMs":14400000,"rebootMs":110000,"minOffMs":8000,"outages":[{"kind":"hang","from":1000000}]}}',
    run: async (input) => (await import('@fresh-coat/core/behaviour/watchdog')).watchdog(input),
  },
  'settings render': {
    kind: 'json',
    line: 'pins, behaviour, connection → one paste in the words of a firmware',
    input: '{ profile (fresh-coat/phrases), template?, behaviour?, connection? }',
    output: 'text, notExpressible, problems, masked',
    example:
      '{"profile":{"format":"fresh-coat/phrases","version":1,"name":"Plainsong","form":"lines","phrases":{"pin.relay":"let {gpio} move relay {index}"}},"template":{"format":"fresh-coat/pin-template","version":1,"board":"r1","family":"LX106","pins":[{"pin":"GPIO12","fn":"relay","ch":1}]}}',
    run: async (input) => (await import('@fresh-coat/core/profile/settings')).settingsRender(input),
  },
  'hub render': {
    kind: 'json',
    line: 'units → the text that a hub takes, in the words of its kind',
    input:
      '{ profile (fresh-coat/phrases), entities: [{ kind, name, slug, room?, stateTopic?, setTopic?, onlineTopic?, on?, off?, unit? }] }',
    output: 'text, notExpressible, problems, masked',
    example:
      '{"profile":{"format":"fresh-coat/phrases","version":1,"name":"Mantel","form":"yaml","phrases":{"entity.switch":"boards.{slug}.hear = {state}"}},"entities":[{"kind":"switch","name":"Glue pot","slug":"pot-7","stateTopic":"yard/7"}]}',
    run: async (input) => (await import('@fresh-coat/core/profile/hub')).hubRender(input),
  },
  'meter fit': {
    kind: 'json',
    line: 'indicated and reference readings → gain, offset, errors, uncertainty, due date',
    input:
      '{ quantity, reference: { gainPct, digits, resolution }, indicatedResolution, points: [{ id, indicated, reference, role?, group?, refs?, inds? }], rated?, load, limits?, model?, zeroReadings?, bandAt?, date?, recheckMonths? }',
    output:
      'model, why, gain, offset, seGain, seOffset, points, verify, band, warnings, minDetectable, passed, due, findings',
    example:
      '{"quantity":"P","reference":{"gainPct":0.5,"digits":2,"resolution":0.1},"indicatedResolution":0.1,"load":{"kind":"resistive","warm":true},"points":[{"id":"a","indicated":58.1,"reference":60.2},{"id":"b","indicated":961.8,"reference":1001.2}]}',
    run: async (input) => (await import('@fresh-coat/core/metering/fit')).fitMeter(input),
  },
  'meter map': {
    kind: 'json',
    line: 'numbered raw values in known states → which is volts, amperes, watts, and the load that tells most',
    input:
      '{ mains: { nominalV, nominalHz }, ratingA?, snapshots: [{ id, at?, switch, load: { kind, w }, reference?, raw }], available?, top? }',
    output: 'best, ranked, keys, explain, others, ignored, settled, nextRanked, next',
    example:
      '{"mains":{"nominalV":230,"nominalHz":50},"snapshots":[{"id":"c","switch":"on","load":{"kind":"resistive","w":120},"raw":{"4":512,"5":1179,"6":2303}}]}',
    run: async (input) => (await import('@fresh-coat/core/metering/raw-map')).meterMap(input),
  },
  'meter pulse': {
    kind: 'json',
    line: 'pulses of a meter, or a frame of one → volts, amperes, watts, and what can be seen how fast',
    input:
      '{ mode: "pulse", constants, corrections?, readings, windowS?, timeoutS?, tickUs?, atW?, reference? } | { mode: "serial", frameHex, layout, scale?, corrections? }',
    output:
      'wattPerHz, voltPerHz, ampPerHz, whPerPulse, V, I, P, VA, pf, countStepW, minW, resolution, newCorrections | checksumOk, fields, use, V, I, P, VA, pf',
    example:
      '{"mode":"pulse","constants":{"vref":2.5,"foscHz":3500000,"power":{"gain":40,"divisor":128},"dividerTopOhm":2000000,"dividerBottomOhm":1000,"shuntOhm":0.001},"readings":{"power":{"periodUs":22900}},"atW":[5]}',
    run: async (input) => (await import('@fresh-coat/core/metering/pulse')).meterPulse(input),
  },
  'energy correct': {
    kind: 'json',
    line: 'readings of a counter, factors, prices → energy and cost, resets and set-backs, standby',
    input:
      '{ readings: [{ at, kWh, reset? }], factors?: [{ from, old, new }], prices?: [{ from, perKWh }], standby?: [{ id, W, hoursPerDay? }] }',
    output: 'intervals, total, corrected, changePct, cost, unpricedKWh, resets, setbacks, standby, findings',
    example:
      '{"readings":[{"at":"2026-03-01T00:00:00Z","kWh":40},{"at":"2026-04-01T00:00:00Z","kWh":52.4}],"prices":[{"from":"2026-01-01T00:00:00Z","perKWh":0.28}]}',
    run: async (input) => (await import('@fresh-coat/core/metering/energy')).correctEnergy(input),
  },
  'topics plan': {
    kind: 'json',
    line: 'names → unique slugs and MQTT topics, and names that people confuse',
    input: '{ base, site, maxSlug?, units: [{ id, number, name, spoken?, pinned?, meter?, channels? }], groups? }',
    output: 'units, groups, collisions, warnings, findings',
    example:
      '{"base":"yard","site":"lantern","units":[{"id":"LY-07","number":7,"name":"Glue pot"},{"id":"LY-08","number":8,"name":"Glue Pot!"}]}',
    run: async (input) => (await import('@fresh-coat/core/topics/plan')).planTopics(input),
  },
  'thing export': {
    kind: 'json',
    line: 'a unit → its W3C Thing Description, without a credential',
    input:
      '{ unit: { id, number, uuid, name, room?, firmware?, channels: [{ slug, name? }], meter? }, mqtt?: { host, port?, tls?, prefix }, http?: { base }, security?, mqttVocab? }',
    output: 'the Thing Description',
    example:
      '{"unit":{"id":"LY-07","number":7,"uuid":"5b1c2f0e-7d3a-4c55-9a10-2f6d8e0b7c41","name":"Glue pot","channels":[{"slug":"1"}]},"http":{"base":"http://192.168.71.40"}}',
    run: async (input) => (await import('@fresh-coat/core/network/thing')).thingOf(input),
  },
  'topics parse': {
    kind: 'json',
    line: 'a pattern and a topic, or values → what the topic says, the topic, or what to subscribe to',
    input: '{ op: "parse", pattern, topic } | { op: "render", pattern, vars } | { op: "filter", pattern, vars? }',
    output: 'match, vars | topic, roundTrip | filter',
    example:
      '{"op":"parse","pattern":"{base}/{site}/{unit}/ch{n:int}/{leaf:state|set|event}","topic":"yard/lantern/glue-pot-7/ch2/state"}',
    run: async (input) => (await import('@fresh-coat/core/topics/pattern')).parseTopics(input),
  },
}
