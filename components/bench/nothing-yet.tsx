import { coats, steps } from '@fresh-coat/core/unit/way'
import Link from '@/components/link'
import { buttonClass, Key, PaintBand } from '@/components/paint/paint'
import { OpenYard } from './open-yard'

const about = {
  strip: 'Open the case and see which chip it is.',
  prime: 'Find its pads, wire them, keep the stock firmware.',
  coat: 'Check an open firmware, write it, see it start.',
  cure: 'Find its pins, close it, calibrate its meter.',
  hang: 'Name it, connect it, prove it, put it into service.',
}

/** The bench before the first unit: the five coats a device gets, and the one thing to do. */
export function NothingYet() {
  return (
    <main className="mx-auto grid min-h-[calc(100dvh-52px)] max-w-5xl content-center gap-7 px-5 py-6">
      <div>
        <h1 className="text-[2.3rem] leading-tight">Five coats, from a sealed case to a device in service</h1>
        <p className="mt-1 max-w-[62ch] text-[1.05rem] text-ink-2">
          Take a device, write a number on its case, and say what it is. What you learn on it is kept for the next one
          of the same board.
        </p>
      </div>
      <ol className="grid gap-4 sm:grid-cols-5">
        {coats.map((c) => (
          <li key={c.id} className="grid content-start gap-1">
            <span className="font-title text-[1.2rem] font-bold">{c.name}</span>
            <PaintBand coat={c.id} share={1} />
            <span className="leading-snug">{about[c.id]}</span>
            <span className="text-[0.93rem] text-ink-2">
              {steps
                .filter((s) => s.coat === c.id)
                .map((s) => s.short.toLowerCase())
                .join(', ')}
            </span>
          </li>
        ))}
      </ol>
      <div className="flex flex-wrap items-start gap-4">
        <Link href="/units/new" data-key="n" className={`${buttonClass('main')} min-h-[3.2rem] text-[1.15rem]`}>
          The first unit
          <Key>n</Key>
        </Link>
        <OpenYard />
        <p className="max-w-[34ch] text-ink-2">
          Lantern Yard is a made-up puppet theatre with units at every step, in a database of its own.
        </p>
      </div>
    </main>
  )
}
