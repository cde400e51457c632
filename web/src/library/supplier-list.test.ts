import { describe, expect, it } from 'vitest'
import { chosen, summed } from './supplier-list'

describe('a supplier’s list', () => {
  it('tells how all rows end', () => {
    expect(summed({ left_out: 2, taken: 40, asked: 1 })).toBe('rows: 40 taken, 1 asked, 2 left out')
    expect(summed({})).toBe('no rows')
  })

  it('gives a head one meaning at a time', () => {
    const columns = { number: 'A', price: 'B' }
    expect(chosen(columns, 'name', 'A')).toEqual({ number: '', price: 'B', name: 'A' })
    expect(chosen(columns, 'price', '')).toEqual({ number: 'A', price: '' })
    expect(columns).toEqual({ number: 'A', price: 'B' })
  })
})
