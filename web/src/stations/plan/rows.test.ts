import { describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { ends, inOneLine, named, planRows, waitsFor } from './rows'

const plan = (part: string, boot = '', tasks: string[] = []) =>
  ({
    changes: part ? [{ slot: 'memory-a', slot_name: 'Memory A', part, part_name: part, shelf: false }] : [],
    boot_slot: boot,
    tasks: tasks.map((id) => ({ id, name: id })),
  }) as unknown as Schemas['PlanPoint']

const stance = (name: string, p: Schemas['PlanPoint'], unmet: string[] = []) =>
  ({ stance: name, plan: p, says: `says ${name}`, unmet }) as unknown as Schemas['StancePlan']

describe('plans as rows', () => {
  it('tells one build once, with all its names and words', () => {
    const rows = planRows(
      [
        stance('just_enough', plan('A'), ['short']),
        stance('best_value', plan('B')),
        stance('room_for_years', plan('A')),
      ],
      null,
      3,
    )
    expect(rows.map((r) => r.names)).toEqual([['Just enough', 'Room for 3 years'], ['Best value']])
    expect(rows[0]!.says).toEqual(['says just_enough', 'says room_for_years'])
    expect(rows[0]!.unmet).toEqual(['short'])
  })

  it('keeps builds apart that start from another drive or have a task besides', () => {
    const rows = planRows(
      [
        stance('just_enough', plan('A')),
        stance('best_value', plan('A', 'bay')),
        stance('fill_it', plan('A', '', ['fan'])),
      ],
      null,
    )
    expect(rows).toHaveLength(3)
  })

  it('puts what stands against the build in hand with the plan it equals', () => {
    const own = { plan: plan('A'), against: ['no'] } as unknown as Schemas['OwnPlan']
    const rows = planRows([stance('best_value', plan('A'))], own)
    expect(rows).toHaveLength(1)
    expect(rows[0]!.against).toEqual(['no'])
  })
})

describe('ranges', () => {
  it.each([
    [[8, 8], 'GB', '8 GB'],
    [[0, 4.5], 'h', 'up to 4.5 h'],
    [[0, 111111], 'h', 'not known'], // a pack nobody has seen
    [[3, 111111], 'h', '3 h or more'], // and another that was
    [[0, 16000], 'GB', 'not known yet'],
    [[0, 0], 'GB', '0 GB'],
    [[0, 50], '', '0 to 50'],
    [[100.4, 250.6], '', '100 to 251'],
  ])('%j %s is %s', (range, unit, text) => expect(ends(range, unit)).toBe(text))

  it('says nothing is bought where nothing is', () => expect(inOneLine(plan(''))).toBe('Nothing'))
})

it('names every tread, and the stances that end on it', () => {
  const treads = [
    { label: 'Memory B', stances: [] },
    { label: 'Drive 1', stances: ['best_value', 'room_for_years'] },
  ]
  expect(named(treads as unknown as Schemas['Tread'][], 3)).toEqual([
    { label: 'Memory B', stances: '' },
    { label: 'Drive 1', stances: 'Best value, Room for 3 years' },
  ])
})

it('says once what two stances say of one build', () => {
  const alike = ['just_enough', 'room_for_years'].map((name) => ({ ...stance(name, plan('A')), says: 'nearest' }))
  expect(planRows(alike, null, 3)[0]!.says).toEqual(['nearest'])
})

describe('what waits', () => {
  it.each([
    [16.04, 5733, 4493, '16.0 of 100 points more than best value, for € 12.40 more.'],
    [0.04, 5000, 5300, 'as many points as best value, for € 3.00 less.'],
    [-1.25, 100, 5300, '1.3 of 100 points fewer than best value, for € 52.00 less.'],
    [2, 700, 700, '2.0 of 100 points more than best value, for the same money.'],
  ])('%d points for %d instead of %d', (points, cost_minor, certain_minor, says) => {
    expect(waitsFor({ points, certain_minor, plan: { ...plan('A'), cost_minor } })).toBe(says)
  })
})
