import type { Verdict } from '../api/client'
import { VERDICTS } from '../words'

/** An edge over a socket: shape carries the verdict, colour only helps. */
export function VerdictGlyph({ verdict, small = false }: { verdict: Verdict; small?: boolean }) {
  const width = small ? 24 : 34
  return (
    <svg
      width={width}
      height={(width / 34) * 20}
      viewBox="0 0 34 20"
      className={`shrink-0 ${VERDICTS[verdict].text}`}
      role="img"
      aria-label={VERDICTS[verdict].word}
    >
      {SHAPES[verdict]}
    </svg>
  )
}

const card = 'M1 2h32v7H20v3.5a3 3 0 0 1-6 0V9H1z'
const line = { fill: 'none', stroke: 'currentColor', strokeWidth: 1.5 }
const offKey = (
  <>
    <path d="M1 1.5h32v6H15v3a2.600 2.600 0 0 1-5.200 0v-3H1z" {...line} />
    <path d="M1 18.500v-5h19v.5a3 3 0 0 0 6 0v-.5h7v5z" {...line} />
    <path d="M4 18l4-4M10 18l4-4M28 18l4-4" stroke="currentColor" />
  </>
)

const SHAPES: Record<Verdict, React.ReactNode> = {
  seats: (
    <>
      <path d={card} {...line} />
      <path d="M1 18v-7h11.500v1.500a4.500 4.500 0 0 0 9 0V11H33v7z" fill="currentColor" />
    </>
  ),
  held_back: (
    <>
      <path d={card} {...line} />
      <path d="M1 18v-7h11.500v1.500a4.500 4.500 0 0 0 9 0V11H24v7z" fill="currentColor" />
      <path d="M26.500 11v7M29.500 11v7M32.500 11v7" stroke="currentColor" />
    </>
  ),
  measure_first: (
    <>
      <path d="M1 2h32v6H1z" {...line} />
      <path d="M1 18v-6h32v6z" {...line} strokeDasharray="3 2.500" />
    </>
  ),
  refused: offKey,
  harm: (
    <>
      <rect
        x="0.750"
        y="0.750"
        width="32.500"
        height="18.500"
        rx="2"
        fill="var(--harm)"
        stroke="var(--harm-bg)"
        strokeWidth="1.500"
      />
      <g color="#f2c230" transform="translate(3.400 2) scale(.8)">
        {offKey}
      </g>
    </>
  ),
}
