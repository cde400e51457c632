import { describe, expect, it } from 'vitest'
import { grouped, sharedDoubt, whatGoesIn } from './words-page'

const row = (id: string, phrase: string, line: number, goes: 'in' | 'there' | 'which' | 'shown' = 'in', doubt = '') => ({
  id, phrase, line, goes, doubt, label: id, value: '1', unit: '', configuration: '', now: '',
}) // prettier-ignore

describe('a maker’s page', () => {
  it('keeps claims of one phrase together, in the order of the page', () => {
    const rows = [row('a', 'two sockets', 1), row('b', 'a slot', 2), row('c', 'two sockets', 1), row('d', 'a slot', 5)]
    expect(grouped(rows).map((g) => [g.phrase, g.rows.map((r) => r.id)])).toEqual([
      ['two sockets', ['a', 'c']],
      ['a slot', ['b']],
      ['a slot', ['d']],
    ])
  })

  it('takes in what goes in and is not unticked, and nothing else', () => {
    const rows = [
      row('a', 'p', 1),
      row('b', 'p', 1, 'there'),
      row('c', 'p', 1, 'which'),
      row('d', 'p', 1, 'shown'),
      row('e', 'p', 1),
    ]
    expect(whatGoesIn(rows, {})).toEqual(['a', 'e'])
    expect(whatGoesIn(rows, { a: false, b: true })).toEqual(['e'])
  })

  it('says a doubt once where all claims of a phrase share it', () => {
    const [both, one] = [
      [row('a', 'p', 1, 'in', 'a scan'), row('b', 'p', 1, 'in', 'a scan')],
      [row('a', 'p', 1, 'in', 'a scan')],
    ]
    expect(sharedDoubt({ phrase: 'p', rows: both })).toBe('a scan')
    expect(sharedDoubt({ phrase: 'p', rows: one })).toBe('')
    expect(sharedDoubt({ phrase: 'p', rows: [...one, row('c', 'p', 1)] })).toBe('')
  })

  it('takes in what could be read otherwise only where somebody says so', () => {
    const rows = [row('a', 'p', 1), row('b', 'p', 1, 'in', 'each, or together?')]
    expect(whatGoesIn(rows, {})).toEqual(['a'])
    expect(whatGoesIn(rows, { b: true })).toEqual(['a', 'b'])
  })
})
