'use client'
import { standingTests } from '@fresh-coat/core/steps/hub/facts'
import { testDirections } from '@fresh-coat/core/unit/view'
import { useState } from 'react'
import { SelectField, TextField, Tick } from '@/components/forms/fields'
import { buttonClass, shortMoment, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'
import { Secrets } from '@/components/steps/hub/secrets'

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
      <Tick
        label="It has no button or switch to press"
        checked={data.noButton}
        onChange={(noButton) => patch({ noButton })}
      />
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
