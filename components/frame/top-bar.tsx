'use client'
import dynamic from 'next/dynamic'
import { usePathname } from 'next/navigation'
import { useCallback, useEffect, useRef, useState } from 'react'
import Link from '@/components/link'
import { deskStore } from '@/components/link/desk-store'
import { useWatchedDesk } from '@/components/link/use-desk'
import { ahead } from './fetch-ahead'

// Their code comes when somebody asks for the keys, or looks for something.
const KeysHelp = dynamic(
  ahead(() => import('./keys-help').then((m) => m.KeysHelp)),
  { ssr: false },
)
const Find = dynamic(
  ahead(() => import('./find').then((m) => m.Find)),
  { ssr: false },
)

const rooms = [
  ['/', 'Bench'],
  ['/units', 'Units'],
  ['/boards', 'Boards'],
  ['/images', 'Images'],
  ['/meters', 'Meters'],
  ['/network', 'Network'],
  ['/practice', 'Practice'],
  ['/kit', 'Kit'],
] as const

/** Is a key press meant for a field? Ticks, choices and files are fields too, but nobody types into them. */
const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    ['TEXTAREA', 'SELECT'].includes(target.tagName) ||
    (target instanceof HTMLInputElement && !['radio', 'checkbox', 'file'].includes(target.type)))
const pressable = (target: EventTarget | null) =>
  target instanceof HTMLElement && ['BUTTON', 'A', 'SUMMARY', 'INPUT'].includes(target.tagName)

function switchTheme() {
  const evening = document.documentElement.dataset.theme !== 'evening'
  document.documentElement.dataset.theme = evening ? 'evening' : 'day'
  try {
    localStorage.setItem('fresh-coat:theme', evening ? 'evening' : 'day')
  } catch {
    // The theme then lasts until the next page load.
  }
}

/** What a key presses, or which field it leads into. */
function targetOf(key: string): HTMLElement | null {
  const marked = document.querySelector<HTMLElement>(`[data-key="${CSS.escape(key)}"]:not(:disabled)`)
  if (marked || key !== 'n') return marked
  const find = (where: string) => document.querySelector<HTMLElement>(`${where}:not(:disabled)`)
  return find('[data-part="card"] :is(input, textarea)') ?? find('[data-part="sheet"] input[type="file"]')
}

/** What opens over the page comes a moment after its key, the first time: so long nothing on the page hears a key. */
const opensWithinMs = 4000
const isOpen = () => document.querySelector('[role="dialog"]') !== null

/** Keys between one that opens something and its opening: for find they are its first letters, never answers to the card. */
function useOpening() {
  const opening = useRef<{ until: number; keys: string } | null>(null)
  const begin = useCallback(() => {
    opening.current = { until: Date.now() + opensWithinMs, keys: '' }
  }, [])
  // It stands a moment before the keyboard is in it: until then keys would fall beside it.
  useEffect(() => {
    const entered = (e: FocusEvent) => {
      if (e.target instanceof Element && e.target.closest('[role="dialog"]')) opening.current = null
    }
    window.addEventListener('focusin', entered)
    return () => window.removeEventListener('focusin', entered)
  }, [])
  /** True where the key belongs to what is about to open. */
  const takes = useCallback((e: KeyboardEvent) => {
    const now = opening.current
    if (!now || Date.now() > now.until) return false
    if (e.key.length === 1) now.keys += e.key
    else if (e.key === 'Enter') now.keys += '\n'
    else if (e.key === 'Backspace') now.keys = now.keys.slice(0, -1)
    return true
  }, [])
  /** What was typed so far. */
  const typed = useCallback(() => opening.current?.keys ?? '', [])
  return { begin, takes, typed }
}

/** The first stop of the keyboard: past the bar, to the question or to the page. */
function SkipLink() {
  return (
    <button
      type="button"
      className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:m-2 focus:rounded-[8px] focus:bg-sheet focus:px-3 focus:py-2 focus:text-ink"
      onClick={() => {
        const card = document.querySelector<HTMLElement>('[data-part="card"]')
        const work = card ?? document.getElementById('work')
        work?.focus()
      }}
    >
      To the work
    </button>
  )
}

export function TopBar({ mark }: { mark: string }) {
  const path = usePathname()
  const [finding, setFinding] = useState(false)
  // A port at work stays at work in another room; leaving the app while it is asks first.
  useWatchedDesk(deskStore)
  const [showKeys, setShowKeys] = useState(false)

  const { begin, takes, typed } = useOpening()
  const openFind = useCallback(() => {
    begin()
    setFinding(true)
  }, [begin])

  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      // What opened above the page has taken the key: it may be gone by now, and the key must not fall through to the page.
      if (e.defaultPrevented || e.ctrlKey || e.metaKey || e.altKey || typing(e.target)) return
      if (takes(e)) {
        e.preventDefault()
        return
      }
      if (isOpen()) return
      if ((e.key === ' ' || e.key === 'Enter') && pressable(e.target)) return
      if (e.key === '?') setShowKeys(true)
      else if (e.key === '/') openFind()
      else if (e.key === 'e') switchTheme()
      else {
        const target = targetOf(e.key)
        if (!target) return
        if (target.dataset.opens) begin()
        const field = target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement
        if (field) target.focus()
        if (!field || target.getAttribute('type') === 'file') target.click()
      }
      e.preventDefault()
    }
    window.addEventListener('keydown', onKey)
    // Scripts that press keys wait for this: before it, a key goes nowhere.
    document.documentElement.dataset.keys = 'heard'
    return () => window.removeEventListener('keydown', onKey)
  }, [begin, takes, openFind])

  const here = (href: string) => (href === '/' ? path === '/' : path.startsWith(href))
  return (
    <header className="no-print bg-bar text-[#eaf2ee]">
      <SkipLink />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5 px-4 py-1.5 md:h-[52px] md:flex-nowrap md:py-0">
        <Link href="/" className="flex items-center gap-2.5 font-title text-[1.3rem] font-bold tracking-tight">
          <svg viewBox="0 0 26 20" className="h-5 w-[26px]" aria-hidden="true">
            <path d="M1 3c5-1.500 9 .5 13 0s7-.8 11 0l-.5 4.500c-4-.8-7-.3-11 .2S5 8 1.500 7.400z" fill="#e2a02f" />
            <path d="M1 12c4-1 8 .6 12 0s6-.6 8.500 0l-.5 4.500c-3-.7-5-.3-8 0s-8 .7-11.500 0z" fill="#62bfa8" />
          </svg>
          <span className="whitespace-nowrap max-sm:text-[1.1rem]">Fresh Coat</span>
        </Link>
        {mark && (
          <span className="rounded-[6px] border border-[#e2a02f] px-2 py-0.5 text-[0.87rem] whitespace-nowrap text-[#f0c267]">
            {mark}
          </span>
        )}
        <nav
          aria-label="Rooms"
          className="order-last flex w-full gap-0.5 overflow-x-auto md:order-none md:w-auto md:flex-1"
        >
          {rooms.map(([href, name]) => (
            <Link
              key={href}
              href={href}
              aria-current={here(href) ? 'page' : undefined}
              className={`rounded-[8px] px-2.5 py-1.5 whitespace-nowrap xl:px-3 ${here(href) ? 'bg-[#fcfdfc] font-semibold text-[#12231f]' : 'text-[#d5e2dd] hover:bg-white/10'}`}
            >
              {name}
            </Link>
          ))}
        </nav>
        <div className="ml-auto flex items-center gap-2">
          <button
            type="button"
            onClick={openFind}
            className="flex min-h-[2.2rem] items-center gap-6 rounded-[8px] border border-white/25 bg-black/20 px-3 text-[#d5e2dd] xl:w-[230px]"
          >
            <span className="max-xl:sr-only">Find a unit, pad, file…</span>
            <kbd className="pin ml-auto rounded-[4px] bg-[#fcfdfc] px-1.5 text-[#12231f]">/</kbd>
          </button>
          <button
            type="button"
            onClick={switchTheme}
            className="min-h-[2.2rem] rounded-[8px] border border-white/25 px-2 text-[#d5e2dd]"
            title="Evening theme, and back (e)"
          >
            Evening
          </button>
          <button
            type="button"
            onClick={() => setShowKeys(true)}
            className="pin min-h-[2.2rem] rounded-[8px] border border-white/25 px-2.5 text-[#d5e2dd] max-md:sr-only"
            aria-label="All keys"
          >
            ?
          </button>
        </div>
      </div>
      {finding && <Find open begun={typed} onOpenChange={setFinding} />}
      {showKeys && <KeysHelp path={path} onOpenChange={setShowKeys} />}
    </header>
  )
}
