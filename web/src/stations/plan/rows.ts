import { fixed, shownFigure } from '../../figures'
import { money } from '../../words'
import type { Schemas } from '../../api/client'

type Point = Schemas['PlanPoint']

/** A plan that can be chosen: the stances that pick it, told once. */
export type Row = {
  key: string
  names: readonly string[]
  stance: string
  plan: Point
  /** Points on the needs as stated today, so that all rows compare. */
  points: number
  says: readonly string[]
  unmet: readonly string[]
  against: readonly string[]
}

export const STANCES: Record<string, string> = {
  just_enough: 'Just enough',
  best_value: 'Best value',
  room_for_years: 'Room for years',
  fill_it: 'Fill it',
  own: 'Your build from Fit',
  nothing: 'Buy nothing',
  frontier: 'A point of the frontier',
  waiting: 'Better, once looked at',
}

export const stanceName = (stance: string, years?: number) =>
  stance === 'room_for_years' && years ? `Room for ${years} years` : (STANCES[stance] ?? stance)

/** Do two plans do the same to the machine? */
export const sameBuild = (a: Point, b: Point) => fingerprint(a) === fingerprint(b)

const fingerprint = (p: Point) =>
  JSON.stringify([
    p.boot_slot,
    p.changes.map((c) => [c.slot, c.part, c.shelf ?? false]),
    (p.tasks ?? []).map((t) => t.id),
  ])

/** The stances as rows: those that pick one build share a row, in the order they were told. */
export function planRows(
  stances: readonly Schemas['StancePlan'][],
  own: Schemas['OwnPlan'] | null,
  years?: number,
): Row[] {
  const rows: Row[] = []
  const told = [
    ...stances.map((s) => ({ ...s, against: [] as readonly string[] })),
    ...(own
      ? [
          {
            stance: 'own',
            plan: own.plan,
            points_today: null,
            says: 'Chosen by hand, part by part.',
            unmet: [],
            against: own.against,
          },
        ]
      : []),
  ]
  for (const s of told) {
    const there = rows.find((r) => sameBuild(r.plan, s.plan))
    const name = stanceName(s.stance, years)
    if (there) {
      const at = rows.indexOf(there)
      rows[at] = {
        ...there,
        names: [...there.names, name],
        says: [...new Set([...there.says, s.says])],
        against: [...there.against, ...s.against],
      }
    } else {
      rows.push({
        key: s.stance,
        names: [name],
        stance: s.stance,
        plan: s.plan,
        points: s.points_today ?? s.plan.benefit,
        says: [s.says],
        unmet: s.unmet ?? [],
        against: s.against,
      })
    }
  }
  return rows
}

/** No battery runs a machine for longer. */
const MOST_HOURS = 1000

/** A range in few words: one figure where both ends are the same. */
export function ends(range: readonly number[], unit = ''): string {
  const [low = 0, high = 0] = range
  // A pack nobody has seen may hold anything: no figure of hours is worth saying then.
  if (unit === 'h' && high > MOST_HOURS) return low > 0 ? `${figure(low)} h or more` : 'not known'
  // From nothing on says nothing: of a pack in use whose charge nobody has read only its upper end is told.
  if (unit && low === 0 && high > 0) return unit === 'h' ? `up to ${figure(high)} h` : 'not known yet'
  const [from, to] = [figure(low / per(unit)), figure(high / per(unit))]
  const text = from === to ? from : `${from} to ${to}`
  return unit ? `${text} ${unit}` : text
}

/** How many of what is measured make one of the unit shown: memory is measured in MB/s and read in GB/s. */
export const per = (unit: string) => (unit === 'GB/s' ? 1000 : 1)

export const figure = (x: number) => (Math.abs(x) >= 100 ? String(Math.round(x)) : shownFigure(Math.round(x * 10) / 10))

/** What is bought, in one line. */
export const inOneLine = (p: {
  changes: readonly { slot_name: string; part_name: string }[]
  tasks?: readonly ({ name: string } | string)[]
}) =>
  [
    ...p.changes.map((c) => `${c.slot_name}: ${c.part_name}`),
    ...(p.tasks ?? []).map((t) => (typeof t === 'string' ? t : t.name)),
  ].join('; ') || 'Nothing'

/** The treads in order, each with its name and the stances whose plan ends on it. */
export function named(treads: readonly Schemas['Tread'][], years: number): { label: string; stances: string }[] {
  return treads.map((t) => ({
    label: t.label,
    stances: (t.stances ?? []).map((s) => stanceName(s, years)).join(', '),
  }))
}

/** What a plan that waits would gain over best value, in points and money: one of both is always better. */
export function waitsFor(w: Pick<Schemas['Waiting'], 'points' | 'certain_minor' | 'plan'>) {
  const far = fixed(Math.abs(w.points), 1)
  const points =
    far === fixed(0, 1) ? 'as many points as' : `${far} of 100 points ${w.points > 0 ? 'more' : 'fewer'} than`
  const dearer = w.plan.cost_minor - w.certain_minor
  const price = dearer ? `for ${money(Math.abs(dearer))} ${dearer > 0 ? 'more' : 'less'}` : 'for the same money'
  return `${points} best value, ${price}.`
}
