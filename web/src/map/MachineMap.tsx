import { useState } from 'react'
import type { Verdict } from '../api/client'
import { Button } from '../ui/basics'
import { VERDICTS } from '../words'
import { GUTTER, labels, lay, layout, snapped, WIDTH, type Box, type Label, type MapData, type Slot } from './layout'

export type Preview = { slot: string; w_mm: number; h_mm: number; verdict: Verdict | null; name: string }
type Props = {
  map: MapData
  height: number
  selected?: string
  onSelect?: (slot: string) => void
  preview?: Preview | null
  /** Slots may be dragged: where one was let go, in mm from the top left corner of its side. */
  onMove?: (slot: string, at: { x_mm: number; y_mm: number }) => void
  /** Without the labels beside it, where names stand next to it anyway. */
  compact?: boolean
}

type Face = 'under' | 'keyboard'
const faceOf = (place: { face?: string }): Face => (place.face === 'keyboard' ? 'keyboard' : 'under')

/** The machine to scale, from the side it opens, with the other side a press away where parts sit
 *  there too. What is chosen lies over its slot at true size. */
export function MachineMap({ map: whole, height, selected, onSelect, preview, onMove, compact = false }: Props) {
  const faces = [...new Set(whole.slots.map((s) => faceOf(s.place)))]
  const wanted = whole.slots.find((s) => s.id === (preview?.slot ?? selected))
  // Turned by hand until another slot is looked at.
  const [turned, setTurned] = useState<{ face: Face; at?: string } | null>(null)
  const front = faces.includes('under') ? 'under' : (faces[0] ?? 'under')
  const face = (turned && turned.at === wanted?.id && turned.face) || (wanted ? faceOf(wanted.place) : front)
  const map = {
    ...whole,
    slots: whole.slots.filter((s) => faceOf(s.place) === face),
    features: whole.features.filter((f) => faceOf(f.place) === face),
  }
  const { k, x, box, shell } = layout(map, height)
  const named = [
    ...map.slots.map((s) => ({ id: s.id, name: s.name, detail: s.summary, box: box(s.place) })),
    ...map.features
      .filter((f) => f.note)
      .map((f) => ({ id: f.name, name: f.name, detail: f.note ?? '', box: box(f.place) })),
  ]
  return (
    <div className="grid-mat border-hair relative rounded-md border">
      {faces.length > 1 && (
        <div className="absolute top-2 left-2 flex gap-1">
          {faces.map((f) => (
            <Button
              key={f}
              aria-pressed={f === face}
              onClick={() => setTurned({ face: f, at: wanted?.id })}
              className={f === face ? 'border-gold bg-gold-soft' : ''}
            >
              {f === 'under' ? 'Underside' : 'Under the keyboard'}
            </Button>
          ))}
        </div>
      )}
      <svg
        viewBox={compact ? `${shell.x - 12} 0 ${shell.w + 24} ${height}` : `0 0 ${WIDTH} ${height}`}
        className="block w-full"
        role="group"
        aria-label={`${map.title}, drawn to scale`}
      >
        <defs>
          <pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0v6" stroke="var(--refused)" strokeWidth="1.500" opacity=".55" />
          </pattern>
        </defs>
        {[0.1, 0.72].map((at) => (
          <rect
            key={at}
            x={x(map.width_mm * at)}
            y={4}
            width={map.width_mm * 0.18 * k}
            height={12}
            className="fill-mat stroke-ink"
          />
        ))}
        <rect {...rect(shell)} rx={12} className="fill-card stroke-ink" strokeWidth={1.5} fillOpacity={0.75} />
        {map.features.map((f) => (
          <rect key={f.name} {...rect(box(f.place))} rx={3} className="fill-mat stroke-hair" />
        ))}
        {map.slots.map((s) => (
          <SlotShape
            key={s.id}
            slot={s}
            k={k}
            box={box}
            selected={selected === s.id}
            onSelect={onSelect}
            preview={preview?.slot === s.id ? preview : null}
            onMove={
              onMove &&
              ((dx, dy) => {
                const others = map.slots.filter((o) => o.id !== s.id).map((o) => o.place)
                onMove(s.id, snapped(s.place, dx / k, dy / k, others))
              })
            }
          />
        ))}
        {!compact &&
          labels(named, height).map((l) => (
            <LabelShape key={l.id} label={l} edge={l.side === 'left' ? shell.x : shell.x + shell.w} />
          ))}
        <g className="stroke-ink-2" transform={`translate(${compact ? shell.x : 14} ${height - 8})`}>
          <path d={`M0 0h${50 * k}M0 -4v8M${50 * k} -4v8`} />
          <text x={50 * k + 6} y={4} className="fill-ink-2 num stroke-none text-[11px]">
            50 mm
          </text>
        </g>
        <text
          x={compact ? shell.x + shell.w : WIDTH - 14}
          y={height - 4}
          textAnchor="end"
          className="fill-ink-2 text-[11.5px]"
        >
          {face === 'under'
            ? compact
              ? 'underside up'
              : 'underside up, hinges at the top'
            : compact
              ? 'keyboard off'
              : 'keyboard off, seen from above'}
        </text>
      </svg>
    </div>
  )
}

const rect = ({ x, y, w, h }: Box) => ({ x, y, width: w, height: h })

type SlotProps = {
  slot: Slot
  k: number
  box: (p: { x_mm: number; y_mm: number; w_mm: number; h_mm: number }) => Box
  selected: boolean
  onSelect?: (slot: string) => void
  preview: Preview | null
  onMove?: (dx: number, dy: number) => void
}

function SlotShape({ slot, k, box, selected, onSelect, preview, onMove }: SlotProps) {
  const [drag, setDrag] = useState<{ from: [number, number]; by: [number, number]; scale: number } | null>(null)
  const b = box(slot.place)
  const laid = preview ?? slot.planned_outline
  const holds = laid ? laid.name : slot.fitted_name
  return (
    <g
      tabIndex={onSelect ? 0 : undefined}
      role={onSelect ? 'button' : 'img'}
      aria-label={`${slot.name}: ${slot.summary}. Holds ${holds}.`}
      aria-pressed={onSelect ? selected : undefined}
      className={onMove ? 'cursor-move touch-none' : onSelect ? 'cursor-pointer' : ''}
      transform={drag ? `translate(${drag.by[0]} ${drag.by[1]})` : undefined}
      onPointerDown={(e) => {
        if (!onMove) return
        e.currentTarget.setPointerCapture(e.pointerId)
        const scale = e.currentTarget.ownerSVGElement?.getScreenCTM()?.a ?? 1
        setDrag({ from: [e.clientX, e.clientY], by: [0, 0], scale })
      }}
      onPointerMove={(e) => {
        if (drag)
          setDrag({ ...drag, by: [(e.clientX - drag.from[0]) / drag.scale, (e.clientY - drag.from[1]) / drag.scale] })
      }}
      onPointerUp={() => {
        // A click that slips a little is a click.
        if (drag && Math.hypot(...drag.by) > 4) onMove?.(...drag.by)
        setDrag(null)
      }}
      onPointerCancel={() => setDrag(null)}
      onClick={() => onSelect?.(slot.id)}
      onKeyDown={(e) => {
        if (e.key === 'Enter' || e.key === ' ') {
          e.preventDefault()
          onSelect?.(slot.id)
        }
      }}
    >
      <rect
        {...rect(b)}
        rx={2}
        className="fill-card stroke-ink"
        strokeWidth={selected ? 2.2 : 1.1}
        strokeDasharray={slot.fitted_outline || slot.planned_outline ? undefined : '5 4'}
      />
      {slot.fitted_outline && !laid && (
        <Laid box={box(lay(slot.place, slot.fitted_outline))} className="fill-seats-soft stroke-ink" />
      )}
      {laid && <Laid box={box(lay(slot.place, laid))} verdict={laid.verdict} />}
      <Contacts slot={slot} b={b} />
      {slot.standoffs_mm.map((mm) => (
        <circle
          key={mm}
          cx={b.x + mm * k - 2}
          cy={b.y + b.h / 2}
          r={2.6}
          className={laid && laid.w_mm === mm ? 'fill-gold stroke-ink' : 'fill-card stroke-ink'}
        />
      ))}
      {Array.from({ length: slot.leads }, (_, i) => (
        <path
          key={i}
          d={`M${b.x + b.w} ${b.y + b.h * (0.3 + 0.4 * i)}c14 0 18 ${-4 - 6 * i} 26 ${-4 - 6 * i}`}
          className={i ? 'stroke-ink-2 fill-none' : 'stroke-ink fill-none'}
          strokeWidth={1.4}
        />
      ))}
      {selected && (
        <rect
          x={b.x - 3}
          y={b.y - 3}
          width={b.w + 6}
          height={b.h + 6}
          rx={4}
          className="stroke-copper fill-none"
          strokeWidth={1.6}
        />
      )}
    </g>
  )
}

function Laid({ box, verdict = 'seats', className }: { box: Box; verdict?: Verdict | null; className?: string }) {
  const looks: Record<Verdict, string> = {
    seats: 'fill-seats-soft stroke-seats',
    held_back: 'fill-gold-soft stroke-held',
    measure_first: 'fill-transparent stroke-measure',
    refused: 'stroke-refused',
    harm: 'fill-harm stroke-harm-bg',
  }
  const v = verdict ?? 'seats'
  return (
    <rect
      {...rect(box)}
      rx={2}
      className={className ?? looks[v]}
      strokeWidth={className ? 1 : 1.8}
      strokeDasharray={v === 'measure_first' ? '5 3' : undefined}
      fill={v === 'refused' ? 'url(#hatch)' : undefined}
      fillOpacity={v === 'harm' ? 0.8 : 1}
    >
      <title>{VERDICTS[v].word}</title>
    </rect>
  )
}

/** Gold contacts along the socket with the key notch between them. */
function Contacts({ slot, b }: { slot: Slot; b: Box }) {
  if (slot.kind === 'battery' || slot.kind === 'bay' || slot.form === 'soldered') return null
  const upright = slot.place.contacts === 'left' || slot.place.contacts === 'right'
  const run = upright ? b.h : b.w
  const key = { A: 0.16, B: 0.24, E: 0.4, M: 0.86 }[slot.key] ?? 0.62
  const count = Math.floor(run / 4.5)
  const fingers = Array.from({ length: count }, (_, i) => 2 + i * 4.5).filter((p) => Math.abs(p + 1 - key * run) > 4)
  const edge = { left: b.x, right: b.x + b.w - 5, top: b.y, bottom: b.y + b.h - 5 }[slot.place.contacts ?? 'left']
  return (
    <g>
      {fingers.map((p) => (
        <rect
          key={p}
          x={upright ? edge : b.x + p}
          y={upright ? b.y + p : edge}
          width={upright ? 5 : 2.2}
          height={upright ? 2.2 : 5}
          className="fill-gold"
        />
      ))}
      <rect
        x={upright ? edge - 1 : b.x + key * run - 2}
        y={upright ? b.y + key * run - 2 : edge - 1}
        width={upright ? 7 : 4}
        height={upright ? 4 : 7}
        rx={2}
        className="fill-card stroke-ink"
        strokeWidth={0.8}
      />
    </g>
  )
}

/** As much of a line as the gutter holds; what is left out stands in the slot's own card. */
function clipped(text: string): string {
  const most = 27
  return text.length <= most ? text : `${text.slice(0, most - 1).replace(/[ ,]+$/, '')}…`
}

/** A label in the gutter with its leader: level to the shell's edge, then over to the text. */
function LabelShape({ label: l, edge }: { label: Label; edge: number }) {
  const left = l.side === 'left'
  const text = left ? GUTTER - 20 : WIDTH - GUTTER + 20
  const anchor = left ? 'end' : 'start'
  const bend = left ? edge - 4 : edge + 4
  return (
    <g className="pointer-events-none">
      <polyline
        points={[
          l.from,
          [bend, l.from[1]],
          [left ? text + 10 : text - 10, l.y],
          [left ? text + 4 : text - 4, l.y],
        ].join(' ')}
        className="stroke-ink-2 fill-none"
        strokeWidth={0.8}
      />
      <circle cx={l.from[0]} cy={l.from[1]} r={2} className="fill-ink-2" />
      <text x={text} y={l.y - 2} textAnchor={anchor} className="fill-ink text-[13px] font-semibold">
        {l.name}
      </text>
      <text x={text} y={l.y + 12} textAnchor={anchor} className="fill-ink-2 text-[11.5px]">
        {clipped(l.detail)}
      </text>
    </g>
  )
}
