import { factsOf, type KnownFamily } from '@fresh-coat/core/families/families'
import { sparePins } from '@fresh-coat/core/pins/spare'
import { isIdle, type TemplatePin } from '@fresh-coat/core/pins/template'
import { isolationOf } from '@fresh-coat/core/steps/open/facts'
import { NumberField, Tick } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

/** A free pin for a sensor of one's own, and whether the unit's supply bears it. */

const needs = [
  ['input', 'it is read'],
  ['output', 'it is driven'],
  ['pull-up', 'it needs a pull-up'],
  ['analog', 'it is a voltage'],
  ['pwm', 'it is dimmed'],
] as const
const whyWords = {
  used: 'used',
  flash: 'belongs to the flash',
  'analog-only': 'measures only',
  'input-only': 'cannot be driven',
  'no-pull': 'has no pull-up',
  'no-pwm': 'cannot dim',
  'no-adc': 'cannot measure',
} as const

interface Supply {
  regMa: number
  partsMa: number
  vin: number
  meanMa: number
  ambientC: number
  thetaCW: number
}
const usual: Supply = { regMa: 600, partsMa: 2, vin: 5, meanMa: 80, ambientC: 55, thetaCW: 110 }

type Spare = Extract<ReturnType<typeof sparePins>, { ok: true }>['value']

const mostRanked = 8

/** Free pins, the best first, and why the others are none. */
function Ranked({ ranked, excluded }: Pick<Spare, 'ranked' | 'excluded'>) {
  return (
    <>
      <ol className="grid gap-1.5" aria-label="Free pins, the best first">
        {ranked.slice(0, mostRanked).map((r) => (
          <li key={r.pin} className="grid grid-cols-[5rem_minmax(0,1fr)_2.5rem] items-center gap-2">
            <span className="pin font-bold">{r.pin}</span>
            <span className="h-3 rounded-[3px] bg-sheet-2">
              <span className="block h-3 rounded-[3px] bg-verdigris" style={{ width: `${Math.max(0, r.score)}%` }} />
            </span>
            <span className="pin text-right">{r.score}</span>
          </li>
        ))}
      </ol>
      {excluded.length > 0 && (
        <p className="text-[0.93rem] text-ink-2">
          Not: {excluded.map((e) => `${e.pin} (${whyWords[e.why]})`).join(', ')}.
        </p>
      )}
    </>
  )
}

function Enough({ budget }: { budget: NonNullable<Spare['budget']> }) {
  return (
    <p role="status" className="flex gap-2.5">
      <Tag severity={budget.enough ? 'ok' : 'error'}>{budget.enough ? 'enough' : 'too much'}</Tag>
      <span>
        {budget.headroomMa} mA left at its highest draw; the regulator gets {budget.junctionC} °C warm, 110 are allowed.
      </span>
    </p>
  )
}

const supplyFields: readonly { of: keyof Supply; label: string; unit: string; min?: number }[] = [
  { of: 'partsMa', label: 'The sensor draws', unit: 'mA', min: 0 },
  { of: 'regMa', label: 'Regulator is rated', unit: 'mA', min: 0 },
  { of: 'vin', label: 'It is fed from', unit: 'V', min: 0 },
  { of: 'meanMa', label: 'The unit draws in the mean', unit: 'mA', min: 0 },
  { of: 'ambientC', label: 'In its case it is', unit: '°C' },
  { of: 'thetaCW', label: 'Regulator heats by', unit: '°C/W', min: 0 },
]

function SupplyFields({ supply, put }: { supply: Supply; put: (supply: Supply) => void }) {
  return (
    <div className="grid grid-cols-2 gap-3">
      {supplyFields.map(({ of, ...field }) => (
        <NumberField
          key={of}
          {...field}
          value={supply[of]}
          onChange={(n) => n !== null && put({ ...supply, [of]: n })}
        />
      ))}
    </div>
  )
}

function Live() {
  return (
    <p className="flex gap-2.5">
      <Tag severity="error">live</Tag>
      <span>
        The sensor is at mains potential here: insulated wires, a plastic lens, no metal that can be touched, no long
        leads.
      </span>
    </p>
  )
}

export function SparePin({
  view,
  family,
  pins,
  template,
}: {
  view: SurfaceProps<'pins'>['view']
  family: KnownFamily
  pins: readonly string[]
  template: readonly TemplatePin[]
}) {
  const [need, setNeed] = useKept<string[]>('spare pin for', ['input'])
  const [supply, setSupply] = useKept<Supply>('supply of a sensor', usual)
  const found = sparePins({
    family,
    need,
    used: template.filter((p) => !isIdle(p.fn)).map((p) => p.pin),
    pads: pins.map((pin) => ({ pin })),
    budget: { ...supply, partsMa: [supply.partsMa], peakMa: factsOf(family).peakMa },
  })
  if (!found.ok) return <p className="text-oxide">{found.faults[0]?.message}</p>
  const { ranked, excluded, budget } = found.value
  return (
    <div className="grid gap-4">
      {isolationOf(view).verdict !== 'isolated' && <Live />}
      <Ranked ranked={ranked} excluded={excluded} />
      <fieldset className="grid grid-cols-2 gap-x-3">
        <legend className="font-semibold">What it is for</legend>
        {needs.map(([id, words]) => (
          <Tick
            key={id}
            label={words}
            checked={need.includes(id)}
            onChange={(on) => setNeed(on ? [...need, id] : need.filter((n) => n !== id))}
          />
        ))}
      </fieldset>
      {budget && <Enough budget={budget} />}
      <SupplyFields supply={supply} put={setSupply} />
    </div>
  )
}
