'use client'
import { type ReactNode, useId } from 'react'
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
        className="sr-only"
        onChange={(e) => {
          const files = [...(e.target.files ?? [])]
          // The same file may be chosen again.
          e.target.value = ''
          e.target.blur()
          if (files.length > 0) onFiles(files)
        }}
      />
    </label>
  )
}
