import { fireEvent } from '@testing-library/react'

/** Opens by hand all that is folded away, and what is folded away in there. */
export function openFolds(): void {
  for (let part = closed(); part; part = closed()) {
    part.open = true
    fireEvent(part, new Event('toggle'))
  }
}
const closed = () => document.querySelector<HTMLDetailsElement>('details:not([open])')
