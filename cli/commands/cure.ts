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
  'pins check': {
    kind: 'json',
    line: 'pin template → is it possible, what happens at power-up',
    input: '{ template } (docs/formats/pin-template.schema.json)',
    output: 'verdict, counts, findings',
    example:
      '{"template":{"format":"fresh-coat/pin-template","version":1,"board":"p1","family":"LX106","pins":[{"pin":"GPIO12","fn":"relay","ch":1},{"pin":"GPIO0","fn":"button","ch":1,"pull":"up"}]}}',
    run: async (input) => (await import('@fresh-coat/core/pins/check')).checkPins(input),
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
  'topics plan': {
    kind: 'json',
    line: 'names → unique slugs and MQTT topics, and names that people confuse',
    input: '{ base, site, maxSlug?, units: [{ id, number, name, spoken?, pinned?, meter?, channels? }], groups? }',
    output: 'units, groups, collisions, warnings, findings',
    example:
      '{"base":"yard","site":"lantern","units":[{"id":"LY-07","number":7,"name":"Glue pot"},{"id":"LY-08","number":8,"name":"Glue Pot!"}]}',
    run: async (input) => (await import('@fresh-coat/core/topics/plan')).planTopics(input),
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
