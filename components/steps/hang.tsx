'use client'
import { standingTests } from '@fresh-coat/core/journey/conditions'
import { testDirections } from '@fresh-coat/core/journey/view'
import { slugOf } from '@fresh-coat/core/topics/slug'
import Link from 'next/link'
import { useState } from 'react'
import { Choice, NumberField, SelectField, TextField, Tick } from '../fields'
import { buttonClass, Fact, Notice, shortMoment, Tag } from '../paint'
import { Secrets } from '../secrets'
import { Updates } from '../updates'
import type { SurfaceProps } from './context'
import { Block, StepHeading } from './heading'

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

const directionWords = {
  'hub to unit': 'From the hub: on and off, seen at the load',
  'button to hub': 'At the unit: its button pressed, the hub shows it',
}

export function HubSurface({ view, record, choices, act }: SurfaceProps<'hub'>) {
  const { data, patch } = record
  const [seen, setSeen] = useState('')
  const [hubName, setHubName] = useState('')
  const standing = new Set(standingTests(view).map((t) => t.id))
  return (
    <>
      <StepHeading title="Test it with the hub, both ways">
        A connection that nobody tried is a hope. Say what you saw, not what should be. A latch, heater or motor is
        tested with its load disconnected first.
      </StepHeading>
      <div className="grid items-end gap-3 sm:grid-cols-2">
        <SelectField
          label="Hub"
          value={data.hubId}
          options={choices.hubs.map((h) => ({ value: h.id, label: h.name }))}
          onChange={(hubId) => patch({ hubId })}
        />
        <form
          className="flex items-end gap-2"
          onSubmit={async (e) => {
            e.preventDefault()
            if (await act('add-hub', { name: hubName })) setHubName('')
          }}
        >
          <TextField label="Another hub" value={hubName} maxLength={120} onChange={setHubName} className="flex-1" />
          <button type="submit" className={buttonClass('quiet')} disabled={hubName.trim() === ''}>
            Add
          </button>
        </form>
      </div>
      <Block title="A test">
        <TextField label="What you saw" placeholder="the lamp went on and off" value={seen} onChange={setSeen} />
        <div className="grid gap-3 sm:grid-cols-2">
          {testDirections.map((direction) => (
            <div key={direction} className="grid gap-2 rounded-[10px] border border-rule p-3">
              <p className="font-semibold">{directionWords[direction]}</p>
              <div className="flex gap-2">
                <button
                  type="button"
                  className={buttonClass('plain')}
                  disabled={seen.trim() === '' || data.hubId === null}
                  onClick={async () =>
                    (await act('add-hub-test', { unitId: view.id, direction, ok: true, seen })) && setSeen('')
                  }
                  aria-label={`${direction}: seen`}
                >
                  Seen
                </button>
                <button
                  type="button"
                  className={buttonClass('quiet')}
                  disabled={seen.trim() === '' || data.hubId === null}
                  onClick={async () =>
                    (await act('add-hub-test', { unitId: view.id, direction, ok: false, seen })) && setSeen('')
                  }
                  aria-label={`${direction}: failed`}
                >
                  Failed
                </button>
              </div>
            </div>
          ))}
        </div>
        {seen.trim() === '' && <p className="text-ink-2">Write down what you saw first.</p>}
      </Block>
      {view.hubTests.length > 0 && (
        <Block title="Tests so far">
          <table className="plain">
            <thead>
              <tr>
                <th>When</th>
                <th>Direction</th>
                <th>Result</th>
                <th>Seen</th>
              </tr>
            </thead>
            <tbody>
              {view.hubTests.map((t) => (
                <tr key={t.id}>
                  <td className="whitespace-nowrap">{shortMoment(t.at)}</td>
                  <td>{t.direction}</td>
                  <td>
                    <Tag severity={!t.ok ? 'error' : standing.has(t.id) ? 'ok' : 'watch'}>
                      {!t.ok ? 'failed' : standing.has(t.id) ? 'stands' : 'stale'}
                    </Tag>
                  </td>
                  <td dir="auto">{t.seen}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="text-ink-2">A test is stale when firmware, pins, address, topic or hub changed since.</p>
        </Block>
      )}
      <Block title="Secrets">
        <Secrets view={view} choices={choices} act={act} />
      </Block>
    </>
  )
}

export function ProveSurface({ record, gates }: SurfaceProps<'prove'>) {
  const { data, patch } = record
  const cut = data.powerCut ?? { seconds: 10, cameBack: 'as wanted' as const, rejoinSeconds: null }
  return (
    <>
      <StepHeading title="Cut its power, and see it come back">
        Supply off for 10 s. It comes back in the wanted state, joins by itself, and the hub agrees. Then it is in
        service.
      </StepHeading>
      {gates}
      <div className="grid gap-3 sm:grid-cols-3">
        <NumberField
          label="Supply was off for"
          unit="s"
          min={0}
          max={100000}
          value={data.powerCut?.seconds ?? null}
          onChange={(seconds) => seconds !== null && patch({ powerCut: { ...cut, seconds } })}
        />
        <Choice
          label="It came back"
          value={data.powerCut?.cameBack ?? null}
          options={[
            { value: 'as wanted', label: 'As wanted' },
            { value: 'otherwise', label: 'Otherwise' },
          ]}
          onChange={(cameBack) => patch({ powerCut: { ...cut, cameBack } })}
        />
        <NumberField
          label="On the network again after"
          unit="s"
          min={0}
          max={100000}
          value={data.powerCut?.rejoinSeconds ?? null}
          onChange={(rejoinSeconds) => patch({ powerCut: { ...cut, rejoinSeconds } })}
        />
      </div>
      <TextField label="Note" value={data.note} maxLength={1000} onChange={(note) => patch({ note })} />
    </>
  )
}

export function WatchSurface(props: SurfaceProps<'watch'>) {
  const { view, assessment, record } = props
  const due = view.calibrations[0]?.due
  return (
    <>
      <StepHeading title={assessment.inService ? 'In service' : 'Not in service yet'}>
        {assessment.inService
          ? 'What went stale or falls due shows up here and on the Bench.'
          : 'Finish Prove, and this page begins to watch.'}
      </StepHeading>
      {assessment.waiting.length === 0 && assessment.inService && (
        <p className="flex gap-2.5">
          <Tag severity="ok" /> Nothing waits on you.
        </p>
      )}
      <ul className="grid gap-3">
        {assessment.waiting.map((w) => (
          <li key={w.step} className="flex gap-2.5">
            <Tag severity={w.severity} />
            <div>
              <p>{w.text}</p>
              <p className="text-ink-2">
                {w.next}{' '}
                <Link className="underline underline-offset-4" href={`/units/${view.number}/${w.step}`}>
                  Go there
                </Link>
              </p>
            </div>
          </li>
        ))}
      </ul>
      <dl>
        <Fact name="Power cut">
          {view.records.prove.data.powerCut
            ? `${view.records.prove.data.powerCut.seconds} s, came back ${view.records.prove.data.powerCut.cameBack}`
            : 'not tried'}
        </Fact>
        <Fact name="Meter">{due ? `re-check due ${due}` : 'no re-check due'}</Fact>
        <Fact name="Hub tests">{view.hubTests.length}</Fact>
      </dl>
      <Updates {...props} />
      <TextField label="Note" value={record.data.note} maxLength={2000} onChange={(note) => record.patch({ note })} />
    </>
  )
}
