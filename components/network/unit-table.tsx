'use client'
import { type Packed, usePacked } from '@/components/packed'
import { useFirstScreen } from '@/components/tables/first-screen'
import { UnitCell } from '@/components/units/unit-cell'

interface Row {
  id: string
  number: number
  name: string
  topic: string
  address: string
  mac: string
  tested: string
}

/** The table begins under the air and the map. */
const rowsAtFirst = 10

/** Units as the network and the hub see them. */
export function UnitTable({ given }: { given: Packed<Row[]> }) {
  const rows = usePacked(given)
  const drawn = useFirstScreen(rows.length, rowsAtFirst)
  return (
    <div className="sheet overflow-x-auto px-4 py-2">
      <table className="plain">
        <thead>
          <tr>
            <th>Unit</th>
            <th>Topic</th>
            <th>Address</th>
            <th>MAC</th>
            <th>Last hub test</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, drawn).map((u) => (
            <tr key={u.id}>
              <td>
                <UnitCell number={u.number} name={u.name} href={`/units/${u.number}/name`} />
              </td>
              <td className="pin break-all">{u.topic || '–'}</td>
              <td className="pin">{u.address || '–'}</td>
              <td className="pin">{u.mac || '–'}</td>
              <td>{u.tested || '–'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
