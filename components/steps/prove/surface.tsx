'use client'
import { Choice, NumberField, TextField } from '@/components/forms/fields'
import type { SurfaceProps } from '@/components/steps/context'
import { StepHeading } from '@/components/steps/heading'

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
