import { scaleLinear } from 'd3-scale'
import type { Schemas } from '../api/client'

export type MapData = Schemas['MapView']
export type Slot = Schemas['SlotView']
export type Place = Schemas['Place']
export type Box = { x: number; y: number; w: number; h: number }
export type Label = {
  id: string
  name: string
  detail: string
  side: 'left' | 'right'
  y: number
  from: [number, number]
}

export const WIDTH = 800
export const GUTTER = 182
const LABEL_H = 36

/** The machine to scale in the middle, labels in the gutters beside it. */
export function layout(map: MapData, height: number) {
  const k = Math.min((height - 34) / map.depth_mm, (WIDTH - 2 * GUTTER) / map.width_mm)
  const left = (WIDTH - map.width_mm * k) / 2
  const x = scaleLinear([0, map.width_mm], [left, left + map.width_mm * k])
  const y = scaleLinear([0, map.depth_mm], [12, 12 + map.depth_mm * k])
  const box = (p: { x_mm: number; y_mm: number; w_mm: number; h_mm: number }): Box => ({
    x: x(p.x_mm),
    y: y(p.y_mm),
    w: p.w_mm * k,
    h: p.h_mm * k,
  })
  return { k, x, y, box, shell: { x: x(0), y: y(0), w: map.width_mm * k, h: map.depth_mm * k } }
}

/** Where a part of a given size lies in its slot: against the contacts, centred across them. */
export function lay(place: Place, size: { w_mm: number; h_mm: number }) {
  const { x_mm, y_mm, w_mm, h_mm } = place
  const across = { x_mm: x_mm + (w_mm - size.w_mm) / 2, y_mm: y_mm + (h_mm - size.h_mm) / 2, ...size }
  switch (place.contacts) {
    case 'right':
      return { ...across, x_mm: x_mm + w_mm - size.w_mm }
    case 'top':
      return { ...across, y_mm }
    case 'bottom':
      return { ...across, y_mm: y_mm + h_mm - size.h_mm }
    default:
      return { ...across, x_mm }
  }
}

type Rect = { x_mm: number; y_mm: number; w_mm: number; h_mm: number }
/** Nearer than this to a neighbour's edge, a slot that is let go lies along it. */
const SNAP_MM = 2

/** Where a slot lies that was dragged: whole millimetres, along a neighbour's edge where it is near one, never off the top
 *  or left. */
export function snapped(place: Rect, dx_mm: number, dy_mm: number, others: readonly Rect[]) {
  const along = (start: number, size: number, edges: readonly number[]) => {
    const near = edges
      .flatMap((e) => [e, e - size])
      .map((at) => ({ at, off: Math.abs(at - start) }))
      .filter((c) => c.off <= SNAP_MM)
      .sort((a, b) => a.off - b.off)[0]
    return Math.max(0, near ? near.at : Math.round(start))
  }
  return {
    x_mm: along(
      place.x_mm + dx_mm,
      place.w_mm,
      others.flatMap((o) => [o.x_mm, o.x_mm + o.w_mm]),
    ),
    y_mm: along(
      place.y_mm + dy_mm,
      place.h_mm,
      others.flatMap((o) => [o.y_mm, o.y_mm + o.h_mm]),
    ),
  }
}

type Thing = { id: string; name: string; detail: string; box: Box }

/** The side whose way out crosses fewer other things; of equals the nearer one. */
function side(thing: Thing, all: Thing[]): 'left' | 'right' {
  const { x, y, w, h } = thing.box
  const level = y + h / 2
  const inTheWay = all.filter((t) => t !== thing && t.box.y < level && level < t.box.y + t.box.h)
  const left = inTheWay.filter((t) => t.box.x < x).length
  const right = inTheWay.filter((t) => t.box.x > x).length
  if (left !== right) return left < right ? 'left' : 'right'
  return x + w / 2 < WIDTH / 2 ? 'left' : 'right'
}

/** Labels beside the machine, in the order of what they name, never on top of each other. */
export function labels(things: Thing[], height: number): Label[] {
  const place = (where: 'left' | 'right') => {
    const mine = things.filter((t) => side(t, things) === where).sort((a, b) => a.box.y - b.box.y)
    const ys: number[] = []
    mine.forEach((t, i) => {
      const wanted = t.box.y + t.box.h / 2
      ys.push(Math.max(wanted, i ? ys[i - 1]! + LABEL_H : LABEL_H / 2))
    })
    for (let i = ys.length - 1, floor = height - 1.2 * LABEL_H; i >= 0; i--, floor -= LABEL_H)
      ys[i] = Math.min(ys[i]!, floor)
    return mine.map((t, i) => ({
      id: t.id,
      name: t.name,
      detail: t.detail,
      side: where,
      y: ys[i]!,
      from: [where === 'left' ? t.box.x : t.box.x + t.box.w, t.box.y + t.box.h / 2] as [number, number],
    }))
  }
  return [...place('left'), ...place('right')]
}
