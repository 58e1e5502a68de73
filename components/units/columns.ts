/** Columns of the list of units, its heads and its rows alike. */
export const listColumns =
  'grid grid-cols-[2.6rem_minmax(0,1fr)_7rem] md:grid-cols-[2.6rem_minmax(0,1.5fr)_minmax(0,0.9fr)_minmax(0,1.2fr)_minmax(0,0.9fr)_minmax(9rem,0.9fr)_minmax(7rem,1fr)] items-center gap-x-4'
