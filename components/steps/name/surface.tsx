'use client'
import { slugOf } from '@fresh-coat/core/topics/slug'
import { TextField, Tick } from '@/components/forms/fields'
import Link from '@/components/link'
import { Fact, Notice } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'
import { NameAndPlace } from '@/components/units/name-and-place'

export function NameSurface({ view, record, act }: SurfaceProps<'name'>) {
  const { data, patch } = record
  return (
    <>
      <StepHeading title="Name and address">
        The number on the case is the anchor; the name is what people say, and its slug is its topic. Names are made
        unique by plan, not by luck.
      </StepHeading>
      <NameAndPlace view={view} act={act} />
      {view.inService && (
        <p className="text-ink-2">
          In service its topic stays as it is, whatever it is called. To change the topic, pin another slug: its hub
          tests go stale then.
        </p>
      )}
      <div className="grid items-start gap-3 sm:grid-cols-2">
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
