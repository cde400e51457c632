import { scaleLinear, scaleLog } from 'd3-scale'
import type { Schemas } from '../../api/client'
import { ends, figure, per } from './rows'

const W = 240
const LINEAR = new Set(['drive_space', 'runtime'])

/** A need on its own scale: floor, comfort and ceiling as marks, today as a gold tip, what is unknown hatched, and
 * what a plan makes of it as a line to its end. */
export function NeedBar({
  need,
  unit,
  today,
  after,
}: {
  need: Schemas['Need']
  unit: string
  today?: readonly number[]
  after?: readonly number[]
}) {
  const figures = [need.ceiling, ...(today ?? []), ...(after ?? [])]
  const most = Math.min(Math.max(...figures), need.ceiling * 1.6) * 1.06
  const least = need.floor / 6
  const linear = LINEAR.has(need.kind)
  const scale = linear ? scaleLinear([0, most], [2, W - 2]) : scaleLog([least, most], [2, W - 2])
  const x = (v: number) => scale(Math.min(most, Math.max(linear ? 0 : least, v)))
  const says = [
    `floor ${figure(need.floor / per(unit))}, comfort ${figure(need.comfort / per(unit))}, ceiling ${figure(need.ceiling / per(unit))} ${unit}`,
    today ? `today ${ends(today, unit)}` : 'today is not known',
    after ? `with the plan ${ends(after, unit)}` : '',
  ]
    .filter(Boolean)
    .join('; ')
  return (
    <svg viewBox={`0 0 ${W} 22`} className="block w-full" role="img" aria-label={says}>
      <defs>
        <pattern id="unknown-stretch" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="2" height="5" className="fill-measure" />
        </pattern>
      </defs>
      <rect x={2} y={8} width={W - 4} height={6} className="fill-hair" />
      <rect x={x(need.floor)} y={8} width={x(need.comfort) - x(need.floor)} height={6} className="fill-seats-soft" />
      {today && today[0] === today[1] && (
        <rect x={2} y={9.5} width={Math.max(0, x(today[0]!) - 2)} height={3} className="fill-ink-2" />
      )}
      {today && today[0] !== today[1] && (
        <rect
          x={x(today[0]!)}
          y={7}
          width={Math.max(2, x(today[1]!) - x(today[0]!))}
          height={8}
          fill="url(#unknown-stretch)"
        />
      )}
      {after && today && after[1]! !== today[1]! && (
        <path d={`M${x(today[1]!)} 11H${x(after[1]!)}`} className="stroke-seats" strokeWidth={3} />
      )}
      {[need.floor, need.comfort, need.ceiling].map((v, i) => (
        <path key={i} d={`M${x(v)} 5V17`} className="stroke-ink" strokeWidth={i === 1 ? 1.8 : 1} />
      ))}
      {today && today[0] === today[1] && (
        <path d={`M${x(today[0]!)} 6l4 5-4 5-4-5z`} className="fill-gold stroke-ink" strokeWidth={0.8} />
      )}
      {after && today && after[1]! !== today[1]! && (
        <circle cx={x(after[1]!)} cy={11} r={3.2} className="fill-seats stroke-card" strokeWidth={1} />
      )}
    </svg>
  )
}
