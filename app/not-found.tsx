import Link from '@/components/link'
import { buttonClass } from '@/components/paint/paint'

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl p-6">
      <div className="sheet grid justify-items-start gap-3 p-6">
        <h1 className="text-[1.4rem]">There is nothing here</h1>
        <p>No unit, board or file has this address. It may have been renumbered, or undone.</p>
        <Link href="/units" className={buttonClass('main')}>
          All units
        </Link>
      </div>
    </main>
  )
}
