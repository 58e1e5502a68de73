'use client'
import { Command } from 'cmdk'
import { useRouter } from 'next/navigation'
import { Dialog } from 'radix-ui'
import { type KeyboardEvent, type RefObject, useEffect, useRef, useState } from 'react'

interface Hit {
  href: string
  title: string
  about: string
}

/** What tells one hit from the others in the list. */
const markOf = (hit: Hit) => `${hit.href} ${hit.title}`

const pauseMs = 120

/**
 * What fits a text, asked of the server while it is typed.
 * @param earlyEnter the text behind which Enter was pressed before the field was there
 * @param go called with the first hit, when Enter was pressed before the answer came
 */
function useHits(
  text: string,
  open: boolean,
  earlyEnter: RefObject<string | null>,
  go: (hit: Hit | undefined) => void,
) {
  const [hits, setHits] = useState<Hit[] | null>([])
  const asked = useRef(0)
  /** What the hits on screen answer: Enter goes nowhere by an older answer, it waits for its own. */
  const answered = useRef<string | null>(null)
  const entered = useRef(false)
  // biome-ignore lint/correctness/useExhaustiveDependencies: asks when the text changes, not when the way there does
  useEffect(() => {
    if (!open) return
    answered.current = null
    entered.current = earlyEnter.current === text
    const mine = ++asked.current
    const ask = async () => {
      const found = await fetch(`/api/find?q=${encodeURIComponent(text)}`)
        .then(async (response) => ((await response.json()) as { hits: Hit[] }).hits)
        .catch(() => null)
      if (asked.current !== mine) return
      answered.current = text
      setHits(found)
      if (!entered.current) return
      earlyEnter.current = null
      go(found?.[0])
    }
    const timer = setTimeout(() => void ask(), pauseMs)
    return () => clearTimeout(timer)
  }, [text, open])
  /** True when the answer to what is typed is not there yet; Enter is remembered then. */
  const enterWaits = () => {
    if (answered.current === text) return false
    entered.current = true
    return true
  }
  return { hits, enterWaits }
}

const said = (hits: readonly Hit[] | null, text: string): string => {
  if (hits === null) return 'The server does not answer; it is asked again with the next letter.'
  if (text.trim() === '') return 'Type a case number to go there, or a sum: 3.3 led 2.0 4 ma.'
  return hits.length === 0 ? 'Nothing is called like that.' : `${hits.length} found`
}

const nothingTyped = () => ''

/**
 * Finds units, boards, pads, files and kit; a case number and Enter goes there.
 * @param begun what was typed before it stood, with Enter as a line end
 */
export function Find({
  open,
  begun = nothingTyped,
  onOpenChange,
}: {
  open: boolean
  begun?: () => string
  onOpenChange: (open: boolean) => void
}) {
  const router = useRouter()
  const [text, setText] = useState('')
  const earlyEnter = useRef<string | null>(null)
  const stands = useRef(false)
  // The keyboard comes into the field in the moment in which it stands, behind what was typed so far: no letter comes in between.
  const enter = (field: HTMLInputElement | null) => {
    if (!field || stands.current) return
    stands.current = true
    const keys = begun()
    const typed = keys.split('\n')[0] ?? ''
    if (keys.includes('\n')) earlyEnter.current = typed
    setText(typed)
    field.focus()
  }
  const go = (hit: Hit | undefined) => {
    if (!hit) return
    onOpenChange(false)
    setText('')
    router.push(hit.href)
  }
  const { hits, enterWaits } = useHits(text, open, earlyEnter, go)
  const [chosen, setChosen] = useState('')
  // Enter takes what is marked; before anything is marked, the first one.
  const onEnter = (e: KeyboardEvent) => {
    if (e.key !== 'Enter') return
    e.preventDefault()
    if (!enterWaits()) go(hits?.find((hit) => markOf(hit) === chosen) ?? hits?.[0])
  }
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="sheet fixed top-[8vh] left-1/2 z-50 w-[min(38rem,94vw)] -translate-x-1/2 p-4"
        >
          <Dialog.Title className="sr-only">Find</Dialog.Title>
          <Command
            label="Find a number, name, pad, file or address"
            shouldFilter={false}
            loop
            value={chosen}
            onValueChange={setChosen}
            onKeyDown={onEnter}
          >
            <Command.Input
              ref={enter}
              className="field text-[1.1rem]"
              placeholder="Number, name, pad, file, address"
              value={text}
              onValueChange={setText}
            />
            <p className="mt-2 text-[0.9rem] text-ink-2" aria-live="polite">
              {said(hits, text)}
            </p>
            <Command.List className="mt-1 max-h-[55vh] overflow-y-auto">
              {(hits ?? []).map((hit) => (
                <Command.Item
                  key={`${hit.href}-${hit.title}`}
                  value={markOf(hit)}
                  onSelect={() => go(hit)}
                  className="cursor-pointer rounded-[8px] px-3 py-2 data-[selected=true]:bg-ok-soft"
                >
                  <span className="font-semibold">{hit.title}</span> <span className="text-ink-2">{hit.about}</span>
                </Command.Item>
              ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
