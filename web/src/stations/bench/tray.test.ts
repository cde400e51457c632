import { describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { elapsed, groups } from './tray'

const step = (id: string, more: Partial<Schemas['Step']> = {}) =>
  ({
    id,
    thing: `${id} screws`,
    screws: 0,
    loosened: 0,
    obstacle: id.split(':')[1],
    ...more,
  }) as Schemas['Step']
const STEPS = [
  step('off:cover', { screws: 4, length_mm: 5 }),
  step('off:lid', { loosened: 3 }),
  step('on:lid', { loosened: -3 }),
  step('on:cover', { screws: -4 }),
]
const at = (minute: number) => new Date(Date.UTC(2026, 10, 27, 10, minute)).toISOString()

describe('the screw tray', () => {
  it('has screws in it from when they are out until they are back, and captive ones never', () => {
    const states = (done: Record<string, string>) => groups(STEPS, done).map((g) => g.state)
    expect(states({})).toEqual(['ahead', 'ahead'])
    expect(states({ 'off:cover': at(0), 'off:lid': at(1) })).toEqual(['out', 'loose'])
    expect(states({ 'off:cover': at(0), 'off:lid': at(1), 'on:lid': at(2), 'on:cover': at(3) })).toEqual([
      'back',
      'back',
    ])
  })

  it('tells a count, a length and a name', () => {
    expect(groups(STEPS, {})[0]).toMatchObject({ name: 'off:cover screws', count: 4, length: 5, captive: false })
    expect(groups(STEPS, {})[1]).toMatchObject({ count: 3, captive: true, length: null })
  })

  it('says what is missing only when every step is done', () => {
    const lost = [STEPS[0]!, step('check')]
    expect(groups(lost, { 'off:cover': at(0) })[0]!.missing).toBe(false)
    expect(groups(lost, { 'off:cover': at(0), check: at(1) })[0]!.missing).toBe(true)
  })
})

describe('the clock', () => {
  it('runs from the first tick and stands when all is done', () => {
    const now = Date.parse(at(30))
    expect(elapsed(STEPS, {}, now)).toBeNull()
    expect(elapsed(STEPS, { 'off:cover': at(10) }, now)).toBe(1200)
    const all = Object.fromEntries(STEPS.map((s, i) => [s.id, at(i)]))
    expect(elapsed(STEPS, all, now)).toBe(180)
  })
})
