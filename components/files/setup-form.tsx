import type { SetupMode } from '@fresh-coat/core/network/beats'
import { Choice, NumberField, TextField } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'

const starts: Record<SetupMode['by'], SetupMode> = {
  presses: { by: 'presses', presses: 4, withinS: 3, light: '' },
  hold: { by: 'hold', holdS: 6, wipesAfterS: null, light: '' },
}

/** How the button of a unit opens the setup of this firmware: what Join counts along with. */
export function SetupForm({
  setup,
  onChange,
}: {
  setup: SetupMode | null
  onChange: (setup: SetupMode | null) => void
}) {
  return (
    <Fold summary={setup ? 'How its button opens its setup' : 'How its button opens its setup: not written down'}>
      <Choice
        label="By its button"
        value={setup?.by ?? 'none'}
        options={[
          { value: 'none', label: 'not known' },
          { value: 'presses', label: 'several presses' },
          { value: 'hold', label: 'a long hold' },
        ]}
        onChange={(by) => onChange(by === 'none' ? null : starts[by])}
      />
      {setup?.by === 'presses' && (
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="Presses"
            min={2}
            max={30}
            whole
            value={setup.presses}
            onChange={(n) => n !== null && n >= 2 && onChange({ ...setup, presses: n })}
          />
          <NumberField
            label="within"
            unit="s"
            min={0.5}
            max={60}
            value={setup.withinS}
            onChange={(n) => n !== null && n >= 0.5 && onChange({ ...setup, withinS: n })}
          />
        </div>
      )}
      {setup?.by === 'hold' && (
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="Held for"
            unit="s"
            min={0.5}
            max={120}
            value={setup.holdS}
            onChange={(n) => n !== null && n >= 0.5 && onChange({ ...setup, holdS: n })}
          />
          <NumberField
            label="Forgets its settings from"
            unit="s"
            min={1}
            max={300}
            value={setup.wipesAfterS}
            onChange={(wipesAfterS) => onChange({ ...setup, wipesAfterS })}
          />
        </div>
      )}
      {setup && (
        <TextField
          label="What its light does when it worked"
          value={setup.light}
          maxLength={200}
          placeholder="flickers, then breathes slowly"
          onChange={(light) => onChange({ ...setup, light })}
        />
      )}
    </Fold>
  )
}
