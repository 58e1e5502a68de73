import { twoDigits } from '@/components/paint/paint'

/** Lines of at most so many letters, cut at blanks where there are any. */
export function wrapped(text: string, letters: number, most: number): string[] {
  const lines: string[] = ['']
  for (const word of text.split(/\s+/)) {
    const last = lines.at(-1) as string
    if (last === '') lines[lines.length - 1] = word
    else if (last.length + word.length + 1 <= letters) lines[lines.length - 1] = `${last} ${word}`
    else lines.push(word)
  }
  const cut = lines.map((l) => (l.length > letters ? `${l.slice(0, letters - 1)}…` : l))
  return cut.length > most ? [...cut.slice(0, most - 1), `${(cut[most - 1] as string).slice(0, letters - 1)}…`] : cut
}

/** What a unit works, in a few strokes within 90 by 90. */
const loadShapes: Record<string, string> = {
  lamp: 'M45 8a24 24 0 0 0-13 44v10h26V52A24 24 0 0 0 45 8zM34 68h22M36 75h18',
  heater: 'M12 22h66v44H12zM24 22v44M36 22v44M48 22v44M60 22v44M20 66v10M70 66v10',
  motor: 'M18 26h44v38H18zM62 38h14v14H62zM26 64v10M54 64v10M28 34h24M28 45h24M28 56h24',
  'latch-unlocks': 'M22 40h46v36H22zM30 40V28a15 15 0 0 1 29-6M45 52v12',
  'latch-locks': 'M22 40h46v36H22zM30 40V28a15 15 0 0 1 30 0v12M45 52v12',
  modem: 'M14 50h62v20H14zM26 60h2M38 60h2M22 50V26M68 50V26M34 38a16 16 0 0 1 22 0M39 44a9 9 0 0 1 12 0',
  pump: 'M45 45m-20 0a20 20 0 1 0 40 0a20 20 0 1 0-40 0M65 45h16v-22M25 45H9v22M45 32v26M33 45h24',
  fan: 'M45 45m-30 0a30 30 0 1 0 60 0a30 30 0 1 0-60 0M45 45c0-20 16-20 16-8s-16 8-16 8c20 0 20 16 8 16s-8-16-8-16c0 20-16 20-16 8s16-8 16-8c-20 0-20-16-8-16s8 16 8 16',
  other: 'M18 24h54v44H18zM30 36h30M30 46h30M30 56h18',
}

export interface CaseFacts {
  number: number
  maker: string
  product: string
  place: string
  volts: number
  /** Rated current of the case, A; null while nobody knows. */
  ratedAmps: number | null
  load: string | null
  loadWords: string
  loadWatts: number | null
  /** What the load takes, A; null when it cannot be told. */
  loadAmps: number | null
  mains: boolean
}

/** The label as it will stand on the case. */
function CaseLabel({ facts }: { facts: CaseFacts }) {
  const lines = wrapped(facts.product, 17, 2)
  return (
    <g>
      <rect
        x="34"
        y="60"
        width="300"
        height="300"
        rx="26"
        fill="var(--sheet-2)"
        stroke="var(--ink)"
        strokeWidth="2.5"
      />
      <rect x="62" y="88" width="112" height="94" rx="18" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="5" />
      <text x="118" y="155" textAnchor="middle" className="font-title" fontSize="62" fontWeight="800" fill="var(--ink)">
        {twoDigits(facts.number)}
      </text>
      {[0, 1].map((i) => (
        <circle key={i} cx={222 + i * 58} cy="134" r="15" fill="none" stroke="var(--ink-3)" strokeWidth="3" />
      ))}
      <g>
        <rect x="62" y="206" width="244" height="126" rx="8" fill="var(--sheet)" stroke="var(--ink-3)" />
        <text x="78" y="232" fontSize="14" fill="var(--ink-2)">
          {facts.maker || 'maker not known'}
        </text>
        {lines.map((line, i) => (
          <text key={line} x="78" y={254 + i * 20} fontSize="18" fontWeight="700" fill="var(--ink)">
            {line}
          </text>
        ))}
        <text x="78" y="316" className="pin" style={{ fontSize: 18 }} fill="var(--ink)">
          {facts.volts} V {facts.mains ? '~' : '='} {facts.ratedAmps === null ? '? A' : `${facts.ratedAmps} A`}
        </text>
      </g>
    </g>
  )
}

/** How much of the rated current the load takes. */
function LoadGauge({ facts }: { facts: CaseFacts }) {
  const { loadAmps, ratedAmps } = facts
  if (loadAmps === null || !ratedAmps) return null
  const share = Math.min(1.25, loadAmps / ratedAmps)
  const over = loadAmps > ratedAmps
  return (
    <g>
      <rect x="470" y="330" width="250" height="16" rx="4" fill="var(--unpainted)" />
      <rect
        x="470"
        y="330"
        width={200 * share}
        height="16"
        rx="4"
        fill={over ? 'var(--oxide)' : share > 0.8 ? 'var(--ochre-line)' : 'var(--verdigris)'}
      />
      <path d="M670 324v28" stroke="var(--ink)" strokeWidth="2.5" />
      <text x="670" y="370" textAnchor="middle" fontSize="14" fill="var(--ink-2)">
        rated {ratedAmps} A
      </text>
      <text x="470" y="370" fontSize="14" fill="var(--ink-2)">
        takes {loadAmps.toFixed(1)} A
      </text>
    </g>
  )
}

/** The unit as it arrives: its label, its rating plate, and the load that will hang on it. */
export function CaseDrawing({ facts }: { facts: CaseFacts }) {
  const shape = facts.load ? loadShapes[facts.load] : undefined
  return (
    <svg
      viewBox="0 0 780 420"
      className="min-h-0 w-full flex-1"
      role="img"
      aria-label={`Case number ${facts.number}, ${facts.maker} ${facts.product}, ${facts.volts} V, ${facts.ratedAmps === null ? 'rating not known' : `rated ${facts.ratedAmps} A`}; it will work ${facts.loadWords}${facts.loadWatts === null ? '' : ` of ${facts.loadWatts} W`}`}
    >
      <CaseLabel facts={facts} />
      <path
        d="M334 210C390 210 404 190 458 190"
        fill="none"
        stroke={shape ? 'var(--ink)' : 'var(--ink-3)'}
        strokeWidth="5"
        strokeDasharray={shape ? undefined : '3 10'}
        strokeLinecap="round"
      />
      <rect
        x="458"
        y="84"
        width="208"
        height="200"
        rx="22"
        fill="var(--sheet-2)"
        stroke={shape ? 'var(--ink)' : 'var(--rule)'}
        strokeWidth="2.5"
      />
      <g transform="translate(468 92) scale(2.05)">
        {shape ? (
          <path
            d={shape}
            fill="var(--sheet)"
            stroke="var(--ink)"
            strokeWidth="2"
            strokeLinejoin="round"
            strokeLinecap="round"
          />
        ) : (
          <rect
            x="8"
            y="12"
            width="74"
            height="66"
            rx="8"
            fill="none"
            stroke="var(--ink-3)"
            strokeWidth="1.5"
            strokeDasharray="5 4"
          />
        )}
      </g>
      <text
        x="562"
        y="304"
        textAnchor="middle"
        fontSize="17"
        fontWeight="700"
        fill={shape ? 'var(--ink)' : 'var(--ink-2)'}
      >
        {facts.loadWords}
        {facts.loadWatts === null ? '' : `, ${facts.loadWatts} W`}
      </text>
      <LoadGauge facts={facts} />
      {facts.place && (
        <text x="184" y="392" textAnchor="middle" fontSize="15" fill="var(--ink-2)">
          {wrapped(facts.place, 40, 1)[0]}
        </text>
      )}
    </svg>
  )
}
