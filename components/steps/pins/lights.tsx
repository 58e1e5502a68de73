import { inferWhite, showsAt } from '@fresh-coat/core/lights/infer'
import { lookOf, mixWhite } from '@fresh-coat/core/lights/mix'
import type { TemplatePin } from '@fresh-coat/core/pins/template'
import { NumberField, SelectField } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { buttonClass, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import type { Editing } from './editing'

/** A tunable white: which of its two channels is what, from a few set points; then a surface to mix on. */

type Lights = NonNullable<SurfaceProps<'pins'>['record']['data']['lights']>
const corners = [
  { a: 0, b: 0 },
  { a: 1, b: 0 },
  { a: 0, b: 1 },
  { a: 1, b: 1 },
] as const
const toneOf = { cool: 0, neutral: 0.5, warm: 1 } as const
const white: ReadonlySet<string> = new Set(['dim', 'cool', 'warm', 'bright', 'temp'])
const cssOf = (rgb: readonly number[], light: number) =>
  `rgb(${rgb.map((c) => Math.round(c * (0.12 + 0.88 * light))).join(' ')})`

function Point({
  lights,
  at,
  put,
  wanted,
}: {
  lights: Lights
  at: (typeof corners)[number]
  put: (lights: Lights) => void
  wanted: boolean
}) {
  const known = lights.obs.find((o) => o.a === at.a && o.b === at.b)
  const set = (change: Partial<Lights['obs'][number]>) =>
    put({
      ...lights,
      obs: [
        ...lights.obs.filter((o) => o !== known),
        { a: at.a, b: at.b, lux: known?.lux ?? 0, tone: known?.tone ?? null, ...change },
      ],
    })
  const name = `${lights.a} ${at.a === 1 ? 'full' : 'off'}, ${lights.b} ${at.b === 1 ? 'full' : 'off'}`
  return (
    <li
      className={`grid grid-cols-[minmax(0,1fr)_7rem_8rem] items-end gap-2 ${wanted ? 'rounded-[8px] bg-ochre-soft p-1.5' : ''}`}
    >
      <span className="pb-2 text-[0.93rem]">{name}</span>
      <NumberField
        label={`Brightness, ${name}`}
        min={0}
        value={known?.lux ?? null}
        onChange={(lux) => lux !== null && set({ lux })}
      />
      <SelectField
        label={`Tone, ${name}`}
        value={known?.tone ?? null}
        none="not said"
        options={(['cool', 'neutral', 'warm'] as const).map((t) => ({ value: t, label: t }))}
        onChange={(tone) => set({ tone })}
      />
    </li>
  )
}

function Mixing({
  lights,
  scheme,
  put,
}: {
  lights: Lights
  scheme: 'pair' | 'temp-bright'
  put: (lights: Lights) => void
}) {
  const [kelvin, setKelvin] = useKept('mixed tone', 3600)
  const [bright, setBright] = useKept('mixed brightness', 0.7)
  const good = lights.coolK > lights.warmK
  const mix = good
    ? mixWhite(kelvin, bright, {
        coolK: lights.coolK,
        warmK: lights.warmK,
        scheme,
        axis: 'mired',
        gamma: 1,
        max: 1023,
        invert: [],
      })
    : null
  const ends = [lookOf(lights.warmK), lookOf((lights.warmK + lights.coolK) / 2), lookOf(lights.coolK)].map((c) =>
    cssOf(c, 1),
  )
  return (
    <div className="grid gap-3 border-t border-rule pt-3">
      <div className="flex items-center gap-4">
        <span
          className="size-20 shrink-0 rounded-full border-2 border-ink"
          style={{ background: cssOf(lookOf(Math.min(lights.coolK, Math.max(lights.warmK, kelvin))), bright) }}
          aria-hidden="true"
        />
        <div className="grid flex-1 gap-2">
          <input
            type="range"
            aria-label="Tone, kelvin"
            min={2000}
            max={7000}
            step={50}
            value={kelvin}
            onChange={(e) => setKelvin(Number(e.target.value))}
            className="h-6 w-full appearance-none rounded-[6px]"
            style={{ background: `linear-gradient(to right, ${ends.join(', ')})` }}
          />
          <input
            type="range"
            aria-label="Brightness, percent"
            min={0}
            max={100}
            value={Math.round(bright * 100)}
            onChange={(e) => setBright(Number(e.target.value) / 100)}
            className="w-full"
          />
          <p>
            {kelvin} K at {Math.round(bright * 100)} %
            {mix?.clamped ? ': the lamp does not reach this tone, its end is shown' : ''}
          </p>
        </div>
      </div>
      {mix ? (
        <dl className="grid grid-cols-2 gap-2" aria-label="What each channel gets">
          {Object.entries(mix.duty).map(([name, duty]) => (
            <div key={name} className="rounded-[8px] border border-rule px-3 py-1.5">
              <dt className="text-ink-2">{name === 'temp' ? 'tone' : name === 'bright' ? 'brightness' : name}</dt>
              <dd className="pin">
                {(duty * 100).toFixed(1)} %, {mix.count[name]} of 1023
              </dd>
            </div>
          ))}
        </dl>
      ) : (
        <p className="text-oxide">The cool end must be above the warm one.</p>
      )}
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Its warm end"
          unit="K"
          min={1000}
          max={20_000}
          whole
          value={lights.warmK}
          onChange={(n) => n !== null && n >= 1000 && put({ ...lights, warmK: n })}
        />
        <NumberField
          label="Its cool end"
          unit="K"
          min={1000}
          max={20_000}
          whole
          value={lights.coolK}
          onChange={(n) => n !== null && n >= 1000 && put({ ...lights, coolK: n })}
        />
      </div>
    </div>
  )
}

export function LightBench({
  record: { data, patch },
  edit,
  pins,
}: Pick<SurfaceProps<'pins'>, 'record'> & { edit: Editing; pins: readonly TemplatePin[] }) {
  const able = pins.filter((p) => white.has(p.fn))
  const lights: Lights = data.lights ?? {
    a: able[0]?.pin ?? '',
    b: able[1]?.pin ?? '',
    obs: [],
    coolK: 6200,
    warmK: 2800,
  }
  const put = (next: Lights) => patch({ lights: next })
  const choices = able.map((p) => ({ value: p.pin, label: p.pin }))
  if (able.length < 2)
    return <p>Say first which two pins dim the lamp: press each in the drawing, and choose “a dimmer”.</p>
  const lit = lights.obs.filter((o) => o.lux > 0)
  const found =
    lights.obs.length >= 2 && lit.length > 0
      ? inferWhite(lights.obs.map((o) => ({ ...o, tone: o.tone === null ? null : toneOf[o.tone] })))
      : null
  const [u, v] = found?.lamp.swap ? [lights.b, lights.a] : [lights.a, lights.b]
  const names = found?.lamp.scheme === 'pair' ? (['cool', 'warm'] as const) : (['temp', 'bright'] as const)
  const inverted = (pin: string) => (pin === lights.a ? found?.lamp.invertA : found?.lamp.invertB) === true
  const take = () =>
    edit.changeAll([
      [u, { fn: names[0], active: inverted(u) ? 'low' : 'high' }],
      [v, { fn: names[1], active: inverted(v) ? 'low' : 'high' }],
    ])
  return (
    <div className="grid gap-4">
      <p>
        One channel at full, the other off, and note what lights. A phone’s light meter at one place is good enough.
      </p>
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          label="First channel"
          value={lights.a || null}
          options={choices}
          onChange={(a) => a && put({ ...lights, a, obs: [] })}
        />
        <SelectField
          label="Second channel"
          value={lights.b || null}
          options={choices}
          onChange={(b) => b && put({ ...lights, b, obs: [] })}
        />
      </div>
      <ul className="grid gap-2" aria-label="Set points">
        {corners.map((at) => (
          <Point
            key={`${at.a}${at.b}`}
            lights={lights}
            at={at}
            put={put}
            wanted={found?.next?.a === at.a && found.next.b === at.b}
          />
        ))}
      </ul>
      {found ? (
        <div className="grid gap-2" role="status">
          <p className="flex gap-2.5">
            <Tag severity={found.sure ? 'ok' : 'watch'}>{found.sure ? 'settled' : 'not yet'}</Tag>
            <span>
              {found.lamp.scheme === 'pair'
                ? `Two strings: ${u} is the cool one, ${v} the warm one.`
                : `${u} sets the tone, ${v} the brightness.`}
              {inverted(u) || inverted(v) ? ` Lit at low: ${[u, v].filter(inverted).join(', ')}.` : ''}
              {!found.sure && found.next ? ' The set point that is marked tells most.' : ''}
              {!found.sure && !found.next ? ' No set point would tell the two best apart: look at it again.' : ''}
            </span>
          </p>
          {found.sure && (
            <button type="button" className={`${buttonClass('main')} justify-self-start`} onClick={take}>
              Take it into the template
            </button>
          )}
        </div>
      ) : (
        <p className="text-ink-2">Two set points with some light in them are the least.</p>
      )}
      {found && (
        <p className="text-[0.93rem] text-ink-2">
          At both full it would show {showsAt(found.lamp, { a: 1, b: 1 }).light > 1 ? 'both strings' : 'one light'}.
          Never above the lamp’s rated total: some drivers cannot feed all channels at once.
        </p>
      )}
      {found && <Mixing lights={lights} scheme={found.lamp.scheme} put={put} />}
    </div>
  )
}
