import { grouped } from '../bytes/text'
import { type Finding, hasError } from '../edge/finding'
import { headerless } from '../image/inspect'
import { closingFindings, legendFindings, orderConflicts, type PhotoTag, photoTags } from '../open/opening'
import { checkTemplate } from '../pins/check'
import { confidenceOf, isIdle } from '../pins/template'
import {
  backupOf,
  bootOf,
  channelsOf,
  factsOfUnit,
  familyOf,
  identificationOf,
  isolationOf,
  lastWrite,
  padStateOf,
  padsOf,
  preflightOf,
  templateOf,
  wiringOf,
} from './facts'
import { type GateId, gateWords, type StepId, stepOf } from './steps'
import type { HubTest, UnitView } from './view'

/** One thing that must hold before a step is done. */
export interface Condition {
  met: boolean
  /** What holds, or what is missing, as a sentence. */
  text: string
  /** The way out when it is not met. */
  next: string
}

const must = (met: boolean, yes: string, no: string, next: string): Condition => ({
  met,
  text: met ? yes : no,
  next: met ? '' : next,
})

export const decisionLength = 15
const longEnough = (reason: string | undefined) => (reason ?? '').trim().length >= decisionLength

/** Gates that stand in front of a step for this unit, in order. */
export function gatesFor(view: UnitView, step: StepId): GateId[] {
  const mains = view.board?.mains !== false
  const list = stepOf(step).gates.filter((gate) => mains || gate === 'licensed')
  const onWall =
    view.board?.fixedWiring === true &&
    (step === 'open' || step === 'behaviour' || step === 'meter' || step === 'prove')
  return onWall ? ['licensed', ...list] : [...list]
}

/** A confirmation holds on its own day only: the state may have changed overnight. */
export const gateHolds = (view: UnitView, gate: GateId): boolean =>
  view.gates.some((g) => g.gate === gate && g.day === view.today)

/** The hazard of this board in one sentence. */
export function hazardOf(view: UnitView, gate: GateId): string {
  const isolated = isolationOf(view).verdict === 'isolated'
  if (gate === 'discharged') return 'Capacitors of an opened mains unit hold their charge after the plug is out.'
  if (gate === 'case-closed')
    return isolated
      ? 'Mains parts are open to touch while the case is.'
      : 'This board isn’t isolated: every pad, wire and added sensor is live when plugged in.'
  if (gate === 'licensed')
    return 'This unit belongs into fixed wiring: the app records that it was handed over, and gives no instructions for it.'
  return isolated
    ? 'Serial and mains are never together, on isolated boards too.'
    : 'This board isn’t isolated: its ground is tied to the mains when it is plugged in.'
}

const gateConditions = (view: UnitView, step: StepId): Condition[] =>
  gatesFor(view, step).map((gate) =>
    must(
      gateHolds(view, gate),
      `${gateWords[gate].confirm}, confirmed today.`,
      `Not confirmed today: ${gateWords[gate].title}`,
      'Confirm the gate.',
    ),
  )

const firstError = (findings: readonly { severity: string; message: string; next: string }[]) =>
  findings.find((f) => f.severity === 'error')

const plain = (tag: string) => tag.replaceAll('_', ' ')

/** Another unit of this board has photos already: then one of this unit is enough. */
export const boardPhotographed = (view: UnitView): boolean =>
  (view.board?.photoCount ?? 0) > view.files.filter((f) => f.kind === 'photo').length

/** Photos that are wanted and not there. */
export function missingPhotos(view: UnitView): PhotoTag[] {
  const photos = view.files.filter((f) => f.kind === 'photo')
  if (boardPhotographed(view)) return photos.length > 0 ? [] : ['board_top']
  const mains = view.board?.mains !== false
  const { noTerminals } = view.records.open.data
  return photoTags.filter((tag) => {
    if (photos.some((p) => p.tag === tag)) return false
    if (tag === 'terminals_with_legend' || tag === 'wire_positions') return mains && !noTerminals
    return tag !== 'outside_rating_label' || mains
  })
}

/** What is wrong with the order of opening, or with opening before the legends were kept. */
export function openFindings(view: UnitView): Finding[] {
  const { fasteners, taken, terminals, noTerminals } = view.records.open.data
  const tags = view.files.flatMap((f) => (f.kind === 'photo' && f.tag ? [f.tag] : []))
  return [
    ...legendFindings({
      taken,
      noTerminals: noTerminals || view.board?.mains === false,
      terminals,
      photoTags: tags,
      boardKnown: boardPhotographed(view),
    }),
    ...orderConflicts(fasteners, taken),
  ]
}

/** What keeps the case from being closed. */
export const closeFindings = (view: UnitView): Finding[] =>
  closingFindings(view.records.open.data.fasteners, view.records.open.data.parts, view.records.close.data, view.now)

/** Below this the meter speaks against a role, as 97 % speaks for it. */
const spokenAgainst = 0.03

/**
 * GND and 3V3 measured on this unit, or the same row measured on another unit of the board while nothing that was
 * measured on this one speaks against it.
 */
export function railsProven(view: UnitView): boolean {
  const row = view.records.pads.data.pads
  const known = view.board?.pads?.pads
  const { solution } = padStateOf(view)
  const contradicted = (known ?? []).some(
    (r, i) => (r === 'GND' || r === '3V3') && (solution?.marginals[i]?.[r] ?? 1) < spokenAgainst,
  )
  if (
    known &&
    !contradicted &&
    (row.length === 0 || (row.length === known.length && row.every((r, i) => r === known[i])))
  )
    return true
  if (!solution?.safeToWire) return false
  return (['GND', '3V3'] as const).every((role) =>
    row.some((r, i) => r === role && solution.best.roles[i] === role && (solution.marginals[i]?.[role] ?? 0) >= 0.97),
  )
}

/** Tests of the hub step that still rest on today's facts. */
export function standingTests(view: UnitView): HubTest[] {
  const facts = factsOfUnit(view)
  return view.hubTests.filter((t) => t.ok && stepOf('hub').restsOn.every((f) => (t.basis[f] ?? '') === facts[f]))
}

const own: Record<StepId, (view: UnitView) => Condition[]> = {
  arrive: (view) => {
    const { triedAsSold } = view.records.arrive.data
    return [
      must(
        view.board !== null,
        `It is a ${view.board?.name}.`,
        'The board is not named yet.',
        'Choose a known board, or name a new one.',
      ),
      must(view.route !== null, 'A route is chosen.', 'No route is chosen.', 'Choose how it will get its firmware.'),
      must(
        triedAsSold !== null,
        triedAsSold === 'faulty' ? 'Tried as sold: faulty.' : 'Tried as sold: it works.',
        'It has not been tried as sold.',
        'Plug it in once, closed, and see whether it works at all.',
      ),
    ]
  },
  open: (view) => {
    const { terminals, noTerminals } = view.records.open.data
    const wrong = openFindings(view)[0]
    const named = terminals.filter((t) => t.place.trim() !== '')
    const photos = view.files.filter((f) => f.kind === 'photo')
    const isolation = isolationOf(view)
    const known = boardPhotographed(view)
    const missing = missingPhotos(view)
    return [
      must(
        noTerminals || named.length >= 2,
        noTerminals ? 'It has no terminals.' : `${named.length} terminals are written down.`,
        'The legends are not written down.',
        'Record which terminal is line and which is neutral before taking the cover off.',
      ),
      must(
        missing.length === 0,
        `${photos.length} photo${photos.length === 1 ? '' : 's'} kept.`,
        photos.length === 0 ? 'There is no photo yet.' : `No photo yet of: ${missing.map(plain).join(', ')}.`,
        known ? 'One of this unit is enough: the board has its photos.' : 'Take them before anything is separated.',
      ),
      must(wrong === undefined, 'The order of opening holds.', wrong?.message ?? '', wrong?.next ?? ''),
      must(
        view.board?.mains === false ||
          Object.keys(view.records.open.data.isolation).length > 0 ||
          view.board?.isolation != null,
        `Isolation is judged: ${isolation.verdict}.`,
        'Isolation is not judged.',
        'Answer the questions; “don’t know” is an answer.',
      ),
    ]
  },
  identify: (view) => {
    const { decision } = view.records.identify.data
    const found = identificationOf(view)
    // Never a round 100 that nobody computed.
    const share = found ? found.posterior[found.leader] : 0
    const best = share >= 0.9995 && share < 1 ? 'over 99.9' : (share * 100).toFixed(1)
    if (decision)
      return [
        must(
          longEnough(decision.reason),
          `Decided: ${decision.family}.`,
          'The decision has no reason yet.',
          `Write a sentence of at least ${decisionLength} characters.`,
        ),
      ]
    return [
      must(
        (found?.conflicts.length ?? 0) === 0,
        'Nothing disagrees.',
        `${found?.conflicts.length} observation disagrees with the rest.`,
        'Look again at the one named, or record a decision.',
      ),
      must(
        found?.verdict === 'identified' || found?.verdict === 'arm968_unsplit',
        found?.verdict === 'arm968_unsplit'
          ? 'ARM968, variant not split: worked as variant A.'
          : `${found?.leader} at ${best} %.`,
        `The leader has ${best} %; 95 % are needed.`,
        'Make the next check, or record a decision.',
      ),
    ]
  },
  pads: (view) => {
    const row = padsOf(view)
    const family = familyOf(view)?.family ?? null
    const missing = (['GND', '3V3', 'TX', 'RX'] as const).filter((role) => !row.pads.includes(role))
    const boot = headerless(family) || row.bootBy === 'button' || (row.bootBy === 'pad' && row.pads.includes('BOOT'))
    const proven = railsProven(view)
    return [
      must(
        proven,
        'GND and 3V3 are proven.',
        'GND and 3V3 are not proven by a meter yet.',
        'Swapping these two destroys the part: measure both, unpowered. Print alone is not enough.',
      ),
      must(
        missing.length === 0,
        'GND, 3V3, TX and RX are known.',
        `Not known yet: ${missing.join(', ')}.`,
        'Measure, and set the role of each pad.',
      ),
      must(
        boot,
        headerless(family) ? 'This family needs no boot strap.' : `BOOT is reached by ${row.bootBy}.`,
        'How BOOT is reached is not known.',
        'Find its pad, or a button that joins it to ground.',
      ),
    ]
  },
  wire: (view) => {
    const plan = wiringOf(view)
    const error = plan ? firstError(plan.findings.filter((f) => f.code !== 'mains-on')) : undefined
    return [
      must(
        view.adapter !== null,
        `${view.adapter?.name} is chosen.`,
        'No adapter is chosen.',
        'Choose one from the kit.',
      ),
      must(
        plan !== null,
        'The way in is chosen.',
        'The way into download mode is not chosen.',
        'Choose how BOOT is held.',
      ),
      must(
        railsProven(view),
        'GND and 3V3 are proven.',
        'GND and 3V3 are not proven by a meter yet.',
        'Measure both under Find the pads: a label alone never opens the way to power.',
      ),
      must(
        plan !== null && error === undefined,
        `${plan?.connections.length} leads, nothing against it.`,
        error?.message ?? 'There is no plan yet.',
        error?.next ?? 'Choose adapter and entry.',
      ),
    ]
  },
  backup: (view) => {
    const backup = backupOf(view)
    const skip = view.records.backup.data.skip
    if (skip && backup.state !== 'verified')
      return [
        must(
          longEnough(skip.reason),
          'Skipped, with a reason.',
          'The reason for having no backup is too short.',
          `Write a sentence of at least ${decisionLength} characters.`,
        ),
      ]
    const words: Record<string, [string, string]> = {
      none: ['Nothing has been read yet.', 'Read the whole chip twice.'],
      single: backup.second
        ? ['The reads agree but are not a whole chip.', 'Read the whole chip from 0.']
        : ['It was read once.', 'Enter download mode again and read it a second time.'],
      differ: ['The two reads differ.', 'Reseat the wires, lower the rate, read again.'],
    }
    const [no = '', next = ''] = words[backup.state] ?? []
    return [must(backup.state === 'verified', `Two equal reads of ${grouped(backup.bytes ?? 0)} bytes.`, no, next)]
  },
  check: (view) => {
    const result = preflightOf(view)
    const error = result ? firstError(result.findings) : undefined
    const open = (result?.findings ?? []).filter(
      (f) => f.severity === 'watch' && !view.records.check.data.answered.includes(f.code),
    )
    return [
      must(
        view.image !== null,
        `${view.image?.name} is chosen.`,
        'No image is chosen.',
        'Drop a file, or choose one from the vault.',
      ),
      must(
        result !== null && error === undefined,
        'Nothing stops it.',
        error?.message ?? 'It cannot be judged yet.',
        error?.next ?? 'Identify the unit and choose an image.',
      ),
      must(
        open.length === 0,
        'All warnings are answered.',
        `${open.length} warning${open.length === 1 ? ' is' : 's are'} open.`,
        'Read each and say that you know.',
      ),
    ]
  },
  write: (view) => {
    const last = lastWrite(view)
    return [
      must(
        last !== null,
        `Written${last ? `, ${last.minutes} min` : ''}.`,
        view.attempts.length ? `The last attempt ended ${view.attempts[0]?.outcome}.` : 'No attempt is logged.',
        'Write it and log how it went.',
      ),
      must(
        last?.verified === true,
        `Checked by ${last?.verify}.`,
        'The content was not checked after writing.',
        'Verify by digest or read-back.',
      ),
      must(
        last === null || view.image === null || last.sha256 === view.image.sha256,
        'It is the image that was checked.',
        'Another image was written than the one that was checked.',
        'Check that image, or write the checked one.',
      ),
    ]
  },
  start: (view) => {
    const boot = bootOf(view)
    const { seenBy, strapFree } = view.records.start.data
    const talks = boot?.verdict === 'flash_boot' || boot?.verdict === 'app_text'
    const wired = view.route !== 'ready-flashed'
    return [
      must(
        talks || seenBy === 'access point' || seenBy === 'light or click',
        talks ? 'The boot text shows it starting.' : `Seen starting: ${seenBy}.`,
        boot ? `The boot text says: ${boot.verdict.replaceAll('_', ' ')}.` : 'It has not been seen starting.',
        'Paste the boot text, or say how you saw it.',
      ),
      ...(wired
        ? [
            must(
              strapFree,
              'BOOT is free again.',
              'The jumper or button may still hold BOOT.',
              'Take the jumper off, then power off and on.',
            ),
          ]
        : []),
    ]
  },
  join: (view) => {
    const { address, confirmedBy } = view.records.join.data
    return [
      must(
        address.trim() !== '' && confirmedBy !== null,
        `Address ${address}, ${confirmedBy === 'match' ? 'by a sure match' : confirmedBy}.`,
        'Its address is not known.',
        'Paste a lease list or neighbour table, or type it.',
      ),
    ]
  },
  pins: (view) => {
    const template = templateOf(view)
    const check = template ? checkTemplate(template) : null
    const used = template?.pins.filter((p) => !isIdle(p.fn)) ?? []
    const open = used.filter((p) => confidenceOf(p.evidence) !== 'confirmed')
    return [
      must(used.length > 0, `${used.length} pins are recorded.`, 'No pin is recorded.', 'Add the pins you found.'),
      must(
        check !== null && !hasError(check.findings),
        'The template is possible.',
        check ? (firstError(check.findings)?.message ?? '') : 'There is no template.',
        'Correct the pin.',
      ),
      must(
        used.length > 0 && open.length === 0,
        'Every used pin is confirmed.',
        `Not confirmed yet: ${open.map((p) => p.pin).join(', ')}.`,
        'See each in two sittings, with a power cycle between.',
      ),
    ]
  },
  close: (view) => {
    const findings = closeFindings(view)
    return findings.length === 0
      ? [must(true, 'Parts left over: 0.', '', '')]
      : findings.map((f) => must(false, '', f.message, f.next))
  },
  behaviour: (view) => {
    const channels = channelsOf(view)
    const tried = view.records.behaviour.data.channels
    const open = channels.filter((ch) => !tried.some((c) => c.ch === ch && c.tried))
    return [
      must(
        channels.length > 0 && open.length === 0,
        'Every output was tried on the unit.',
        channels.length ? `Not tried yet: channel ${open.join(', ')}.` : 'The pin template has no outputs.',
        'Set what it does after a power cut, and try it.',
      ),
    ]
  },
  meter: (view) => {
    if (view.records.meter.data.noMeter || view.board?.hasMeter === false)
      return [must(true, 'It has no meter.', '', '')]
    const last = view.calibrations[0]
    return [
      must(
        last !== undefined,
        `Calibrated ${last?.at.slice(0, 10)}.`,
        'It is not calibrated.',
        'Take points and save the fit.',
      ),
      must(
        last === undefined || last.passed !== false,
        'Within its limits.',
        'The verify point is outside the limits.',
        'Look at the points and fit again.',
      ),
      must(
        last === undefined || last.due === null || last.due >= view.today,
        `Next re-check ${last?.due ?? 'not set'}.`,
        `The re-check was due ${last?.due}.`,
        'Take the points again.',
      ),
    ]
  },
  name: (view) => [
    must(view.name.trim() !== '', `It is called ${view.name}.`, 'It has no name.', 'Give it the name people say.'),
    must(
      view.slugClash === null,
      `Its topic is ${view.topic ?? ''}.`,
      view.slugClash ?? '',
      'Change one of the names.',
    ),
    must(
      view.records.name.data.reserved,
      'Its address is reserved.',
      'Its address is not reserved.',
      'Reserve it in the DHCP server, then say so.',
    ),
  ],
  hub: (view) => {
    const standing = standingTests(view)
    const has = (direction: HubTest['direction']) => standing.some((t) => t.direction === direction)
    const once = (direction: HubTest['direction']) => view.hubTests.some((t) => t.ok && t.direction === direction)
    const test = (direction: HubTest['direction'], seen: string) =>
      must(
        has(direction),
        seen,
        once(direction) ? `The test ${direction} is stale.` : `Not tested: ${direction}.`,
        'Test it and say what you saw.',
      )
    return [
      must(view.records.hub.data.hubId !== null, 'A hub is chosen.', 'No hub is chosen.', 'Choose the hub.'),
      test('hub to unit', 'Hub → unit seen at the load.'),
      test('button to hub', 'Button → hub seen.'),
    ]
  },
  prove: (view) => {
    const cut = view.records.prove.data.powerCut
    return [
      must(
        cut !== null && cut.cameBack === 'as wanted' && cut.seconds >= 10,
        'It came back as wanted after a power cut.',
        cut
          ? cut.seconds < 10
            ? 'The cut was shorter than 10 s.'
            : 'It came back otherwise.'
          : 'No power cut was tried.',
        'Switch its supply off for 10 s and watch it come back.',
      ),
    ]
  },
  watch: (view) => [must(view.inService, 'In service.', 'Not in service yet.', 'Finish Prove.')],
}

/** Everything that must hold for `step` to be done, gates first. */
export const conditionsOf = (view: UnitView, step: StepId): Condition[] => [
  ...gateConditions(view, step),
  ...own[step](view),
]
/** The same without gates: a gate of another day does not undo what was done. */
export const lastingConditions = (view: UnitView, step: StepId): Condition[] => own[step](view)
