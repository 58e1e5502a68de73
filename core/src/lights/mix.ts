import { z } from 'zod'
import { type Outcome, parseInput, refuse, shapeCodes } from '../edge/fault'
import { roundTo } from '../edge/round'

/** Duties of a lamp's channels for a tone and a brightness, or for a colour (brief 03 §5). */

export interface WhiteMix {
  /** Of the tone that is shown, 10⁶/K. */
  mired: number
  warmShare: number
  clamped: boolean
}
export interface LampChannels {
  gamma: number
  max: number
  invert: readonly string[]
}
export interface TunableLamp extends LampChannels {
  coolK: number
  warmK: number
  scheme: 'pair' | 'temp-bright'
  axis: 'mired' | 'kelvin'
}
export interface Duties {
  duty: Record<string, number>
  count: Record<string, number>
}

const micro = 1e6

function dutiesOf(plain: Record<string, number>, { max, invert }: LampChannels): Duties {
  const out: Duties = { duty: {}, count: {} }
  for (const [name, d] of Object.entries(plain)) {
    const shown = invert.includes(name) ? 1 - d : d
    out.duty[name] = roundTo(shown, 4)
    out.count[name] = Math.floor(shown * max + 0.5)
  }
  return out
}

/** A tone in kelvin, clamped to what the lamp has, at constant total light for two strings. */
export function mixWhite(kelvin: number, bright: number, lamp: TunableLamp): WhiteMix & Duties {
  const shown = Math.min(lamp.coolK, Math.max(lamp.warmK, kelvin))
  const share =
    lamp.axis === 'mired'
      ? (micro / shown - micro / lamp.coolK) / (micro / lamp.warmK - micro / lamp.coolK)
      : (lamp.coolK - shown) / (lamp.coolK - lamp.warmK)
  const light = bright ** lamp.gamma
  const plain: Record<string, number> =
    lamp.scheme === 'pair' ? { cool: (1 - share) * light, warm: share * light } : { temp: share, bright: light }
  return {
    mired: roundTo(micro / shown, 2),
    warmShare: roundTo(share, 4),
    clamped: shown !== kelvin,
    ...dutiesOf(plain, lamp),
  }
}

/** A colour of three channels from 0 to 255. */
export function mixColour(
  [red, green, blue]: readonly [number, number, number],
  bright: number,
  lamp: LampChannels,
): Duties {
  const duty = (c: number) => ((c / 255) * bright) ** lamp.gamma
  return dutiesOf({ red: duty(red), green: duty(green), blue: duty(blue) }, lamp)
}

const between = (from: number, to: number, what: string) =>
  z.number().superRefine((n, context) => {
    if (n < from || n > to) refuse(context, 'range', [], `${what} must be between ${from} and ${to}`)
  })
const above0 = (what: string) =>
  z.number().superRefine((n, context) => {
    if (n <= 0) refuse(context, 'range', [], `${what} must be above 0`)
  })
const channels = {
  gamma: above0('Gamma').nullish(),
  max: above0('The highest count').nullish(),
  invert: z.array(z.string()).nullish(),
}
const bright = between(0, 1, 'Brightness')
const White = z.object({
  mode: z.literal('white'),
  kelvin: above0('The tone'),
  bright,
  lamp: z
    .object({
      coolK: above0('coolK'),
      warmK: above0('warmK'),
      scheme: z.enum(['pair', 'temp-bright']),
      axis: z.enum(['mired', 'kelvin']).nullish(),
      ...channels,
    })
    .superRefine(({ coolK, warmK }, context) => {
      if (coolK <= warmK) refuse(context, 'range', ['coolK'], 'coolK must be above warmK')
    }),
})
const colour = between(0, 255, 'A colour')
const Rgb = z.object({
  mode: z.literal('rgb'),
  rgb: z.tuple([colour, colour, colour]),
  bright,
  lamp: z.object(channels).nullish(),
})
const Mode = z.object({
  mode: z.unknown().superRefine((mode, context) => {
    if (mode === undefined) refuse(context, 'shape', [], 'The field mode is missing.')
    else if (mode !== 'white' && mode !== 'rgb') refuse(context, 'mode', [], 'Mode is white or rgb')
  }),
})

const usualMax = 1023
const withDefaults = (
  given: { gamma?: number | null; max?: number | null; invert?: string[] | null } | null | undefined,
): LampChannels => ({
  gamma: given?.gamma ?? 1,
  max: given?.max ?? usualMax,
  invert: given?.invert ?? [],
})

/** `lights mix`: duties and counts per channel. */
export function mixLights(input: unknown): Outcome<(WhiteMix & Duties) | Duties> {
  const mode = parseInput(Mode, input, shapeCodes)
  if (!mode.ok) return mode
  if (mode.value.mode === 'rgb') {
    const parsed = parseInput(Rgb, input, shapeCodes)
    if (!parsed.ok) return parsed
    const { rgb, bright: b, lamp } = parsed.value
    return { ok: true, value: mixColour(rgb, b, withDefaults(lamp)) }
  }
  const parsed = parseInput(White, input, shapeCodes)
  if (!parsed.ok) return parsed
  const { kelvin, bright: b, lamp } = parsed.value
  return { ok: true, value: mixWhite(kelvin, b, { ...lamp, axis: lamp.axis ?? 'mired', ...withDefaults(lamp) }) }
}

/** Second radiation constant, metre kelvins, and a wavelength for each of red, green and blue, metres. */
const radiation = 0.014388
const wavelengths = [610e-9, 550e-9, 465e-9] as const
const whiteK = 6500
const screenGamma = 2.2

const glow = (wavelength: number, kelvin: number): number => 1 / (Math.exp(radiation / (wavelength * kelvin)) - 1)

/** What a tone of light looks like beside daylight, as red, green and blue from 0 to 255: Planck's law at three wavelengths. To show, not to measure by. */
export function lookOf(kelvin: number): [number, number, number] {
  const parts = wavelengths.map((w) => glow(w, kelvin) / glow(w, whiteK))
  const most = Math.max(...parts)
  const shown = parts.map((x) => Math.round(255 * (x / most) ** (1 / screenGamma)))
  return [shown[0] ?? 0, shown[1] ?? 0, shown[2] ?? 0]
}
