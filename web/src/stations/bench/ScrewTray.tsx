import type { Schemas } from '../../api/client'
import { groups, type ScrewGroup } from './tray'

const W = 300
const H = 190

/** The screw tray, drawn as the underside: each group of screws a field of its own, with its count, length and place,
 * and whether it is out or back. */
export function ScrewTray({
  steps,
  done,
}: {
  steps: readonly Schemas['Step'][]
  /** What is ticked; nothing of it on paper, where the fields are there to lay screws on. */
  done?: Readonly<Record<string, string>>
}) {
  const found = groups(steps, done ?? {})
  if (!found.length) return null
  const columns = Math.min(3, found.length)
  const rows = Math.ceil(found.length / columns)
  const w = (W - 16) / columns
  const h = (H - 16) / rows
  const out = found.reduce((n, g) => n + (g.state === 'out' ? g.count : 0), 0)
  return (
    <figure className="card max-w-[420px] p-2" aria-label="Screw tray">
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="block w-full"
        role="img"
        aria-label={found.map((g) => says(g, !done)).join('. ')}
      >
        <rect x={4} y={4} width={W - 8} height={H - 8} rx={8} className="fill-mat stroke-ink-2" />
        {found.map((g, i) => {
          const x = 8 + (i % columns) * w
          const y = 8 + Math.floor(i / columns) * h
          const dots = Array.from({ length: Math.min(g.count, 14) }, (_, n) => n)
          return (
            <g key={g.id}>
              <rect
                x={x + 3}
                y={y + 3}
                width={w - 6}
                height={h - 6}
                rx={3}
                className={g.state === 'out' ? 'fill-gold-soft stroke-gold' : 'stroke-hair fill-card'}
                strokeDasharray={g.state === 'ahead' ? '4 3' : undefined}
              />
              {dots.map((n) => (
                <circle
                  key={n}
                  cx={x + 14 + (n % 7) * 10}
                  cy={y + 15 + Math.floor(n / 7) * 11}
                  r={3.4}
                  className={g.state === 'out' ? 'fill-ink' : 'fill-none stroke-ink-2'}
                />
              ))}
              <text x={x + 9} y={y + h - 22} className="fill-ink text-[10.5px] font-semibold">
                {g.name.length > w / 5.4 ? `${g.name.slice(0, Math.floor(w / 5.4) - 1)}…` : g.name}
              </text>
              <text x={x + 9} y={y + h - 9} className="fill-ink-2 num text-[10.5px]">
                {g.captive ? `${g.count} captive` : `${g.count}`}
                {g.length ? ` × ${g.length} mm` : ''}
              </text>
            </g>
          )
        })}
      </svg>
      <figcaption className="text-ink-2 mt-1 text-[12.5px]">
        {!done ? 'Each screw on its field as it comes out.' : out ? `${out} in the tray` : 'The tray is empty'}
        {found.some((g) => g.missing) && <span className="text-refused"> · not all are back</span>}
      </figcaption>
    </figure>
  )
}

const STATES = { ahead: 'still in', out: 'in the tray', back: 'back in', loose: 'loosened' }
const says = (g: ScrewGroup, onPaper: boolean) =>
  `${g.name}: ${g.count}${g.captive ? ' captive' : ''}${g.length ? `, ${g.length} mm` : ''}${onPaper ? '' : `, ${STATES[g.state]}`}`
