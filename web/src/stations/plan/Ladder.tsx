import { scaleLinear } from 'd3-scale'
import type { Schemas } from '../../api/client'
import { Tip } from '../../ui/basics'
import { inHouse, money, sign } from '../../words'
import { named, stanceName } from './rows'
import { fixed } from '../../figures'

type Tread = Schemas['Tread']
const W = 560
const H = 236
const BOX = { left: 46, right: 548, top: 22, bottom: 196 }

/** The plan as treads: as wide as they cost, as tall as the need they meet. */
export function Ladder({
  treads,
  budget,
  start,
  years,
  nothing,
}: {
  treads: readonly Tread[]
  budget: number | null
  start: number
  years: number
  nothing?: string
}) {
  if (!treads.length)
    return (
      <div className="grid-mat border-hair text-ink-2 rounded-md border px-4 py-8">
        No tread: no plan on these terms gains anything for certain.{nothing ? ` ${nothing}` : ''}
      </div>
    )
  const first = treads[0]!.from_minor
  const last = treads.at(-1)!.cost_minor
  const x = scaleLinear([Math.min(0, first), Math.max(last, budget ?? 0) * 1.06], [BOX.left, BOX.right])
  const y = scaleLinear([0, Math.max(...treads.map((t) => t.benefit)) * 1.12], [BOX.bottom, BOX.top])
  return (
    <div className="grid-mat border-hair rounded-md border">
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="block w-full"
        role="group"
        aria-label="Ladder of upgrades by cost and benefit"
      >
        <path
          d={`M${BOX.left} ${BOX.top}V${BOX.bottom}H${BOX.right}`}
          className="stroke-ink fill-none"
          strokeWidth={1.5}
        />
        {x.ticks(6).map((t) => (
          <text key={t} x={x(t)} y={BOX.bottom + 16} textAnchor="middle" className="fill-ink-2 num text-[11px]">
            {money(t).replace('.00', '')}
          </text>
        ))}
        {y
          .ticks(3)
          .filter((t) => t > 0)
          .map((t) => (
            <text key={t} x={BOX.left - 6} y={y(t) + 4} textAnchor="end" className="fill-ink-2 num text-[11px]">
              {t}
            </text>
          ))}
        <text x={BOX.left} y={H - 8} className="fill-ink-2 text-[12px]">
          spent, parts and bench time
        </text>
        <text
          transform={`translate(13 ${(BOX.top + BOX.bottom) / 2}) rotate(-90)`}
          textAnchor="middle"
          className="fill-ink-2 text-[12px]"
        >
          points gained, of 100
        </text>
        {treads.map((t, i) => (
          <TreadShape key={i} place={i + 1} tread={t} x={x} y={y} years={years} />
        ))}
        {budget !== null && (
          <g>
            <path d={`M${x(budget)} ${BOX.top - 6}V${BOX.bottom}`} className="stroke-copper" strokeWidth={1.6} />
            <text x={x(budget) - 5} y={BOX.top + 4} textAnchor="end" className="fill-copper text-[12px] font-semibold">
              budget {money(budget)}
            </text>
          </g>
        )}
        {start < 0 && <circle cx={x(start)} cy={BOX.bottom} r={3} className="fill-copper" />}
      </svg>
      <ol className="text-ink-2 flex flex-wrap gap-x-3 px-3 pb-2 text-[12px]" aria-label="Treads, steepest first">
        {named(treads, years).map((t, i) => (
          <li key={i} className={treads[i]!.chosen ? 'text-ink' : ''}>
            <span className="num">{i + 1}</span> {t.label}
            {t.stances && <span className="text-seats font-semibold"> ▾ {t.stances}</span>}
          </li>
        ))}
      </ol>
    </div>
  )
}

const short = (text: string, width: number) =>
  text.length > width / 6.6 ? `${text.slice(0, Math.floor(width / 6.6) - 1)}…` : text

type Scale = ReturnType<typeof scaleLinear<number>>

function TreadShape({
  place,
  tread: t,
  x,
  y,
  years,
}: {
  place: number
  tread: Tread
  x: Scale
  y: Scale
  years: number
}) {
  const stances = (t.stances ?? []).map((s) => stanceName(s, years))
  const left = x(t.from_minor)
  const width = Math.max(2, x(t.cost_minor) - left)
  const top = y(t.benefit)
  const fingers = Array.from({ length: Math.max(0, Math.floor((width - 4) / 8)) }, (_, i) => left + 4 + i * 8)
  const says = `${stances.length ? `${stances.join(', ')}\n` : ''}${t.label}\n${inHouse(t.detail)}\n${money(t.step_minor)} for + ${fixed(t.gain, 2)} points: ${fixed(t.slope, 3)} points a ${sign()}\n${money(t.cost_minor)} in all`
  const room = BOX.bottom - top
  const lines = stances.length && width > 62 ? 14 : 0
  return (
    <Tip text={says}>
      <g tabIndex={0} role="img" aria-label={says.replaceAll('\n', '. ')} className="cursor-help">
        <rect
          x={left}
          y={top}
          width={width}
          height={room}
          className={t.chosen ? 'fill-seats-soft stroke-ink' : 'fill-mat stroke-ink-2'}
          strokeDasharray={t.chosen ? undefined : '4 3'}
        />
        {fingers.map((f) => (
          <rect key={f} x={f} y={top + 1} width={4} height={7} className={t.chosen ? 'fill-gold' : 'fill-hair'} />
        ))}
        {!!stances.length && <path d={`M${left + width / 2 - 4} ${top - 7}h8l-4 5z`} className="fill-seats" />}
        {!!stances.length && width > 62 && room > 62 + lines && (
          <text x={left + 6} y={top + 22} className="fill-seats text-[11.5px] font-semibold">
            {short(stances.join(', '), width)}
          </text>
        )}
        {width >= 9 && (
          <text x={left + width / 2} y={BOX.bottom - 5} textAnchor="middle" className="fill-ink-2 num text-[11px]">
            {place}
          </text>
        )}
        {width > 62 && (
          <text x={left + 6} y={top + 24 + lines} className="fill-ink text-[12px] font-semibold">
            {short(t.label, width)}
          </text>
        )}
        {width > 62 && room > 48 + lines && (
          <text x={left + 6} y={top + 40 + lines} className="fill-ink num text-[11.5px]">
            {money(t.step_minor).replace('.00', '')}
          </text>
        )}
        {width > 62 && room > 62 + lines && (
          <text x={left + 6} y={top + 55 + lines} className="fill-ink num text-[11.5px]">
            + {fixed(t.gain, 1)}
          </text>
        )}
      </g>
    </Tip>
  )
}
