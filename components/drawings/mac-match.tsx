import { within } from '@fresh-coat/core/edge/within'
import { type MacRelation, macRelation } from '@fresh-coat/core/network/mac'

/** The MAC that a unit's own Wi-Fi had, over that of a device on the network: what is the same, and the one thing that differs. */

const [box, gap, height] = [56, 10, 46]
const [top, bottom] = [26, 158]
const width = 850
const textAt = 6 * (box + gap) + 24

const differs: Record<MacRelation, [string, string]> = {
  same: ['The same in all six', 'it keeps its MAC as a station'],
  'local-bit': ['One bit apart', 'the mark of an address that it gave itself'],
  'minus-one': ['One below', 'the station comes before the access point'],
  'plus-one': ['One above', 'the station comes after the access point'],
  other: ['Not of one kind', 'these two tell nothing of each other'],
}
const bitsOf = (octet: string) => Number.parseInt(octet, 16).toString(2).padStart(8, '0')
const lettersOf = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '')

function Octets({ octets, y, faint, ink }: { octets: readonly string[]; y: number; faint?: boolean; ink: boolean[] }) {
  return octets.map((o, i) => (
    <g key={i}>
      <rect
        x={i * (box + gap) + 1}
        y={y}
        width={box}
        height={height}
        rx="8"
        fill={ink[i] ? 'var(--ochre-soft)' : 'var(--sheet-2)'}
        stroke={ink[i] ? 'var(--ochre-line)' : faint ? 'var(--rule)' : 'var(--ink)'}
        strokeWidth={ink[i] ? 3 : 2}
        strokeDasharray={faint ? '4 4' : undefined}
      />
      <text
        x={i * (box + gap) + 1 + box / 2}
        y={y + 30}
        textAnchor="middle"
        className="pin"
        style={{ fontSize: 22 }}
        fontWeight="700"
        fill={faint ? 'var(--ink-3)' : 'var(--ink)'}
      >
        {o}
      </text>
    </g>
  ))
}

/** The eight bits of the first octet, of both, and the one that was turned. */
function Bits({ own, found, x, y }: { own: string; found: string; x: number; y: number }) {
  const [a, b] = [bitsOf(own), bitsOf(found)]
  return [a, b].map((bits, row) => (
    <g key={row === 0 ? 'own' : 'found'}>
      {[...bits].map((bit, i) => (
        <g key={i}>
          {a[i] !== b[i] && (
            <rect x={x + i * 17 - 2} y={y + row * 24 - 16} width="17" height="21" rx="3" fill="var(--ochre-soft)" />
          )}
          <text x={x + i * 17 + 6} y={y + row * 24} textAnchor="middle" className="pin" fontSize="16" fill="var(--ink)">
            {bit}
          </text>
        </g>
      ))}
    </g>
  ))
}

/** A name with the end that it shares with the suffix in bold. */
function Tail({ name, suffix, y }: { name: string; suffix: string; y: number }) {
  const shared = suffix !== '' && lettersOf(name).endsWith(lettersOf(suffix)) ? suffix.length : 0
  const cut = name.length - shared
  return (
    <text x={textAt} y={y} fontSize="18" fill="var(--ink-2)">
      {name.slice(0, cut)}
      <tspan fontWeight="700" fill={shared > 0 ? 'var(--verdigris)' : 'var(--ink-2)'}>
        {name.slice(cut)}
      </tspan>
    </text>
  )
}

/**
 * @param own MAC of its access point, with colons; null where nobody looked
 * @param suffix end of its access point's name
 */
export function MacMatch({
  own,
  suffix,
  found,
}: {
  own: string | null
  suffix: string
  found: { mac: string; name: string | null; address: string | null }
}) {
  const theirs = found.mac.split(':')
  const mine = own?.split(':') ?? null
  const relation = own ? macRelation(found.mac, own) : null
  const apart = theirs.map((o, i) => mine !== null && o !== mine[i])
  const [title, about] = relation ? differs[relation] : ['Nobody noted its own MAC', 'only its name is held against it']
  const name = found.name ?? 'no name'
  return (
    <svg
      viewBox={`0 0 ${width} 240`}
      className="w-full min-w-[640px]"
      role="img"
      aria-label={`Its own Wi-Fi ${own ?? 'not noted'}${suffix ? `, name ending ${suffix}` : ''}; on the network ${found.mac}, ${name}: ${within(title)}, ${about}`}
    >
      <text x="0" y="16" fontSize="15" fill="var(--ink-2)">
        its own Wi-Fi
      </text>
      <Octets octets={mine ?? ['?', '?', '?', '?', '?', '?']} y={top} faint={mine === null} ink={apart} />
      {mine &&
        theirs.map((o, i) => (
          <path
            key={i}
            d={`M${i * (box + gap) + 1 + box / 2} ${top + height + 3}V${bottom - 3}`}
            stroke={apart[i] ? 'var(--ochre-line)' : 'var(--verdigris)'}
            strokeWidth={apart[i] ? 3 : 4}
            strokeDasharray={apart[i] ? '3 6' : undefined}
          >
            <title>{apart[i] ? `${mine[i]} and ${o}` : `${o}, the same`}</title>
          </path>
        ))}
      <Octets octets={theirs} y={bottom} ink={apart} />
      <text x="0" y={bottom + height + 24} fontSize="15" fill="var(--ink-2)">
        on the network{found.address ? `, ${found.address}` : ''}
      </text>
      {suffix && <Tail name={`… ${suffix}`} suffix={suffix} y={top + 30} />}
      <Tail name={name} suffix={suffix} y={bottom + 30} />
      <text x={textAt} y={top + height + 32} fontSize="19" fontWeight="700" fill="var(--ink)">
        {title}
      </text>
      <text x={textAt} y={top + height + 54} fontSize="15" fill="var(--ink-2)">
        {about}
      </text>
      {relation === 'local-bit' && mine && (
        <Bits own={mine[0] as string} found={theirs[0] as string} x={width - 150} y={top + height + 30} />
      )}
    </svg>
  )
}
