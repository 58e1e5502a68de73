import { sizeWords } from '../bytes/text'
import { hazardList } from '../open/hazards'
import { judgeIsolation } from '../open/isolation'
import { itemSentence } from '../open/opening'
import { activeLevel, isIdle } from '../pins/template'
import type { BoardFactKey } from './board'
import type { BoardKnowledge } from './view'

/** One thing that is known of a board, in words. */
export interface BoardWord {
  name: string
  /** Null while nobody knows. */
  value: string | null
  /** The fact it comes from, for who taught it; null where it is the board's own. */
  key: BoardFactKey | null
}

const isolationWords = { isolated: 'Yes', 'non-isolated': 'No', unknown: 'Unknown: treated as No' }
const bootWords = { button: 'by a button', pad: 'by a pad in the row', none: 'not at all' }

const isolated = (b: BoardKnowledge): string | null =>
  b.mains ? (b.isolation ? isolationWords[judgeIsolation(b.isolation).verdict] : null) : 'Low voltage only'

/** "GPIO12 relay 1, on when high" for every pin in use. */
function pinWords(b: BoardKnowledge): string | null {
  const used = (b.template?.pins ?? []).filter((p) => !isIdle(p.fn))
  return used.length === 0
    ? null
    : used.map((p) => `${p.pin} ${p.fn}${p.ch === undefined ? '' : ` ${p.ch}`} ${activeLevel(p)}`).join(', ')
}

const rowWords = (b: BoardKnowledge): string | null =>
  b.pads && b.pads.pads.length > 0 ? b.pads.pads.map((r) => (r === 'UNKNOWN' ? '?' : r)).join(' · ') : null

/** Everything that is known of a board, in the order in which people ask for it. */
export function boardWords(b: BoardKnowledge): BoardWord[] {
  const word = (name: string, value: string | null | undefined, key: BoardFactKey | null): BoardWord => ({
    name,
    value: value || null,
    key,
  })
  return [
    word('Family', b.family, 'family'),
    word('Flash', b.flashBytes ? sizeWords(b.flashBytes) : null, 'flashBytes'),
    word('Supply', b.mains ? 'mains' : 'low voltage', null),
    word('Rating', b.ratedAmps ? `${b.ratedAmps} A` : null, 'ratedAmps'),
    word(
      'Markings',
      b.ratings
        ?.map((r) => `${r.source} ${[r.A && `${r.A} A`, r.W && `${r.W} W`].filter(Boolean).join(', ')}`)
        .join('; '),
      'ratings',
    ),
    word('Isolated', isolated(b), 'isolation'),
    word('Can hurt', b.hazards && (hazardList(b.hazards) || 'nothing seen'), 'hazards'),
    word('Meter', b.hasMeter ? 'has one' : 'has none', null),
    word('Pads', rowWords(b), 'pads'),
    word('Pitch', b.pads?.pitchMm ? `${b.pads.pitchMm} mm` : null, 'pads'),
    word('BOOT', b.pads?.bootBy ? bootWords[b.pads.bootBy] : null, 'pads'),
    word('Way in', b.entry, 'entry'),
    word('Pins', pinWords(b), 'template'),
    word('Modes', b.provenModes.join(', '), 'provenModes'),
    word('Opens', b.fasteners?.map(itemSentence).join('; '), 'fasteners'),
    word(
      'Terminals',
      b.terminals?.map((t) => `${t.place} is ${t.legend.replaceAll('_', ' ')}`).join('; '),
      'terminals',
    ),
  ]
}

export interface BoardDifference {
  name: string
  a: string | null
  b: string | null
  same: boolean
}

/** Two boards side by side: every word that either has, and whether both say the same. What nobody knows is no difference. */
export function boardDifferences(a: BoardKnowledge, b: BoardKnowledge): BoardDifference[] {
  const other = new Map(boardWords(b).map((w) => [w.name, w.value]))
  return boardWords(a)
    .map(({ name, value }) => {
      const theirs = other.get(name) ?? null
      return { name, a: value, b: theirs, same: value === theirs || value === null || theirs === null }
    })
    .filter((d) => d.a !== null || d.b !== null)
}
