import Link from '@/components/link'
import { CaseNumber } from '@/components/paint/paint'

/** A unit in a table: the number on its case and its name, which lead to one of its steps. */
export function UnitCell({ number, name, href }: { number: number; name: string; href: string }) {
  return (
    <Link href={href} className="flex items-center gap-3">
      <CaseNumber n={number} size="small" />
      <span className="underline underline-offset-4" dir="auto">
        {name}
      </span>
    </Link>
  )
}
