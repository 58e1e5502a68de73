'use client'
import { entryMethods, factsOf, isKnownFamily } from '@fresh-coat/core/families/families'
import { familyOf, padsOf, wiringOf } from '@fresh-coat/core/journey/facts'
import { leadColours } from '@fresh-coat/core/wiring/wiring'
import Link from 'next/link'
import { WiringDrawing } from '../drawings/wiring-drawing'
import { Choice, NumberField, SelectField } from '../fields'
import { Findings } from '../paint'
import type { SurfaceProps } from './context'
import { Block, StepHeading } from './heading'

const entryWords = {
  button: 'Button on the strap',
  jumper: 'Jumper from BOOT to ground',
  autoreset: 'Adapter does it (DTR, RTS)',
  window: 'Power window',
  call: 'Call byte',
}
const contactWords = {
  header: 'A pin header fits.',
  fine_header_or_clip: 'A fine header or a clip fits.',
  clip_or_solder: 'Use a clip, or solder: a square pin is too thick.',
  solder: 'Solder thin wires.',
}

export function WireSurface({ view, record, choices, gates }: SurfaceProps<'wire'>) {
  const { data, patch } = record
  const plan = wiringOf(view)
  const family = familyOf(view)?.family ?? null
  const pads = padsOf(view)
  const usual = family && isKnownFamily(family) ? factsOf(family).entry : []
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
            label: `${entryWords[e]}${usual.includes(e) ? '' : ' (unusual here)'}`,
          }))}
          onChange={(entry) => patch({ entry })}
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
          <Block title="Leads, in the order to connect">
            <p className="text-ink-2">
              The adapter is not in the computer yet: its TX would feed the part. GND first, supply last; to disconnect,
              supply first.
            </p>
            <ol className="grid gap-1 sm:grid-cols-2">
              {[...plan.connections]
                .sort((a, b) => Number(a.pad === '3V3' || a.pad === '5V') - Number(b.pad === '3V3' || b.pad === '5V'))
                .map((c, i) => (
                  <li
                    key={`${c.adapter}-${c.pad}`}
                    className="flex items-center gap-3 rounded-[8px] border border-rule-2 px-3 py-1.5"
                  >
                    <span className="pin w-5 text-ink-3">{i + 1}</span>
                    <span>
                      Adapter <strong className="pin">{c.pin}</strong> (pin {c.adapter + 1}) to pad{' '}
                      <strong className="pin">{c.pad}</strong>, {leadColours[c.pad]}
                    </span>
                  </li>
                ))}
            </ol>
          </Block>
        </>
      ) : (
        <p className="rounded-[10px] border border-dashed border-rule p-4 text-ink-2">
          The drawing appears when family, pads, adapter and entry are known.
        </p>
      )}
    </>
  )
}
