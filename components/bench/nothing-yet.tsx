import Link from '@/components/link'
import { buttonClass, Empty, Key } from '@/components/paint/paint'

/** The bench before the first unit. */
export function NothingYet() {
  return (
    <main className="mx-auto max-w-3xl p-5">
      <h1 className="mb-4 text-[1.5rem]">Bench</h1>
      <Empty title="Nothing on the bench yet">
        <p>
          Take the first device, write a number on its case, and say what it is. The app then leads it from its closed
          case to a device in service, and keeps what it learns for the next one of the same board.
        </p>
        <p className="mt-4">
          <Link href="/units/new" data-key="n" className={buttonClass('main')}>
            The first unit
            <Key>n</Key>
          </Link>
        </p>
      </Empty>
    </main>
  )
}
