'use client'
import { leafWords } from '@fresh-coat/core/topics/leaves'
import { slugOf } from '@fresh-coat/core/topics/slug'
import { channelsOnAir, metersOnAir } from '@fresh-coat/core/unit/on-air'
import { NameDrawing } from '@/components/drawings/name-drawing'
import { TextField } from '@/components/forms/fields'
import { type Ask, Questions, Standing } from '@/components/frame/card'
import { Word } from '@/components/frame/drawer'
import { StepSheet } from '@/components/frame/sheet'
import Link from '@/components/link'
import { Notice } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { HeardAt } from '@/components/steps/name/heard-at'
import { NameAndPlace } from '@/components/units/name-and-place'

type Props = SurfaceProps<'name'>

function asksOf({ view, record: { data, patch }, act }: Props): Ask[] {
  return [
    {
      id: 'name',
      name: 'Name',
      ask: 'What do people call it?',
      how: 'The number on the case is the anchor; the name is what people say, and its slug is its topic.',
      said: view.name.trim() && view.slugClash === null ? view.name : null,
      field: <NameAndPlace view={view} act={act} />,
    },
    {
      id: 'reserved',
      name: 'Address',
      ask: 'Is its address reserved in the DHCP server?',
      how: view.records.join.data.mac
        ? `For the MAC ${view.records.join.data.mac}. Without that it may have another one tomorrow.`
        : 'Without that it may have another one tomorrow.',
      said: data.reserved
        ? 'reserved'
        : data.kept === 'lookup'
          ? 'found by name'
          : data.kept === 'fixed'
            ? 'fixed in it'
            : null,
      answers: [
        {
          label: 'Yes, reserved for this MAC',
          pick: () => patch({ reserved: true, kept: null }),
          chosen: data.reserved,
        },
        {
          label: 'It is found by its name',
          hint: 'where names do not travel, the hub loses it',
          pick: () => patch({ reserved: false, kept: 'lookup' }),
          chosen: data.kept === 'lookup',
        },
        {
          label: 'Fixed in the unit',
          hint: 'outside the pool, or two get it; another router, and it is out of reach',
          pick: () => patch({ reserved: false, kept: 'fixed' }),
          chosen: data.kept === 'fixed',
        },
        { label: 'No', pick: () => patch({ reserved: false, kept: null }) },
      ],
    },
    {
      id: 'spoken',
      name: 'Spoken',
      ask: 'Is it spoken differently?',
      said: data.spoken || null,
      optional: true,
      field: (
        <TextField
          label="Spoken differently (for voice)"
          value={data.spoken}
          maxLength={200}
          onChange={(spoken) => patch({ spoken })}
        />
      ),
    },
  ]
}

function Say({ view, record: { data, patch } }: Props) {
  return (
    <>
      Names are made unique by plan, not by luck. Its slug{' '}
      <Word
        name="Slug"
        open={
          <TextField
            label="Pin the slug"
            mono
            value={data.pinned}
            maxLength={63}
            placeholder={slugOf(view.name, 24)}
            onChange={(pinned) => patch({ pinned: pinned.toLowerCase() })}
            hint="Then it stays when the name changes. a–z, 0–9, hyphens."
          />
        }
      >
        {data.pinned ? `is pinned: ${data.pinned}` : 'follows its name'}
      </Word>
      .
      {view.inService &&
        ' In service its topic stays as it is, whatever it is called; another slug makes its hub tests stale.'}
    </>
  )
}

/** What it goes by: the number, the name, the topic, the address. */
export function NameSurface(props: Props) {
  const { view, record, assessment } = props
  const { join } = view.records
  const here = assessment.steps.find((s) => s.id === 'name')
  return (
    <StepSheet
      title="Name and address"
      say={<Say {...props} />}
      drawing={
        <NameDrawing
          facts={{
            number: view.number,
            name: view.name,
            place: view.place,
            topic: view.topic,
            address: join.data.address,
            mac: join.data.mac,
            reserved: record.data.reserved,
            kept: record.data.kept,
            clash: view.slugClash !== null,
            leaves: leafWords(channelsOnAir(view), metersOnAir(view)),
          }}
        />
      }
      verdict={
        view.slugClash && (
          <Notice severity="watch" title={view.slugClash}>
            Each got its number at the end, so nobody owns the bare name. Better: give them names people can tell apart.
          </Notice>
        )
      }
      card={
        <Questions asks={asksOf(props)} rest={<Standing conditions={here?.conditions ?? []} />}>
          {view.topic !== null && <HeardAt view={view} use={(seenAt) => record.patch({ seenAt })} />}
          <Link href="/network" className="justify-self-start underline underline-offset-4">
            All names, topics and addresses
          </Link>
        </Questions>
      }
    />
  )
}
