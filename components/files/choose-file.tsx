'use client'
import { type ReactNode, useEffect, useEffectEvent, useId, useRef } from 'react'
import { buttonClass } from '@/components/paint/paint'

/**
 * Words one presses to choose files. The keys go back to the page once they are chosen: what is pressed next is meant for
 * the card, not for the chooser.
 */
export function ChooseFile({
  children,
  onFiles,
  accept,
  multiple = false,
  disabled = false,
  className = buttonClass('plain'),
}: {
  children: ReactNode
  onFiles: (files: File[]) => void
  accept?: string
  multiple?: boolean
  disabled?: boolean
  className?: string
}) {
  const id = useId()
  const field = useRef<HTMLInputElement>(null)
  const take = (input: HTMLInputElement) => {
    const files = [...(input.files ?? [])]
    // The same file may be chosen again.
    input.value = ''
    input.blur()
    if (files.length > 0) onFiles(files)
  }
  // A page is seen before it hears: what was chosen meanwhile is taken once it does.
  const takeChosen = useEffectEvent(() => {
    if (field.current?.files?.length) take(field.current)
  })
  useEffect(() => takeChosen(), [])
  return (
    <label
      htmlFor={id}
      className={`${className} cursor-pointer focus-within:outline-3 focus-within:outline-ochre-line`}
    >
      {children}
      <input
        id={id}
        type="file"
        accept={accept}
        multiple={multiple}
        disabled={disabled}
        ref={field}
        className="sr-only"
        onChange={(e) => take(e.target)}
      />
    </label>
  )
}
