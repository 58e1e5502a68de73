'use client'
import { slugOf } from '@fresh-coat/core/topics/slug'
import { useState } from 'react'
import { TextField, Tick } from '@/components/forms/fields'
import Link from '@/components/link'
import { buttonClass, Fact, Notice } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'

export function NameSurface({ view, record, act }: SurfaceProps<'name'>) {
  const { data, patch } = record
  const [name, setName] = useState(view.name)
  const [place, setPlace] = useState(view.place)
  const changed = name.trim() !== view.name || place.trim() !== view.place
  return (
    <>
      <StepHeading title="Name and address">
        The number on the case is the anchor; the name is what people say, and its slug is its topic. Names are made
        unique by plan, not by luck.
      </StepHeading>
      <div className="grid items-start gap-3 sm:grid-cols-[1fr_1fr_auto]">
        <TextField label="Name" value={name} maxLength={120} onChange={setName} />
        <TextField label="Place" value={place} maxLength={120} onChange={setPlace} />
        <button
          type="button"
          className={`${buttonClass('plain')} sm:mt-[1.65rem]`}
          disabled={!changed || name.trim() === ''}
          onClick={() => void act('edit-unit', { unitId: view.id, version: view.version, name, place })}
        >
          Rename
        </button>
        <TextField
          label="Spoken differently (for voice)"
          value={data.spoken}
          maxLength={200}
          onChange={(spoken) => patch({ spoken })}
        />
        <TextField
          label="Pin the slug"
          mono
          value={data.pinned}
          maxLength={63}
          placeholder={slugOf(view.name, 24)}
          onChange={(pinned) => patch({ pinned: pinned.toLowerCase() })}
          hint="Then it stays when the name changes. a–z, 0–9, hyphens."
        />
      </div>
      {view.slugClash && (
        <Notice severity="watch" title={view.slugClash}>
          Each got its number at the end, so nobody owns the bare name. Better: give them names people can tell apart.
        </Notice>
      )}
      <Block title="Its topics">
        <ul className="pin grid gap-1">
          {view.topic &&
            ['online', '1/state', '1/set'].map((leaf) => (
              <li key={leaf} className="break-all">
                {view.topic}/{leaf}
                <span className="ml-3 font-read text-ink-2">
                  {leaf === '1/set' ? 'in, never retained' : 'out, retained'}
                </span>
              </li>
            ))}
        </ul>
        <p>
          <Link href="/network" className="underline underline-offset-4">
            All names, topics and addresses
          </Link>
        </p>
      </Block>
      <Block title="Its address">
        <dl>
          <Fact name="Now">
            {view.records.join.data.address ? (
              <span className="pin">{view.records.join.data.address}</span>
            ) : (
              'not known yet'
            )}
          </Fact>
        </dl>
        <Tick
          label="Reserved in the DHCP server for this MAC"
          checked={data.reserved}
          onChange={(reserved) => patch({ reserved })}
        />
      </Block>
    </>
  )
}

const _directionWords = {
  'hub to unit': 'From the hub: on and off, seen at the load',
  'button to hub': 'At the unit: its button pressed, the hub shows it',
}
