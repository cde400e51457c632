import { describe, expect, it } from 'vitest'
import { readAsking, withSlot, written } from './asking'

const read = (text: string) => readAsking(new URLSearchParams(text))

describe('what is asked of a machine', () => {
  it('is as delivered and proven where the address says nothing', () => {
    expect(read('')).toEqual({ limits: 'proven', holds: 'delivered', has: {}, puts: {}, makes: [] })
    expect(written(read(''))).toEqual({})
    expect(read('holds=full').holds).toBe('delivered')
  })

  it('comes back from the address as it was written', () => {
    const asked = {
      limits: 'open', holds: 'empty' as const, has: { 'memory-a': 'PM4S-08G26', bay: '' }, puts: { 'drive-1': 'A:B' }, makes: ['Pallas'],
    } // prettier-ignore
    expect(read(new URLSearchParams(written(asked)).toString())).toEqual(asked)
  })

  it('says a slot anew, empties it, or takes it back', () => {
    expect(withSlot({ a: 'X' }, 'a', 'Y')).toEqual({ a: 'Y' })
    expect(withSlot({ a: 'X' }, 'b', '')).toEqual({ a: 'X', b: '' })
    expect(withSlot({ a: 'X', b: '' }, 'a', null)).toEqual({ b: '' })
  })
})
