import { expect, it } from 'vitest'
import { alike } from './fits-paper'

const line = (place: string, number: string, says = '') =>
  ({ slot: place.toLowerCase(), place, number, says, verdict: 'seats' }) as Parameters<typeof alike>[0]['lines'][number]

it('says of like places once what is the same, and of others apart', () => {
  const lines = [
    line('A', 'x'),
    line('A', 'y'),
    line('B', 'x'),
    line('B', 'y'),
    line('C', 'x'),
    line('D', 'x', 'too long'),
  ]
  expect(alike({ lines })).toEqual([['A', 'B'], ['C'], ['D']])
  expect(alike({ lines: [] })).toEqual([])
})
