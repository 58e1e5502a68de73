'use client'
import { bootAdvice } from '@fresh-coat/core/boot/boot-log'
import { chooseEntry } from '@fresh-coat/core/boot/entry'
import { entryMethods, factsOf, isKnownFamily } from '@fresh-coat/core/families/families'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { padsOf } from '@fresh-coat/core/steps/pads/facts'
import { dividerOf, entryLogOf, jigOf, wiringOf } from '@fresh-coat/core/steps/wire/facts'
import { entryInstructions, leadsInOrder } from '@fresh-coat/core/steps/wire/instructions'
import { holds } from '@fresh-coat/core/steps/wire/record'
import { designDivider, dividerWords, seriesNames } from '@fresh-coat/core/wiring/divider'
import { leadColours } from '@fresh-coat/core/wiring/wiring'
import { useState } from 'react'
import { JigDrawing, StraightDrawing } from '@/components/drawings/jig-drawing'
import { WiringDrawing } from '@/components/drawings/wiring-drawing'
import { AreaField, Choice, NumberField, SelectField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { InstructionList } from '@/components/frame/instruction-list'
import Link from '@/components/link'
import { amount, buttonClass, Findings, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'

const entryWords = {
  button: 'Button on the strap',
  jumper: 'Jumper from BOOT to ground',
  autoreset: 'Adapter does it (DTR, RTS)',
  window: 'Power window',
  call: 'Call byte',
}
const holdLabels = { hand: 'Hand', jig: 'A jig', plug: 'A plug', solder: 'Solder' }
const contactWords = {
  header: 'A pin header fits.',
  fine_header_or_clip: 'A fine header or a clip fits.',
  clip_or_solder: 'Use a clip, or solder: a square pin is too thick.',
  solder: 'Solder thin wires.',
}

export function WireSurface({ view, record, choices, gates, act }: SurfaceProps<'wire'>) {
  const { data, patch } = record
  const plan = wiringOf(view)
  const family = familyOf(view)?.family ?? null
  const pads = padsOf(view)
  const usual = family && isKnownFamily(family) ? factsOf(family).entry : []
  const advised =
    family && view.adapter
      ? chooseEntry({ family, adapterPins: view.adapter.pins, pads: pads.pads, bootBy: pads.bootBy })
      : null
  return (
    <>
      <StepHeading title="Wire the adapter to the pads">
        {view.adapter
          ? `${view.adapter.pins.length}-pin adapter to ${pads.pads.length} pads.`
          : 'Choose the adapter; the list of leads follows from the pads.'}{' '}
        {plan?.contact && contactWords[plan.contact]}
      </StepHeading>
      {gates}
      <div className="grid gap-3 sm:grid-cols-2">
        <SelectField
          label="Adapter"
          value={data.adapterId}
          options={choices.adapters.map((a) => ({
            value: a.id,
            label: `${a.name} (${a.logicV} V, ${a.max3v3Ma ? `${a.max3v3Ma} mA` : 'current not known'})`,
          }))}
          onChange={(adapterId) => patch({ adapterId })}
          hint={
            choices.adapters.length === 0 ? (
              <Link href="/kit" className="underline">
                Add your adapter under Kit
              </Link>
            ) : (
              ''
            )
          }
        />
        <SelectField
          label="Into download mode by"
          value={data.entry}
          options={entryMethods.map((e) => ({
            value: e,
            label: `${entryWords[e]}${e === advised ? ' (suits what is known)' : usual.includes(e) ? '' : ' (unusual here)'}`,
          }))}
          onChange={(entry) => patch({ entry })}
          hint={
            advised && data.entry !== advised ? (
              <button type="button" className="underline" onClick={() => patch({ entry: advised })}>
                Take {entryWords[advised].toLowerCase()}
              </button>
            ) : (
              ''
            )
          }
        />
        <Choice
          label="3.3 V comes from"
          value={data.power}
          options={[
            { value: 'adapter3v3', label: 'Adapter 3V3' },
            { value: 'bench', label: 'Bench supply' },
            { value: 'adapter5v', label: 'Adapter 5V' },
          ]}
          onChange={(power) => patch({ power })}
        />
        {data.power === 'bench' && (
          <NumberField
            label="Bench supply set to"
            unit="V"
            min={0}
            max={60}
            value={data.benchV}
            onChange={(v) => v !== null && patch({ benchV: v })}
          />
        )}
      </div>
      {plan && view.adapter ? (
        <>
          <WiringDrawing
            pins={view.adapter.pins}
            pads={pads.pads}
            plan={plan}
            adapterName={view.adapter.name}
            boardName={`Unit ${view.number}`}
            family={family ?? ''}
          />
          <Findings findings={plan.findings} empty="Logic, supply and leads: nothing speaks against it." />
          <Divider view={view} record={record} />
          <Block title="Leads, in the order to connect">
            <p className="text-ink-2">
              The adapter is not in the computer yet: its TX would feed the part. GND first, supply last; to disconnect,
              supply first.
            </p>
            <ol className="grid gap-1 sm:grid-cols-2">
              {leadsInOrder(view).map((c, i) => (
                <li
                  key={`${c.adapter}-${c.pad}`}
                  className={`flex items-center gap-2 rounded-[8px] border px-3 ${data.joined.includes(c.pad) ? 'border-verdigris bg-ok-soft' : 'border-rule-2'}`}
                >
                  <span className="pin w-5 text-ink-3">{i + 1}</span>
                  <Tick
                    label={
                      <>
                        Adapter <strong className="pin">{c.pin}</strong> (pin {c.adapter + 1}) to pad{' '}
                        <strong className="pin">{c.pad}</strong>, {leadColours[c.pad]}
                      </>
                    }
                    checked={data.joined.includes(c.pad)}
                    onChange={(on) =>
                      patch({ joined: on ? [...data.joined, c.pad] : data.joined.filter((x) => x !== c.pad) })
                    }
                  />
                </li>
              ))}
            </ol>
          </Block>
          <Choice
            label="The leads are held by"
            value={data.held}
            options={holds.map((h) => ({ value: h, label: holdLabels[h] }))}
            onChange={(held) => patch({ held })}
          />
          <PlugOrJig view={view} record={record} />
        </>
      ) : (
        <p className="rounded-[10px] border border-dashed border-rule p-4 text-ink-2">
          The drawing appears when family, pads, adapter and entry are known.
        </p>
      )}
      <Block title="Into download mode">
        <InstructionList
          steps={entryInstructions(view, 'read')}
          empty="Choose the way into download mode: the steps are made from it."
        />
        <EntryLog view={view} record={record} act={act} />
      </Block>
    </>
  )
}

/** Two resistors in front of RX, for an adapter that drives more than 3.3 V. */
function Divider({ view, record }: Pick<SurfaceProps<'wire'>, 'view' | 'record'>) {
  const { data, patch } = record
  const [series, setSeries] = useState<(typeof seriesNames)[number]>('E24')
  const volts = view.adapter?.logicV ?? 3.3
  if (volts <= 3.6 && data.divider === null) return null
  const check = dividerOf(view)
  const pairs = designDivider(volts, 3.2, series)
  return (
    <Block title="Divider in front of the board’s RX">
      <p className="text-ink-2">
        Only the line into the board needs it: the board’s 3.3 V is a valid high for a {volts} V adapter.
      </p>
      <div className="flex flex-wrap items-end gap-3">
        <Choice
          label="From series"
          value={series}
          options={seriesNames.map((s) => ({ value: s, label: s }))}
          onChange={setSeries}
        />
        {pairs.map((p) => (
          <button
            key={`${p.rTop}-${p.rBottom}`}
            type="button"
            className={buttonClass('plain')}
            onClick={() => patch({ divider: { rTop: p.rTop, rBottom: p.rBottom } })}
          >
            <span className="pin">
              {amount(p.rTop)} / {amount(p.rBottom)} Ω
            </span>
            <span className="ml-2 font-normal">{p.vout.toFixed(2)} V</span>
          </button>
        ))}
      </div>
      {data.divider && (
        <div className="flex flex-wrap items-end gap-3">
          <NumberField
            label="From adapter TX to RX"
            unit="Ω"
            min={1}
            max={1e7}
            value={data.divider.rTop}
            onChange={(rTop) => rTop && data.divider && patch({ divider: { ...data.divider, rTop } })}
            className="w-[11rem]"
          />
          <NumberField
            label="From RX to GND"
            unit="Ω"
            min={1}
            max={1e7}
            value={data.divider.rBottom}
            onChange={(rBottom) => rBottom && data.divider && patch({ divider: { ...data.divider, rBottom } })}
            className="w-[11rem]"
          />
          <button type="button" className={buttonClass('quiet')} onClick={() => patch({ divider: null })}>
            No divider
          </button>
        </div>
      )}
      {check && (
        <p className="flex gap-2.5" aria-live="polite">
          <Tag severity={check.verdict === 'ok' ? 'ok' : 'error'}>{check.verdict.replace('_', ' ')}</Tag>
          <span>
            {check.vout.toFixed(2)} V reach RX. {dividerWords[check.verdict]} At {amount(view.records.check.data.baud)}{' '}
            baud an edge takes {check.riseNs.toFixed(0)} ns, {check.risePct.toFixed(1)} % of a bit.
          </span>
        </p>
      )}
    </Block>
  )
}

/** Straight plug where one goes; else a jig, drawn to scale. */
function PlugOrJig({ view, record }: Pick<SurfaceProps<'wire'>, 'view' | 'record'>) {
  const { data, patch } = record
  const plan = jigOf(view)
  const pads = padsOf(view)
  const made = view.board?.unitNumbers.length ?? 0
  if (!view.adapter) return null
  return (
    <Block title="Plug it straight on, or make a jig">
      <div className="flex flex-wrap items-end gap-x-5 gap-y-2">
        <Choice
          label="The plug goes on from the"
          value={data.plugFace}
          options={[
            { value: 'top', label: 'parts side' },
            { value: 'bottom', label: 'solder side' },
          ]}
          onChange={(plugFace) => patch({ plugFace })}
        />
        <NumberField
          label="Pitch of the adapter’s row"
          unit="mm"
          min={0.3}
          max={10}
          value={data.adapterPitchMm}
          onChange={(n) => n && patch({ adapterPitchMm: n })}
          className="w-[11rem]"
        />
      </div>
      {plan === null && (
        <p className="text-ink-2">
          {(pads.rows ?? 1) > 1
            ? 'The pads are not one row: use loose wires.'
            : data.power === 'adapter5v'
              ? 'With 5 V on the row use loose wires.'
              : 'GND, TX, RX and 3V3 must be known, and on the adapter too.'}
        </p>
      )}
      {plan?.straight && (
        <>
          <StraightDrawing plug={plan.straight} adapter={view.adapter.pins} pads={plan.padsInView} />
          <p>
            {plan.straight.orientation === 'reversed' ? 'Turned round, it goes straight on. ' : 'It goes straight on. '}
            {plan.straight.bend.length === 0
              ? 'No pin has to be bent.'
              : `Bend away and insulate ${plan.straight.bend.map((i) => `${view.adapter?.pins[i]} (pin ${i + 1})`).join(', ')}: a bent pin must touch nothing.`}{' '}
            {plan.straight.orientation === 'reversed' &&
              'Its body then lies on the other side: see that nothing tall is there.'}
          </p>
        </>
      )}
      {plan?.jig && (
        <>
          <p>
            {plan.reason === 'pitch'
              ? 'The pitches differ, so it never plugs straight on.'
              : 'The order of the rows differs, and bending a pin does not move its neighbours.'}{' '}
            {plan.jig.crossings === 0
              ? 'On a jig no wire crosses another.'
              : `On a jig ${plan.jig.crossings} ${plan.jig.crossings === 1 ? 'pair crosses' : 'pairs cross'}: ${plan.jig.topWires} insulated wire${plan.jig.topWires === 1 ? '' : 's'} on top, the rest bare below.`}{' '}
            {made >= 3
              ? `${made} units of this board are on record: it is worth its half hour.`
              : 'It is worth its half hour from the third unit of a board on.'}
          </p>
          <div className="grid max-w-[620px] gap-4 sm:grid-cols-2">
            {(['parts', 'solder'] as const).map((side) => (
              <figure key={side} className="grid justify-items-start gap-1">
                <JigDrawing
                  jig={plan.jig as NonNullable<typeof plan.jig>}
                  adapter={view.adapter?.pins ?? []}
                  pads={plan.padsInView}
                  side={side}
                  pitchPads={pads.pitchMm ?? 2.54}
                  pitchAdapter={data.adapterPitchMm}
                />
                <figcaption className="text-[0.9rem] text-ink-2">{side} side</figcaption>
              </figure>
            ))}
          </div>
          <Link href={`/units/${view.number}/jig`} className={`${buttonClass('plain')} justify-self-start`}>
            Print it 1:1, with its parts
          </Link>
        </>
      )}
    </Block>
  )
}

const evidenceFor: Record<string, string> = { LX106: 'cause', LX6: 'rst', LX7_or_RV32: 'rst' }

/** What came out of TX through the reset, judged; a legible boot text is evidence for the family too. */
function EntryLog({ view, record, act }: Pick<SurfaceProps<'wire'>, 'view' | 'record' | 'act'>) {
  const { data, patch } = record
  const [fault, setFault] = useState('')
  const boot = entryLogOf(view)
  const last = boot?.lines.at(-1)
  const good = boot?.verdict === 'serial_download' || boot?.verdict === 'loader_waiting'
  const form = boot?.family ? (evidenceFor[boot.family] ?? null) : null
  const value =
    form && data.logBaud && [74880, 115200].includes(data.logBaud)
      ? `${form}_${data.logBaud}`
      : boot?.verdict === 'loader_waiting' && data.logBaud === 115200
        ? 'c_115200'
        : null
  const readBytes = async (file: File | undefined) => {
    setFault('')
    if (!file) return
    if (file.size === 0) return setFault('The file is empty. Nothing was taken; save the capture again.')
    if (file.size > 200_000)
      return setFault(
        `This capture has ${amount(file.size)} bytes; one reset has far fewer. Save only the part around it.`,
      )
    const bytes = new Uint8Array(await file.arrayBuffer())
    patch({ log: '', logHex: [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('') })
  }
  return (
    <Fold summary="What its TX says through the reset" startOpen={boot !== null}>
      <div className="flex flex-wrap items-end gap-4">
        <Choice
          label="Read at"
          value={data.logBaud === null ? null : String(data.logBaud)}
          options={['74880', '115200', '9600', '57600'].map((b) => ({ value: b, label: amount(Number(b)) }))}
          onChange={(b) => patch({ logBaud: Number(b) })}
        />
        <label
          className={`${buttonClass('plain')} cursor-pointer focus-within:outline-3 focus-within:outline-ochre-line`}
        >
          Bytes saved by a console
          <input type="file" className="sr-only" onChange={(e) => void readBytes(e.target.files?.[0])} />
        </label>
        {data.logHex && (
          <p className="pb-2 text-ink-2">
            {amount(data.logHex.length / 2)} bytes of a capture.{' '}
            <button type="button" className="underline" onClick={() => patch({ logHex: '' })}>
              Leave them out
            </button>
          </p>
        )}
      </div>
      {fault && (
        <p role="alert" className="font-semibold text-oxide">
          {fault}
        </p>
      )}
      {!data.logHex && (
        <AreaField
          label="Or its text, pasted"
          value={data.log}
          maxLength={200_000}
          rows={4}
          placeholder="What the console printed through the reset"
          onChange={(log) => patch({ log })}
        />
      )}
      {boot && (
        <div className="grid gap-1.5" aria-live="polite">
          <p className="flex flex-wrap items-center gap-2.5">
            <Tag severity={good ? 'ok' : 'error'}>{boot.verdict.replaceAll('_', ' ')}</Tag>
            <strong>
              {good ? 'It is in download mode. ' : ''}
              {bootAdvice[boot.verdict]}
            </strong>
          </p>
          <p className="text-ink-2">
            {Math.round(boot.printable * 100)} % of it is text.
            {boot.likelyBaud !== null && ` It was sent at ${amount(boot.likelyBaud)} baud: read it again at that rate.`}
            {last &&
              ` The last boot line is from ${last.family.replaceAll('_', ' ')}: ${last.cause.replaceAll('_', ' ')}, mode ${last.mode}; ${Object.entries(
                last.strap,
              )
                .map(([pin, level]) => `${pin} ${level ? 'high' : 'low'}`)
                .join(', ')}.`}
          </p>
          {value && (
            <button
              type="button"
              className={`${buttonClass('quiet')} justify-self-start`}
              onClick={() => void act('add-evidence', { unitId: view.id, kind: 'boot_text', value })}
            >
              Take this text as evidence for the family
            </button>
          )}
        </div>
      )}
    </Fold>
  )
}
