export interface CutFacts {
  /** Null while none was tried. */
  seconds: number | null
  cameBack: 'as wanted' | 'otherwise' | null
  rejoinSeconds: number | null
  /** What its outputs are set to after a cut, in words. */
  wanted: string
}

const at = { start: 40, off: 250, on: 480, joined: 640, end: 800 }

/** The supply and the unit over a power cut: off, back, on the network again. */
export function PowerCutDrawing({ cut }: { cut: CutFacts }) {
  const tried = cut.seconds !== null
  const good = cut.cameBack === 'as wanted'
  const ink = cut.cameBack === null ? 'var(--rule)' : good ? 'var(--verdigris)' : 'var(--oxide)'
  const words = [
    tried ? `supply off for ${cut.seconds} s` : 'no power cut tried yet',
    cut.cameBack ? `came back ${cut.cameBack}` : '',
    cut.rejoinSeconds === null ? '' : `on the network again after ${cut.rejoinSeconds} s`,
  ].filter(Boolean)
  return (
    <svg
      viewBox="0 0 840 360"
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 400 }}
      role="img"
      aria-label={words.join('; ')}
    >
      <rect x={at.off} y="30" width={at.on - at.off} height="290" fill="var(--unpainted)" opacity="0.45" />
      <text
        x={(at.off + at.on) / 2}
        y="96"
        textAnchor="middle"
        className="font-title"
        fontSize="44"
        fontWeight="800"
        fill="var(--ink)"
      >
        {tried ? `${cut.seconds} s` : '10 s'}
      </text>
      <text x={(at.off + at.on) / 2} y="122" textAnchor="middle" fontSize="15" fill="var(--ink-2)">
        {tried ? 'without supply' : 'at least, without supply'}
      </text>
      <text x={at.start} y="56" fontSize="16" fontWeight="700" fill="var(--ink)">
        Supply
      </text>
      <path
        d={`M${at.start} 150V74H${at.off}V150H${at.on}V74H${at.end}`}
        fill="none"
        stroke="var(--prussian)"
        strokeWidth="4"
      />
      <text x={at.start} y="206" fontSize="16" fontWeight="700" fill="var(--ink)">
        Unit
      </text>
      <path d={`M${at.start} 290V224H${at.off}V290H${at.on}`} fill="none" stroke="var(--verdigris)" strokeWidth="4" />
      <path
        d={`M${at.on} 290V224H${at.end}`}
        fill="none"
        stroke={ink}
        strokeWidth="4"
        strokeDasharray={cut.cameBack === null ? '3 9' : undefined}
      />
      <text x={at.on + 12} y="214" fontSize="16" fontWeight="700" fill={cut.cameBack === null ? 'var(--ink-2)' : ink}>
        {cut.cameBack === null ? 'how does it come back?' : `came back ${cut.cameBack}`}
      </text>
      <text x={at.on + 12} y="250" fontSize="14.5" fill="var(--ink-2)">
        {cut.wanted}
      </text>
      <path d={`M${at.joined} 300V328`} stroke="var(--ink-3)" strokeWidth="2" />
      <text x={at.joined} y="346" textAnchor="middle" fontSize="15" fill="var(--ink-2)">
        {cut.rejoinSeconds === null
          ? 'on the network again: not timed'
          : `on the network again after ${cut.rejoinSeconds} s`}
      </text>
    </svg>
  )
}
