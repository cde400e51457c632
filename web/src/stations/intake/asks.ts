import type { Schemas } from '../../api/client'

export type Field = 'draw' | 'line' | 'router' | 'peak' | 'pages' | 'filled' | 'limit' | 'broken'

/** What bears on a need, and why it is asked. */
const FOR_NEED: readonly (readonly [needs: readonly string[], fields: readonly Field[], why: string])[] = [
  [['runtime'], ['draw'], 'Hours off mains are not known without the draw.'],
  [
    ['radio_throughput', 'radio_reach'],
    ['line', 'router'],
    'No Wi-Fi card delivers more than the line and the router carry.',
  ],
  [['memory_capacity'], ['peak', 'pages'], 'What is in use under their own work says how much memory is enough.'],
  [['drive_space'], ['filled'], 'Room is what is left of what is there.'],
  [['memory_capacity', 'drive_speed'], ['limit'], 'At its limit no part lifts the processor.'],
]

export type Asked = { fields: readonly Field[]; why: string }

/** What these complaints need to be known, each field once with the reason. A complaint that weighs no need is of something broken. */
export function asked(complaints: readonly Pick<Schemas['Complaint'], 'weights'>[]): Asked[] {
  const bears = (c: Pick<Schemas['Complaint'], 'weights'>) =>
    Object.entries(c.weights ?? {})
      .filter(([, extra]) => extra)
      .map(([need]) => need)
  const needs = new Set(complaints.flatMap(bears))
  const found: Asked[] = FOR_NEED.filter(([kinds]) => kinds.some((k) => needs.has(k))).map(([, fields, why]) => ({
    fields,
    why,
  }))
  if (complaints.some((c) => !bears(c).length))
    found.push({
      fields: ['broken'],
      why: 'Named where a part is known to be broken; empty while nobody has found one.',
    })
  return found
}
