import type { LeafWords } from '@fresh-coat/core/topics/leaves'
import type { ReactNode } from 'react'
import { twoDigits } from '@/components/paint/paint'
import { wrapped } from './case-drawing'

/** What a unit goes by, from the number on its case to what it says on the network. */
export interface NameFacts {
  number: number
  name: string
  place: string
  topic: string | null
  address: string
  mac: string
  reserved: boolean
  /** How it is found where it is not reserved. */
  kept: 'lookup' | 'fixed' | null
  clash: boolean
  /** What stands under its topic. */
  leaves: readonly LeafWords[]
}

const keptWords = ({ reserved, kept }: NameFacts): string =>
  reserved
    ? 'reserved'
    : kept === 'lookup'
      ? 'found by its name'
      : kept === 'fixed'
        ? 'fixed in it'
        : 'not reserved yet'

/** So many leaves find their place; the others are named in a row below them. */
const mostLeaves = 3

function Plate({
  y,
  title,
  children,
  dashed = false,
}: {
  y: number
  title: string
  children: ReactNode
  dashed?: boolean
}) {
  return (
    <g>
      <rect
        x="250"
        y={y}
        width="570"
        height="92"
        rx="12"
        fill="var(--sheet-2)"
        stroke={dashed ? 'var(--ink-3)' : 'var(--ink)'}
        strokeWidth="2"
        strokeDasharray={dashed ? '7 5' : undefined}
      />
      <text x="270" y={y + 26} fontSize="14.5" fill="var(--ink-2)">
        {title}
      </text>
      {children}
    </g>
  )
}

/** Number, name, topic and address as one chain: the number is the anchor, all else hangs on it. */
export function NameDrawing({ facts }: { facts: NameFacts }) {
  const topic = facts.topic ?? 'no topic yet'
  return (
    <svg
      viewBox="0 0 840 430"
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 430 }}
      role="img"
      aria-label={`Number ${facts.number} is called ${facts.name}; its topic is ${topic}; its address ${facts.address || 'not known'}, ${keptWords(facts)}`}
    >
      <path d="M150 120V384M150 66H250M150 176H250M150 384H250" fill="none" stroke="var(--ink-3)" strokeWidth="3" />
      <rect x="60" y="20" width="130" height="104" rx="20" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="6" />
      <text x="125" y="92" textAnchor="middle" className="font-title" fontSize="64" fontWeight="800" fill="var(--ink)">
        {twoDigits(facts.number)}
      </text>
      <Plate y={20} title={`what people say${facts.place ? `, at ${wrapped(facts.place, 40, 1)[0]}` : ''}`}>
        <text x="270" y="88" className="font-title" fontSize="27" fontWeight="700" fill="var(--ink)">
          {wrapped(facts.name, 36, 1)[0]}
        </text>
      </Plate>
      <Plate y={130} title="its topic" dashed={facts.topic === null}>
        <text
          x="270"
          y="196"
          className="pin"
          style={{ fontSize: topic.length > 44 ? 14 : 20 }}
          fontWeight="700"
          fill={facts.clash ? 'var(--oxide)' : 'var(--ink)'}
        >
          {topic.length > 64 ? `…${topic.slice(-63)}` : topic}
        </text>
      </Plate>
      {facts.topic &&
        facts.leaves.slice(0, mostLeaves).map((l, i) => (
          <g key={l.leaf}>
            <path d={`M290 222V${241 + i * 25}H316`} fill="none" stroke="var(--rule)" strokeWidth="2.5" />
            <text x="324" y={246 + i * 25} className="pin" style={{ fontSize: 16 }} fill="var(--ink)">
              …/{l.leaf}
            </text>
            <text x="500" y={246 + i * 25} fontSize="15" fill="var(--ink-2)">
              {l.way}
            </text>
          </g>
        ))}
      {facts.topic && facts.leaves.length > mostLeaves && (
        <text x="324" y={246 + mostLeaves * 25} fontSize="14" fill="var(--ink-2)">
          and{' '}
          {facts.leaves
            .slice(mostLeaves)
            .map((l) => l.leaf)
            .join(', ')}
        </text>
      )}
      <Plate y={336} title={`its address, ${keptWords(facts)}`} dashed={!facts.reserved && facts.kept === null}>
        <text x="270" y="402" className="pin" style={{ fontSize: 22 }} fontWeight="700" fill="var(--ink)">
          {facts.address || 'not known yet'}
        </text>
        <text x="800" y="402" textAnchor="end" className="pin" style={{ fontSize: 14 }} fill="var(--ink-2)">
          {facts.mac}
        </text>
      </Plate>
    </svg>
  )
}
