'use client'
import { type PadReading, type ReadingName, readOhms, readVolts } from '@fresh-coat/core/pads/readings'
import { type KeyboardEvent, useEffect, useState } from 'react'

/** How each reading is headed and answered: short enough for a grid, plain enough without one. */
export const readingWords: Record<
  ReadingName,
  { head: string; unit: string; yes?: string; no?: string; hint: string }
> = {
  label: { head: 'Print', unit: '', hint: 'as printed; empty says nothing is there' },
  square: { head: 'Shape', unit: '', yes: 'square', no: 'round', hint: 'which one is square' },
  cont_gnd: { head: 'To GND', unit: '', yes: 'beeps', no: 'silent', hint: 'black on a sure ground' },
  ohms_3v3: { head: 'To 3V3', unit: 'Ω', hint: '0.4, 10k, o for open' },
  button_gnd: { head: 'Button held', unit: '', yes: 'beeps', no: 'silent', hint: 'beeps only while held' },
  volts: { head: 'Idle', unit: 'V', hint: '3.27, f when it floats' },
  volts_10k: { head: 'With 10 kΩ', unit: 'V', hint: 'what it sags to' },
  dip: { head: 'Power-up', unit: '', yes: 'dips', no: 'steady', hint: 'a short dip of the average' },
  text: { head: 'Listening', unit: '', yes: 'text', no: 'nothing', hint: 'text through a reset' },
}
export const unpowered: ReadingName[] = ['label', 'square', 'cont_gnd', 'ohms_3v3', 'button_gnd']
export const poweredReadings: ReadingName[] = ['volts', 'volts_10k', 'dip', 'text']

const shown = (value: unknown): string =>
  value === undefined ? '' : typeof value === 'number' ? String(Math.round(value * 1e6) / 1e6) : String(value)

/** Number keys answer yes and no, so that a number pad is enough; arrows move, Enter goes down. */
export function ReadingCell({
  pad,
  reading,
  value,
  onChange,
  fault,
  wanted,
  move,
  probe,
}: {
  /** Place of the pad as it is numbered on the page. */
  pad: number
  reading: ReadingName
  value: PadReading[ReadingName]
  onChange: (value: PadReading[ReadingName]) => void
  fault: string
  wanted: boolean
  move: (e: KeyboardEvent<HTMLElement>) => void
  /** In practice the meter answers by itself: a press takes the reading. */
  probe?: () => void
}) {
  const words = readingWords[reading]
  const name = `Pad ${pad + 1}, ${words.head}`
  const [text, setText] = useState(shown(value))
  const [bad, setBad] = useState(false)
  useEffect(() => {
    setText((now) => {
      const same = reading === 'ohms_3v3' ? readOhms(now) : reading === 'label' ? now : readVolts(now)
      return same === value && value !== undefined ? now : shown(value)
    })
    setBad(false)
  }, [value, reading])
  const ring = fault || bad ? 'border-oxide border-2' : wanted ? 'border-ochre-line border-2' : 'border-rule'
  const size = 'min-h-[3rem] w-full rounded-[8px] border bg-sheet px-1.5 text-center text-[1.02rem]'

  if (probe)
    return (
      <button
        type="button"
        data-cell={`${pad} ${reading}`}
        aria-label={`${name}: ${value === undefined ? 'take the reading' : words.yes ? (value ? words.yes : words.no) : `${shown(value) || 'nothing'} ${words.unit}`}`}
        className={`${size} ${ring}`}
        disabled={value !== undefined}
        onKeyDown={move}
        onClick={probe}
      >
        {value === undefined ? (
          <span className="text-ink-3">probe</span>
        ) : words.yes ? (
          value ? (
            words.yes
          ) : (
            words.no
          )
        ) : (
          <span className="pin">{shown(value) || '–'}</span>
        )}
      </button>
    )
  if (words.yes) {
    const answer = value === undefined ? 'not looked at' : value ? words.yes : words.no
    return (
      <button
        type="button"
        data-cell={`${pad} ${reading}`}
        aria-label={`${name}: ${answer}`}
        className={`${size} ${ring} ${value === true ? 'bg-ok-soft font-semibold' : ''} ${value === undefined ? 'text-ink-3' : ''}`}
        onClick={() => onChange(value === undefined ? true : value ? false : undefined)}
        onKeyDown={(e) => {
          const key = e.key.toLowerCase()
          if (['1', 'y', 'b', '+'].includes(key)) onChange(true)
          else if (['0', 'n', 's', '-'].includes(key)) onChange(false)
          else if (key === 'backspace' || key === 'delete') onChange(undefined)
          else return move(e)
          e.preventDefault()
          e.stopPropagation()
        }}
      >
        {value === undefined ? '–' : answer}
      </button>
    )
  }
  return (
    <input
      data-cell={`${pad} ${reading}`}
      aria-label={name}
      aria-invalid={bad || fault !== ''}
      title={fault || undefined}
      className={`${size} ${ring} pin`}
      inputMode={reading === 'label' ? 'text' : 'decimal'}
      autoComplete="off"
      maxLength={40}
      value={text}
      onKeyDown={move}
      onChange={(e) => {
        const next = e.target.value
        setText(next)
        if (reading === 'label') {
          onChange(next)
          return
        }
        const number = reading === 'ohms_3v3' ? readOhms(next) : readVolts(next)
        setBad(next.trim() !== '' && number === null)
        if (next.trim() === '') onChange(undefined)
        else if (number !== null) onChange(number)
      }}
    />
  )
}
