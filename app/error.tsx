'use client'
import { buttonClass } from '@/components/paint/paint'

export default function PageError({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="mx-auto max-w-xl p-6">
      <div role="alert" className="sheet grid gap-3 p-6">
        <h1 className="text-[1.4rem]">This page could not be read</h1>
        <p>
          The server or its database did not answer. Nothing was changed, and what you typed is kept in this browser.
        </p>
        <p>See whether bin/start is still running, then try again.</p>
        <button type="button" className={buttonClass('main')} onClick={reset}>
          Try again
        </button>
      </div>
    </main>
  )
}
