'use client'
import { useEffect } from 'react'

type Field = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement
const isTick = (field: Field): field is HTMLInputElement =>
  field instanceof HTMLInputElement && (field.type === 'checkbox' || field.type === 'radio')

/** What stands in a field that differs from what the page came with; null where nothing does. */
export function typedIn(field: Field): string | boolean | null {
  // Of answers that exclude each other the one that was chosen tells for both.
  if (field.type === 'radio') return isTick(field) && field.checked && !field.defaultChecked ? true : null
  if (isTick(field)) return field.checked === field.defaultChecked ? null : field.checked
  if (field instanceof HTMLSelectElement) {
    const stood = [...field.options].find((o) => o.defaultSelected) ?? field.options[0]
    return stood === undefined || field.value === stood.value ? null : field.value
  }
  // No script may choose a file: its field tells of it by itself.
  return field.type === 'file' || field.value === field.defaultValue ? null : field.value
}

/**
 * Puts into a field what was typed there, as a hand would. The framework passes on only what differs from what it last wrote: so that is
 * put there first, and then what was typed, by the browser's own setter, which the framework does not watch.
 */
export function typeAgain(field: Field, typed: string | boolean, caret: number | null): void {
  if (isTick(field)) {
    field.checked = !typed
    field.click()
    return
  }
  const of =
    field instanceof HTMLSelectElement
      ? HTMLSelectElement
      : field instanceof HTMLInputElement
        ? HTMLInputElement
        : HTMLTextAreaElement
  if (!(field instanceof HTMLSelectElement)) field.value = field.defaultValue
  Object.getOwnPropertyDescriptor(of.prototype, 'value')?.set?.call(field, typed)
  field.dispatchEvent(new Event(field instanceof HTMLSelectElement ? 'change' : 'input', { bubbles: true }))
  if (caret !== null && 'setSelectionRange' in field) field.setSelectionRange(caret, caret)
}

/** What was typed, ticked and chosen before the page had come to life counts: it is typed once more, when it has. */
export function TypedBefore() {
  useEffect(() => {
    // All of it is taken down first: the first field that tells draws the page anew, and the others as they came.
    const fields = [...document.querySelectorAll<Field>('input, textarea, select')].flatMap((field) => {
      const typed = typedIn(field)
      const caret = document.activeElement === field && 'selectionStart' in field ? field.selectionStart : null
      return typed === null ? [] : [{ field, typed, caret }]
    })
    // Not within the framework's own turn: there it would write what it still takes for true over it once more.
    const soon = setTimeout(() => {
      for (const { field, typed, caret } of fields) if (field.isConnected) typeAgain(field, typed, caret)
    })
    return () => clearTimeout(soon)
  }, [])
  return null
}
