import { describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { ends, inOneLine, planRows } from './rows'

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
    [[0, 4.5], 'h', '0 to 4.5 h'],
    [[100.4, 250.6], '', '100 to 251'],
  ])('%j %s is %s', (range, unit, text) => expect(ends(range, unit)).toBe(text))

  it('says nothing is bought where nothing is', () => expect(inOneLine(plan(''))).toBe('Nothing'))
})
