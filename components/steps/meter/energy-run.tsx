import { energyRun, type RunLoad, runLoads, runMinutes } from '@fresh-coat/core/metering/energy-run'
import { NumberField, SelectField } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { useKept } from '@/components/frame/frame-context'
import { Tag } from '@/components/paint/paint'

const loadWords: Record<RunLoad, string> = {
  lamp: 'a lamp with a filament',
  heater: 'a heater',
  kettle: 'a kettle, or what switches itself off',
  motor: 'a motor',
  other: 'something else',
}

/** How to find the raw value that counts energy: two snapshots with half an hour between them. */
export function EnergyRunFold() {
  const [run, setRun] = useKept('energy run', { load: 'lamp' as RunLoad, watts: null as number | null })
  const { refused, kWh, care } = energyRun(run.load, run.watts)
  return (
    <Fold summary="Which of them counts energy: a run of half an hour">
      <div className="grid gap-3 sm:grid-cols-2">
        <SelectField
          label="Left on for the time"
          value={run.load}
          options={runLoads.map((l) => ({ value: l, label: loadWords[l] }))}
          onChange={(load) => load && setRun({ ...run, load })}
        />
        <NumberField
          label="Its watts"
          unit="W"
          min={0}
          max={20_000}
          value={run.watts}
          onChange={(watts) => setRun({ ...run, watts })}
        />
      </div>
      {refused ? (
        <p role="status" className="flex gap-2.5">
          <Tag severity="error">not this one</Tag> {refused}
        </p>
      ) : (
        <ol className="grid list-decimal gap-1 pl-6">
          <li>Switch it on, and take a snapshot above.</li>
          <li>
            Leave it on for {runMinutes} minutes. {care}
          </li>
          <li>
            Take another snapshot.
            {kWh === null
              ? ' With its watts, what it will have counted is known.'
              : ` It will have counted about ${Number(kWh.toPrecision(3))} kWh: the value that rose by that is the one.`}
          </li>
        </ol>
      )}
    </Fold>
  )
}
