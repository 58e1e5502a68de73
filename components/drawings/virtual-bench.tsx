import { railVolts, resetBelowVolts } from '@fresh-coat/core/boot/rehearse'

/** The virtual bench as it stands this moment. */
export interface BenchState {
  power: boolean
  /** BOOT is held to ground. */
  strap: boolean
  reset: boolean
  calling: boolean
  /** Volts on the 3.3 V rail. */
  rail: number
  part: 'off' | 'not started' | 'loader' | 'runs'
}

export const partWords = {
  off: 'off',
  'not started': 'not started',
  loader: 'dark and silent: it waits in its loader',
  runs: 'its light blinks: it runs its firmware',
}

/** A button of the board, pressed down or free. */
function Button({ x, name, down }: { x: number; name: string; down: boolean }) {
  return (
    <g>
      <rect x={x} y="128" width="92" height="62" rx="8" fill="var(--sheet)" stroke="var(--ink-3)" strokeWidth="2" />
      <circle
        cx={x + 46}
        cy={down ? 160 : 156}
        r={down ? 18 : 22}
        fill={down ? 'var(--prussian)' : 'var(--copper)'}
        stroke="var(--ink)"
        strokeWidth="2.5"
      />
      <text
        x={x + 46}
        y="212"
        textAnchor="middle"
        className="pin"
        style={{ fontSize: 15 }}
        fontWeight="700"
        fill="var(--ink)"
      >
        {name}
      </text>
      <text x={x + 46} y="231" textAnchor="middle" fontSize="14" fill="var(--ink-2)">
        {down ? 'held' : 'free'}
      </text>
    </g>
  )
}

function Supply({ state }: { state: BenchState }) {
  const share = state.rail / railVolts
  return (
    <g>
      <rect
        x="16"
        y="40"
        width="190"
        height="210"
        rx="14"
        fill="var(--sheet-2)"
        stroke="var(--ink)"
        strokeWidth="2.5"
      />
      <text x="111" y="112" textAnchor="middle" className="font-title" fontSize="44" fontWeight="800" fill="var(--ink)">
        {state.rail.toFixed(2)}
      </text>
      <text x="111" y="136" textAnchor="middle" fontSize="15" fill="var(--ink-2)">
        V on the rail
      </text>
      <rect x="36" y="158" width="150" height="14" rx="4" fill="var(--unpainted)" />
      <rect
        x="36"
        y="158"
        width={150 * share}
        height="14"
        rx="4"
        fill={state.rail < resetBelowVolts ? 'var(--verdigris)' : 'var(--ochre-line)'}
      />
      <path d={`M${36 + 150 * (resetBelowVolts / railVolts)} 152v26`} stroke="var(--ink)" strokeWidth="2" />
      <text x="111" y="214" textAnchor="middle" fontSize="17" fontWeight="700" fill="var(--ink)">
        supply {state.power ? 'on' : 'off'}
      </text>
    </g>
  )
}

/** The bench of practice: the supply with its rail, the board with its buttons, and what the part does. */
export function VirtualBench({ state, family, byCall }: { state: BenchState; family: string; byCall: boolean }) {
  const lit = state.part === 'runs'
  return (
    <svg
      viewBox="0 0 840 290"
      className="w-full"
      role="img"
      aria-label={`Virtual board ${family}: supply ${state.power ? 'on' : 'off'}, ${state.rail.toFixed(2)} V on the rail, ${byCall ? `tool ${state.calling ? 'calling' : 'silent'}` : `BOOT ${state.strap ? 'held' : 'free'}`}, reset ${state.reset ? 'held' : 'free'}; the part is ${partWords[state.part]}`}
    >
      <path
        d="M206 110C270 110 280 96 336 96M206 150C270 150 280 126 336 126"
        fill="none"
        stroke={state.power ? '#b8402c' : 'var(--ink-3)'}
        strokeWidth="5"
      />
      <Supply state={state} />
      <rect
        x="336"
        y="40"
        width="488"
        height="210"
        rx="14"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="2.5"
      />
      <rect x="366" y="66" width="150" height="150" rx="6" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2" />
      <text x="441" y="150" textAnchor="middle" className="font-title" fontSize="24" fontWeight="700" fill="var(--ink)">
        {family}
      </text>
      {byCall ? (
        <text x="560" y="170" fontSize="17" fontWeight="700" fill="var(--ink)">
          tool {state.calling ? 'calls: 43 43 43 …' : 'silent'}
        </text>
      ) : (
        <Button x={546} name="BOOT" down={state.strap} />
      )}
      <Button x={660} name="RST" down={state.reset} />
      <circle
        cx="788"
        cy="80"
        r="16"
        fill={lit ? 'var(--ochre-line)' : 'var(--sheet)'}
        stroke="var(--ink)"
        strokeWidth="2.5"
      />
      <text x="546" y="88" fontSize="16" fontWeight="700" fill="var(--ink)">
        {state.part === 'loader' ? 'waits in its loader' : state.part === 'runs' ? 'runs its firmware' : state.part}
      </text>
    </svg>
  )
}
