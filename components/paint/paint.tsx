import type { Finding, Severity } from '@fresh-coat/core/edge/finding'
import type { SomeUnits } from '@fresh-coat/core/edge/some'
import type { CoatProgress } from '@fresh-coat/core/unit/coats'
import type { CoatId } from '@fresh-coat/core/unit/way'
import type { ReactNode } from 'react'

/** The small marks that recur everywhere: painted bands, case numbers, verdict tags, findings, facts. */

export const coatPaint: Record<CoatId, string> = {
  strip: 'var(--plum)',
  prime: 'var(--prussian)',
  coat: 'var(--verdigris)',
  cure: 'var(--olive)',
  hang: 'var(--pine)',
}

const upper = 'M0 2 C 14 0.6 28 2.6 44 1.4 S 74 0.8 100 2.2'
const bandShape = `${upper} L100 12.4 C 82 13.6 64 11.8 46 13 S 16 11.6 0 12.8 Z`

/** One stroke of paint, a little uneven; hatched where work is in hand. */
export function PaintBand({ coat, share, active = false }: { coat: CoatId; share: number; active?: boolean }) {
  const id = `band-${coat}-${Math.round(share * 1000)}-${active ? 1 : 0}`
  return (
    <svg viewBox="0 0 100 15" preserveAspectRatio="none" className="block h-[14px] w-full" aria-hidden="true">
      <defs>
        <clipPath id={id}>
          <path d={bandShape} />
        </clipPath>
        <pattern id={`${id}-h`} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="1.6" height="5" fill="var(--ink-3)" />
        </pattern>
      </defs>
      <g clipPath={`url(#${id})`}>
        <rect width="100" height="15" fill="var(--unpainted)" />
        {active && <rect x={share * 100} width={100 - share * 100} height="15" fill={`url(#${id}-h)`} />}
        <rect width={share * 100} height="15" fill={coatPaint[coat]} />
      </g>
    </svg>
  )
}

export function CoatBands({ coats, narrow = false }: { coats: readonly CoatProgress[]; narrow?: boolean }) {
  return (
    <ol className={`grid grid-cols-5 ${narrow ? 'gap-3' : 'gap-3.5'}`} aria-label="Coats">
      {coats.map((c) => (
        <li key={c.id} className="min-w-0">
          <div className="flex items-baseline justify-between gap-1 font-title text-[0.87rem] font-semibold">
            <span>{c.name}</span>
            <span className="font-normal text-ink-3">
              {c.done}/{c.of}
            </span>
          </div>
          <PaintBand coat={c.id} share={c.of === 0 ? 1 : c.done / c.of} active={c.active} />
        </li>
      ))}
    </ol>
  )
}

export const twoDigits = (n: number): string => String(n).padStart(2, '0')
/** "03, 07, 12 and 4 more" */
export const numbersOf = ({ all, numbers }: SomeUnits): string =>
  `${numbers.map(twoDigits).join(', ')}${all > numbers.length ? ` and ${all - numbers.length} more` : ''}`

/** The number written on the case: a rounded square with a thick rim. */
export function CaseNumber({ n, size = 'big' }: { n: number; size?: 'big' | 'small' }) {
  return (
    <span
      className={`inline-grid shrink-0 place-items-center border-ink bg-sheet font-title font-extrabold text-ink ${size === 'big' ? 'h-[62px] min-w-[62px] rounded-[12px] border-[3px] px-2 text-[2.5rem]' : 'h-8 min-w-8 rounded-[8px] border-2 px-1 text-[1.05rem]'} leading-none`}
    >
      {twoDigits(n)}
    </span>
  )
}

const tagLook: Record<Severity, string> = {
  ok: 'bg-ok-soft text-verdigris',
  watch: 'bg-ochre-soft text-ochre',
  error: 'bg-oxide-soft text-oxide',
}
const tagWord: Record<Severity, string> = { ok: 'ok', watch: 'watch', error: 'stop' }

export function Tag({ severity, children }: { severity: Severity; children?: ReactNode }) {
  return (
    <span
      className={`pin inline-block shrink-0 self-start rounded-[5px] px-1.5 py-0.5 font-semibold ${tagLook[severity]}`}
    >
      {children ?? tagWord[severity]}
    </span>
  )
}

export function FindingRow({ finding, children }: { finding: Finding; children?: ReactNode }) {
  return (
    <li className="flex gap-2.5">
      <Tag severity={finding.severity} />
      <div className="min-w-0">
        <p>{finding.message}</p>
        {finding.because && <p className="text-[0.9rem] text-ink-2">{finding.because}</p>}
        {finding.next && <p className="text-[0.9rem] text-ink-2">{finding.next}</p>}
        {children}
      </div>
    </li>
  )
}

export function Findings({
  findings,
  empty,
  label = 'Checks',
}: {
  findings: readonly Finding[]
  empty?: string
  label?: string
}) {
  if (findings.length === 0)
    return empty ? (
      <p className="flex gap-2.5">
        <Tag severity="ok" />
        {empty}
      </p>
    ) : null
  return (
    <ul className="grid gap-x-8 gap-y-2.5 lg:grid-cols-2" aria-label={label} aria-live="polite">
      {findings.map((f, i) => (
        <FindingRow key={`${f.code}-${i}`} finding={f} />
      ))}
    </ul>
  )
}

/** A fact with its evidence and age. */
export function Fact({ name, children, evidence }: { name: string; children: ReactNode; evidence?: ReactNode }) {
  return (
    <div className="grid grid-cols-[6.2rem_1fr] gap-x-3 border-b border-rule-2 py-2.5">
      <dt className="text-ink-2">{name}</dt>
      <dd className="min-w-0 break-words">
        {children}
        {evidence && <div className="text-[0.87rem] text-ink-3">{evidence}</div>}
      </dd>
    </div>
  )
}

export function Key({ children }: { children: ReactNode }) {
  return (
    <kbd className="pin ml-2 rounded-[5px] border border-current/40 px-1.5 py-px text-[0.75rem] opacity-90 max-md:hidden">
      {children}
    </kbd>
  )
}

const buttonLook = {
  main: 'bg-verdigris text-on-paint border-verdigris font-semibold hover:brightness-110',
  plain: 'bg-sheet text-ink border-ink font-semibold hover:bg-sheet-2',
  quiet: 'bg-transparent text-ink-2 border-transparent underline underline-offset-4 hover:text-ink',
}
export type ButtonLook = keyof typeof buttonLook
export const buttonClass = (look: ButtonLook = 'plain') =>
  `inline-flex items-center justify-center min-h-[2.6rem] rounded-[9px] border px-4 py-1.5 leading-tight disabled:opacity-55 disabled:cursor-not-allowed ${buttonLook[look]}`

export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="sheet grid justify-items-start gap-2 p-6">
      <h2 className="text-[1.2rem]">{title}</h2>
      <div className="max-w-prose text-ink-2">{children}</div>
    </div>
  )
}

export function Notice({ severity, title, children }: { severity: Severity; title: string; children?: ReactNode }) {
  const look =
    severity === 'error'
      ? 'bg-oxide-soft border-oxide'
      : severity === 'watch'
        ? 'bg-ochre-soft border-ochre-line'
        : 'bg-ok-soft border-verdigris'
  return (
    <div role={severity === 'error' ? 'alert' : 'status'} className={`rounded-[10px] border px-4 py-3 ${look}`}>
      <p className="font-semibold">{title}</p>
      {children && <div className="mt-1">{children}</div>}
    </div>
  )
}

/** By their digits: to make one takes far longer than to write with it. */
const amountForms: Intl.NumberFormat[] = []

/** 12 345, with thin spaces; decimals as the reader's locale writes them are left to the browser. */
export function amount(n: number, digits = 0): string {
  let form = amountForms[digits]
  if (!form) {
    form = new Intl.NumberFormat('en', { minimumFractionDigits: digits, maximumFractionDigits: digits })
    amountForms[digits] = form
  }
  return form.format(n).replaceAll(',', '\u2009')
}

/** A probability in per cent; never a round 100 that nobody computed. */
export const percentOf = (p: number): string =>
  p < 1 && p >= 0.9995 ? '>\u00a099.9\u00a0%' : `${(p * 100).toFixed(1)}\u00a0%`

const dayNames = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday']
const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]
const clock = (d: Date) => `${String(d.getHours()).padStart(2, '0')}:${String(d.getMinutes()).padStart(2, '0')}`
export const longDay = (iso: string): string => {
  const d = new Date(iso)
  return `${dayNames[d.getDay()]} ${d.getDate()} ${monthNames[d.getMonth()]}, ${clock(d)}`
}
export const shortMoment = (iso: string): string => {
  const d = new Date(iso)
  return `${d.getDate()} ${(monthNames[d.getMonth()] as string).slice(0, 3)} ${d.getFullYear()}, ${clock(d)}`
}
/** The clock of a moment of today, the day of an earlier one. */
export const clockOf = (iso: string): string => {
  const d = new Date(iso)
  return d.toDateString() === new Date().toDateString()
    ? clock(d)
    : `${d.getDate()} ${(monthNames[d.getMonth()] as string).slice(0, 3)}`
}

/** "Pellworth P1 rev C (4 units)": a board as it is chosen. */
export const boardLabel = ({ name, units }: { name: string; units: number }): string =>
  units > 0 ? `${name} (${units} ${units === 1 ? 'unit' : 'units'})` : name
