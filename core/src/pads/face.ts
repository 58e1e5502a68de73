/** Which pad lies where for a person who looks at one side of the board. Kept rows count from the parts side. */

export type Face = 'top' | 'bottom'
export interface PadPlace {
  /** Index in the kept row. */
  index: number
  row: number
  column: number
}

/** Column of a pad seen from the other face, the board turned like a page: c of n becomes n − 1 − c, the row stays. */
export const mirroredColumn = (column: number, columns: number): number => columns - 1 - column

/** Places of `count` pads in `rows` rows as seen from a face, left to right and top to bottom. */
export function placesSeenFrom(face: Face, count: number, rows: number): PadPlace[] {
  const columns = Math.max(1, Math.ceil(count / rows))
  return Array.from({ length: count }, (_, index) => {
    const row = Math.floor(index / columns)
    const column = index % columns
    return { index, row, column: face === 'top' ? column : mirroredColumn(column, columns) }
  }).sort((a, b) => a.row - b.row || a.column - b.column)
}
