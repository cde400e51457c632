import { describe, expect, it } from 'vitest'
import { chosen, summed, titled } from './supplier-list'

describe('a supplier’s list', () => {
  it('tells how all rows end', () => {
    expect(summed({ left_out: 2, taken: 40, asked: 1 })).toBe('rows: 40 taken, 1 asked, 2 left out')
    expect(summed({})).toBe('no rows')
  })

  it('names a group by how its rows end, why, and how many', () => {
    expect(titled({ outcome: 'asked', reason: 'which key?', rows: [1, 2, 3] })).toBe('3 asked: which key?')
    expect(titled({ outcome: 'taken_without_offer', reason: '', rows: [1] })).toBe('1 taken without an offer')
  })

  it('gives a head one meaning at a time', () => {
    const columns = { number: 'A', price: 'B' }
    expect(chosen(columns, 'name', 'A')).toEqual({ number: '', price: 'B', name: 'A' })
    expect(chosen(columns, 'price', '')).toEqual({ number: 'A', price: '' })
    expect(columns).toEqual({ number: 'A', price: 'B' })
  })
})
