import { describe, expect, it } from 'vitest'
import { next, stops, toggled, toGo } from './walk'

const fact = (attribute: string, known: boolean, where: string) => ({ attribute, known, where })
const slot = (id: string, facts: unknown[], more = {}) => ({
  id,
  name: id,
  form: 'm2',
  fitted_name: 'x',
  facts,
  ...more,
})
const SLOTS = [
  slot('a', [fact('a.key', false, 'cover'), fact('a.width', true, 'cover'), fact('a.pcie', false, 'software')]),
  slot('b', [], { form: 'soldered' }),
  slot('c', [fact('c.plug', false, 'label')], { fitted_name: 'unknown' }),
] as never[]
const none = new Set<string>()

describe('a walk with the cover off', () => {
  it('asks what is unknown and can be seen, slot by slot, and of nothing soldered', () => {
    const all = stops(SLOTS, none)
    expect(all.map((s) => [s.slot.id, s.asked.map((f) => f.attribute), s.unseen])).toEqual([
      ['a', ['a.key'], false],
      ['c', ['c.plug'], true],
    ])
    expect(toGo(all)).toBe(3)
  })

  it('goes past what is left, and round to what is open', () => {
    const left = stops(SLOTS, new Set(['a.key', 'fitted.c']))
    expect(toGo(left)).toBe(1)
    expect(next(left, 'a')).toBe('c')
    expect(next(stops(SLOTS, new Set(['c.plug', 'fitted.c'])), 'c')).toBe('a')
    expect(next(stops(SLOTS, new Set(['a.key', 'c.plug', 'fitted.c'])), 'c')).toBe('c')
    expect(next(stops(SLOTS, none), '')).toBe('a')
  })

  it('takes several of a list', () => {
    expect(toggled(['42'], '80')).toEqual(['42', '80'])
    expect(toggled(['42', '80'], '42')).toEqual(['80'])
  })
})
