import { dayWords } from '@fresh-coat/core/edge/day'
import { factsOf, isKnownFamily } from '@fresh-coat/core/families/families'
import { confidenceOf, isIdle } from '@fresh-coat/core/pins/template'
import { naturalOrder } from '@fresh-coat/core/pins/words'
import type { BoardFactKey } from '@fresh-coat/core/unit/board'
import { boardWords } from '@fresh-coat/core/unit/board-words'
import type { BoardKnowledge } from '@fresh-coat/core/unit/view'
import { type DrawnPin, ModuleDrawing } from '@/components/drawings/module-drawing'
import { PadField } from '@/components/drawings/pad-field'
import { Fact, twoDigits } from '@/components/paint/paint'
import { fnWords } from '@/components/steps/pins/words'

/** Who taught a fact, and when. */
interface FactEvidence {
  key: BoardFactKey
  unitNumber: number | null
  at: string
  day: string
}

/** Pins of the board as the module shows them: those in use with what they do, the others of its family empty. */
export function boardPins(b: Pick<BoardKnowledge, 'family' | 'template'>): DrawnPin[] {
  const pins = b.template?.pins ?? []
  const table = b.family && isKnownFamily(b.family) ? factsOf(b.family).pins : {}
  return [...new Set([...Object.keys(table), ...pins.map((p) => p.pin)])].sort(naturalOrder).map((id) => {
    const pin = pins.find((p) => p.pin === id)
    const known = pin !== undefined && !isIdle(pin.fn)
    const channel = known && pin.ch !== undefined ? ` ${pin.ch}` : ''
    return {
      pin: id,
      does: known ? `${fnWords[pin.fn].replace(/^(a|the) /, '')}${channel}` : '',
      sure: known ? confidenceOf(pin.evidence) : '',
      wrong: false,
      closed: /\bflash\b/.test(String(table[id] ?? '')),
    }
  })
}

/** The pads of a board as its units read them. */
export function BoardPads({ b }: { b: Pick<BoardKnowledge, 'pads'> }) {
  if (!b.pads || b.pads.pads.length === 0)
    return <p className="text-ink-2">No pads yet: the first unit that reaches Find the pads solves them.</p>
  return (
    <PadField
      pads={b.pads.pads.map((role, index) => ({
        index,
        role,
        sure: null,
        square: b.pads?.readings?.[index]?.square ?? index === 0,
        label: b.pads?.readings?.[index]?.label ?? '',
        conflict: false,
      }))}
      rows={b.pads.rows ?? 1}
      face="top"
      about={b.pads.pitchMm ? `${b.pads.pitchMm} mm apart` : ''}
    />
  )
}

/** The board drawn: its module with its pins, and its pads. */
export function BoardDrawn({ b }: { b: BoardKnowledge }) {
  const pins = boardPins(b)
  return (
    <section
      aria-label="The board, drawn"
      className="sheet grid items-center gap-4 p-4 md:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)]"
    >
      {pins.length > 0 ? (
        <ModuleDrawing pins={pins} chip={b.family ?? '?'} chosen={null} />
      ) : (
        <p className="text-ink-2">No pins yet: the family is not known.</p>
      )}
      <BoardPads b={b} />
    </section>
  )
}

/** Who taught a fact, and when last. */
export function taughtBy(facts: readonly FactEvidence[], key: FactEvidence['key']): string {
  const rows = facts.filter((f) => f.key === key).sort((x, y) => y.at.localeCompare(x.at))
  const units = [...new Set(rows.flatMap((r) => (r.unitNumber === null ? [] : [r.unitNumber])))].sort((x, y) => x - y)
  return rows[0] && units.length > 0
    ? `From unit${units.length === 1 ? '' : 's'} ${units.map(twoDigits).join(', ')}, last ${dayWords(rows[0].day)}`
    : ''
}

/** What is known of it, each with who taught it; what is drawn is not said again. */
export function BoardFactsList({ b, facts }: { b: BoardKnowledge; facts: readonly FactEvidence[] }) {
  const drawn = new Set(['Pads', 'Pins', 'Opens', 'Terminals'])
  const words = boardWords(b).filter((w) => !drawn.has(w.name))
  const open = words.filter((w) => w.value === null).map((w) => w.name.toLowerCase())
  const markings = Object.entries(b.markings).map(([f, n]) => `${f} × ${n}`)
  return (
    <>
      <dl>
        {words
          .filter((w) => w.value !== null)
          .map((w) => (
            <Fact key={w.name} name={w.name} evidence={w.key ? taughtBy(facts, w.key) : ''}>
              {w.value}
            </Fact>
          ))}
        {markings.length > 0 && <Fact name="Markings">{markings.join(', ')}</Fact>}
      </dl>
      {open.length > 0 && <p className="mt-2 text-ink-2">Nobody knows yet: {open.join(', ')}.</p>}
    </>
  )
}
