'use client'
import { hexNumber } from '@fresh-coat/core/bytes/text'
import { type ReactNode, useEffect, useId, useRef, useState } from 'react'

/** Form fields with their label, unit and fault; big enough for a finger. */

export function Field({
  label,
  hint,
  children,
  className = '',
}: {
  label: string
  hint?: ReactNode
  children: (id: string) => ReactNode
  className?: string
}) {
  const id = useId()
  return (
    <div className={`grid content-start gap-1 ${className}`}>
      <label htmlFor={id} className="text-[0.9rem] font-semibold text-ink-2">
        {label}
      </label>
      {children(id)}
      {hint && <p className="text-[0.87rem] text-ink-3">{hint}</p>}
    </div>
  )
}

export function TextField({
  label,
  value,
  onChange,
  hint,
  className,
  placeholder,
  mono = false,
  maxLength = 500,
  startsHere = false,
  masked = false,
}: {
  label: string
  value: string
  onChange: (text: string) => void
  hint?: ReactNode
  className?: string
  placeholder?: string
  mono?: boolean
  maxLength?: number
  /** A secret: nobody beside the screen reads it. */
  masked?: boolean
  /** The page is for filling this in: the keys go here at once. */
  startsHere?: boolean
}) {
  const input = useRef<HTMLInputElement>(null)
  useEffect(() => {
    if (startsHere) input.current?.focus()
  }, [startsHere])
  return (
    <Field label={label} hint={hint} className={className}>
      {(id) => (
        <input
          id={id}
          ref={input}
          {...(masked ? { type: 'password', autoComplete: 'off' } : {})}
          className={`field ${mono ? 'pin' : ''}`}
          dir="auto"
          value={value}
          maxLength={maxLength}
          placeholder={placeholder}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </Field>
  )
}

export function AreaField({
  label,
  value,
  onChange,
  hint,
  rows = 6,
  mono = true,
  placeholder,
  maxLength,
}: {
  label: string
  value: string
  onChange: (text: string) => void
  hint?: ReactNode
  rows?: number
  mono?: boolean
  placeholder?: string
  maxLength?: number
}) {
  return (
    <Field label={label} hint={hint}>
      {(id) => (
        <textarea
          id={id}
          className={`field ${mono ? 'pin' : ''} resize-y`}
          dir="auto"
          rows={rows}
          value={value}
          maxLength={maxLength}
          spellCheck={false}
          placeholder={placeholder}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </Field>
  )
}

/** Reads a number as people type it, with a comma or a point; null when it is none. */
export function readNumber(text: string): number | null {
  const plain = text
    .trim()
    .replace(/[\u2009\u00a0 ]/g, '')
    .replace(',', '.')
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain)) return null
  const n = Number(plain)
  return Number.isFinite(n) ? n : null
}

export function NumberField({
  label,
  value,
  onChange,
  unit,
  hint,
  min,
  max,
  whole = false,
  className,
  bare = false,
  keepsGood = true,
}: {
  label: string
  value: number | null
  onChange: (n: number | null) => void
  unit?: string
  hint?: ReactNode
  min?: number
  max?: number
  whole?: boolean
  className?: string
  bare?: boolean
  /** False: a number that does not fit counts as none, instead of the last one that did. */
  keepsGood?: boolean
}) {
  const [text, setText] = useState(value === null ? '' : String(value))
  // What was typed here stays as it was typed; only a value from elsewhere is written into the field.
  const given = useRef(value)
  useEffect(() => {
    if (value === given.current) return
    given.current = value
    setText(value === null ? '' : String(value))
  }, [value])
  const give = (n: number | null) => {
    given.current = n
    onChange(n)
  }
  const n = readNumber(text)
  let fault = ''
  if (text.trim() !== '') {
    if (n === null) fault = 'This is not a number.'
    else if (min !== undefined && n < min) fault = `At least ${min}${unit ? ` ${unit}` : ''}.`
    else if (max !== undefined && n > max) fault = `At most ${max}${unit ? ` ${unit}` : ''}.`
    else if (whole && !Number.isInteger(n)) fault = 'Whole numbers only.'
  }
  const input = (id?: string) => (
    <span className="flex items-center gap-2">
      <input
        id={id}
        className="field pin"
        inputMode="decimal"
        autoComplete="off"
        aria-label={bare ? label : undefined}
        aria-invalid={fault !== ''}
        value={text}
        onChange={(e) => {
          const next = e.target.value
          setText(next)
          const m = readNumber(next)
          const good =
            m !== null &&
            (min === undefined || m >= min) &&
            (max === undefined || m <= max) &&
            (!whole || Number.isInteger(m))
          if (next.trim() === '' || (!good && keepsGood === false)) give(null)
          else if (good) give(m)
        }}
      />
      {unit && <span className="shrink-0 text-ink-2">{unit}</span>}
    </span>
  )
  if (bare)
    return (
      <div>
        {input()}
        {fault && <p className="text-[0.87rem] font-semibold text-oxide">{fault}</p>}
      </div>
    )
  return (
    <Field
      label={label}
      hint={
        fault ? (
          <span className="font-semibold text-oxide">
            {fault}
            {keepsGood && ' The last good value is kept.'}
          </span>
        ) : (
          hint
        )
      }
      className={className}
    >
      {(id) => input(id)}
    </Field>
  )
}

export interface Option<V extends string> {
  value: V
  label: string
}

const offsetPattern = /^\s*(0x[0-9a-f]{1,8}|\d{1,10})\s*$/i

/** A place in the flash: hex with 0x, or plain bytes. What is no number is said, and the last good one stays. */
export function OffsetField({
  label,
  value,
  onChange,
  hint,
}: {
  label: string
  value: number | null
  onChange: (offset: number | null) => void
  hint: ReactNode
}) {
  const [text, setText] = useState<string | null>(null)
  // A value that came from elsewhere since takes the place of what was typed.
  const typed = text !== null && (!offsetPattern.test(text) || Number(text.trim()) === value) ? text : null
  const shown = typed ?? (value === null ? '' : hexNumber(value))
  return (
    <TextField
      label={label}
      mono
      value={shown}
      maxLength={12}
      onChange={(next) => {
        setText(next)
        if (offsetPattern.test(next)) onChange(Number(next.trim()))
        else if (next.trim() === '') onChange(null)
      }}
      hint={
        shown.trim() !== '' && !offsetPattern.test(shown) ? (
          <span className="font-semibold text-oxide">Hex like 0x1000, or a number.</span>
        ) : (
          hint
        )
      }
    />
  )
}

export function SelectField<V extends string>({
  label,
  value,
  options,
  onChange,
  hint,
  none,
  className,
  bare = false,
}: {
  bare?: boolean
  label: string
  value: V | null
  options: readonly Option<V>[]
  onChange: (value: V | null) => void
  hint?: ReactNode
  none?: string
  className?: string
}) {
  const select = (id?: string) => (
    <select
      id={id}
      aria-label={bare ? label : undefined}
      className="field"
      value={value ?? ''}
      onChange={(e) => onChange(e.target.value === '' ? null : (e.target.value as V))}
    >
      {(none !== undefined || value === null) && <option value="">{none ?? 'Choose…'}</option>}
      {options.map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ))}
    </select>
  )
  if (bare) return select()
  return (
    <Field label={label} hint={hint} className={className}>
      {(id) => select(id)}
    </Field>
  )
}

/** A few answers side by side, as big targets. */
export function Choice<V extends string>({
  label,
  value,
  options,
  onChange,
  compact = false,
}: {
  label: string
  value: V | null
  options: readonly Option<V>[]
  onChange: (value: V) => void
  compact?: boolean
}) {
  const name = useId()
  return (
    <fieldset className={compact ? 'flex flex-wrap items-center gap-x-4 gap-y-1.5' : ''}>
      <legend className={compact ? 'float-left mr-2 py-1.5' : 'mb-1 text-[0.9rem] font-semibold text-ink-2'}>
        {label}
      </legend>
      <div className="flex flex-wrap gap-1.5">
        {options.map((o) => (
          <label key={o.value} className="cursor-pointer">
            <input
              type="radio"
              name={name}
              className="peer sr-only"
              checked={value === o.value}
              onChange={() => onChange(o.value)}
            />
            <span className="inline-flex min-h-[2.5rem] items-center rounded-[8px] border border-ink-3 bg-sheet px-3 py-1 peer-checked:border-ink peer-checked:bg-ink peer-checked:text-sheet peer-focus-visible:outline-3 peer-focus-visible:outline-offset-2 peer-focus-visible:outline-ochre-line">
              {o.label}
            </span>
          </label>
        ))}
      </div>
    </fieldset>
  )
}

export function Tick({
  label,
  checked,
  onChange,
}: {
  label: ReactNode
  checked: boolean
  onChange: (on: boolean) => void
}) {
  return (
    <label className="flex min-h-[2.4rem] cursor-pointer items-center gap-2.5">
      <input
        type="checkbox"
        className="size-[24px] shrink-0 accent-(--verdigris)"
        checked={checked}
        onChange={(e) => onChange(e.target.checked)}
      />
      <span>{label}</span>
    </label>
  )
}
