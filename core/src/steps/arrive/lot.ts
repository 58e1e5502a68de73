import { type Finding, finding } from '../../edge/finding'

/** Which boards the other units of a lot turned out to be: the print on the box says less than the board inside. */
export interface LotBoard {
  boardId: string
  name: string
  units: number
}

/** Lots as people write them: blanks at the ends and case say nothing. */
export const lotKey = (text: string): string => text.trim().toLowerCase()

/** "3 of 4 units from this lot are Pellworth P1 rev D"; empty while none of them has a board. */
export function lotWords(boards: readonly LotBoard[]): string {
  const all = boards.reduce((n, b) => n + b.units, 0)
  const [most] = mostFirst(boards)
  if (!most) return ''
  return all === most.units
    ? `${all === 1 ? 'The other unit' : `All ${all} other units`} from this lot ${all === 1 ? 'is' : 'are'} ${most.name}.`
    : `${most.units} of ${all} other units from this lot are ${most.name}.`
}

const mostFirst = (boards: readonly LotBoard[]): LotBoard[] =>
  [...boards].sort((a, b) => b.units - a.units || (a.name < b.name ? -1 : 1))

/** The board that was chosen is another one than the lot's: a copy, or another revision under the same name. */
export function lotFindings(boardId: string | null, boards: readonly LotBoard[]): Finding[] {
  const [most] = mostFirst(boards)
  if (boardId === null || !most || most.boardId === boardId) return []
  if (boards.some((b) => b.boardId === boardId && b.units === most.units)) return []
  return [
    finding(
      'lot-differs',
      'watch',
      lotWords(boards),
      'One lot is mostly one revision; two revisions are two boards.',
      'Look at the board inside before what is known of this one is trusted.',
    ),
  ]
}
