'use client'
/** The pin row of an adapter, pin 1 on the left. */
export function AdapterRow({ pins }: { pins: readonly string[] }) {
  const width = pins.length * 60 + 70
  return (
    <svg
      viewBox={`0 0 ${width} 70`}
      className="max-h-[84px] w-full max-w-[560px]"
      role="img"
      aria-label={`Pins from the left: ${pins.join(', ')}`}
    >
      <rect
        x="1"
        y="1"
        width={width - 2}
        height="68"
        rx="9"
        fill="var(--sheet-2)"
        stroke="var(--ink-3)"
        strokeWidth="1.5"
      />
      <rect x="1" y="20" width="34" height="30" rx="4" fill="var(--unpainted)" stroke="var(--ink-3)" />
      {pins.map((name, i) => (
        <g key={i}>
          <rect
            x={58 + i * 60}
            y="12"
            width="18"
            height="18"
            rx="3"
            fill="var(--sheet)"
            stroke="var(--ink)"
            strokeWidth="2"
          />
          <text
            x={67 + i * 60}
            y="54"
            textAnchor="middle"
            className="pin"
            fontSize="14"
            fontWeight="600"
            fill="var(--ink)"
          >
            {name}
          </text>
        </g>
      ))}
    </svg>
  )
}
