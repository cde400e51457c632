import type { Schemas } from '../../api/client'

type Step = Schemas['Step']

/** One group of screws: how many, how long, and whether they are out, back, or still in. Captive ones are loosened and
 * never lie in the tray. */
export type ScrewGroup = {
  id: string
  name: string
  count: number
  captive: boolean
  length: number | null
  state: 'ahead' | 'out' | 'back' | 'loose'
  missing: boolean
}

/** The groups of a sheet, in the order they come out. */
export function groups(steps: readonly Step[], done: Readonly<Record<string, string>>): ScrewGroup[] {
  const finished = steps.length > 0 && steps.every((s) => done[s.id])
  return steps
    .filter((s) => (s.screws ?? 0) > 0 || (s.loosened ?? 0) > 0)
    .map((s) => {
      const back = steps.find((b) => b.obstacle === s.obstacle && b.id !== s.id && b.id.startsWith('on:'))
      const captive = (s.loosened ?? 0) > 0
      const state = !done[s.id] ? 'ahead' : back && done[back.id] ? 'back' : captive ? 'loose' : 'out'
      return {
        id: s.id,
        name: s.thing ?? '',
        count: captive ? s.loosened! : s.screws!,
        captive,
        length: s.length_mm ?? null,
        state,
        missing: finished && state !== 'back',
      }
    })
}

/** Seconds from the first tick to now (or to the last where all is done): the clock survives a reload, since it is read
 * from the ticks. */
export function elapsed(steps: readonly Step[], done: Readonly<Record<string, string>>, now: number): number | null {
  const times = steps.map((s) => Date.parse(done[s.id] ?? '')).filter(Number.isFinite)
  if (!times.length) return null
  const finished = steps.every((s) => done[s.id])
  return Math.max(0, Math.round(((finished ? Math.max(...times) : now) - Math.min(...times)) / 1000))
}
