import type { ReactNode } from 'react'

/** Small pictures of what a check of Identify can show: what one looks for, drawn as it lies on the bench. */

const ink = 'var(--ink)'
const line = { fill: 'none', stroke: ink, strokeWidth: 1.6 }
const paper = { fill: 'var(--sheet-2)', stroke: ink, strokeWidth: 1.4 }

const Letters = ({
  x = 28,
  y = 21,
  size = 10,
  children,
}: {
  x?: number
  y?: number
  size?: number
  children: string
}) => (
  <text x={x} y={y} textAnchor="middle" className="pin" style={{ fontSize: size }} fill={ink}>
    {children}
  </text>
)

const Crystal = ({ print }: { print: string }) => (
  <>
    <rect x="8" y="8" width="40" height="18" rx="9" {...paper} />
    {print === '' ? <path d="M16 17h24" {...line} strokeDasharray="1.5 4" /> : <Letters>{print}</Letters>}
  </>
)

/** A chip with legs at both sides: `legs` a side. */
const Legged = ({ x, y, w, h, legs }: { x: number; y: number; w: number; h: number; legs: number }) => (
  <>
    {Array.from({ length: legs }, (_, i) => {
      const at = y + ((i + 0.5) * h) / legs
      return <path key={at} d={`M${x - 4} ${at}h4M${x + w} ${at}h4`} {...line} />
    })}
    <rect x={x} y={y} width={w} height={h} rx="1.5" {...paper} />
  </>
)

const Flash = ({ beside }: { beside: boolean }) => (
  <>
    <rect x={beside ? 4 : 17} y="6" width="22" height="22" rx="2" {...paper} />
    {beside && <Legged x={37} y={8} w={12} h={18} legs={4} />}
  </>
)

/** A module with its contacts shared out over two sides and, from 16 on, its foot. */
function Contacts({ count }: { count: number }) {
  const foot = count < 16 ? 0 : Math.round(count / 4)
  const side = Math.ceil((count - foot) / 2)
  const at = (n: number, i: number, from: number, length: number) => from + ((i + 0.5) * length) / n
  return (
    <>
      <rect x="14" y="2" width="28" height="29" rx="1.5" fill="var(--board)" stroke={ink} strokeWidth="1.4" />
      <path d="M18 5h20M18 8h4v-2M26 8h4v-2M34 8h4v-2" fill="none" stroke={ink} strokeWidth="1" />
      {Array.from({ length: side }, (_, i) => {
        const y = at(side, i, 11, 19)
        return <path key={y} d={`M11.5 ${y}h5M39.5 ${y}h5`} stroke={ink} strokeWidth={side > 8 ? 1.3 : 2} />
      })}
      {Array.from({ length: foot }, (_, i) => {
        const x = at(foot, i, 17, 22)
        return <path key={x} d={`M${x} 28.5v5`} stroke={ink} strokeWidth="1.6" />
      })}
    </>
  )
}

const BareChip = () => (
  <>
    <path d="M3 4h50v26H3z" fill="var(--board)" stroke={ink} strokeWidth="1.2" strokeDasharray="4 2" />
    <rect x="20" y="9" width="16" height="16" rx="1.5" {...paper} />
  </>
)

const Phone = ({ sees }: { sees: boolean }) => (
  <>
    <rect x="19" y="2" width="18" height="30" rx="3" {...paper} />
    {sees ? (
      <path d="M22 10h12M22 16h12M22 22h7" stroke={ink} strokeWidth="2.4" />
    ) : (
      <path d="M24 17h8" {...line} strokeDasharray="1.5 3" />
    )}
  </>
)

const Waves = ({ x, print }: { x: number; print: string }) => (
  <>
    <path d={`M${x - 9} 13a12 12 0 0 1 18 0M${x - 5} 17a7 7 0 0 1 10 0`} {...line} />
    <Letters x={x} y={30} size={9.5}>
      {print}
    </Letters>
  </>
)

const bits = [1, 0, 1, 1, 0, 0, 1, 0, 1, 0, 0, 1, 1, 0, 1, 0]

/** A signal that rests high and then speaks, in pulses of `width`; 0: it stays silent. */
function Signal({ width, y = 12 }: { width: number; y?: number }) {
  if (width === 0) return <path d={`M4 ${y}h48`} {...line} />
  const used = bits.slice(0, Math.floor(40 / width))
  const path = used.map((bit) => `V${bit ? y - 6 : y + 4}h${width}`).join('')
  return <path d={`M4 ${y - 6}h8${path}V${y - 6}H52`} {...line} strokeWidth={1.2} />
}

/** What it says, and how wide its bits are. */
const Says = ({ text, width }: { text: string; width: number }) => (
  <>
    <Signal width={width} y={11} />
    <Letters y={29} size={8.6}>
      {text}
    </Letters>
  </>
)

const Bytes = ({ bytes }: { bytes: readonly string[] }) => (
  <>
    {bytes.map((byte, i) => (
      <g key={`${i} ${byte}`}>
        <rect x={2 + i * 13.2} y="9" width="12" height="16" rx="1.5" {...paper} strokeWidth="1" />
        <Letters x={8 + i * 13.2} y={20} size={8}>
          {byte}
        </Letters>
      </g>
    ))}
  </>
)

const slow = 4
const fast = 2.6
const pictures: Record<string, Record<string, ReactNode>> = {
  crystal: {
    '24': <Crystal print="24" />,
    '26': <Crystal print="26" />,
    '40': <Crystal print="40" />,
    none: <Crystal print="" />,
  },
  flash_chip: { external8: <Flash beside />, none: <Flash beside={false} /> },
  edge_contacts: {
    le8: <Contacts count={8} />,
    '9_14': <Contacts count={12} />,
    '15_18': <Contacts count={17} />,
    '19_24': <Contacts count={22} />,
    ge25: <Contacts count={32} />,
    nomodule: <BareChip />,
  },
  ble_seen: { yes: <Phone sees />, no: <Phone sees={false} /> },
  wifi_band: {
    '24_only': <Waves x={28} print="2.4" />,
    '5_too': (
      <>
        <Waves x={15} print="2.4" />
        <Waves x={41} print="5" />
      </>
    ),
  },
  strap_effect: { no_app: <Signal width={0} y={17} />, no_effect: <Signal width={fast} y={18} /> },
  boot_text: {
    cause_74880: <Says text="rst cause" width={slow} />,
    cause_115200: <Says text="rst cause" width={fast} />,
    rst_74880: <Says text="rst:0x" width={slow} />,
    rst_115200: <Says text="rst:0x" width={fast} />,
    c_115200: <Says text="CCCCCC" width={fast} />,
    other_115200: <Says text="… … …" width={fast} />,
    none: <Signal width={0} y={17} />,
  },
  sync_reply: {
    slip: <Bytes bytes={['C0', '01', '08', '…']} />,
    hci_link: <Bytes bytes={['04', '0E', '05', '…']} />,
    c_stream: <Bytes bytes={['43', '43', '43', '43']} />,
    none: <Signal width={0} y={17} />,
  },
  header: {
    e9_plain: <Bytes bytes={['E9', '··', '··', '··']} />,
    e9_lx6: <Bytes bytes={['E9', '··', 'id', '0']} />,
    e9_lx7: <Bytes bytes={['E9', '··', 'id', '2']} />,
    e9_rv32: <Bytes bytes={['E9', '··', 'id', '5']} />,
    crc34: <Bytes bytes={['32', '+2', '32', '+2']} />,
    a0ffff9f: <Bytes bytes={['9F', 'FF', 'FF', 'A0']} />,
    blank: <Bytes bytes={['FF', 'FF', 'FF', 'FF']} />,
    other: <Bytes bytes={['··', '··', '··', '··']} />,
  },
}

/** The picture of one answer; null where there is none. The label says the same in words. */
export function CheckPicture({ kind, value }: { kind: string; value: string }) {
  const picture = pictures[kind]?.[value]
  if (!picture) return null
  return (
    <svg viewBox="0 0 56 34" className="-my-0.5 h-[30px] w-[50px] shrink-0" aria-hidden="true">
      {picture}
    </svg>
  )
}
