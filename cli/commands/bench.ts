import type { Commands } from '../command'

/** Opening, identifying, pads, wiring, boot, and what a tool printed. */
export const bench: Commands = {
  identify: {
    kind: 'json',
    line: 'evidence → which chip family, what disagrees, which check next',
    input: '{ evidence: [{ kind, value | counts, sure? }], prior?: { family: p } }',
    output: 'posterior, leader, runnerUp, entropyBits, verdict, conflicts, next',
    example: '{"evidence":[{"kind":"crystal","value":"26"},{"kind":"flash_chip","value":"none"}]}',
    run: async (input) => (await import('@fresh-coat/core/identify/identify')).identify(input),
  },
  pads: {
    kind: 'json',
    line: 'readings at a row of pads → which pad is what, what disagrees, which reading next',
    input:
      '{ pads: [{ name?, cont_gnd?, ohms_3v3?, button_gnd?, square?, label?, volts?, volts_10k?, dip?, text? }], railKnown? }',
    output: 'best, runnerUp, marginals, conflicts, next, labelsSwapped, safeToWire, poweredAllowed, verdict',
    example: '{"pads":[{"ohms_3v3":0.4,"square":true},{"cont_gnd":false,"ohms_3v3":"open"},{"cont_gnd":true}]}',
    run: async (input) => (await import('@fresh-coat/core/pads/solve')).solvePads(input),
  },
  wiring: {
    kind: 'json',
    line: 'adapter and board → connection list and checks',
    input:
      '{ adapter: { pins, logicV, max3v3Ma?, labelledFrom }, board: { family, pads, pitchMm?, regulator5v?, peakMa? }, power, benchV, entry, mainsOff }',
    output: 'allowed, connections, findings, capacitorUf, contact',
    example:
      '{"adapter":{"pins":["GND","RX","TX","3V3"]},"board":{"family":"LX106","pads":["3V3","RX","TX","GND"]},"power":"adapter3v3","entry":"button","mainsOff":true}',
    run: async (input) => (await import('@fresh-coat/core/wiring/wiring')).planWiring(input),
  },
  jig: {
    kind: 'json',
    line: 'adapter row and pads → a straight plug with the fewest bent pins, or a jig',
    input: '{ adapter: [], pads: [], pitchAdapter?, pitchPads?, padsSeenFrom?, plugFace?, labelledFrom?, power? }',
    output: 'padsInView, straight, jig, reason',
    example: '{"adapter":["3V3","5V","TX","RX","GND"],"pads":["3V3","UNKNOWN","RX","TX","GND"]}',
    run: async (input) => (await import('@fresh-coat/core/wiring/jig')).planJig(input),
  },
  divider: {
    kind: 'json',
    line: 'two resistors in front of RX: checked at a rate, or designed from a series',
    input:
      '{ mode: "check", vin, rTop, rBottom, vdd?, baud?, loadPf? } or { mode: "design", vin, vout, series?, minTotal?, maxTotal? }',
    output: 'vout, rth, riseNs, bitNs, risePct, currentMa, verdict; or pairs',
    example: '{"mode":"check","vin":5,"rTop":1800,"rBottom":3300,"baud":115200}',
    run: async (input) => (await import('@fresh-coat/core/wiring/divider')).planDivider(input),
  },
  rehearse: {
    kind: 'json',
    line: 'hand moves with their times → did it reach download mode, what went wrong, a score',
    input: '{ family, events: [{ t, do }], goal?, railTauMs?, windowMs?, callMs? }',
    output: 'boots, end, mistakes, score',
    example:
      '{"family":"LX106","events":[{"t":0,"do":"strap_low"},{"t":400,"do":"power_on"},{"t":1500,"do":"strap_high"}]}',
    run: async (input) => (await import('@fresh-coat/core/boot/rehearse')).rehearse(input),
  },
  troubleshoot: {
    kind: 'json',
    line: 'symptom and answers → ranked causes, and the question that tells most per minute',
    input: '{ symptom, answers: [{ test, yes }] }',
    output: 'causes, entropyBits, next',
    example: '{"symptom":"no_answer","answers":[{"test":"new_port","yes":true}]}',
    run: async (input) => (await import('@fresh-coat/core/trouble/troubleshoot')).troubleshoot(input),
  },
  'boot-log': {
    kind: 'json',
    line: 'boot text or captured bytes → who talks, in which mode, what next',
    input: '{ text } or { bytesHex }, baud?',
    output: 'family, boots, mode, cause, strap, printable, likelyBaud, verdict, lines',
    example: '{"text":"rst:0x1 (POWERON),boot:0x5 (DOWNLOAD(USB/UART0/1))"}',
    run: async (input) => (await import('@fresh-coat/core/boot/boot-log')).readBootLog(input),
  },
  'paste read': {
    kind: 'json',
    line: 'what a tool printed → the facts in it, each with its line, and how it ended',
    input: '{ text, markings?: [{ text, family }] }',
    output: 'facts [{ kind, value, line }], outcome, outcomeLine, conflict',
    example: '{"text":"MAC address B8-3C-D0-77-1E-9A\\nflash id 684014, 1MB\\ndigest ok"}',
    run: async (input) => (await import('@fresh-coat/core/paste/paste')).readPaste(input),
  },
  'refit checks': {
    kind: 'json',
    line: 'contacts of a module → what the meter must say before any power',
    input: '{ contacts: [{ n, role, edge }], railOhms? }',
    output: 'checks',
    example: '{"contacts":[{"n":1,"role":"3V3","edge":"left"},{"n":2,"role":"GND","edge":"left"}]}',
    run: async (input) => (await import('@fresh-coat/core/refit/refit')).refitChecks(input),
  },
  'refit judge': {
    kind: 'json',
    line: 'readings against those checks → go, wait or stop, and where the joint is bad',
    input: '{ contacts, railOhms?, readings: { id: ohms | null } }',
    output: 'results [{ id, verdict, code, because }], verdict, findings',
    example:
      '{"contacts":[{"n":1,"role":"3V3","edge":"left"},{"n":2,"role":"GND","edge":"left"}],"readings":{"rail":350,"1-2":350,"C-1":0.3,"C-2":0.2}}',
    run: async (input) => (await import('@fresh-coat/core/refit/refit')).judgeRefit(input),
  },
}
