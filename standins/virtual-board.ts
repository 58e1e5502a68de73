import { type KnownFamily, knownFamilies } from '@fresh-coat/core/families/families'
import { readingOf } from '@fresh-coat/core/pads/how'
import type { PadReading, ReadingName } from '@fresh-coat/core/pads/readings'
import { measureOf } from '@fresh-coat/core/pads/readings'
import { solvePads } from '@fresh-coat/core/pads/solve'
import type { PadRole } from '@fresh-coat/core/wiring/wiring'
import { seededRandom } from '@/standins/random'

/** A board with hidden pads, and a meter that answers probes: what a person meets when nothing is printed. */
export interface VirtualBoard {
  seed: number
  family: KnownFamily
  /** Hidden until the hunt is over. */
  roles: PadRole[]
  /** What the meter shows at every pad. */
  answers: Required<Omit<PadReading, 'name'>>[]
}

const twoDecimals = (x: number) => Math.round(x * 100) / 100

export function makeVirtualBoard(seed: number): VirtualBoard {
  const random = seededRandom(seed)
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T
  const family = pick(knownFamilies)
  const strap = !family.startsWith('ARM968') && family !== 'CM3'
  const roles: PadRole[] = ['GND', '3V3', 'TX', 'RX']
  if (strap && random() < 0.7) roles.push('BOOT')
  if (random() < 0.35) roles.push('RST')
  if (random() < 0.3) roles.push('UNKNOWN')
  for (let i = roles.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1))
    const [a, b] = [roles[i] as PadRole, roles[j] as PadRole]
    roles[i] = b
    roles[j] = a
  }
  const printed = random() < 0.35
  const swapped = random() < 0.2
  const square = random() < 0.6 ? 0 : roles.indexOf('GND')
  const hasButton = random() < 0.6
  const names: Partial<Record<PadRole, string>> = {
    GND: 'G',
    '3V3': '3V3',
    TX: swapped ? 'RX' : 'TX',
    RX: swapped ? 'TX' : 'RX',
    BOOT: 'IO0',
    RST: 'EN',
  }
  const near = (x: number, by: number) => twoDecimals(x + (random() - 0.5) * by)
  const answers = roles.map((role, i) => {
    const pulled = role === 'BOOT' || role === 'RST'
    const volts =
      role === 'GND'
        ? 0
        : role === '3V3' || pulled
          ? near(3.29, 0.03)
          : role === 'TX'
            ? near(3.27, 0.04)
            : role === 'RX'
              ? near(3.1, 0.2)
              : near(0.6, 1)
    const loaded =
      role === '3V3'
        ? volts
        : role === 'TX'
          ? twoDecimals(volts * 0.99)
          : role === 'RX'
            ? twoDecimals(volts * 0.19)
            : pulled
              ? twoDecimals(volts * 0.5)
              : 0
    const ohms =
      role === '3V3'
        ? near(0.4, 0.3)
        : role === 'GND'
          ? Math.round(near(9000, 4000))
          : pulled
            ? Math.round(near(10_050, 300))
            : ('open' as const)
    return {
      cont_gnd: role === 'GND',
      ohms_3v3: ohms,
      button_gnd: role === 'BOOT' && hasButton,
      square: i === square,
      label: printed && random() < 0.8 ? (names[role] ?? '') : '',
      volts: Math.max(0, volts),
      volts_10k: loaded,
      // A needle or a slow meter may miss a short dip.
      dip: role === 'TX' && random() < 0.92,
      text: role === 'TX',
    }
  })
  return { seed, family, roles, answers }
}

/** What the stand-in meter shows; a load on a pad shows its idle voltage too, as it would at the bench. */
export function probe(board: VirtualBoard, pad: number, reading: ReadingName): PadReading {
  const shown = board.answers[pad]
  if (!shown) return {}
  return reading === 'volts_10k' ? { volts: shown.volts, volts_10k: shown.volts_10k } : { [reading]: shown[reading] }
}

/** Minutes that the solver's own advice needs to settle this row: what a hunt is measured against. */
export function parMinutes(board: VirtualBoard): number {
  let pads: PadReading[] = board.roles.map(() => ({}))
  let minutes = 0
  for (let step = 0; step < 60; step++) {
    const outcome = solvePads({ pads })
    if (!outcome.ok || outcome.value.verdict === 'settled') return minutes
    const next = outcome.value.next[0]
    if (!next || next.bits < 0.005) return minutes
    minutes += measureOf(next.measure).minutes
    const taken = probe(board, next.pad, readingOf(next.measure))
    pads = pads.map((p, i) => (i === next.pad ? { ...p, ...taken } : p))
  }
  return minutes
}

export interface HuntScore {
  score: number
  wrong: number[]
  par: number
}

/** 100, less 20 for every pad that was called wrong, less 2 for every minute beyond what the advice needs. */
export function scoreHunt(board: VirtualBoard, answer: readonly PadRole[], minutes: number): HuntScore {
  const wrong = board.roles.flatMap((role, i) => (role === answer[i] ? [] : [i]))
  const par = parMinutes(board)
  const score = 100 - 20 * wrong.length - 2 * Math.max(0, minutes - par)
  return { score: Math.max(0, Math.round(score)), wrong, par }
}
