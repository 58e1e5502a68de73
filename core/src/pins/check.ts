import { z } from 'zod'
import { type Outcome, parseInput, shapeCodes } from '../edge/fault'
import { type PlacedFinding, type Severity, worstOf } from '../edge/finding'
import { byText } from '../edge/order'
import {
  activeLevel,
  confidenceOf,
  confidences,
  isIdle,
  isLoad,
  type PinFunction,
  PinTemplate,
  pwmFunctions,
  type TemplatePin,
} from './template'
import { naturalOrder, pinFacts } from './words'

export type PinFinding = PlacedFinding<string>

export interface PinsCheck {
  verdict: Severity
  counts: Record<Severity, number>
  findings: PinFinding[]
}

/** Message and remedy per rule; the pin and the facts come from the check. */
const ruleWords: Record<string, [message: string, next: string]> = {
  T01: ['This pin does not exist on the family.', 'Correct the pin, or check the family.'],
  T02: ['This pin belongs to the flash: driving it stops the program.', 'Choose another pin.'],
  T03: ['This pin can only listen; it cannot drive anything.', 'Choose another pin.'],
  T04: ['This pin is analog only.', 'Use it for analog, or choose another pin.'],
  T05: [
    'The boot log comes out here: it flickers an LED or chatters a relay, and a contact can block flashing.',
    'Move it if the board allows.',
  ],
  T06: ['The meter shares the console.', 'Switch the log off, and disconnect the meter for flashing.'],
  T07: [
    'Its level can be low at power-up: the unit does not start, or sits in download mode.',
    'Move it, or make it active low with a pull-up.',
  ],
  T08: [
    'Held at power-up it changes how the chip starts.',
    'Handy on the boot strap; elsewhere do not hold it at power-up.',
  ],
  T09: ['It idles high on a strap that must be low: the unit does not start.', 'Move it, or invert it.'],
  T10: ['The unit starts, but serial download may fail while this is active.', ''],
  T11: ['It is on for a moment at power-up, before the firmware runs.', 'Test with the load disconnected.'],
  T12: ['The pin has no pull-up: it would read noise.', 'Fit a resistor and say extPull.'],
  T13: ['A floating input triggers itself.', 'Set a pull, or say extPull when a resistor is fitted.'],
  T14: ['The pull holds it at its active level: it never changes.', 'Turn the pull or the active level round.'],
  T15: ['The pin has no usable PWM: on and off only, or flicker.', 'Choose another pin.'],
  T16: ['The pin is listed twice.', 'Keep one of the two.'],
  T17: ['The same function is there twice on one channel.', 'Give it another channel.'],
  T18: ['This input works nothing: its channel has no output.', 'Link it to a channel with a relay or light.'],
  T19: ['Only a part of the pulse meter is there.', 'Find the other pins; pulse-power alone still gives watts.'],
  T20: ['The serial meter has one direction only.', 'meter-tx needs meter-rx; some meters talk unasked.'],
  T21: ['A latching relay needs both coils on one channel.', 'Find the other coil.'],
  T22: ['Without interlock both windings of the motor can be on at once.', 'Set interlock.'],
  T23: ['The motor is reversed before it stands still.', 'Set a dead time of 300 ms or more.'],
  T24: ['The motor names a channel without a relay.', 'Correct the channel.'],
  T25: ['It moves or heats by itself after a power cut.', 'Start it off.'],
  T26: ['The voltage here cannot be measured by this pin.', 'Choose an analog pin, or divide the voltage.'],
  T27: ['The rating is higher than the evidence gives.', 'See it once more after a power cycle.'],
  T28: ['There is no control on the unit itself.', ''],
  T29: ['There is no button: recovery by holding one is lost.', ''],
  T30: [
    'Its transistor or LED holds the strap low at power-up unless a strong pull-up is fitted.',
    'Check that it starts; an active-low LED is fine.',
  ],
}

const sensors: ReadonlySet<PinFunction> = new Set(['button', 'touch', 'motion'])
const contacts: ReadonlySet<PinFunction> = new Set(['switch', 'ac-sense', 'pulse-power', 'pulse-volt-amp'])
const meters: ReadonlySet<PinFunction> = new Set(['meter-tx', 'meter-rx'])
const buses: ReadonlySet<PinFunction> = new Set(['i2c-sda', 'i2c-scl', 'one-wire'])
const localControls: ReadonlySet<PinFunction> = new Set(['button', 'switch', 'touch', 'ac-sense'])
const works: ReadonlySet<PinFunction> = new Set<PinFunction>(['relay', 'latch-set', ...pwmFunctions])
const oncePerChannel = (fn: PinFunction) =>
  (isLoad(fn) && fn !== 'led') ||
  fn === 'pulse-choice' ||
  fn === 'pulse-power' ||
  fn === 'pulse-volt-amp' ||
  meters.has(fn) ||
  buses.has(fn)

type Tell = (code: string, severity: Severity, at: string, because: string) => void

function motorChannels(template: PinTemplate): Set<number> {
  return new Set((template.motors ?? []).flatMap((m) => [m.open, m.close]))
}

/** What a load does before firmware runs: it is on when the pin shows its active level. */
function checkPowerUp(pin: TemplatePin, words: ReadonlySet<string>, ofMotor: boolean, tell: Tell): void {
  const level = activeLevel(pin)
  const shown = level === 'high' ? words.has('r1') || words.has('ru') : words.has('r0')
  if (!shown) return
  const weak = words.has('ru')
  const heavy = pin.fn === 'latch-set' || pin.fn === 'latch-reset' || (pin.fn === 'relay' && ofMotor)
  const severity: Severity = heavy ? (weak ? 'watch' : 'error') : pin.fn === 'relay' && !weak ? 'watch' : 'ok'
  tell(
    'T11',
    severity,
    pin.pin,
    `${pin.fn} is active ${level}; the pin is ${weak ? 'weakly pulled up' : level} at power-up.`,
  )
}

function checkStraps(pin: TemplatePin, words: ReadonlySet<string>, tell: Tell): void {
  const { fn } = pin
  const level = activeLevel(pin)
  const startsHigh = words.has('boot') || words.has('high')
  const strap = words.has('boot')
    ? 'the boot strap'
    : words.has('low')
      ? 'a strap that must be low'
      : 'a strap that must be high'
  const because = `${fn}, active ${level}, on ${strap}.`
  if (startsHigh && (contacts.has(fn) || (sensors.has(fn) && level === 'high'))) tell('T07', 'error', pin.pin, because)
  if (startsHigh && sensors.has(fn) && level === 'low')
    tell('T08', words.has('boot') ? 'ok' : 'watch', pin.pin, because)
  if (startsHigh && isLoad(fn) && level === 'high') tell('T30', 'watch', pin.pin, because)
  if (!words.has('low')) return
  if (sensors.has(fn) && level === 'high') tell('T08', 'watch', pin.pin, because)
  if (
    contacts.has(fn) ||
    meters.has(fn) ||
    buses.has(fn) ||
    (sensors.has(fn) && level === 'low') ||
    (isLoad(fn) && level === 'low')
  )
    tell('T09', 'error', pin.pin, because)
}

function checkPin(pin: TemplatePin, template: PinTemplate, repeated: boolean, tell: Tell): void {
  const { fn } = pin
  const facts = pinFacts(template.family, pin.pin)
  if (!facts) return tell('T01', 'error', pin.pin, `${pin.pin} is not in the pin table of ${template.family}.`)
  if (repeated) tell('T16', 'error', pin.pin, 'Listed before.')
  if (isIdle(fn)) return
  const { words } = facts
  const has = (word: string) => words.has(word)
  if (has('flash') || (has('flash4') && template.flashLines !== 2) || (has('flash8') && template.octal === true))
    return tell(
      'T02',
      'error',
      pin.pin,
      has('flash4') ? 'Memory bus, unless the flash runs on two data lines.' : 'Memory bus.',
    )
  if (has('aonly') && fn !== 'analog') return tell('T04', 'error', pin.pin, `${fn} on an analog-only pin.`)

  if (has('in') && (isLoad(fn) || fn === 'pulse-choice' || fn === 'meter-tx' || buses.has(fn)))
    tell('T03', 'error', pin.pin, `${fn} on an input-only pin.`)
  const console = has('tx') || has('rx')
  if ((console || has('log')) && !meters.has(fn))
    tell('T05', 'watch', pin.pin, `${fn} on ${console ? 'the console' : 'the second serial log'}.`)
  if (console && meters.has(fn)) tell('T06', 'ok', pin.pin, `${fn} on the console.`)
  checkStraps(pin, words, tell)
  if (has('dl0') || has('dl1'))
    tell('T10', 'ok', pin.pin, `Must be ${has('dl0') ? 'low' : 'high'} to enter download mode.`)
  const ofMotor = fn === 'relay' && motorChannels(template).has(pin.ch ?? 0)
  if (isLoad(fn)) checkPowerUp(pin, words, ofMotor, tell)
  const pull = pin.pull ?? 'none'
  if (pull === 'up' && has('nopull')) tell('T12', 'error', pin.pin, 'pull up on a pin without one.')
  if (fn === 'button' || fn === 'switch') {
    const level = activeLevel(pin)
    if (pull === 'none' && pin.extPull !== true) tell('T13', 'watch', pin.pin, 'No pull, inside or outside.')
    if ((level === 'low' && pull === 'down') || (level === 'high' && pull === 'up'))
      tell('T14', 'error', pin.pin, `Active ${level} with a pull ${pull}.`)
  }
  if (pwmFunctions.has(fn) && has('nopwm')) tell('T15', 'error', pin.pin, `${fn} needs PWM.`)
  if (isLoad(fn) && fn !== 'led') {
    if (ofMotor && (pin.start === 'on' || pin.start === 'last'))
      tell('T25', 'error', pin.pin, `A motor relay that starts ${pin.start}.`)
    else if (!ofMotor && pin.start === 'on') tell('T25', 'watch', pin.pin, `${fn} starts on.`)
  }
  if (fn === 'analog') {
    if (facts.adcVolts === null)
      tell('T26', 'error', pin.pin, has('adc2') ? 'Its ADC does not work while Wi-Fi is on.' : 'No ADC on this pin.')
    else if ((pin.maxV ?? 0) > facts.adcVolts)
      tell('T26', 'error', pin.pin, `${pin.maxV} V reach a pin that stands ${facts.adcVolts} V.`)
  }
  if (pin.confidence && confidences.indexOf(pin.confidence) > confidences.indexOf(confidenceOf(pin.evidence)))
    tell('T27', 'watch', pin.pin, `Rated ${pin.confidence}, the evidence gives ${confidenceOf(pin.evidence)}.`)
}

function checkChannels(template: PinTemplate, tell: Tell): void {
  const active = template.pins.filter((p) => !isIdle(p.fn))
  const has = (fn: PinFunction, ch?: number) =>
    active.some((p) => p.fn === fn && (ch === undefined || (p.ch ?? 0) === ch))
  const seen = new Set<string>()
  for (const pin of active) {
    const ch = pin.ch ?? 0
    const key = `${pin.fn} ${ch}`
    if (oncePerChannel(pin.fn)) {
      if (seen.has(key)) tell('T17', 'error', pin.pin, `A second ${pin.fn} on channel ${ch}.`)
      seen.add(key)
    }
    if (localControls.has(pin.fn) && ch >= 1 && !active.some((p) => works.has(p.fn) && (p.ch ?? 0) === ch))
      tell('T18', 'watch', pin.pin, `Channel ${ch} has no output.`)
  }
  const latches = new Set(active.filter((p) => p.fn === 'latch-set' || p.fn === 'latch-reset').map((p) => p.ch ?? 0))
  for (const ch of latches)
    if (has('latch-set', ch) !== has('latch-reset', ch))
      tell('T21', 'error', `ch${ch}`, `Only latch-${has('latch-set', ch) ? 'set' : 'reset'} on channel ${ch}.`)
  for (const motor of template.motors ?? []) {
    if (motor.interlock !== true)
      tell('T22', 'error', `ch${motor.open}`, `Motor on channels ${motor.open} and ${motor.close}.`)
    if ((motor.deadMs ?? 0) < 300) tell('T23', 'watch', `ch${motor.open}`, `Dead time ${motor.deadMs ?? 0} ms.`)
    for (const ch of new Set([motor.open, motor.close]))
      if (!has('relay', ch)) tell('T24', 'error', `ch${ch}`, `Channel ${ch} has no relay.`)
  }
}

function checkWhole(template: PinTemplate, tell: Tell): void {
  const active = template.pins.filter((p) => !isIdle(p.fn))
  const has = (fn: PinFunction) => active.some((p) => p.fn === fn)
  const pulse = (['pulse-power', 'pulse-volt-amp', 'pulse-choice'] as const).filter(has)
  if (pulse.length > 0 && pulse.length < 3) {
    const known = has('pulse-power') && !has('pulse-choice')
    tell('T19', known ? 'watch' : 'error', 'template', `Only ${pulse.join(' and ')}.`)
  }
  if (has('meter-tx') && !has('meter-rx')) tell('T20', 'error', 'template', 'meter-tx without meter-rx.')
  if (!has('meter-tx') && has('meter-rx')) tell('T20', 'ok', 'template', 'meter-rx alone.')
  const controls = active.filter((p) => localControls.has(p.fn))
  if (controls.length === 0) tell('T28', 'ok', 'template', 'No button, switch, touch pad or mains-sensing input.')
  else if (!has('button'))
    tell('T29', 'watch', 'template', `Only ${[...new Set(controls.map((p) => p.fn))].join(', ')}.`)
}

/** Rules T01 to T30 over a template that has been parsed. Sorted by code, then place in natural order. */
export function checkTemplate(template: PinTemplate): PinsCheck {
  const findings: PinFinding[] = []
  const tell: Tell = (code, severity, at, because) => {
    const [message, next] = ruleWords[code] as [string, string]
    findings.push({ code, severity, at, message, because, next })
  }
  const seen = new Set<string>()
  for (const pin of template.pins) {
    checkPin(pin, template, seen.has(pin.pin), tell)
    seen.add(pin.pin)
  }
  checkChannels(template, tell)
  checkWhole(template, tell)
  findings.sort((a, b) => byText(a.code, b.code) || naturalOrder(a.at, b.at))
  const counts: Record<Severity, number> = { error: 0, watch: 0, ok: 0 }
  for (const f of findings) counts[f.severity]++
  return { verdict: worstOf(findings), counts, findings }
}

/** Is this template possible on this family, and what will it do at power-up? */
export function checkPins(input: unknown): Outcome<PinsCheck> {
  const parsed = parseInput(z.object({ template: PinTemplate }), input, shapeCodes)
  return parsed.ok ? { ok: true, value: checkTemplate(parsed.value.template) } : parsed
}
