import { describe, expect, it } from 'vitest'
import { snapped } from '../../map/layout'
import { changedAt, claimed, oneMore, remembered, typedClaim, withoutStep, type Draft } from './draft'

const draft = (name: string, x = 0) =>
  ({ name, slots: [{ id: 'a', place: { x } }], configurations: [] }) as unknown as Draft

describe('the editor', () => {
  it('goes back a field at a time, not a letter', () => {
    const [one, two, three] = [draft('W'), draft('We'), draft('Wei')]
    const moved = draft('Wei', 5)
    let past = remembered([], one, two)
    past = remembered(past, two, three)
    expect(past).toEqual([one])
    past = remembered(past, three, moved)
    expect(past).toEqual([one, three])
  })

  it('knows the one place a change was made at', () => {
    expect(changedAt(draft('W'), draft('We'))).toBe('/name')
    expect(changedAt(draft('W'), draft('W', 3))).toBe('/slots/0/place/x')
    expect(changedAt(draft('W'), draft('We', 3))).toBe('')
  })
})

describe('a step in the way that is removed', () => {
  it('is waited for by nothing, leads to nothing and cuts nothing off', () => {
    const before = {
      power_off: 'plug',
      obstacles: [{ id: 'cover' }, { id: 'plug', after: ['cover'] }, { id: 'shield', after: ['cover', 'plug'] }],
      slots: [{ id: 'a', reached_by: ['cover', 'plug'] }],
      assemblies: [{ id: 'fan', reached_by: ['plug'] }],
      configurations: [],
    } as unknown as Draft
    expect(withoutStep(before, 'plug')).toMatchObject({
      power_off: '',
      obstacles: [{ id: 'cover' }, { id: 'shield', after: ['cover'] }],
      slots: [{ reached_by: ['cover'] }],
      assemblies: [{ reached_by: [] }],
    })
    expect(withoutStep(before, 'cover')['power_off']).toBe('plug')
    expect(withoutStep({ slots: [], configurations: [] }, 'cover')).not.toHaveProperty('assemblies')
  })
})

it('a second fan is another one', () => {
  expect(oneMore([], 'heat_sink')).toBe('heat-sink')
  expect(oneMore([{ id: 'fan' }, { id: 'fan-3' }], 'fan')).toBe('fan-2')
})

describe('a slot that is dragged', () => {
  const place = { x_mm: 10, y_mm: 10, w_mm: 80, h_mm: 22 }
  const other = { x_mm: 150, y_mm: 50, w_mm: 30, h_mm: 22 }
  it('lies on whole millimetres', () => {
    expect(snapped(place, 3.4, -2.6, [])).toEqual({ x_mm: 13, y_mm: 7 })
    expect(snapped(place, -50, -50, [])).toEqual({ x_mm: 0, y_mm: 0 })
  })
  it('lies along an edge it is near to, within 2 mm and no farther', () => {
    expect(snapped(place, 138.1, 0, [other]).x_mm).toBe(150) // left edges, 1.9 off
    expect(snapped(place, 137.9, 0, [other]).x_mm).toBe(148) // 2.1 off
    expect(snapped(place, 0, 17, [other]).y_mm).toBe(28) // its lower edge at the other's upper one
  })
})

describe('a claim that is typed', () => {
  const before = { value: 9, source: 'reported', note: 'a forum', bound: 'at_most' as const }
  it.each([
    ['1.35', 'number', 1000, { value: 1350 }],
    ['1,35 or more', 'number', 1000, { value: 1350, bound: 'at_least' }],
    ['at least 1.35', 'number', 1000, { value: 1350, bound: 'at_least' }],
    ['≤ 2', 'number', 1, { value: 2, bound: 'at_most' }],
    ['2 or less', 'number', 1, { value: 2, bound: 'at_most' }],
    ['42 or 60', 'number', 1, { value: 42, alternatives: [60] }],
    ['B or M', 'choice', 1, { value: 'B', alternatives: ['M'] }],
    ['3 or 4', 'choice', 1, { value: 3, alternatives: [4] }],
    ['abc or more', 'number', 1, { value: 'abc', bound: 'at_least' }], // the server says what is wrong with it
    ['at least B', 'choice', 1, { value: 'at least B' }],
  ])('%s is a bound, one of several, or a value', (text, kind, scale, wanted) => {
    expect(claimed(before, text, kind, scale)).toEqual({ source: 'reported', note: 'a forum', ...wanted })
  })

  it.each(['1.35', '1.35 or more', '2 or less', '42 or 60'])('%s is shown as it was typed', (text) => {
    expect(typedClaim(claimed(before, text, 'number', 1000), 1000)).toBe(text)
  })
})
