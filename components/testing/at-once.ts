/** Stands for next/dynamic in tests: words and drawers open at once, so that what is in them can be pressed; charts are none. */
export default function dynamic(load: () => unknown): unknown {
  const what = String(load)
  if (what.includes('popup-sheet')) return jest.requireActual('@/components/frame/popup-sheet').PopupSheet
  if (what.includes('drawer-sheet')) return jest.requireActual('@/components/frame/drawer-sheet').DrawerSheet
  return () => null
}
