import type { Metadata } from 'next'
import { headers } from 'next/headers'
import { qrOf } from '@/components/drawings/qr'
import { PrintButton } from '@/components/forms/print-button'
import Link from '@/components/link'
import { Empty, twoDigits } from '@/components/paint/paint'
import { database } from '@/server/db/client'
import { labelled } from '@/server/export/lists'
import { siteOf } from '@/server/network/reads'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Labels' }

/** A module of the code on paper, in mm: smaller ones blur on a label printer. */
const moduleMm = 0.5

/** Labels to print at 100 %: number, name, rating, the address of its page as a code. No secret stands on them. */
export default async function Labels({ searchParams }: { searchParams: Promise<{ units?: string }> }) {
  const numbers = ((await searchParams).units ?? '')
    .split(',')
    .map(Number)
    .filter((n) => Number.isInteger(n) && n > 0)
  const units = await labelled(database(), numbers)
  const { mainsVolts } = await siteOf(database())
  const host = (await headers()).get('host') ?? '127.0.0.1'
  return (
    <main className="grid gap-4 px-4 py-4 sm:px-6">
      <div className="flex flex-wrap items-center gap-4 print:hidden">
        <Link href="/units" className="underline underline-offset-4">
          Units
        </Link>
        <h1 className="text-[1.4rem]">Labels</h1>
        <PrintButton />
        <span className="text-ink-2">
          At 100 %. The code leads to the unit’s page on this computer ({host}), and says nothing else.
        </span>
      </div>
      {units.length === 0 && (
        <Empty title="No unit is in service">
          <p>Labels are for units that hang somewhere; one unit’s own is found at its Watch step.</p>
        </Empty>
      )}
      <ul className="flex flex-wrap gap-[4mm]">
        {units.map((u) => {
          const qr = qrOf(`http://${host}/units/${u.number}`)
          return (
            <li
              key={u.number}
              className="flex h-[22mm] w-[68mm] items-center gap-[2mm] overflow-hidden rounded-[1.5mm] border border-black bg-white p-[1mm] text-black break-inside-avoid"
            >
              <svg
                width={`${qr.size * moduleMm}mm`}
                height={`${qr.size * moduleMm}mm`}
                viewBox={`0 0 ${qr.size} ${qr.size}`}
                className="max-h-full shrink-0"
                role="img"
                aria-label={`Code of the page of unit ${u.number}`}
                shapeRendering="crispEdges"
              >
                <path d={qr.path} fill="black" />
              </svg>
              <span className="grid min-w-0 leading-tight">
                <span className="flex items-baseline gap-[1.5mm]">
                  <span className="font-title shrink-0 text-[6mm] font-bold">{twoDigits(u.number)}</span>
                  <span className="truncate text-[3.6mm] font-semibold" dir="auto">
                    {u.name}
                  </span>
                </span>
                <span className="text-[2.8mm]">
                  {u.amps === null ? 'rating: see its case' : `${u.amps} A · ${u.volts ?? mainsVolts} V at most`}
                </span>
                <span className="truncate text-[2.8mm]">modified firmware{u.firmware ? `: ${u.firmware}` : ''}</span>
              </span>
            </li>
          )
        })}
      </ul>
    </main>
  )
}
